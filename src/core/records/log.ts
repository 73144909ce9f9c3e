import { cents, targetFrequencyHz } from '../music';
import type { SettlingEvent } from '../settling';
import { alignedCents } from './aligned';
import { pastLives, type PastLife } from './lives';
import { checkRecord } from './schemas';
import { createWriterClock, type SetBack, type WriterClock, type Written } from './order';
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

const inTime = (a: LogRecord, b: LogRecord) =>
  a.atMs - b.atMs || (a.written?.seq ?? -1) - (b.written?.seq ?? -1) || (a.id < b.id ? -1 : 1);

/** Records that stand: neither superseded nor taken back, in order of time, then of writing, then of id. */
export function standing(records: readonly LogRecord[]): LogRecord[] {
  const gone = new Set(records.flatMap((r) => (r.supersedes ? [r.supersedes] : [])));
  return records.filter((r) => !gone.has(r.id) && r.type !== 'taken-back').sort(inTime);
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
  /** Put away: no longer on the bench, by name. */
  away: InstrumentRecord[];
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
  /** Grows with every string or instrument that comes or goes. */
  changes: number;
  /** The last time that a device's clock was set back, and not forward again. */
  clockBack: SetBack | undefined;
}

const last = <T>(list: readonly T[]): T | undefined => list[list.length - 1];

/** The log, and the bench as it tells it: what is appended costs only the instruments that it is about. */
export interface LogIndex {
  /** Takes records in, those known by their id left out. @returns the new ones */
  add(records: readonly LogRecord[]): LogRecord[];
  has(id: string): boolean;
  /** Everything that came in, in that order. */
  records(): LogRecord[];
  bench(): Bench;
  /** What a record written now comes after. */
  nextSeq(): number;
  /** The last record of a writer. */
  lastOf(writer: string): Written | undefined;
}

/** Records about one instrument, or about none in particular. */
interface Part {
  all: LogRecord[];
  types: Set<LogRecord['type']>;
  /** In order, as far as they stand; undefined when something has come since. */
  live: LogRecord[] | undefined;
  life: InstrumentLife | undefined;
  away: InstrumentRecord | undefined;
  bornMs: number;
}

/** What belongs to no instrument. */
const GENERAL = '';
const partOf = (r: LogRecord): string => ('instrumentId' in r ? r.instrumentId : GENERAL);
const COMES_OR_GOES = ['instrument', 'fitted', 'removed'];

const ofType = <T extends LogRecord['type']>(live: readonly LogRecord[], type: T) =>
  live.filter((r): r is Extract<LogRecord, { type: T }> => r.type === type);

export function createLogIndex(): LogIndex {
  const byId = new Map<string, LogRecord>();
  const gone = new Set<string>();
  const parts = new Map<string, Part>();
  const clocks = new Map<string, WriterClock>();
  let seq = 0;
  let changes = 0;
  /** The reference by which offsets are reckoned; each reading's own while nobody has set one. */
  let a4Hz: number | undefined;
  let derived: Bench | undefined;

  const part = (key: string): Part => {
    const known = parts.get(key);
    if (known) return known;
    const fresh: Part = { all: [], types: new Set(), live: undefined, life: undefined, away: undefined, bornMs: 0 };
    parts.set(key, fresh);
    return fresh;
  };
  /** The record at the time that its writer's clock should have said; a correction stays at the time of what it corrects. */
  const onTime = (r: LogRecord): LogRecord => {
    const before = r.supersedes ? byId.get(r.supersedes) : undefined;
    const { written } = before && before.atMs === r.atMs ? before : r;
    const offset = written ? (clocks.get(written.by)?.offsetMs(written) ?? 0) : 0;
    return offset === 0 ? r : { ...r, atMs: r.atMs + offset };
  };
  const liveOf = (p: Part): LogRecord[] =>
    (p.live ??= p.all
      .filter((r) => !gone.has(r.id) && r.type !== 'taken-back')
      .map(onTime)
      .sort(inTime));

  const index: LogIndex = {
    add(records) {
      const news = records.filter((r) => !byId.has(r.id) && byId.set(r.id, r));
      if (news.length === 0) return [];
      derived = undefined;
      for (const [by, own] of groupBy(
        news.filter((r) => r.written),
        (r) => r.written!.by,
      )) {
        const clock = clocks.get(by) ?? createWriterClock();
        clocks.set(by, clock);
        if (clock.note(own.map((r) => r.written!))) for (const p of parts.values()) p.live = undefined;
      }
      for (const r of news) {
        const p = part(partOf(r));
        p.all.push(r);
        p.types.add(r.type);
        p.live = undefined;
        seq = Math.max(seq, r.written?.seq ?? 0);
        if (COMES_OR_GOES.includes(r.type)) changes++;
        if (r.supersedes) {
          gone.add(r.supersedes);
          const before = byId.get(r.supersedes);
          if (before) {
            part(partOf(before)).live = undefined;
            if (COMES_OR_GOES.includes(before.type)) changes++;
          }
        }
      }
      return news;
    },
    has: (id) => byId.has(id),
    records: () => [...byId.values()],
    nextSeq: () => seq + 1,
    lastOf: (writer) => clocks.get(writer)?.newest(),
    bench() {
      if (derived) return derived;
      const general = liveOf(part(GENERAL));
      const reference = last(ofType(general, 'reference'));
      if (reference?.a4Hz !== a4Hz) {
        a4Hz = reference?.a4Hz;
        for (const [id, p] of parts) if (id !== GENERAL) p.live = undefined;
      }
      for (const [id, p] of parts) {
        if (id === GENERAL || p.live) continue;
        const live = liveOf(p);
        const record = last(ofType(live, 'instrument'));
        p.away = record?.away ? record : undefined;
        p.life = p.away ? undefined : lifeOf(live, a4Hz);
        p.bornMs = live.find((r) => r.type === 'instrument')?.atMs ?? 0;
      }
      const all = [...parts.values()];
      const everywhere = <T extends LogRecord['type']>(type: T) =>
        all.flatMap((p) => (p.types.has(type) ? ofType(liveOf(p), type) : [])).sort(inTime);
      const lives = all.filter((p) => p.life).sort((a, b) => a.bornMs - b.bornMs);
      // The freshest strings first: they need the bench most.
      const freshest = (i: InstrumentLife) => Math.max(...i.strings.map((s) => s.strungMs ?? 0));
      derived = {
        instruments: lives.map((p) => p.life!).sort((a, b) => freshest(b) - freshest(a)),
        away: all.flatMap((p) => p.away ?? []).sort((a, b) => a.name.localeCompare(b.name)),
        room: last(ofType(general, 'room')),
        reference,
        curtain: last(ofType(general, 'curtain')),
        session: last(ofType(general, 'session')),
        touches: everywhere('touch'),
        adjustments: everywhere('adjustment'),
        passes: [...new Map(everywhere('pass').map((r) => [r.passId, r])).values()],
        trials: [...new Map(ofType(general, 'trial').map((t) => [t.trialId, t])).values()],
        changes,
        clockBack: [...clocks.values()]
          .flatMap((c) => c.setBack() ?? [])
          .sort((a, b) => a.atMs - b.atMs)
          .at(-1),
      };
      return derived;
    },
  };
  return index;
}

