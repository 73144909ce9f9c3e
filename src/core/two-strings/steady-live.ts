import { measureSteady, type ReferenceKind, type SteadyReading } from './steady';

/** A tone that is held, while it is heard. */
export interface SteadyMoment extends Omit<SteadyReading, 'ok'> {
  /** How long it has sounded, s. */
  lastsS: number;
  /** It sounded long enough, or has ended: this is its reading. */
  done: boolean;
}
export interface SteadyListener {
  /** @param samples mono, −1..1 @returns what is heard, twice a second; null where nothing sounds, a sentence where it cannot be read */
  push(samples: Float32Array): (SteadyMoment | string | null)[];
}

/** It is looked so often, s; not before it has sounded so long, and not longer than that. */
const EVERY_S = 0.5;
const LEAST_S = 0.65;
const MOST_S = 2.8;
/** Kept from before it began, s. */
const BEFORE_S = 0.2;
const SLICE_S = 0.1;
/** Begins this much above what was there before, root mean square; nothing sounds below this; has ended at this share of its peak. */
const BEGINS = 4;
const SILENT = 4e-4;
const ENDED = 0.04;
/** Louder than a tenth of a second before by so much, and nearly as loud as it ever was, it was sounded anew: beats only swell. */
const ANEW = 1.6;
const AS_LOUD = 0.5;

/** Follows one held tone after another: each is read once, from its beginning. Rates and frequencies in Hz. */
export function createSteadyListener(sampleRate: number, nominalHz: number, kind: ReferenceKind): SteadyListener {
  const kept = new Float32Array(Math.ceil((MOST_S + BEFORE_S + 0.5) * sampleRate));
  const slice = Math.round(SLICE_S * sampleRate);
  let filled = 0;
  let partial = 0;
  let energy = 0;
  let floor = 0;
  let peak = 0;
  let before = 0;
  /** Where the tone that sounds began in what is kept; undefined in the quiet; and whether it was read. */
  let began: number | undefined;
  let read = false;
  let due = 0;

  const drop = (count: number) => {
    kept.copyWithin(0, count, filled);
    filled -= count;
    if (began !== undefined) began = Math.max(0, began - count);
  };
  const begin = (rms: number) => {
    began = Math.max(0, filled - slice);
    read = false;
    peak = rms;
    before = rms;
    due = LEAST_S * sampleRate;
    // What rang before belongs to another reading.
    const wanted = Math.round(BEFORE_S * sampleRate) + slice;
    if (filled > wanted) drop(filled - wanted);
  };
  const look = (ended: boolean): SteadyMoment | string => {
    const lastsS = (filled - began!) / sampleRate;
    const outcome = measureSteady(kept.subarray(0, filled), sampleRate, nominalHz, kind);
    if (!outcome.ok) return outcome.message;
    const { ok: _, ...reading } = outcome;
    return { ...reading, lastsS, done: ended || lastsS >= MOST_S };
  };
  return {
    push(samples) {
      const told: (SteadyMoment | string | null)[] = [];
      for (const v of samples) {
        if (filled === kept.length) drop(slice);
        kept[filled++] = v;
        energy += v * v;
        if (++partial < slice) continue;
        const rms = Math.sqrt(energy / slice);
        partial = 0;
        energy = 0;
        if (began === undefined) {
          const wanted = Math.round(BEFORE_S * sampleRate) + slice;
          if (filled > wanted) drop(filled - wanted);
          if (rms > Math.max(SILENT, BEGINS * floor)) begin(rms);
          else {
            floor = floor === 0 ? rms : 0.8 * floor + 0.2 * rms;
            due -= slice;
            if (due <= 0) {
              due = EVERY_S * sampleRate;
              told.push(null);
            }
          }
          continue;
        }
        if (rms > ANEW * before && rms > AS_LOUD * peak && (filled - began) / sampleRate > 0.5) begin(rms);
        before = rms;
        peak = Math.max(peak, rms);
        due -= slice;
        const ended = rms < Math.max(SILENT, 1.5 * floor, ENDED * peak);
        const lastsS = (filled - began) / sampleRate;
        if (!read && lastsS >= LEAST_S && (ended || due <= 0)) {
          due = EVERY_S * sampleRate;
          const moment = look(ended);
          read = typeof moment !== 'string' && moment.done;
          told.push(moment);
        } else if (ended && !read) told.push('Too short. Let it sound for a second.');
        if (ended) {
          began = undefined;
          floor = rms;
        }
      }
      return told;
    },
  };
}
