import { ifRestrung, planShow, planStrings, type PriorOf } from '../../core/plan';
import { instrumentStatus, type InstrumentLife } from '../../core/records';
import { SETTLING_PRIORS } from '../../core/settling';
import { instrumentStory, learnedPrior } from '../../core/story';
import { SETTLES_AS } from '../../core/strings';
import { judgeTrial } from '../../core/trial';
import type { Answer, Learned, PlanAsk, Priors, Request, RestringAsk } from './messages';

const priorFrom =
  (priors: Priors): PriorOf =>
  (material) =>
    priors[material] ?? SETTLING_PRIORS[material];

function plan({ instruments, priors, ...asked }: PlanAsk) {
  return planShow({ ...asked, strings: planStrings(instruments, asked.nowMs, priorFrom(priors)) });
}

function restring({ life, session, restrungMs, tunedMs, priors }: RestringAsk) {
  const endMs = session.curtainMs + session.minutes * 60000;
  const intervalMs = session.intervalMin === null ? endMs : session.curtainMs + session.intervalMin * 60000;
  return life.strings.map(({ plan: { stringId, note, material } }) => {
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

function learn(instruments: InstrumentLife[]): Record<string, Learned> {
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
      return instrumentStatus(request.ask.life, request.ask.wish);
    case 'story':
      return instrumentStory(request.ask.life, request.ask.wish);
    case 'plan':
      return plan(request.ask);
    case 'trial':
      return judgeTrial(request.ask.pairs, request.ask.material) ?? null;
    case 'learn':
      return learn(request.ask.instruments);
    case 'restring':
      return restring(request.ask);
  }
}

self.onmessage = ({ data }: MessageEvent<Request>) => {
  try {
    self.postMessage({ id: data.id, answer: answer(data) } satisfies Answer);
  } catch (error) {
    self.postMessage({ id: data.id, error: (error as Error).message } satisfies Answer);
  }
};
