import type { Picture } from '../../../core/fitting';

const WORDS: Record<Picture, string> = {
  block: 'A block set under the bridge, between bridge and top',
  ends: 'The string end bent over on itself, and a bin',
  slot: 'A fold of paper drawn along the nut slot under the string’s place',
  groove: 'The saddle from the side: a smooth round groove, not a sharp edge',
  tree: 'A string under the wings of the string tree',
  'wear-rings': 'A peg with its two shining rings where the head’s walls grip it',
  seat: 'Ball and knot pulled home behind the bridge',
  slack: 'A string held off the board between nut and post, its slack marked',
  coil: 'Three turns on a post, each below the one before',
  kinks: 'Two arrows press the string down just beyond nut and saddle',
};

const S = {
  stroke: 'var(--ink)',
  strokeWidth: 2,
  fill: 'none',
  strokeLinecap: 'round',
  strokeLinejoin: 'round',
} as const;
const STRING = { ...S, stroke: 'var(--deep)', strokeWidth: 2.6 };
const WOOD = { fill: 'var(--land)', stroke: 'var(--ink)', strokeWidth: 1.6 };
const ARROW = { ...S, stroke: 'var(--rust)', strokeWidth: 2.4 };

const SHAPES: Record<Picture, React.ReactNode> = {
  block: (
    <>
      <path d="M10 118H310V104H10z" {...WOOD} />
      <path d="M120 62H210L200 74H132z" {...WOOD} />
      <path d="M136 76H196V102H136z" fill="var(--water)" stroke="var(--ink)" strokeWidth={1.6} strokeDasharray="4 3" />
      <path d="M20 46L165 58L305 50" {...STRING} />
      <path d="M250 92c-14 0-24-2-44-2M214 84l-8 6 8 7" {...ARROW} />
    </>
  ),
  ends: (
    <>
      <path d="M24 74H150C176 74 176 48 150 48C138 48 134 58 142 62" {...STRING} />
      <path d="M196 54h70l-8 66h-54z" {...S} />
      <path d="M188 54h86" {...S} />
      <path d="M160 30c30-14 52-6 66 16M216 42l11 5 2-12" {...ARROW} />
    </>
  ),
  slot: (
    <>
      <path d="M70 120V60H140V82H176V60H250V120z" {...WOOD} />
      <path d="M146 26L158 78L170 26" {...S} fill="var(--sheet)" />
      <path d="M196 40v40M188 70l8 11 8-11M120 80V40M112 50l8-11 8 11" {...ARROW} />
    </>
  ),
  groove: (
    <>
      <path d="M60 120V70C60 56 100 50 160 50S260 56 260 70V120z" {...WOOD} />
      <path d="M10 66L120 50C150 46 176 47 196 52L310 96" {...STRING} />
      <path d="M230 30l-24 18M206 36v12h12" {...ARROW} />
    </>
  ),
  tree: (
    <>
      <path d="M20 120H300V108H20z" {...WOOD} />
      <path d="M160 108V74M120 74H200M120 74q-6 8 0 14M200 74q6 8 0 14" {...S} />
      <path d="M10 44L122 82H198L310 60" {...STRING} />
    </>
  ),
  'wear-rings': (
    <>
      <path d="M60 40H90V120H60zM200 40H230V120H200z" {...WOOD} />
      <path d="M40 86L260 68V94L40 98z" {...S} fill="var(--sheet)" />
      <path d="M262 58c30-10 48 6 44 24s-26 26-44 18z" {...S} fill="var(--sheet)" />
      <path d="M66 84V96M74 83V96M82 83V96M206 74V95M214 73V95M222 73V94" stroke="var(--rust)" strokeWidth={2} />
    </>
  ),
  seat: (
    <>
      <path d="M150 40H230V120H150z" {...WOOD} />
      <path d="M10 70H252" {...STRING} />
      <circle cx={262} cy={70} r={11} {...S} fill="var(--sheet)" />
      <path d="M96 92H40M52 84l-12 8 12 8" {...ARROW} />
      <path d="M60 50c-14-18-34-16-38-2M24 36l-3 13 12-4" {...ARROW} />
    </>
  ),
  slack: (
    <>
      <path d="M10 120H310V108H10z" {...WOOD} />
      <path d="M60 108V86H76V108z" {...WOOD} />
      <circle cx={258} cy={78} r={24} {...S} fill="var(--sheet)" />
      <path d="M10 84L68 82C110 28 190 28 236 68" {...STRING} />
      <path d="M70 20H236M70 14v12M236 14v12" {...ARROW} />
    </>
  ),
  coil: (
    <>
      <path d="M20 122H300V112H20z" {...WOOD} />
      <path d="M140 20H180V112H140z" {...S} fill="var(--sheet)" />
      <path d="M134 50q26 10 52 0M134 64q26 10 52 0M134 78q26 10 52 0M186 78L310 104M134 50l-4-14" {...STRING} />
      <path d="M216 44v40M208 74l8 11 8-11" {...ARROW} />
    </>
  ),
  kinks: (
    <>
      <path d="M10 122H310V112H10z" {...WOOD} />
      <path d="M70 112V72H86V112zM234 112V72H250V112z" {...WOOD} />
      <path d="M10 96L74 72H246L310 98" {...STRING} />
      <path d="M48 34V74M40 62l8 12 8-12M272 34V74M264 62l8 12 8-12" {...ARROW} />
    </>
  ),
};

/** The small drawing of a step. */
export function Drawing({ picture }: { picture: Picture }) {
  return (
    <svg viewBox="0 0 320 132" className="w-full max-w-md" role="img" aria-label={WORDS[picture]}>
      {SHAPES[picture]}
    </svg>
  );
}
