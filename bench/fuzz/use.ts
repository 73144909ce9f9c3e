import { readingsCsv, readLogFile, writeLogFile } from '../../src/core/exchange';
import { adviseBridge, memorySize, lawOf } from '../../src/core/bridge';
import { octavePasses } from '../../src/core/octave';
import { nextStep } from '../../src/core/check';
import { passUnderWay } from '../../src/core/guided';
import { planSession, planShow, planStrings } from '../../src/core/plan';
import { readBench, type LogRecord } from '../../src/core/log';
import { SETTLING_PRIORS } from '../../src/core/settling';
import { judgeTrial } from '../../src/core/trial';
import { DAY, MINUTE } from '../../src/core/base';
import {
  instrumentStatus,
  fallsByAge,
  instrumentStory,
  fitLives,
  stringOutlook,
  learnedPriors,
  setsTaughtBy,
} from '../../src/core/status';

/** Figures in an answer that are none; [] where all are. */
export function noNumbers(value: unknown, path = ''): string[] {
  if (typeof value === 'number') return Number.isNaN(value) ? [`${path} is NaN`] : [];
  if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return [];
  return Object.entries(value).flatMap(([k, v]) => noNumbers(v, `${path}.${k}`));
}

/** Asks of a log whatever the views ask of it; returns what is no number in the answers. */
export function useLog(records: readonly LogRecord[], nowMs: number): string[] {
  const bench = readBench(records);
  const priors = {};
  const wish = { nowMs, toleranceCents: 3, holdMin: 90, curtainMs: bench.curtain?.curtainMs ?? null, priors };
  const answers: unknown[] = [];
  for (const life of bench.instruments) {
    const { instrumentId } = life.record;
    const status = instrumentStatus(life, { ...wish, confidence: 0.9, lane: true });
    const fits = fitLives(life.strings, nowMs, priors);
    const pass = passUnderWay(bench.passes, 'check', instrumentId, nowMs);
    answers.push(
      status,
      pass && nextStep(life.strings, status, pass, 3),
      instrumentStory(life, { nowMs, priors, untilMs: nowMs + DAY }),
      life.strings.map((s, i) => stringOutlook(s, fits[i], { ...wish, zone: 0 })),
      learnedPriors(bench.instruments.flatMap(setsTaughtBy), 'plain-nylon')(instrumentId).prior,
      life.strings.map((s) => fallsByAge(s)),
      life.strings.map((s) => octavePasses(bench.touches, instrumentId, s.plan.stringId)),
    );
  }
  for (const { pairs } of bench.trials) {
    const string = (r: { instrumentId: string; stringId: string }) =>
      bench.instruments
        .find((i) => i.record.instrumentId === r.instrumentId)
        ?.strings.find((s) => s.plan.stringId === r.stringId);
    const present = pairs.flatMap((p) => {
      const [treated, control] = [string(p.treated), string(p.control)];
      return treated && control ? [{ treated: fallsByAge(treated), control: fallsByAge(control) }] : [];
    });
    answers.push(judgeTrial(present, 'plain-nylon'));
  }
  for (const { memory, springs } of bench.bridges) {
    const n = memory && [2, 3, 4, 5, 6, 7, 8].find((k) => memorySize(k) === memory.mean.length);
    if (!memory || !n) continue;
    const strings = Array.from({ length: n }, (_, i) => ({
      targetHz: 330 / 1.3 ** i,
      gaugeMm: 0.25 + 0.1 * i,
      wound: i > 2,
    }));
    const law = lawOf({ springs, screwPitchMm: 1.8, scaleMm: 648, strings })!;
    const events = strings.map((_, i) => ({ kind: 'read' as const, string: i + 1, cents: 20 - 9 * i }));
    answers.push(adviseBridge({ law, task: 'fresh', toleranceCents: 2, order: 'least-tilt', memory, events }));
  }
  const { session } = bench;
  if (session && session.curtainMs + session.minutes * MINUTE > nowMs)
    answers.push(
      planShow({
        strings: planStrings(bench.instruments, (m) => SETTLING_PRIORS[m]),
        session: planSession(session, bench.room?.tempC ?? null),
        nowMs,
        zone: 60,
        minutesPerString: 1,
      }),
    );
  readingsCsv(records);
  const back = readLogFile(writeLogFile(records, nowMs));
  if (!back.ok) return [`its own export is refused: ${back.message}`];
  return noNumbers(answers);
}
