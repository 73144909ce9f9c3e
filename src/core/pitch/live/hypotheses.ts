import { cents } from '../../music';
import { searchComb } from '../partials/comb';
import { decimate, decimationFor } from '../signal/decimate';
import { amplitudeSpectrum, powerOfTwo } from '../signal/fft';
import { findPeaks } from '../signal/peaks';
import { withoutOld, type OldTone } from '../second-string/old-tones';
import type { StringPlace } from '../reading/types';
import { clamp } from '../../base';

/** A string may stand so far from where it was last and still be looked for there, cents. */
const ABOUT_CENTS = 160;
/** Where no string of the instrument explains the sound by this much less than another pitch does, it is that pitch (house estimate). */
const ELSEWHERE = 1.2;
/** The string that was asked for has so much more chance than the others (house estimate). */
const ASKED = 1.1;
const LEAST_SCORE = 0.25;
const PARTIALS = 16;

/**
 * The pitch of a sound, with every string of the instrument as a hypothesis: which one's series of partials explains the
 * peaks best, and is itself there? A third partial is no string of a third of the pitch, and two octaves of a low string are
 * no high string. Any other pitch within reach is a hypothesis too.
 * @param reach where the named string itself may stand, cents about its target
 * @returns Hz, undefined where nothing explains the sound
 */
export function hypothesisPitch(
  samples: Float64Array,
  sampleRate: number,
  named: StringPlace,
  others: readonly StringPlace[],
  reach: { lowCents: number; highCents: number },
  old: readonly OldTone[],
): number | undefined {
  const places = [named, ...others].map((s) => ({ ...s, homeHz: s.lastHz ?? s.targetHz }));
  const highest = Math.max(...places.map((p) => p.homeHz));
  const lowest = Math.min(...places.map((p) => p.homeHz));
  const topHz = clamp(10 * highest, 1600, 5000);
  const factor = decimationFor(sampleRate, topHz);
  const x = decimate(samples, factor);
  const rate = sampleRate / factor;
  const size = powerOfTwo(2 * x.length);
  const hzPerBin = rate / size;
  const spectrum = amplitudeSpectrum(x, 0, x.length, size, new Float64Array(size / 2));
  const bins = Math.min(size / 2 - 2, Math.floor(topHz / hzPerBin));
  const found = findPeaks(spectrum, bins, hzPerBin, (2 * size) / x.length, 20, 56, 5);
  const peaks = withoutOld(found, old);
  const search = (targetHz: number, lowCents: number, highCents: number) =>
    searchComb(peaks, { targetHz, lowCents, highCents, maxPartials: PARTIALS });
  let best: { hz: number; score: number } | undefined;
  const offer = (comb: ReturnType<typeof search>, worth: number) => {
    if (comb && comb.score > LEAST_SCORE && worth * comb.score > (best?.score ?? 0))
      best = { hz: comb.f0Hz * Math.sqrt(1 + comb.b), score: worth * comb.score };
  };
  places.forEach((p, i) => offer(search(p.homeHz, -ABOUT_CENTS, ABOUT_CENTS), ELSEWHERE * (i === 0 ? ASKED : 1)));
  offer(search(named.targetHz, reach.lowCents, reach.highCents), 1);
  const middle = Math.sqrt(lowest * highest);
  const half = 0.5 * cents(highest, lowest);
  offer(search(middle, -half - 1300, half + 700), 1);
  return best?.hz;
}
