import { mean, sampleStandardDeviation } from 'simple-statistics';
import type { PairMoment } from './live';
import type { ReferenceKind } from './steady';
import type { SteadyMoment } from './steady-live';
import type { PairOptions } from './take';

/** What is followed besides plucks: two strings that ring together, or one tone that is held after another. */
export type Follow = ({ kind: 'pair' } & PairOptions) | { kind: 'steady'; nominalHz: number; tone: ReferenceKind };
/** What is heard of that at a moment. */
export type Followed =
  { kind: 'pair'; moment: PairMoment | null } | { kind: 'steady'; moment: SteadyMoment | string | null };

/** What was read of it: two strings that stood still together, a tone that was held, or why that is none. */
export type FollowedReading =
  | ({ kind: 'pair' } & Pick<PairMoment, 'cents' | 'sigmaCents' | 'beatsHz'>)
  | ({ kind: 'steady' } & SteadyMoment)
  | { kind: 'refused'; message: string };

/** So many moments that agree within this, cents, are a reading (house estimates). */
const MOMENTS = 6;
const AGREE_CENTS = 0.5;

/** Waits until what is followed stands still. @returns its reading, once */
export function createGatherer(): (heard: Followed) => FollowedReading | undefined {
  let pairs: PairMoment[] = [];
  let before: SteadyMoment | string | null = null;
  return (heard) => {
    if (heard.kind === 'steady') {
      const { moment } = heard;
      if (moment === before) return undefined;
      before = moment;
      if (typeof moment === 'string') return { kind: 'refused', message: moment };
      return moment?.done ? { kind: 'steady', ...moment } : undefined;
    }
    const { moment } = heard;
    pairs = moment ? [...pairs.slice(1 - MOMENTS), moment] : [];
    const cents = pairs.map((m) => m.cents);
    if (!moment || cents.length < MOMENTS) return undefined;
    const spread = sampleStandardDeviation(cents);
    if (spread > AGREE_CENTS) return undefined;
    const beatsHz = mean(pairs.map((m) => m.beatsHz));
    pairs = [];
    return { kind: 'pair', cents: mean(cents), sigmaCents: Math.max(spread, moment.sigmaCents), beatsHz };
  };
}
