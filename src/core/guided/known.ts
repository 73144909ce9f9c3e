import { ratioOfCents, stringTargetHz } from '../music';
import type { Reading } from '../pitch';
import type { InstrumentLife, Source, StringLife } from '../log';
import { othersThan } from './identify';
import type { GuidedLog } from './procedure';
import type { GuidedStep, PassStep } from './step';
import { tunerOf } from './tuner';
import { HOUR } from '../base';

/** A string that was put on no longer ago than this and not read since hangs slack, ms (house estimate). */
const FRESH_MS = HOUR;

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
    belongsHz: place.targetHz,
    expectedHz: step.purpose === 'left' ? named.targetHz : (place.lastHz ?? place.targetHz),
    others: othersThan(named, life.strings.map(placeOf)),
    foundCents: last ? last.cents - lead : null,
    leftAlready: last?.purpose === 'as-left',
    ...(step.purpose === 'left' ? { tuner: tunerOf(life, own, a4Hz) } : {}),
    ...more,
    ...(lead === 0 ? {} : { toleranceCents: LEAD_WITHIN_CENTS, belowCents: LEAD_BELOW_CENTS }),
  };
}

/**
 * A step that reads one sound by itself, whatever else the instrument has; one far from where it is expected is asked about.
 * @param key names the step: another key is another reading
 * @param belongsHz where it belongs, Hz: what is typed counts from there
 * @param lastHz where it was read last, Hz; undefined where it was not: then it is expected where it belongs
 */
export const soundedAlone = (key: string, name: string, belongsHz: number, lastHz: number | undefined): GuidedStep => ({
  step: { stringId: key, purpose: 'found' },
  named: { id: key, name, targetHz: belongsHz, ...(lastHz === undefined ? {} : { lastHz }) },
  others: [],
  belongsHz,
  expectedHz: lastHz ?? belongsHz,
  toleranceCents: ALONE_WITHIN_CENTS,
  foundCents: null,
});
/** It may stand so far from where it is expected, cents either way: nothing is to be tuned. */
const ALONE_WITHIN_CENTS = 150;

/** What of a reading the log keeps; of a figure typed from another device nothing else is known. */
export function figuresOf({ frequencyHz, cents, sigmaCents, partials, ...more }: Reading, source: Source) {
  const figures = { frequencyHz, cents, sigmaCents, partials };
  if (source === 'typed') return figures;
  const { inharmonicity, snrDb, glideCents } = more;
  return { ...figures, inharmonicity, snrDb, glideCents };
}

/** What was heard of a string, as the log keeps it; what it is a reading of is added. */
export const readingOf = (
  { a4Hz, bench: { room }, life }: GuidedLog,
  { plan }: StringLife,
  reading: Reading,
  source: Source,
) => ({
  type: 'reading' as const,
  instrumentId: life.record.instrumentId,
  stringId: plan.stringId,
  targetHz: stringTargetHz(plan, a4Hz)!,
  a4Hz,
  source,
  ...(room ? { tempC: room.tempC } : {}),
  ...figuresOf(reading, source),
});
