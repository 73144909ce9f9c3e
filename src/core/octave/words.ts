import { signedCents } from '../music';
import { lengthIn, type LengthUnit } from '../strings';
import type { TouchStep } from './steps';
import { DAY, NORMAL_Q95 } from '../base';
import { travelLeftMm, type movesToMake } from './saddle-move';
import { errorAfterMove } from './saddle-law';
import type { Octaves, StringOctave } from './string-octave';

/** What a straight bridge leaves, and what a compensated one would bear. @param remains cents @param compensationMm behind its line, by string */
export const compensationWords = (
  notes: readonly string[],
  residualCents: readonly number[],
  compensationMm: readonly number[],
): string =>
  `With a straight bridge up to ${Math.max(...residualCents.map(Math.abs)).toFixed(1)} cents remain. A compensated one would bear ${notes.map((n, i) => `${n} ${signedCents(compensationMm[i]!)}`).join(', ')} mm behind this line; a repairer’s job.`;

export const VERDICT_WORDS = {
  'in-tune': 'agrees',
  saddle: 'saddle',
  string: 'string',
  pressing: 'pressing',
  unclear: 'unclear',
} as const;

/** 'away from the nut' for longer. */
export const direction = (mm: number) => (mm > 0 ? 'away from the nut' : 'towards the nut');
/** The size of a move, in the chosen unit: '1.9 mm', '.075 in'. */
export const sizeOf = (mm: number, unit: LengthUnit): string =>
  unit === 'mm'
    ? `${Math.abs(mm).toFixed(Math.abs(mm) < 0.95 ? 2 : 1)} mm`
    : `${Math.abs(lengthIn(mm, 'in')).toFixed(3).replace(/^0/, '')} in`;

const STALE_WORDS = {
  edited: 'The strings were edited after this reading. Read it again.',
  reworked: 'The action or nut was changed after this reading. Read it again.',
  'new string': 'Measured on the old string. Check again on this one.',
} as const;
const MONTH_DAYS = 30;

/** How fast the error grows, and when it crosses the owner's limit, with its interval. */
export function growth(
  { trend, agesFromMs }: Pick<StringOctave, 'trend' | 'agesFromMs'>,
  limitCents: number,
  nowMs: number,
): string {
  if (!trend?.grows) return '';
  const rate = ` The error grows by ${Math.abs(trend.perMonth.q50).toFixed(1)} cents a month`;
  const months = (days: number | null) =>
    days === null ? null : Math.max(0, (agesFromMs + days * DAY - nowMs) / DAY / MONTH_DAYS);
  const [soonest, likely, latest] = [trend.crosses!.q10, trend.crosses!.q50, trend.crosses!.q90].map(months);
  const say = (m: number) => (m < 2 ? m.toFixed(1) : m.toFixed(0));
  if (typeof likely === 'number')
    return likely < 0.05
      ? `${rate}, and is over your limit of ${limitCents} cents.`
      : `${rate}. It will be over your limit of ${limitCents} cents in about ${say(likely)} months (${say(soonest ?? 0)} to ${typeof latest === 'number' ? say(latest) : 'far more'}).`;
  return typeof soonest === 'number'
    ? `${rate}. It will be over your limit of ${limitCents} cents in ${say(soonest)} months at the earliest.`
    : `${rate}.`;
}

/** What one string's pass says, and what to do. */
export function adviceFor(s: StringOctave, of: Of, unit: LengthUnit, nowMs: number): string {
  if (!s.last || !s.verdict) return 'Not read yet.';
  if (s.moveMm === null) return 'Moved after this reading. Retune, then read it again.';
  const told = said(s, of, unit, nowMs);
  if (s.verdict === 'string' || s.stale === null) return told;
  return `${told} ${STALE_WORDS[s.stale]}`;
}

type Of = Pick<Octaves, 'loose' | 'setup'>;
function said(s: StringOctave, { loose, setup }: Of, unit: LengthUnit, nowMs: number): string {
  const { stringCents } = s.last!.errors;
  const move = s.moveMm!;
  const grows = growth(s, setup.limitCents, nowMs);
  switch (s.verdict!) {
    case 'in-tune':
      return `The octave agrees with the open string.${grows}`;
    case 'saddle': {
      const how = loose ? 'the bridge under it' : 'the saddle';
      const turns = loose ? '' : `, ${Math.abs(move / setup.threadMm).toFixed(1)} turns of its screw`;
      const words = `Move ${how} ${sizeOf(move, unit)} ${direction(move)} (±${sizeOf(NORMAL_Q95 * s.moveSigma, unit)})${turns}.`;
      const room = travelLeftMm(s, move, setup.travelMm);
      if (loose || Math.abs(move) <= room) return words + grows;
      const left = errorAfterMove(s.lengthMm, s.last!.errors.errorCents, Math.sign(move) * room);
      return `${words} Its screw ends after ${sizeOf(room, unit)}: ${Math.abs(left).toFixed(1)} cents remain.${grows}`;
    }
    case 'string':
      return `${s.confirmed ? 'The string itself is at fault' : 'The string itself may be at fault'}: ${
        Math.abs(stringCents ?? 0) > 1
          ? `its harmonic is ${Math.abs(stringCents!).toFixed(1)} cents from where it should be`
          : 'its octave drifted while the other strings’ did not'
      }. ${
        s.confirmed
          ? 'Replace it before you move anything.'
          : 'Read it once more with three plucks a place (Q) before you buy another.'
      }${grows}`;
    case 'pressing':
      return 'Too sharp or too scattered for a saddle fault. Press more lightly and read it again.';
    case 'unclear':
      return stringCents === null
        ? 'The error is too small to be sure. Its harmonic would tell string from saddle.'
        : 'The error is too small to be sure. Read it again with three plucks each.';
  }
}

export const pluckWords = (count: number, wanted: number) => `${count} of ${wanted}. Same place, same strength.`;
export const PLUCKS_DIFFER = 'The plucks differ by more than a cent. Start again: same place, same strength.';
export const touchKeptWords = ({ note, touch, fret }: Pick<TouchStep, 'note' | 'touch' | 'fret'>) =>
  `${note} ${touch === 'fret' ? `fret ${fret}` : touch} saved.`;

/** The one thing to do with what was read. @param mm how a length is written */
export function toldOf({ strings }: Octaves, moves: ReturnType<typeof movesToMake>, mm: (x: number) => string): string {
  const name = ({ what, stringIds }: (typeof moves)[number]) =>
    what === 'saddle'
      ? `${strings.find((s) => s.stringId === stringIds[0])!.note} saddle`
      : what === 'low-foot'
        ? 'Low foot'
        : 'High foot';
  const wanted = (m: (typeof moves)[number]) => strings.find((s) => s.stringId === m.stringIds[0])!.moveMm ?? 0;
  const ends = (m: (typeof moves)[number]) => m.what === 'saddle' && Math.abs(wanted(m)) > Math.abs(m.moveMm) + 1e-6;
  if (moves.length > 0)
    return moves
      .map((m) => `${name(m)} ${mm(m.moveMm)} ${direction(m.moveMm)}${ends(m) ? ', where its screw ends' : ''}`)
      .join('; ');
  const read = strings.filter((s) => s.last);
  if (read.length === 0) return 'Read the octaves';
  return read.some((s) => s.moveMm === null) ? 'Retune, then read again' : 'Nothing to move';
}

/** What the lines of octaves over the passes are. @param most furthest, cents */
export const octaveLinesWords = (most: number): string =>
  `Each line: the stopped octave against the open string, from −${Math.round(most)} to ${Math.round(most)} cents, pass by pass.`;
