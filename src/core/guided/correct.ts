import { EARLIEST_MS, MOST_OFF_CENTS } from '../limits';
import { cents, inCents, ratioOfCents, stringTargetHz } from '../music';
import type { Draft, InstrumentLife, ReadingRecord, StringPlan } from '../log';
import { awayWords, HOME_CENTS } from './identify';
import { readTyped, type FigureRead } from './typed';

/** What a player says that a reading was. */
export interface Correction {
  /** The string that it was of, as it was tuned then. */
  plan: StringPlan;
  /** Its figure, as it is written; as it stood where nothing is said of it. */
  text: string;
  atMs: number;
}

export type Corrected =
  | { is: 'corrected'; draft: Draft }
  /** Far from where that string was: it is kept when the player says so again. */
  | { is: 'question'; message: string; draft: Draft }
  | { is: 'refused'; message: string };

/** A reading's figure as the field for it shows it. */
export const figureText = ({ cents }: Pick<ReadingRecord, 'cents'>): string => cents.toFixed(1);

/**
 * A reading of the wrong string, of the wrong figure or at the wrong time, as it should have been written. A figure that is written anew is
 * read as any typed one, from where that string belongs; of the sound nothing else is known of it then.
 * @param reading as it was stored
 * @param sure it was asked about, and is so
 */
export function correctReading(
  reading: ReadingRecord,
  { plan, text, atMs }: Correction,
  { strings }: Pick<InstrumentLife, 'strings'>,
  nowMs: number,
  sure: boolean,
): Corrected {
  if (!(atMs <= nowMs)) return { is: 'refused', message: 'That is in the future.' };
  if (atMs < EARLIEST_MS) return { is: 'refused', message: 'That was before 1970.' };
  const { stringId, note: name } = plan;
  const isSame = stringId === reading.stringId;
  const belongsHz = isSame ? reading.targetHz : stringTargetHz(plan, reading.a4Hz)!;
  // Offsets are reckoned against the tuning of today: where it stood from its target is what compares.
  const before = strings
    .find((s) => s.plan.stringId === stringId)
    ?.readings.findLast((r) => r.id !== reading.id && r.atMs < atMs);
  const expectedHz = belongsHz * ratioOfCents(before?.cents ?? 0);
  const place = { name, belongsHz, expectedHz, known: before !== undefined, sure };
  const isTyped = text.trim() !== figureText(reading);
  const typed = isTyped ? readTyped(text, place, reading.a4Hz) : undefined;
  if (typed?.is === 'refused') return typed;
  const own = isSame ? reading.cents : cents(reading.frequencyHz, belongsHz);
  const read: FigureRead = typed ?? { frequencyHz: reading.frequencyHz, cents: own, sigmaCents: reading.sigmaCents };
  if (Math.abs(read.cents) > MOST_OFF_CENTS)
    return { is: 'refused', message: `That is ${inCents(read.cents)} from ${name}, too far for this string.` };
  const { id, version: _version, zoneMin: _zone, written: _written, ...fields } = reading;
  // What was said of the move at once, and of the lead, was of that figure and that string.
  const { slip, leadCents, inharmonicity, snrDb, glideCents, ...rest } = fields;
  const sound = {
    ...(inharmonicity === undefined ? {} : { inharmonicity }),
    ...(snrDb === undefined ? {} : { snrDb }),
    ...(glideCents === undefined ? {} : { glideCents }),
  };
  const draft: Draft = {
    ...rest,
    ...(isTyped ? { source: 'typed' as const, partials: [] } : sound),
    ...(isSame && leadCents !== undefined ? { leadCents } : {}),
    ...(isSame && !isTyped && slip ? { slip } : {}),
    stringId,
    targetHz: belongsHz,
    frequencyHz: read.frequencyHz,
    cents: read.cents,
    sigmaCents: read.sigmaCents,
    atMs,
    supersedes: id,
  };
  if (typed?.is === 'question') return { ...typed, draft };
  const isFar = !isSame && !sure && Math.abs(cents(read.frequencyHz, expectedHz)) > HOME_CENTS;
  return isFar
    ? { is: 'question', message: `${awayWords(place, read.frequencyHz)}. Save it again if it is right.`, draft }
    : { is: 'corrected', draft };
}