/**
 * The index of records that were stored by whatever wrote them. Where they do not make a bench, each is checked, and what is no
 * record is set aside.
 */
export function indexOf(records: readonly LogRecord[]): { index: LogIndex; aside: LogRecord[] } {
  const index = createLogIndex();
  try {
    index.add(records);
    index.bench();
    return { index, aside: [] };
  } catch {
    const sound = createLogIndex();
    sound.add(records.filter((r) => checkRecord(r).ok));
    sound.bench();
    return { index: sound, aside: records.filter((r) => !sound.has(r.id)) };
  }
}

/** Reads the whole log into the present bench. */
export function readBench(records: readonly LogRecord[]): Bench {
  const index = createLogIndex();
  index.add(records);
  return index.bench();
}

/** One instrument as its own standing records tell it, oldest first; undefined where none describes it. */
function lifeOf(live: readonly LogRecord[], a4Hz: number | undefined): InstrumentLife | undefined {
  const named = ofType(live, 'instrument');
  const record = last(named);
  if (!record) return undefined;
  const key = (r: { stringId: string }) => r.stringId;
  const readings = groupBy(ofType(live, 'reading'), key);
  const fitted = groupBy(ofType(live, 'fitted'), key);
  const removed = groupBy(ofType(live, 'removed'), key);
  const rounds = groupBy(ofType(live, 'round'), key);
  const treatments = ofType(live, 'treatment');
  const strings = record.strings.map((plan): StringLife => {
    const place = plan.stringId;
    const on = fitted.get(place) ?? [];
    const off = removed.get(place) ?? [];
    const present = last(on);
    const gone = last(off);
    const strungMs = present && present.atMs >= (gone?.atMs ?? -Infinity) ? present.atMs : null;
    const sinceMs = strungMs ?? gone?.atMs ?? -Infinity;
    const since = <T extends LogRecord>(list: readonly T[]) => list.filter((r) => r.atMs >= sinceMs);
    const noteAt = (atMs: number) =>
      (named.findLast((r) => r.atMs <= atMs) ?? named[0]!).strings.find((s) => s.stringId === place)?.note ?? plan.note;
    const all = (readings.get(place) ?? []).map((r) => against(r, noteAt(r.atMs), plan.note, a4Hz ?? r.a4Hz));
    return {
      plan,
      strungMs,
      readings: since(all),
      rounds: since(rounds.get(place) ?? []),
      treatments: since(treatments).filter((t) => t.stringIds.includes(place)),
      windings: (strungMs !== null && present?.windings) || null,
      bare: gone !== undefined && strungMs === null && since(all).length === 0,
      past: pastLives(on, off, all),
    };
  });
  return { record, strings };
}

/** A reading against the target in force, whatever it was read by: a changed reference or note is no drift. */
function against(r: ReadingRecord, noteThen: string, note: string, a4Hz: number): ReadingRecord {
  if (r.a4Hz === a4Hz && noteThen === note) return r;
  const then = targetFrequencyHz(noteThen, r.a4Hz);
  const now = targetFrequencyHz(note, a4Hz);
  if (then === undefined || now === undefined) return r;
  return { ...r, a4Hz, targetHz: (r.targetHz * now) / then, cents: r.cents + cents(then, now) };
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
