import { randomFrom } from '../../core/simulate';
import {
  ifAllRestrung,
  minutesPerString,
  planChoices,
  planShow,
  planStrings,
  showOf,
  type PlanAsked,
  type PriorOf,
} from '../../core/plan';
import {
  createLogIndex,
  indexOf,
  type Chapter,
  type InstrumentLife,
  type LogIndex,
  type StringRef,
} from '../../core/log';
import { SETTLING_PRIORS } from '../../core/settling';
import { traitsOf } from '../../core/strings';
import { exportLog, importFile, lookAt, fileSound } from './files';
import { createLister } from './lister';
import type {
  Answer,
  Exported,
  LifePage,
  PlanAsk,
  QuestionKind,
  Questions,
  Request,
  RestringAsk,
  ToAnalyst,
} from './questions';
import type { LongTask } from './task';
import {
  instrumentStatus,
  type Priors,
  instrumentStory,
  learnedOf,
  newestSets,
  setsTaughtBy,
  type TaughtSet,
} from '../../core/status';
import { alone, reasonOf, type Damaged, type RecordStore, type Stored, type StoreName } from '../store/database';

/** What is seldom asked for is loaded when it is. */
const says = () => import('../../core/says');
const bridge = () => import('../../core/bridge');
/** The same bridges are imagined each time: an answer that stands still. */
const WAYS_SEED = 17;
const causes = () => import('../../core/causes');
const lives = () => import('../../core/life');
const octave = () => import('../../core/octave');
const SLICED: readonly QuestionKind[] = ['import', 'look', 'learn', 'materials', 'entries'];

/** What an analyst needs of where it runs. */
export interface AnalystMeans {
  openStore: (world: StoreName) => RecordStore;
  post: (answer: Answer) => void;
  /** After what else is waiting. */
  later: (act: () => void) => void;
}

/** Answers what follows from one log: told what to open and what is added, it is asked one question after another. */
export function createAnalyst(means: AnalystMeans): (message: ToAnalyst) => void {
  const { post, later } = means;
  let index: LogIndex = createLogIndex();
  let store: RecordStore | undefined;
  /** What of the store could not be read, and why nothing could; '' where it was. */
  let setAside: readonly Damaged[] = [];
  let trouble = 'it is not open';
  /** The store is being read: questions wait. */
  let opening = false;
  /** The store may be tidied up, once nothing is asked any more. */
  let untidy = false;

  /** Begins with what the store holds; what the page tells meanwhile is added. */
  async function open(world: StoreName): Promise<void> {
    const aside = (chapter: Chapter) => post({ aside: chapter });
    const told = (index = createLogIndex(aside));
    opening = true;
    store?.close();
    store = means.openStore(world);
    // What other tabs write is heard here too: an import is compared with it.
    store.onForeignWrite((written) => written && index.add(written.records, written.chapters));
    let stored: Stored = { records: [], chapters: [], damaged: [] };
    trouble = '';
    try {
      stored = await store.all();
    } catch (error) {
      // Questions are answered by what the page tells; files are not made of that.
      trouble = reasonOf(error);
    }
    // Begun anew meanwhile: the other one answers.
    if (told !== index) return;
    const opened = indexOf(stored, aside);
    ({ index } = opened);
    setAside = [...stored.damaged, ...(opened.aside.length > 0 ? [{ key: 'records', value: opened.aside }] : [])];
    openWorld = world;
    index.add(told.records());
    opening = false;
    untidy = true;
    schedule();
  }

  let openWorld: StoreName = 'own';
  function log(): { index: LogIndex; store: RecordStore } {
    if (!store || trouble) throw new Error(`The log could not be read here (${trouble}). Reload this page.`);
    return { index, store };
  }

  /** @throws Error where less is known here than is shown: no file is made of a part of it as if it were all */
  async function exported(ask: Questions['export']['ask']): Promise<Exported> {
    // What the page holds, where neither can open the store, is all that there is.
    if (ask.atLeast === undefined) log();
    const made = await exportLog(ask, index, setAside);
    const known = index.count() + index.aside().reduce((sum, c) => sum + c.atMs.length, 0);
    if (known < (ask.atLeast ?? 0))
      throw new Error(
        `Only ${known} of ${ask.atLeast} entries could be read here${trouble && ` (${trouble})`}. Reload this page.`,
      );
    return made;
  }

  const dropped = new Set<number>();
  const task: LongTask = {
    index: () => index,
    log,
    alone: (work) => alone(openWorld, 'import', 'wait', work),
    pause: () => new Promise<void>(later),
    tell: (id, done) => post({ id, done }),
    isDropped: (id) => dropped.has(id),
  };
  const list = createLister(task);

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

  async function said({ instrumentId, ...asked }: Questions['said']['ask']) {
    const { instrumentStatements } = await says();
    const log = bench();
    return instrumentStatements({ ...asked, life: lifeOf(instrumentId), bench: log, show: showOf(log, asked.nowMs) });
  }

  function planAsked({ instrumentIds, priors, ...asked }: PlanAsk): PlanAsked {
    const all = bench();
    const instruments = all.instruments.filter((i) => instrumentIds.includes(i.record.instrumentId));
    return { ...asked, strings: planStrings(instruments, priorFrom(priors)), minutesPerString: minutesPerString(all) };
  }

  function restring({ instrumentId, priors, ...asked }: RestringAsk) {
    const { strings } = lifeOf(instrumentId);
    return ifAllRestrung(
      strings.map((s) => s.plan),
      (material) => priors[material] ?? SETTLING_PRIORS[material],
      asked,
    );
  }

  async function trial({ pairs, endedMs }: Questions['trial']['ask']) {
    const { trialOf } = await lives();
    const present = pairs.flatMap((p) => {
      const treated = stringOf(p.treated);
      const control = stringOf(p.control);
      return treated && control ? [{ treated, control }] : [];
    });
    return trialOf(present, endedMs) ?? null;
  }

  /** Goes through the instruments one by one, and lets others ask meanwhile: a long log has to be unpacked for it. */
  async function eachLife(id: number, see: (life: InstrumentLife) => void): Promise<void> {
    for (const life of bench().instruments) {
      if (dropped.has(id)) return;
      see(life);
      await task.pause();
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
    const [{ lifeSheet, setsOf, treatmentsOf }, { octavesOf }] = await Promise.all([lives(), octave()]);
    const life = lifeOf(instrumentId);
    const fretted = traitsOf(life.record).frets;
    return {
      sets: setsOf(life),
      sheet: lifeSheet(life, bench()),
      treated: treatmentsOf(life, bench()),
      octaves: fretted ? octavesOf(life, bench()) : undefined,
    };
  }

  async function materials({ nowMs }: Questions['materials']['ask'], id: number) {
    const { lastedOn, livesByMaterial } = await lives();
    const lasted: ReturnType<typeof lastedOn> = [];
    await eachLife(id, (life) => lasted.push(...lastedOn(life, nowMs)));
    return livesByMaterial(lasted);
  }

  function answer(request: Request): Questions[QuestionKind]['answer'] | Promise<Questions[QuestionKind]['answer']> {
    switch (request.question) {
      case 'status':
        return instrumentStatus(lifeOf(request.ask.instrumentId), request.ask.wish);
      case 'said':
        return said(request.ask);
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
        return list(request.ask, request.id);
      case 'restring':
        return restring(request.ask);
      case 'import':
        return importFile(request.ask, request.id, task);
      case 'look':
        return lookAt(request.ask, request.id, task);
      case 'sound':
        return fileSound(request.ask.file);
      case 'export':
        return exported(request.ask);
    }
  }

  const questions: Request[] = [];
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
