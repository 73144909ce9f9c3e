import { ifRestrung, planShow, planStrings, type PriorOf } from '../../core/plan';
import {
  instrumentStatus,
  readBench,
  type Bench,
  type InstrumentLife,
  type LogRecord,
  type Priors,
  type StringRef,
} from '../../core/records';
import { SETTLING_PRIORS } from '../../core/settling';
import { fallsByAge, instrumentStory, learnedPrior } from '../../core/story';
import { SETTLES_AS } from '../../core/strings';
import { judgeTrial } from '../../core/trial';
import type { Answer, Learned, LogNews, PlanAsk, Questions, Request, RestringAsk } from './messages';

const records = new Map<string, LogRecord>();
let derived: Bench | undefined;

function hear({ records: news, afresh }: LogNews): void {
  if (afresh) records.clear();
  for (const r of news) records.set(r.id, r);
  derived = undefined;
}

const bench = (): Bench => (derived ??= readBench([...records.values()]));

const find = (instrumentId: string) => bench().instruments.find((i) => i.record.instrumentId === instrumentId);

function lifeOf(instrumentId: string): InstrumentLife {
  const life = find(instrumentId);
  if (!life) throw new Error(`The log has no instrument ${instrumentId}.`);
  return life;
}

const stringOf = ({ instrumentId, stringId }: StringRef) =>
  find(instrumentId)?.strings.find((s) => s.plan.stringId === stringId);

const priorFrom =
  (priors: Priors): PriorOf =>
  (material) =>
    priors[material] ?? SETTLING_PRIORS[material];

function plan({ instrumentIds, priors, ...asked }: PlanAsk) {
  const instruments = bench().instruments.filter((i) => instrumentIds.includes(i.record.instrumentId));
  return planShow({ ...asked, strings: planStrings(instruments, asked.nowMs, priorFrom(priors)) });
}

function restring({ instrumentId, session, restrungMs, tunedMs, priors }: RestringAsk) {
  const endMs = session.curtainMs + session.minutes * 60000;
  const intervalMs = session.intervalMin === null ? endMs : session.curtainMs + session.intervalMin * 60000;
  return lifeOf(instrumentId).strings.map(({ plan: { stringId, note, material } }) => {
    const settles = SETTLES_AS[material];
    const string = { material: settles, prior: priorFrom(priors)(settles) };
    const madeReady = session.school === 'make-ready';
    return {
      stringId,
      note,
      ...ifRestrung(string, restrungMs, tunedMs, intervalMs, endMs, session.toleranceCents, madeReady),
    };
  });
}

function trial(pairs: Questions['trial']['ask']['pairs']) {
  const present = pairs.flatMap((p) => {
    const treated = stringOf(p.treated);
    const control = stringOf(p.control);
    return treated && control ? [{ treated, control }] : [];
  });
  const material = present[0] ? SETTLES_AS[present[0].treated.plan.material] : 'unknown';
  const falls = present.map((p) => ({ treated: fallsByAge(p.treated), control: fallsByAge(p.control) }));
  return judgeTrial(falls, material) ?? null;
}

function learn(): Record<string, Learned> {
  const { instruments } = bench();
  return Object.fromEntries(
    instruments.map(({ record: { instrumentId }, strings }) => {
      const learned: Learned = { priors: {}, sets: 0 };
      for (const material of new Set(strings.map((s) => SETTLES_AS[s.plan.material]))) {
        const { prior, sets } = learnedPrior(instruments, instrumentId, material);
        learned.priors[material] = prior;
        learned.sets = Math.max(learned.sets, sets);
      }
      return [instrumentId, learned];
    }),
  );
}

function answer(request: Request) {
  switch (request.kind) {
    case 'status':
      return instrumentStatus(lifeOf(request.ask.instrumentId), request.ask.wish);
    case 'story':
      return instrumentStory(lifeOf(request.ask.instrumentId), request.ask.wish);
    case 'plan':
      return plan(request.ask);
    case 'trial':
      return trial(request.ask.pairs);
    case 'learn':
      return learn();
    case 'restring':
      return restring(request.ask);
  }
}

self.onmessage = ({ data }: MessageEvent<Request | LogNews>) => {
  if (data.kind === 'log') {
    hear(data);
    return;
  }
  try {
    self.postMessage({ id: data.id, answer: answer(data) } satisfies Answer);
  } catch (error) {
    self.postMessage({ id: data.id, error: (error as Error).message } satisfies Answer);
  }
};
