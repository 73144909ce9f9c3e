import { holds, idsOf, readingsOf, type Chapter } from './chapter';
import {
  groupBy,
  inTime,
  last,
  lifeOf,
  newestStrungMs,
  ofType,
  stands,
  stringLives,
  type InstrumentLife,
  type Show,
  type StringLife,
} from './life';
import { createWriterClock, runOf, type SetBack, type WriterClock, type Written } from './order';
import { checkRecord } from './records';
import type {
  AdjustmentRecord,
  BridgeRecord,
  BridgeStepRecord,
  CheckpointRecord,
  CurtainRecord,
  ExerciseRecord,
  FindingRecord,
  InstrumentRecord,
  JudgementRecord,
  LogRecord,
  PassRecord,
  ReadingRecord,
  ReferenceRecord,
  RemarkRecord,
  RoomRecord,
  SessionRecord,
  TestRecord,
  TouchRecord,
  TreatmentRecord,
  TrialRecord,
  TuningForgottenRecord,
  TuningRecord,
} from './records';

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
  treatments: TreatmentRecord[];
  /** Each pass as it was last written, oldest first. */
  passes: PassRecord[];
  /** Each trial as it was last written, oldest first. */
  trials: TrialRecord[];
  /** Tests about why strings do not stay, and what was found, oldest first. */
  tests: TestRecord[];
  findings: FindingRecord[];
  /** Strings tuned by ear, and how far off they were read. */
  judgements: JudgementRecord[];
  /** Floating bridges as they are set up, and what was done on them, oldest first. */
  bridges: BridgeRecord[];
  bridgeSteps: BridgeStepRecord[];
  /** Two strings heard together, oldest first. */
  checkpoints: CheckpointRecord[];
  /** What instruments were tuned to, oldest first. */
  tunings: TuningRecord[];
  /** Which of them are no longer offered, oldest first. */
  forgotten: TuningForgottenRecord[];
  /** What was remarked on instruments and strings, oldest first. */
  remarks: RemarkRecord[];
  /** What was practised, oldest first; no reading is among them. */
  exercises: ExerciseRecord[];
  /** Grows with every string or instrument that comes or goes. */
  changes: number;
  /** The last time that a device's clock was set back, and not forward again. */
  clockBack: SetBack | undefined;
}

/** What a log is given in: records, and chapters of readings. */
export interface Entries {
  records: LogRecord[];
  chapters: Chapter[];
}

/** The log, and the bench as it tells it: what is appended costs only the instruments that it is about. */
export interface LogIndex {
  /** Takes in what is not known by its id. @returns what was new */
  add(records: readonly LogRecord[], chapters?: readonly Chapter[]): Entries;
  has(record: LogRecord): boolean;
  /** How many records there are. */
  count(): number;
  /** The record of an id. @param likely the instrument that it is about, where that is known */
  get(id: string, likely?: string): LogRecord | undefined;
  /** Whether another record superseded it, or took it back. */
  isGone(id: string): boolean;
  /** Everything, or what is about one instrument, a piece at a time: no more than that need be unpacked at once. */
  pieces(instrumentId?: string): Generator<readonly LogRecord[]>;
  /** The same at once. */
  records(instrumentId?: string): LogRecord[];
  bench(): Bench;
  /** What a record written now comes after. */
  nextSeq(): number;
  /** The last record of a writer. */
  lastOf(writer: string): Written | undefined;
}

/** Records about one instrument, or about none in particular. */
interface Part {
  /** Those in no chapter, by id. */
  loose: Map<string, LogRecord>;
  types: Set<LogRecord['type']>;
  chapters: Chapter[];
  /** The ids in its chapters, and their readings, where they were wanted. */
  ids: Set<string> | undefined;
  readings: Map<string, ReadingRecord> | undefined;
  /** The loose ones in order, as far as they stand; undefined when something has come since. */
  live: LogRecord[] | undefined;
  /** What all of it says of its strings, where that was wanted. */
  strings: StringLife[] | undefined;
  life: InstrumentLife | undefined;
  away: InstrumentRecord | undefined;
  bornMs: number;
  strungMs: number;
}

