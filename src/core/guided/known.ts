import { cents, ratioOfCents, stringTargetHz } from '../music';
import type { Reading } from '../pitch';
import type { InstrumentLife, StringLife } from '../records';
import type { GuidedStep, PassStep } from './step';
import { tunerOf } from './tuner';

/** A string that was put on no longer ago than this and not read since hangs slack, min (house estimate). */
const FRESH_MS = 60 * 60000;

const isFresh = ({ strungMs, readings, past }: StringLife, nowMs: number): boolean =>
  past.length > 0 && readings.length === 0 && strungMs !== null && nowMs - strungMs < FRESH_MS;

/** Where a string sounded when it was read last, Hz; undefined where it was not. */
export function lastHzOf({ readings }: StringLife): number | undefined {
  const last = readings.at(-1);
  return last && last.targetHz * ratioOfCents(last.cents);
}

/** A string that is left above its target on purpose is kept this near to it, cents (a hand's error and a bit). */
const LEAD_WITHIN_CENTS = 1.6;
/** And hardly below it: it is going to fall (house). */
const LEAD_BELOW_CENTS = 0.5;

/**
 * A step of a pass with what the log knows of the strings, as the rules need it.
 * @param leadCents how far above its target the string is left: the figure and the waterline count from there
 */
export function guidedOf(
  life: InstrumentLife,
  step: PassStep,
  a4Hz: number,
  nowMs: number,
  { leadCents = 0, ...more }: Pick<GuidedStep, 'toleranceCents'> & Partial<GuidedStep> & { leadCents?: number },
): GuidedStep | undefined {
  const placeOf = (s: StringLife) => {
    const targetHz = stringTargetHz(s.plan, a4Hz)!;
    const lastHz = lastHzOf(s);
    return {
      id: s.plan.stringId,
      name: s.plan.note,
      targetHz,
      ...(lastHz === undefined ? {} : { lastHz }),
    };
  };
  const own = life.strings.find((s) => s.plan.stringId === step.stringId);
  if (!own) return undefined;
  const place = placeOf(own);
  const lead = step.purpose === 'left' ? leadCents : 0;
  const named = { ...place, targetHz: place.targetHz * ratioOfCents(lead) };
  const last = own.readings[own.readings.length - 1];
  return {
    step,
    named: isFresh(own, nowMs) ? { ...named, fresh: true } : named,
    // Two strings of a course share their pitch: only others can be mistaken.
    others: life.strings
      .filter((s) => s !== own)
      .map(placeOf)
      .filter((p) => Math.abs(cents(p.targetHz, named.targetHz)) > 50),
    foundCents: last ? last.cents - lead : null,
    leftAlready: last?.purpose === 'as-left',
    ...(step.purpose === 'left' ? { tuner: tunerOf(life, own, a4Hz) } : {}),
    ...more,
    ...(lead === 0 ? {} : { ownHz: place.targetHz, toleranceCents: LEAD_WITHIN_CENTS, belowCents: LEAD_BELOW_CENTS }),
  };
}

/**
 * A step that reads one sound by itself, whatever else the instrument has; one far from where it is expected is asked about.
 * @param key names the step: another key is another reading
 */
export const soundedAlone = (key: string, name: string, targetHz: number, lastHz?: number): GuidedStep => ({
  step: { stringId: key, purpose: 'found' },
  named: { id: key, name, targetHz, ...(lastHz === undefined ? {} : { lastHz }) },
  others: [],
  toleranceCents: ALONE_WITHIN_CENTS,
  foundCents: null,
});
/** It may stand so far from where it is expected, cents either way: nothing is to be tuned. */
const ALONE_WITHIN_CENTS = 150;

/** What of a reading the log keeps. */
export function figuresOf(reading: Reading) {
  const { ok: _ok, fromS: _from, toS: _to, driftCents: _drift, sharpTauS: _tau, ...figures } = reading;
  return figures;
}
