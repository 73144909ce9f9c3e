import { THREADS_MM } from '../../../core/octave';
import type { StringOctave } from './useOctave';

export const VERDICT_WORDS = {
  'in-tune': 'agrees',
  saddle: 'saddle',
  string: 'string',
  pressing: 'pressing',
  unclear: 'unclear',
} as const;

/** 'away from the nut' for longer. */
export const direction = (mm: number) => (mm > 0 ? 'away from the nut' : 'towards the nut');
export const mm = (x: number) => `${Math.abs(x).toFixed(Math.abs(x) < 0.95 ? 2 : 1)} mm`;

/** What one string's pass says, and what to do. */
export function adviceFor(s: StringOctave, loose: boolean): string {
  if (!s.last || !s.verdict) return 'Not read yet.';
  if (s.moveMm === null) return 'Moved since it was read: retune, then read it again.';
  if (s.before && s.verdict !== 'string')
    return `${said(s, loose)} That was the string before this one: read it again, and set it now, while it is new.`;
  return said(s, loose);
}

function said(s: StringOctave, loose: boolean): string {
  const { stringCents } = s.last!.errors;
  const move = s.moveMm!;
  const grows = s.trend?.grows
    ? ` It grows by ${Math.abs(s.trend.perMonth.q50).toFixed(1)} cents a month on this string.`
    : '';
  switch (s.verdict!) {
    case 'in-tune':
      return `Octave and open string agree.${grows}`;
    case 'saddle': {
      const how = loose ? 'the bridge under it' : 'the saddle';
      const turns = loose ? '' : `, ${Math.abs(move / THREADS_MM.M3).toFixed(1)} turns of an M3 screw`;
      return `Move ${how} ${mm(move)} ${direction(move)} (±${(2 * s.moveSigma).toFixed(2)})${turns}.${grows}`;
    }
    case 'string':
      return `The string itself: its harmonic stands ${Math.abs(stringCents ?? 0).toFixed(1)} cents from an even string’s. Replace it before anything is moved.${grows}`;
    case 'pressing':
      return 'Sharp beyond what a saddle does, or scattered: press more lightly and read it again.';
    case 'unclear':
      return stringCents === null
        ? 'Too near to the readings’ own error. The harmonic would tell string from saddle.'
        : 'Too near to the readings’ own error: read it again with three plucks each.';
  }
}
