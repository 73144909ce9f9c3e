import { groupBy, inTime, last, lifeOf, ofType, stands, type InstrumentLife, type Show } from './life';
import { createWriterClock, type SetBack, type WriterClock, type Written } from './order';
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
/** The instrument that a record is about; '' where it is about none in particular. */
export const partOf = (r: LogRecord): string => ('instrumentId' in r ? r.instrumentId : GENERAL);
const COMES_OR_GOES = ['instrument', 'fitted', 'removed'];

export function createLogIndex(): LogIndex {
  const byId = new Map<string, LogRecord>();
  const gone = new Set<string>();
  const parts = new Map<string, Part>();
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
      .filter((r) => stands(r, gone))
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
        latestMs = Math.max(latestMs, r.atMs);
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
      const shows = showsOf(ofType(general, 'session'), latestMs);
      if (JSON.stringify(shows) !== given) {
        given = JSON.stringify(shows);
        for (const [id, p] of parts) if (id !== GENERAL) p.live = undefined;
      }
      for (const [id, p] of parts) {
        if (id === GENERAL || p.live) continue;
        const live = liveOf(p);
        const named = ofType(live, 'instrument');
        const record = last(named);
        p.away = record?.away ? record : undefined;
        p.life =
          record && !p.away
            ? lifeOf(
                named,
                live,
                a4Hz,
                shows.filter((s) => s.instrumentId === id),
              )
            : undefined;
        p.bornMs = named[0]?.atMs ?? 0;
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
