import { randomFrom } from '../../core/simulate';
import {
  ifRestrung,
  minutesPerString,
  planChoices,
  planShow,
  planStrings,
  type PlanAsked,
  type PriorOf,
} from '../../core/plan';
import {
  ageFromMs,
  createLogIndex,
  GENERAL,
  byHeading,
  headingOf,
  groupBy,
  indexOf,
  instrumentStatus,
  isWanted,
  namesIn,
  partOf,
  sayRecord,
  type InstrumentLife,
  type Entries,
  type Heading,
  type LogIndex,
  type LogRecord,
  type Priors,
  type StringRef,
} from '../../core/log';
import { SETTLING_PRIORS } from '../../core/settling';
import { fallsByAge, instrumentStory, learnedOf, newestSets, setsTaughtBy, type TaughtSet } from '../../core/story';
import { SETTLES_AS, traitsOf } from '../../core/strings';
import type { WavOutcome } from '../../core/exchange';
import { FILE_TOO_LARGE, LARGEST_FILE, LARGEST_WAV } from '../../core/limits';
import type { RecordStore, World } from '../world/database';
import type {
  Answer,
  Imported,
  LifePage,
  Listed,
  PlanAsk,
  QuestionKind,
  Questions,
  Request,
  RestringAsk,
  ToAnalyst,
} from './questions';

/** What is seldom asked for is loaded when it is. */
const exchange = () => import('../../core/exchange');
const trials = () => import('../../core/trial');
const says = () => import('../../core/says');
const bridge = () => import('../../core/bridge');
/** The same bridges are imagined each time: an answer that stands still. */
const WAYS_SEED = 17;
const causes = () => import('../../core/causes');
const lives = () => import('../../core/life');
const octave = () => import('../../core/octave');
const SLICED: readonly QuestionKind[] = ['import', 'learn', 'materials', 'entries'];

function* mapped<A, B>(all: Iterable<A>, to: (a: A) => B): Generator<B> {
  for (const one of all) yield to(one);
}

/** What an analyst needs of where it runs. */
export interface AnalystMeans {
  openStore: (world: World) => RecordStore;
  post: (answer: Answer) => void;
  /** After what else is waiting. */
  later: (act: () => void) => void;
}

