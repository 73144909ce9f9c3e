import type { StringStory } from '../../../core/story';
import { NoteName } from '../../parts/NoteName';
import { dueTime, signed } from '../../parts/format';
import { dashArray, strokeOf } from '../../parts/strokes';

interface Props {
  story: StringStory;
  index: number;
  shown: boolean;
  onShow: () => void;
  nowMs: number;
  zoneMin: number;
  curtain: string | null;
  /** When it is to be looked at, in the words of the bench. */
  next: string;
}

const minus = (text: string) => text.replace('-', '−');

const FROM_WORDS = {
  thermometer: 'from the room’s figures',
  'other strings': 'from the other strings',
  assumed: 'assumed',
} as const;

/** One string in figures, and in a sentence why. */
export function StringFacts({ story: s, index, shown, onShow, nowMs, zoneMin, curtain, next }: Props) {
  const stroke = strokeOf(index);
  return (
    <li className="border-b border-line py-2">
      <div className="flex items-center gap-2">
        <label className="flex items-center gap-2 text-lg font-bold">
          <input type="checkbox" checked={shown} onChange={onShow} aria-label={`Show ${s.note}`} />
          <svg viewBox="0 0 34 8" className="h-2 w-9" aria-hidden="true">
            <path
              d="M0 4H34"
              stroke={`var(--${stroke.token})`}
              strokeWidth={3}
              strokeDasharray={dashArray[stroke.dash]}
            />
          </svg>
          <NoteName note={s.note} />
        </label>
        <span className="figure ml-auto text-lg font-bold">
          {s.fallenCents === null ? '–' : minus(s.fallenCents.toFixed(1))}
          <span className="font-sans text-xs font-normal text-ink2"> fallen</span>
        </span>
      </div>
      {s.chance !== null && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-xs">
          <Fact name="falling now">
            {minus(s.perHour!.toFixed(1))} cents an hour, {minus(s.perDay!.toFixed(0))} a day
          </Fact>
          <Fact name={curtain ? `by ${curtain}` : 'by the curtain'}>
            {s.byCurtain
              ? `${signed(s.byCurtain.q50, 0)} (${signed(s.byCurtain.q05, 0)} to ${signed(s.byCurtain.q95, 0)})`
              : 'none set'}
          </Fact>
          <Fact name="holds now">
            {(100 * s.chance).toFixed(0)} %, ready{' '}
            {s.readyMs === null ? 'not in two weeks' : dueTime(s.readyMs, nowMs, zoneMin)}
          </Fact>
          <Fact name="next">{next}</Fact>
          <Fact name="a degree warmer">
            {signed(s.temperature!.centsPerC)} ±{s.temperature!.sigma.toFixed(1)} cents,{' '}
            {FROM_WORDS[s.temperature!.from]}
          </Fact>
        </dl>
      )}
      {s.rounds && <p className="pt-1 text-sm leading-snug">{s.rounds}</p>}
      <p className="pt-1 text-sm leading-snug">{s.why}</p>
    </li>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-ink2">{name}</dt>
      <dd className="figure">{children}</dd>
    </>
  );
}