/** The chapters of so many instruments stay unpacked, those that were wanted last (house). */
const MOST_OPEN = 40;

/** What belongs to no instrument. */
const GENERAL = '';
/** The instrument that a record is about; '' where it is about none in particular. */
export const partOf = (r: LogRecord): string => ('instrumentId' in r ? r.instrumentId : GENERAL);
const COMES_OR_GOES = ['instrument', 'fitted', 'removed'];

export function createLogIndex(): LogIndex {
  /** Those in no chapter. */
  const byId = new Map<string, LogRecord>();
  const gone = new Set<string>();
  const parts = new Map<string, Part>();
  /** Parts whose chapters are unpacked, in the order in which they were wanted last. */
  const open = new Set<Part>();
  const clocks = new Map<string, WriterClock>();
  let seq = 0;
  let changes = 0;
  /** The reference by which offsets are reckoned; each reading's own while nobody has set one. */
  let a4Hz: number | undefined;
  /** The time of the newest record. */
  let latestMs = 0;
  /** Shows that were given, as a text. */
  let given = '[]';
  let derived: Bench | undefined;
  let said = false;

  const part = (key: string): Part => {
    const known = parts.get(key);
    if (known) return known;
    const fresh: Part = {
      loose: new Map(),
      types: new Set(),
      chapters: [],
      ids: undefined,
      readings: undefined,
      live: undefined,
      strings: undefined,
      life: undefined,
      away: undefined,
      bornMs: 0,
      strungMs: 0,
    };
    parts.set(key, fresh);
    return fresh;
  };
  const find = (id: string, likely: string): LogRecord | undefined => {
    const p = byId.has(id) ? undefined : partWith(id, part(likely));
    return p ? (want(p), readingsIn(p).get(id)) : byId.get(id);
  };
  const idsIn = (p: Part): Set<string> => (p.ids ??= new Set(p.chapters.flatMap(idsOf)));
  const readingsIn = (p: Part): Map<string, ReadingRecord> =>
    (p.readings ??= new Map(p.chapters.flatMap(readingsOf).map((r) => [r.id, r])));
  /** Its chapters are wanted: those that were not for longest are shut. */
  const want = (p: Part): void => {
    if (p.chapters.length === 0) return;
    open.delete(p);
    open.add(p);
    const [oldest] = open;
    if (!oldest || open.size <= MOST_OPEN) return;
    open.delete(oldest);
    oldest.readings = oldest.strings = undefined;
  };
  const stale = (p: Part): void => {
    p.live = p.strings = undefined;
  };
  const knows = (r: LogRecord): boolean => {
    if (byId.has(r.id) || r.type !== 'reading') return byId.has(r.id);
    const p = parts.get(r.instrumentId);
    return p !== undefined && p.chapters.length > 0 && idsIn(p).has(r.id);
  };
  /** The part that an id is in, most likely this one; nothing is unpacked for that. */
  const partWith = (id: string, likely: Part): Part | undefined => {
    const loose = byId.get(id);
    if (loose) return part(partOf(loose));
    if (likely.chapters.length > 0 && idsIn(likely).has(id)) return likely;
    return [...parts.values()].find((p) => p.chapters.some((c) => holds(c, id)));
  };
  /** The record at the time that its writer's clock should have said; a correction stays at the time of what it corrects. */
  const onTime = (r: LogRecord): LogRecord => {
    const before = r.supersedes ? find(r.supersedes, partOf(r)) : undefined;
    const { written } = before && before.atMs === r.atMs ? before : r;
    const offset = written ? (clocks.get(written.by)?.offsetMs(written) ?? 0) : 0;
    return offset === 0 ? r : { ...r, atMs: r.atMs + offset };
  };
  const inOrder = (records: Iterable<LogRecord>): LogRecord[] =>
    [...records]
      .filter((r) => stands(r, gone))
      .map(onTime)
      .sort(inTime);
  const liveOf = (p: Part): LogRecord[] => (p.live ??= inOrder(p.loose.values()));
  const wholeOf = (p: Part): LogRecord[] =>
    p.chapters.length === 0 ? liveOf(p) : inOrder([...p.loose.values(), ...readingsIn(p).values()]);

  const note = (records: readonly LogRecord[], chapters: readonly Chapter[]): void => {
    const loose = groupBy(
      records.flatMap((r) => r.written ?? []),
      (w) => w.by,
    );
    const runs = groupBy(
      [...chapters.flatMap((c) => c.written), ...[...loose].map(([by, own]) => ({ by, ...runOf(own) }))],
      (run) => run.by,
    );
    for (const [by, own] of runs) {
      const clock = clocks.get(by) ?? createWriterClock();
      clocks.set(by, clock);
      if (clock.note(by, own)) parts.forEach(stale);
      seq = Math.max(seq, clock.newest()!.seq);
    }
  };
  /** A chapter that says something new; what it has is loose no longer. */
  const bind = (c: Chapter): boolean => {
    const p = part(c.instrumentId);
    const known = p.chapters.length > 0 ? idsIn(p) : undefined;
    if (known && (p.chapters.some(({ ids }) => ids === c.ids) || idsOf(c).every((id) => known.has(id)))) return false;
    p.chapters.push(c);
    p.ids = p.readings = undefined;
    if (p.types.has('reading')) for (const id of idsIn(p)) if (p.loose.delete(id)) byId.delete(id);
    latestMs = Math.max(latestMs, c.latestMs);
    stale(p);
    return true;
  };

  const index: LogIndex = {
    add(given, chapters = []) {
      const bound = chapters.filter(bind);
      const records: LogRecord[] = [];
      for (const r of given)
        if (!knows(r)) {
          byId.set(r.id, r);
          part(partOf(r)).loose.set(r.id, r);
          records.push(r);
        }
      if (records.length === 0 && bound.length === 0) return { records, chapters: bound };
      derived = undefined;
      note(records, bound);
      for (const r of records) {
        const p = part(partOf(r));
        p.types.add(r.type);
        stale(p);
        latestMs = Math.max(latestMs, r.atMs);
        if (COMES_OR_GOES.includes(r.type)) changes++;
        if (r.supersedes) {
          gone.add(r.supersedes);
          // Nothing was said yet: nothing has to be said anew.
          const before = said ? partWith(r.supersedes, p) : undefined;
          if (before) stale(before);
          if (COMES_OR_GOES.includes(byId.get(r.supersedes)?.type ?? '')) changes++;
        }
      }
      return { records, chapters: bound };
    },
    has: knows,
    count: () =>
      [...parts.values()].reduce(
        (sum, p) => sum + (p.chapters.length > 1 ? idsIn(p).size : (p.chapters[0]?.count ?? 0)),
        byId.size,
      ),
    get: (id, likely = GENERAL) => find(id, likely),
    isGone: (id) => gone.has(id),
    *pieces(instrumentId) {
      const of = instrumentId === undefined ? undefined : part(instrumentId);
      yield [...(of?.loose ?? byId).values()];
      for (const p of of ? [of] : parts.values())
        if (p.chapters.length > 0) yield [...(want(p), readingsIn(p)).values()];
    },
    records: (instrumentId) => [...index.pieces(instrumentId)].flat(),
    nextSeq: () => seq + 1,
    lastOf: (writer) => clocks.get(writer)?.newest(),
    bench() {
      if (derived) return derived;
      said = true;
      const general = liveOf(part(GENERAL));
      const reference = last(ofType(general, 'reference'));
      if (reference?.a4Hz !== a4Hz) {
        a4Hz = reference?.a4Hz;
        for (const [id, p] of parts) if (id !== GENERAL) stale(p);
      }
      const shows = showsOf(ofType(general, 'session'), latestMs);
      if (JSON.stringify(shows) !== given) {
        given = JSON.stringify(shows);
        for (const [id, p] of parts) if (id !== GENERAL) stale(p);
      }
      for (const [id, p] of parts) {
        if (id === GENERAL || p.live) continue;
        const live = liveOf(p);
        const named = ofType(live, 'instrument');
        const record = last(named);
        p.away = record?.away ? record : undefined;
        p.bornMs = named[0]?.atMs ?? 0;
        p.life = undefined;
        if (!record || p.away) continue;
        p.strungMs = newestStrungMs(record, live);
        const own = shows.filter((s) => s.instrumentId === id);
        const hz = a4Hz;
        const strings = () => (want(p), (p.strings ??= stringLives(named, wholeOf(p), hz, own)));
        p.life = lifeOf(named, live, strings);
        // What is at hand is read at once: records that do not make a bench are found now.
        if (p.chapters.length === 0) strings();
      }
      const all = [...parts.values()];
      const everywhere = <T extends LogRecord['type']>(type: T) =>
        all.flatMap((p) => (p.types.has(type) ? ofType(liveOf(p), type) : [])).sort(inTime);
      const lives = all.filter((p) => p.life).sort((a, b) => a.bornMs - b.bornMs);
      derived = {
        // The freshest strings first: they need the bench most.
        instruments: lives.sort((a, b) => b.strungMs - a.strungMs).map((p) => p.life!),
        away: all.flatMap((p) => p.away ?? []).sort((a, b) => a.name.localeCompare(b.name)),
        room: last(ofType(general, 'room')),
        reference,
        curtain: last(ofType(general, 'curtain')),
        session: last(ofType(general, 'session')),
        touches: everywhere('touch'),
        adjustments: everywhere('adjustment'),
        treatments: everywhere('treatment'),
        passes: [...new Map(everywhere('pass').map((r) => [r.passId, r])).values()],
        trials: [...new Map(ofType(general, 'trial').map((t) => [t.trialId, t])).values()],
        tests: everywhere('test'),
        findings: everywhere('finding'),
        judgements: everywhere('judgement'),
        checkpoints: everywhere('checkpoint'),
        bridges: everywhere('bridge'),
        bridgeSteps: everywhere('bridge-step'),
        tunings: everywhere('tuning'),
        forgotten: everywhere('tuning-forgotten'),
        remarks: everywhere('remark'),
        exercises: everywhere('exercise'),
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

/** Shows that have been, as they were in force when their curtain rose: one that was put off before never was. */
const showsOf = (sessions: readonly SessionRecord[], latestMs: number): (Show & { instrumentId: string })[] =>
  sessions
    .filter((s, i) => s.curtainMs < Math.min(latestMs, sessions[i + 1]?.atMs ?? Infinity))
    .flatMap(({ curtainMs, minutes, instrumentIds, plays = [] }) =>
      instrumentIds.map((instrumentId) => {
        const { fromMin, toMin } = plays.find((p) => p.instrumentId === instrumentId) ?? { fromMin: 0, toMin: minutes };
        return { instrumentId, atMs: curtainMs + fromMin * 60000, minutes: toMin - fromMin };
      }),
    );

/**
 * The index of what was stored by whatever wrote it. Where records do not make a bench, each is checked, and what is no record is
 * set aside; of chapters only checked ones are made.
 */
export function indexOf({ records, chapters }: Entries): { index: LogIndex; aside: LogRecord[] } {
  const index = createLogIndex();
  try {
    index.add(records, chapters);
    index.bench();
    return { index, aside: [] };
  } catch {
    const sound = createLogIndex();
    sound.add(
      records.filter((r) => checkRecord(r).ok),
      chapters,
    );
    sound.bench();
    return { index: sound, aside: records.filter((r) => !sound.has(r)) };
  }
}

/** Reads the whole log into the present bench. */
export function readBench(records: readonly LogRecord[]): Bench {
  const index = createLogIndex();
  index.add(records);
  return index.bench();
}