/** Answers what follows from one log: told what to open and what is added, it is asked one question after another. */
export function createAnalyst(means: AnalystMeans): (message: ToAnalyst) => void {
  const { post, later } = means;
  let index: LogIndex = createLogIndex();
  let store: RecordStore | undefined;
  /** The store is being read: questions wait. */
  let opening = false;
  /** The store may be tidied up, once nothing is asked any more. */
  let untidy = false;

  /** Begins with what the store holds; what the page tells meanwhile is added. */
  async function open(world: World): Promise<void> {
    const told = (index = createLogIndex());
    opening = true;
    store?.close();
    store = means.openStore(world);
    let stored: Entries = { records: [], chapters: [] };
    try {
      stored = await store.all();
    } catch {
      // The page meets the same refusal, and says so.
    }
    // Begun anew meanwhile: the other one answers.
    if (told !== index) return;
    ({ index } = indexOf(stored));
    index.add(told.records());
    opening = false;
    untidy = true;
    schedule();
  }

  const bench = () => index.bench();

  const find = (instrumentId: string) => bench().instruments.find((i) => i.record.instrumentId === instrumentId);

  function lifeOf(instrumentId: string): InstrumentLife {
    const life = find(instrumentId);
    if (!life) throw new Error(`The log has no instrument ${instrumentId}.`);
    return life;
  }

  const stringOf = ({ instrumentId, stringId }: StringRef) =>
    find(instrumentId)?.strings.find((s) => s.plan.stringId === stringId);

  const priorFrom =
    (priors: Record<string, Priors>): PriorOf =>
    (material, instrumentId) =>
      priors[instrumentId]?.[material] ?? SETTLING_PRIORS[material];

  function nextAsked({ instrumentId, wish, ...asked }: Questions['next']['ask']) {
    const life = lifeOf(instrumentId);
    return { ...asked, life, bench: bench(), statuses: instrumentStatus(life, wish), nowMs: wish.nowMs };
  }

  function planAsked({ instrumentIds, priors, ...asked }: PlanAsk): PlanAsked {
    const all = bench();
    const instruments = all.instruments.filter((i) => instrumentIds.includes(i.record.instrumentId));
    return { ...asked, strings: planStrings(instruments, priorFrom(priors)), minutesPerString: minutesPerString(all) };
  }

  function restring({ instrumentId, session, restrungMs, tunedMs, priors }: RestringAsk) {
    const endMs = session.curtainMs + session.minutes * 60000;
    const intervalMs = session.intervalMin === null ? endMs : session.curtainMs + session.intervalMin * 60000;
    return lifeOf(instrumentId).strings.map(({ plan: { stringId, note, material } }) => {
      const settles = SETTLES_AS[material];
      const string = { material: settles, prior: priors[settles] ?? SETTLING_PRIORS[settles] };
      const madeReady = session.school === 'make-ready';
      return {
        stringId,
        note,
        ...ifRestrung(string, restrungMs, tunedMs, intervalMs, endMs, session.toleranceCents, madeReady),
      };
    });
  }

  async function trial({ pairs, endedMs }: Questions['trial']['ask']) {
    const { counted, countedFromMs, judgeTrial } = await trials();
    const present = pairs.flatMap((p) => {
      const treated = stringOf(p.treated);
      const control = stringOf(p.control);
      return treated && control ? [{ treated, control }] : [];
    });
    const material = present[0] ? SETTLES_AS[present[0].treated.plan.material] : 'unknown';
    const falls = present.map((p) => {
      const fromMs = countedFromMs(p.treated);
      const of = (life: typeof p.treated) => {
        const until = life.readings.filter((r) => r.atMs <= (endedMs ?? Infinity));
        const start = ageFromMs(life);
        return counted(fallsByAge({ ...life, readings: until }), start === undefined ? 0 : (fromMs - start) / 60000);
      };
      return { treated: of(p.treated), control: of(p.control) };
    });
    return judgeTrial(falls, material) ?? null;
  }

  /** Checks a file in slices, so that it can be told how far it is and be called off; then writes it in one go. */
  async function importFile({ file }: Questions['import']['ask'], id: number): Promise<Imported> {
    const target = store;
    if (!target) throw new Error('The log is not open.');
    const refuse = (message: string): Imported => ({ ok: false, message: `${message} Nothing was imported.` });
    if (file.size > LARGEST_FILE) return refuse(FILE_TOO_LARGE);
    const { logFileReader, readText } = await exchange();
    const said = await readText(file);
    if (!said.ok) return refuse(said.message);
    const reader = logFileReader(said.text);
    for (let step = reader.next(); ; step = reader.next()) {
      if (!step.done) {
        post({ id, done: step.value });
        await new Promise<void>(later);
        if (dropped.has(id)) return refuse('Cancelled.');
        continue;
      }
      const read = step.value;
      if (!read.ok) return read;
      // One instrument after another: what is told in slices then changes one or two of them at a time.
      const fresh = [...groupBy(read.records, partOf).values()].flat().filter((r) => !index.has(r));
      const known = read.records.length - fresh.length;
      const { instruments, away } = bench();
      const there = new Set([...instruments.map((i) => i.record), ...away].map((r) => r.instrumentId));
      for (const r of fresh) if (r.type === 'instrument') there.add(r.instrumentId);
      const strangers = fresh.filter((r) => r.type === 'reading' && !there.has(r.instrumentId)).length;
      let written: Entries;
      try {
        written = await target.append(fresh);
      } catch (error) {
        // Held here it would go with the page: the file is still where it was.
        target.forget();
        return refuse((error as Error).message);
      }
      index.add(written.records, written.chapters);
      return { ok: true, fresh: fresh.length, known, about: namesOf(fresh), strangers };
    }
  }

  /** The instruments that records are about, by name, those with the most first. */
  function namesOf(records: readonly LogRecord[]): string[] {
    const counts = new Map<string, number>();
    for (const r of records) counts.set(partOf(r), (counts.get(partOf(r)) ?? 0) + 1);
    return [...counts].sort((a, b) => b[1] - a[1]).flatMap(([id]) => find(id)?.record.name ?? []);
  }

  /** Goes through the instruments one by one, and lets others ask meanwhile: a long log has to be unpacked for it. */
  async function eachLife(id: number, see: (life: InstrumentLife) => void): Promise<void> {
    for (const life of bench().instruments) {
      if (dropped.has(id)) return;
      see(life);
      await new Promise<void>(later);
    }
  }

  async function learn(id: number) {
    let sets: TaughtSet[] = [];
    await eachLife(id, (life) => (sets = newestSets([...sets, ...setsTaughtBy(life)])));
    return learnedOf(
      bench().instruments.map((i) => i.record),
      sets,
    );
  }

  async function lifePage(instrumentId: string): Promise<LifePage> {
    const [{ lifeSheet, setsOf, treatmentsOf }, { octavesOf, USUAL_SETUP }] = await Promise.all([lives(), octave()]);
    const life = lifeOf(instrumentId);
    const fretted = traitsOf(life.record).frets;
    return {
      sets: setsOf(life),
      sheet: lifeSheet(life),
      treated: treatmentsOf(life, bench()),
      octaves: fretted ? octavesOf(life, bench(), USUAL_SETUP.limitCents) : undefined,
    };
  }

  async function materials({ nowMs }: Questions['materials']['ask'], id: number) {
    const { lastedOn, livesByMaterial } = await lives();
    const lasted: ReturnType<typeof lastedOn> = [];
    await eachLife(id, (life) => lasted.push(...lastedOn(life, nowMs)));
    return livesByMaterial(lasted);
  }

  /** What was looked for last, in which log, and where it lies, the newest first. */
  let looked: { of: string; found: Heading[] } | undefined;

  async function entries({ wanted, from, count }: Questions['entries']['ask'], id: number): Promise<Listed> {
    const { instruments, away } = bench();
    const names = namesIn([...instruments.map((i) => i.record), ...away], index.get);
    const of = `${index.count()} ${JSON.stringify(wanted)}`;
    if (looked?.of !== of) {
      const isOne = isWanted(names, wanted);
      const found: Heading[] = [];
      const { instrumentId, type } = wanted;
      const pieces = byHeading(wanted)
        ? mapped(index.headings(instrumentId), (all) => all.filter((h) => !type || h.type === type))
        : mapped(index.pieces(instrumentId), (all) => all.filter(isOne).map(headingOf));
      for (const piece of pieces) {
        for (const heading of piece) found.push(heading);
        // Chapters have readings alone.
        if (type && type !== 'reading') break;
        await new Promise<void>(later);
        if (dropped.has(id)) return { found: 0, rows: [] };
      }
      looked = { of, found: found.sort((a, b) => b.atMs - a.atMs) };
    }
    const rows = looked.found.slice(from, from + count).flatMap((at) => {
      const record = index.get(at.id, at.of);
      return record ? [{ record, said: sayRecord(record, names), gone: index.isGone(record.id) }] : [];
    });
    return { found: looked.found.length, rows };
  }

  async function soundOf(file: Blob): Promise<WavOutcome> {
    if (file.size > LARGEST_WAV) return { ok: false, message: 'The file is larger than 500 MB.' };
    const { readWav, UNREADABLE } = await exchange();
    try {
      return readWav(new Uint8Array(await file.arrayBuffer()));
    } catch (error) {
      if (error instanceof DOMException) return { ok: false, message: UNREADABLE };
      throw error;
    }
  }

  async function exportLog({ as, nowMs, instrumentId }: Questions['export']['ask']): Promise<Blob> {
    const { readingsCsv, writeLogFile } = await exchange();
    const about = index.records(instrumentId);
    const ids = new Set(about.map((r) => r.id));
    // What of it was taken back goes along.
    const back = index
      .records(GENERAL)
      .filter((r) => instrumentId !== undefined && r.type === 'taken-back' && ids.has(r.supersedes));
    const all = [...about, ...back];
    return as === 'json'
      ? new Blob([writeLogFile(all, nowMs)], { type: 'application/json' })
      : new Blob([readingsCsv(all)], { type: 'text/csv' });
  }

  function answer(request: Request): Questions[QuestionKind]['answer'] | Promise<Questions[QuestionKind]['answer']> {
    switch (request.question) {
      case 'status':
        return instrumentStatus(lifeOf(request.ask.instrumentId), request.ask.wish);
      case 'foretell':
        return instrumentStatus(request.ask.life, request.ask.wish);
      case 'ways': {
        const { law, task, offsetsCents, memory, toleranceCents } = request.ask;
        return bridge().then(({ compareWays }) =>
          compareWays(law, task, offsetsCents, memory, toleranceCents, randomFrom(WAYS_SEED)),
        );
      }
      case 'next':
        return says().then(({ nextThing }) => nextThing(nextAsked(request.ask)));
      case 'rack':
        return says().then(({ rackLine }) => request.ask.map((one) => rackLine(nextAsked(one))));
      case 'causes':
        return causes().then(({ findCause }) => findCause(request.ask));
      case 'story':
        return instrumentStory(lifeOf(request.ask.instrumentId), request.ask.wish);
      case 'plan':
        return planShow(planAsked(request.ask));
      case 'choices':
        return planChoices(planAsked(request.ask));
      case 'trial':
        return trial(request.ask);
      case 'learn':
        return learn(request.id);
      case 'life':
        return lifePage(request.ask.instrumentId);
      case 'materials':
        return materials(request.ask, request.id);
      case 'entries':
        return entries(request.ask, request.id);
      case 'restring':
        return restring(request.ask);
      case 'import':
        return importFile(request.ask, request.id);
      case 'sound':
        return soundOf(request.ask.file);
      case 'export':
        return exportLog(request.ask);
    }
  }

  const questions: Request[] = [];
  const dropped = new Set<number>();
  let scheduled = false;

  /** One question at a time, so that what is told or dropped meanwhile is heard between two. */
  function schedule(): void {
    if (scheduled || opening) return;
    if (questions.length === 0) {
      // Refused, the store stays as it is.
      if (untidy) void store?.tidy().catch(() => undefined);
      untidy = false;
      return;
    }
    scheduled = true;
    later(() => {
      scheduled = false;
      if (opening) return;
      const at = questions.findIndex((q) => !q.waits);
      const [request] = questions.splice(Math.max(0, at), 1);
      if (!request) return;
      const answered = respond(request);
      // What takes long goes in slices: other questions need not wait for it.
      if (SLICED.includes(request.question)) schedule();
      else void answered.then(schedule);
    });
  }

  async function respond(request: Request): Promise<void> {
    const { id } = request;
    try {
      post({ id, answer: await answer(request) });
    } catch (error) {
      post({ id, error: (error as Error).message });
    }
    dropped.delete(id);
  }

  return (data) => {
    if (data.kind === 'open') void open(data.world);
    else if (data.kind === 'log') index.add(data.records, data.chapters);
    else if (data.kind === 'drop') {
      const at = questions.findIndex((q) => q.id === data.id);
      if (at >= 0) questions.splice(at, 1);
      else dropped.add(data.id);
    } else {
      questions.push(data);
      schedule();
    }
  };
}
