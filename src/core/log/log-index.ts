import type { Bench } from './bench';
import { newestMs, type Chapter } from './chapter';
import {
  asBefore,
  groupBy,
  last,
  lifeOf,
  newestStrungMs,
  planAt,
  showsOf,
  stringLives,
  type PlayedShow,
  type StringLife,
} from './life';
import { byTime, sortedOf, type Sorted } from './sorted';
import { createSuccession, stands, type Contest } from './succession';
import { createWriterClock, runOf, type WriterClock, type Written } from './order';
import { createShelf, GENERAL, partOf, stale, unsorted, type Heading, type Part } from './parts';
import type { InstrumentRecord, LogRecord, StringPlan } from './records';
import { checkRecord } from './check';

/** What a log is given in: records, and chapters of readings. */
export interface LogEntries {
  records: LogRecord[];
  chapters: Chapter[];
}

/** The log, and the bench as it tells it: what is appended costs only the instruments that it is about. */
export interface LogIndex {
  /** Takes in what is not known by its id. @returns what was new */
  add(records: readonly LogRecord[], chapters?: readonly Chapter[]): LogEntries;
  has(record: LogRecord): boolean;
  /** How many records there are. */
  count(): number;
  /** The record of an id. @param likely the instrument that it is about, where that is known */
  get(id: string, likely?: string): LogRecord | undefined;
  /** Whether another record superseded it, or took it back. */
  isGone(id: string): boolean;
  /** What was corrected differently on several devices. */
  contests(): readonly Contest[];
  /** Chapters whose readings were damaged since they were written: all else goes on without them. */
  aside(): readonly Chapter[];
  /** Everything, or what is about one instrument, a piece at a time: no more than that need be unpacked at once. */
  pieces(instrumentId?: string): Generator<readonly LogRecord[]>;
  /** The same without a word of it: nothing is unpacked. */
  headings(instrumentId?: string): Generator<readonly Heading[]>;
  /** Instruments as they were ever described, whether that stands or not. */
  everDescribed(): InstrumentRecord[];
  /** What pieces give, at once. */
  records(instrumentId?: string): LogRecord[];
  bench(): Bench;
  /** A string as it was tuned at a time; undefined where there was none. */
  planAt(instrumentId: string, stringId: string, atMs: number): StringPlan | undefined;
  /** What a record written now comes after. */
  nextSeq(): number;
  /** The last record of a writer. */
  lastOf(writer: string): Written | undefined;
}

const COMES_OR_GOES = ['instrument', 'fitted', 'removed'];
/** Of more records than this that stand otherwise it is not asked where each is (house). */
const MANY_TURNED = 1000;

