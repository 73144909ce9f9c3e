import type { SettlingEvent } from '../settling';
import { alignedCents } from './aligned';
import { pastLives, type PastLife } from './lives';
import type {
  AdjustmentRecord,
  CurtainRecord,
  InstrumentRecord,
  LogRecord,
  PassRecord,
  ReadingRecord,
  ReferenceRecord,
  RoomRecord,
  RoundRecord,
  SessionRecord,
  StringPlan,
  TouchRecord,
  TreatmentRecord,
  TrialRecord,
} from './types';

/** Records that stand: neither superseded nor taken back, in order of time (then of id). */
export function standing(records: readonly LogRecord[]): LogRecord[] {
  const gone = new Set(records.flatMap((r) => (r.supersedes ? [r.supersedes] : [])));
  return records
    .filter((r) => !gone.has(r.id) && r.type !== 'taken-back')
    .sort((a, b) => a.atMs - b.atMs || (a.id < b.id ? -1 : 1));
}

/** One string with what the log says of it. */
export interface StringLife {
  plan: StringPlan;
  /** When the present string was put on; null when nobody said. */
  strungMs: number | null;
  /** Readings of the present string, oldest first. */
  readings: ReadingRecord[];
  /** Stretch rounds and treatments of the present string, oldest first. */
  rounds: RoundRecord[];
  treatments: TreatmentRecord[];
  /** Turns round the post, where they were counted. */
  windings: number | null;
  /** It was taken off and nothing put on since. */
  bare: boolean;
  /** The strings that were here before, oldest first. */
  past: PastLife[];
}

export interface InstrumentLife {
  record: InstrumentRecord;
  strings: StringLife[];
}

/** The bench as the log tells it. Derived, never stored. */
export interface Bench {
  instruments: InstrumentLife[];
  room: RoomRecord | undefined;
  reference: ReferenceRecord | undefined;
  curtain: CurtainRecord | undefined;
  session: SessionRecord | undefined;
  /** Places sounded in octave passes, and what was moved, oldest first. */
  touches: TouchRecord[];
  adjustments: AdjustmentRecord[];
  /** Each pass as it was last written, oldest first. */
  passes: PassRecord[];
  /** Each trial as it was last written, oldest first. */
  trials: TrialRecord[];
}

const last = <T>(list: T[]): T | undefined => list[list.length - 1];

/** Reads the whole log into the present bench. */
export function readBench(records: readonly LogRecord[]): Bench {
  const live = standing(records);
  const byType = <T extends LogRecord['type']>(type: T) =>
    live.filter((r): r is Extract<LogRecord, { type: T }> => r.type === type);
  const newest = new Map<string, InstrumentRecord>();
  const order: string[] = [];
  for (const r of byType('instrument')) {
    if (!newest.has(r.instrumentId)) order.push(r.instrumentId);
    newest.set(r.instrumentId, r);
  }
  const key = (r: { instrumentId: string; stringId: string }) => `${r.instrumentId}/${r.stringId}`;
  const readings = groupBy(byType('reading'), key);
  const fitted = groupBy(byType('fitted'), key);
  const removed = groupBy(byType('removed'), key);
  const rounds = groupBy(byType('round'), key);
  const treatments = byType('treatment');
  const instruments = order.flatMap((id): InstrumentLife[] => {
    const record = newest.get(id)!;
    if (record.away) return [];
    const strings = record.strings.map((plan): StringLife => {
      const place = `${id}/${plan.stringId}`;
      const on = fitted.get(place) ?? [];
      const off = removed.get(place) ?? [];
      const present = last(on);
      const gone = last(off);
      const strungMs = present && present.atMs >= (gone?.atMs ?? 0) ? present.atMs : null;
      const sinceMs = strungMs ?? gone?.atMs ?? 0;
      const since = <T extends LogRecord>(list: readonly T[]) => list.filter((r) => r.atMs >= sinceMs);
      const all = readings.get(place) ?? [];
      return {
        plan,
        strungMs,
        readings: since(all),
        rounds: since(rounds.get(place) ?? []),
        treatments: since(treatments).filter((t) => t.instrumentId === id && t.stringIds.includes(plan.stringId)),
        windings: (strungMs !== null && present?.windings) || null,
        bare: gone !== undefined && strungMs === null && since(all).length === 0,
        past: pastLives(on, off, all),
      };
    });
    return [{ record, strings }];
  });
  // The freshest strings first: they need the bench most.
  const freshest = (i: InstrumentLife) => Math.max(...i.strings.map((s) => s.strungMs ?? 0));
  instruments.sort((a, b) => freshest(b) - freshest(a));
  return {
    instruments,
    room: last(byType('room')),
    reference: last(byType('reference')),
    curtain: last(byType('curtain')),
    session: last(byType('session')),
    touches: byType('touch'),
    adjustments: byType('adjustment'),
    passes: [...new Map(byType('pass').map((r) => [r.passId, r])).values()],
    trials: [...new Map(byType('trial').map((t) => [t.trialId, t])).values()],
  };
}

function groupBy<T>(list: T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const group = groups.get(keyOf(item));
    if (group) group.push(item);
    else groups.set(keyOf(item), [item]);
  }
  return groups;
}

/** A string nobody dated counts as this old at its first reading, min (house rule). */
const UNDATED_MIN = 30 * 1440;

/** When a string's age counts from, ms. */
export function ageFromMs({ strungMs, readings }: Pick<StringLife, 'strungMs' | 'readings'>): number | undefined {
  return strungMs ?? (readings[0] && readings[0].atMs - UNDATED_MIN * 60000);
}

/**
 * A string's life as the settling model reads it: readings in cents from the target of the time, a retuning before every
 * as-left reading. Times in min since it was strung.
 */
export function settlingEvents(life: StringLife): SettlingEvent[] {
  const start = ageFromMs(life);
  if (start === undefined) return [];
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  const aligned = alignedCents(life.readings);
  for (const [i, r] of life.readings.entries()) {
    const t = (r.atMs - start) / 60000;
    if (r.slip) {
      // A slip starts the offset afresh; the first pluck that showed it says the same and is left out.
      const before = events[events.length - 1]!;
      if (before.kind === 'read' && t - before.t < CONFIRM_MIN) events.pop();
    }
    if (r.slip || r.stretched) events.push({ t, kind: 'retune' });
    if (r.purpose === 'as-left') events.push({ t: Math.max(0, t - 0.02), kind: 'retune' });
    events.push({
      t,
      kind: 'read',
      cents: aligned[i]!,
      sigmaCents: r.sigmaCents,
      ...(r.tempC === undefined ? {} : { tempC: r.tempC }),
    });
  }
  return events;
}

/** The pluck that first showed a slip came at most this long before the one that confirmed it, min. */
const CONFIRM_MIN = 5;
