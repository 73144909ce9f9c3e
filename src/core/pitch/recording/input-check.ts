import { MAINS_HZ } from './hum';
import { decimate } from '../signal/decimate';
import { measure } from '../reading/measure';
import { toneAmplitude } from '../second-string/purity';

/** What an input sounds like while nobody plays. */
export interface InputCheck {
  kind: 'silent' | 'loud' | 'hum' | 'good';
  /** Rms of the room, dB of full scale. */
  floorDb: number;
  /** The strongest mains line, if one stands out. */
  hum: { frequencyHz: number; levelDb: number } | null;
  message: string;
}

const decibel = (amplitude: number) => 20 * Math.log10(amplitude + 1e-12);
/** Below this an input is taken as muted, above the second the room is too loud, dB (house estimates). */
const DEAD_DB = -105;
const LOUD_DB = -42;
/** A mains line this far above the room counts; one below the level does no harm to a pluck, dB (house estimates). */
const HUM_STANDS_DB = 10;
const HUM_HARM_DB = -58;
const HUM_LINES = 6;
const LOW_RATE = 1600;

/**
 * Judges an input from a few seconds in which nobody plays: level of the room, and mains hum (lines on multiples of 50 or
 * 60 Hz that stand out of what is just beside them).
 * @param samples mono, -1..1, two seconds or so
 */
export function checkInput(samples: Float64Array, sampleRate: number): InputCheck {
  let power = 0;
  for (let i = 0; i < samples.length; i++) power += samples[i]! * samples[i]!;
  const floorDb = decibel(Math.sqrt(power / Math.max(1, samples.length)));
  let hum: InputCheck['hum'] = null;
  // The lines lie low: a low sample rate tells them as well, thirty times faster.
  const factor = Math.max(1, Math.floor(sampleRate / LOW_RATE));
  const low = decimate(samples, factor);
  const level = (hz: number) => decibel(toneAmplitude(low, sampleRate / factor, 0, low.length, hz));
  for (const mains of MAINS_HZ)
    for (let k = 1; k <= HUM_LINES; k++) {
      const frequencyHz = k * mains;
      const levelDb = level(frequencyHz);
      const beside = Math.max(level(frequencyHz - 4), level(frequencyHz + 4), level(frequencyHz + 7));
      if (levelDb > beside + HUM_STANDS_DB && levelDb > (hum?.levelDb ?? -90)) hum = { frequencyHz, levelDb };
    }
  const room = `the room is at ${floorDb.toFixed(0).replace('-', '−')} dB`;
  if (floorDb < DEAD_DB)
    return { kind: 'silent', floorDb, hum: null, message: 'Nothing comes in: is it muted, or is it another input?' };
  if (hum && hum.levelDb > HUM_HARM_DB)
    return {
      kind: 'hum',
      floorDb,
      hum,
      message: `Your room hums at ${hum.frequencyHz} Hz: move the microphone away from mains leads and transformers.`,
    };
  if (floorDb > LOUD_DB)
    return {
      kind: 'loud',
      floorDb,
      hum,
      message: `It is loud here (${room}): bring the microphone close to the bridge.`,
    };
  return {
    kind: 'good',
    floorDb,
    hum,
    message: hum
      ? `Your room hums at ${hum.frequencyHz} Hz; it does not matter. Otherwise ${room}: good.`
      : `No hum, and ${room}: good.`,
  };
}

export type ClockCheck =
  | { ok: true; /** true sample rate over the nominal one */ ratio: number; sigma: number; message: string }
  | { ok: false; message: string };

/**
 * Measures the sample clock against a steady tone of known frequency: a clock that runs fast reads it low. By the first
 * partial alone.
 */
export function checkClock(samples: Float64Array, sampleRate: number, referenceHz: number): ClockCheck {
  const outcome = measure(samples, sampleRate, { targetHz: referenceHz, sustained: true });
  const first = outcome.ok ? outcome.partials.find((p) => p.n === 1) : undefined;
  if (!outcome.ok || !first)
    return { ok: false, message: outcome.ok ? 'The reference tone is not clear enough.' : outcome.message };
  const ratio = referenceHz / first.frequencyHz;
  const sigma = first.sigmaHz / first.frequencyHz;
  if (Math.abs(ratio - 1) > 0.003)
    return {
      ok: false,
      message: 'That tone is more than 5 cents from the reference: it is another one, or no reference.',
    };
  const ppm = Math.abs((ratio - 1) * 1e6);
  return {
    ok: true,
    ratio,
    sigma,
    message: `The input’s clock runs ${ppm.toFixed(0)} ±${(sigma * 1e6).toFixed(0)} ppm ${ratio < 1 ? 'slow' : 'fast'}: readings are ${((1200 / Math.LN2) * Math.abs(Math.log(ratio))).toFixed(2)} cents ${ratio < 1 ? 'sharp' : 'flat'}.`,
  };
}