/** @param onAside called back when a chapter proves damaged: that is known when its readings are first wanted */
export function createLogIndex(onAside: (chapter: Chapter) => void = () => undefined): LogIndex {
  const shelf = createShelf((c) => {
    derived = undefined;
    onAside(c);
  });
  const { parts, part } = shelf;
  const succession = createSuccession();
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

  /** The record at the time that its writer's clock should have said; a correction stays at the time of what it corrects. */
  const onTime = (r: LogRecord): LogRecord => {
    const before = r.supersedes ? shelf.get(r.supersedes, partOf(r)) : undefined;
    const { written } = before && before.atMs === r.atMs ? before : r;
    const offset = written ? (clocks.get(written.by)?.offsetMs(written) ?? 0) : 0;
    return offset === 0 ? r : { ...r, atMs: r.atMs + offset };
  };
  const inOrder = (records: Iterable<LogRecord>): LogRecord[] =>
    [...records]
      .filter((r) => stands(r, succession))
      .map(onTime)
      .sort(byTime);
  const sorted = (records: Iterable<LogRecord>): Sorted => sortedOf(inOrder(records));
  /** What came since goes to the end of what is in order, where it belongs there; else all is put in order again. */
  const takeLate = (p: Part): void => {
    if (p.late.length === 0) return;
    const late = inOrder(p.late);
    p.late = [];
    // One and the same where nothing is packed.
    const lists = [...new Set([p.live, p.whole])];
    if (!lists.every((list) => list?.append(late) ?? true)) p.live = p.whole = undefined;
  };
  const liveOf = (p: Part): Sorted => {
    said = true;
    takeLate(p);
    return (p.live ??= sorted(p.loose.values()));
  };
  const wholeOf = (p: Part): Sorted => {
    takeLate(p);
    const packed = p.whole ? [] : shelf.readingsIn(p);
    return (p.whole ??= packed.length === 0 ? liveOf(p) : sorted([...p.loose.values(), ...packed]));
  };
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
      const clock = clocks.get(by) ?? createWriterClock(by);
      clocks.set(by, clock);
      if (clock.note(own)) parts.forEach(unsorted);
      seq = Math.max(seq, clock.newest()!.seq);
    }
  };
  /** What a part says of its instrument; of its strings when that is wanted, where there are chapters. */
  const tell = (p: Part, shows: readonly PlayedShow[]): void => {
    const live = liveOf(p);
    const named = [...live.of('instrument')];
    const record: InstrumentRecord | undefined = last(named);
    p.fresh = true;
    p.away = record?.away ? record : undefined;
    p.born = named[0];
    p.life = undefined;
    if (!record || p.away) return;
    p.strungMs = newestStrungMs(record, live);
    const [told, before, hz] = [{ strings: undefined as StringLife[] | undefined }, p.before, a4Hz];
    const strings = () => {
      return (told.strings ??= asBefore(stringLives(named, wholeOf(p), hz, shows), before));
    };
    p.told = told;
    p.life = lifeOf(named, live, () => told.strings ?? strings());
    // What is at hand is read at once: records that do not make a bench are found now.
    if (p.chapters.length === 0) strings();
  };

  const index: LogIndex = {
    add(given, chapters = []) {
      const bound = chapters.filter(shelf.bind);
      const records = given.filter(shelf.put);
      if (records.length === 0 && bound.length === 0) return { records, chapters: bound };
      derived = undefined;
      const parted = new Map<string, string>();
      note(records, bound);
      for (const c of bound) latestMs = Math.max(latestMs, newestMs(c));
      for (const r of records) {
        latestMs = Math.max(latestMs, r.atMs);
        if (COMES_OR_GOES.includes(r.type)) changes++;
        if (r.supersedes) parted.set(r.supersedes, partOf(r));
      }
      const turned = succession.note(records);
      if (turned.some((id) => COMES_OR_GOES.includes(shelf.loose(id)?.type ?? ''))) changes++;
      // Nothing was said yet: nothing has to be said anew. So many that all is: what came with an import.
      if (said && turned.length > MANY_TURNED) parts.forEach(unsorted);
      else if (said)
        for (const id of turned) {
          const before = shelf.partWith(id, part(parted.get(id) ?? GENERAL));
          if (before) unsorted(before);
        }
      return { records, chapters: bound };
    },
    has: shelf.has,
    aside: shelf.aside,
    count: shelf.count,
    get: (id, likely = GENERAL) => shelf.get(id, likely),
    isGone: succession.isGone,
    contests: succession.contests,
    pieces: shelf.pieces,
    headings: shelf.headings,
    everDescribed: () =>
      [...parts.values()].flatMap((p) =>
        p.types.has('instrument') ? [...p.loose.values()].filter((r) => r.type === 'instrument') : [],
      ),
    records: (instrumentId) => [...index.pieces(instrumentId)].flat(),
    planAt(instrumentId, stringId, atMs) {
      const p = parts.get(instrumentId);
      return p && planAt(liveOf(p), stringId, atMs);
    },
    nextSeq: () => seq + 1,
    lastOf: (writer) => clocks.get(writer)?.newest(),
    bench() {
      if (derived) return derived;
      const general = liveOf(part(GENERAL));
      const reference = last(general.of('reference'));
      if (reference?.a4Hz !== a4Hz) {
        a4Hz = reference?.a4Hz;
        for (const [id, p] of parts) if (id !== GENERAL) stale(p);
      }
      const shows = showsOf(general.of('session'), latestMs);
      if (JSON.stringify(shows) !== given) {
        given = JSON.stringify(shows);
        for (const [id, p] of parts) if (id !== GENERAL) stale(p);
      }
      for (const [id, p] of parts)
        if (id !== GENERAL && !p.fresh)
          tell(
            p,
            shows.filter((x) => x.instrumentId === id),
          );
      const all = [...parts.values()];
      const everywhere = <T extends LogRecord['type']>(type: T) =>
        all.flatMap((p) => (p.types.has(type) ? [...liveOf(p).of(type)] : [])).sort(byTime);
      const lives = all.filter((p) => p.life).sort((a, b) => byTime(a.born!, b.born!));
      derived = {
        // The freshest strings first: they need the bench most.
        instruments: lives.sort((a, b) => b.strungMs - a.strungMs).map((p) => p.life!),
        away: all.flatMap((p) => p.away ?? []).sort((a, b) => a.name.localeCompare(b.name)),
        room: last(general.of('room')),
        reference,
        curtain: last(general.of('curtain')),
        session: last(general.of('session')),
        touches: everywhere('touch'),
        adjustments: everywhere('adjustment'),
        treatments: everywhere('treatment'),
        passes: [...new Map(everywhere('pass').map((r) => [`${r.instrumentId}/${r.passId}`, r])).values()],
        trials: [...new Map(general.of('trial').map((t) => [t.trialId, t])).values()],
        tests: everywhere('test'),
        findings: everywhere('finding'),
        judgements: everywhere('judgement'),
        checkpoints: everywhere('checkpoint'),
        bridges: everywhere('bridge'),
        bridgeSteps: everywhere('bridge-step'),
        saddles: everywhere('saddle'),
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

/**
 * The index of what was stored by whatever wrote it. Where records do not make a bench, each is checked, and what is no record is
 * set aside; of chapters only checked ones are made.
 */
export function indexOf(
  { records, chapters }: LogEntries,
  onAside?: (chapter: Chapter) => void,
): { index: LogIndex; aside: LogRecord[] } {
  const index = createLogIndex(onAside);
  try {
    index.add(records, chapters);
    index.bench();
    return { index, aside: [] };
  } catch {
    const sound = createLogIndex(onAside);
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
