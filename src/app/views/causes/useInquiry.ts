import { v4 as newId } from 'uuid';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { isTold, type CauseTest, type Told, type ToldQuestion } from '../../../core/codes';
import type { InstrumentLife } from '../../../core/log';
import {
  causeBuildOf,
  beforeInquiry,
  evidenceOf,
  inquiryUnderWay,
  isClosed,
  questionOf,
  questionsLeft,
  triedIn,
} from '../../../core/causes';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';
import { MINUTE } from '../../../core/base';

const isAnswer = (given: [string, string]): given is [ToldQuestion, string] => isTold(Object.fromEntries([given]));

/** Which string is asked about, what the log, the player and the tests say of it, and what follows. */
export function useInquiry(life: InstrumentLife) {
  const { bench, a4Hz } = useWorld();
  const now = useNow(MINUTE);
  const { instrumentId } = life.record;
  const [skipped, setSkipped] = useState<ReadonlySet<CauseTest>>(new Set());
  // What was said on the way here is not asked again.
  const [onTheWay] = useSearchParams();
  const saidBefore = () => new Map<ToldQuestion, string | undefined>([...onTheWay].filter(isAnswer));
  const [said, setSaid] = useState<ReadonlyMap<ToldQuestion, string | undefined>>(saidBefore);
  const [own, setOwn] = useState<{ stringId: string; passId: string } | undefined>(undefined);

  // An inquiry under way is found in the log, also after a reload.
  const goesOn = inquiryUnderWay(life, bench, now);
  const suspect = (life.strings.find((s) => s.readings.at(-1)?.slip) ?? life.strings[0]!).plan.stringId;
  const { stringId, passId } = own ?? goesOn ?? { stringId: suspect, passId: '' };
  const string = life.strings.find((s) => s.plan.stringId === stringId) ?? life.strings[0]!;
  const tests = evidenceOf(bench, passId, stringId);
  const closed = bench.findings.findLast((f) => f.passId === passId && isClosed(f));
  const tried = triedIn(bench, passId);
  const build = causeBuildOf(life);
  const before = useMemo(() => beforeInquiry(life, string, bench, now), [life, string, bench, now]);
  const told: Told = tests[0] ? (tests[0].told ?? {}) : (Object.fromEntries(said) as Told);
  const asking = tests.length === 0 ? questionsLeft(before, said)[0] : undefined;
  const question = questionOf(life, build, string, before, tests, { ...told, tried }, skipped, a4Hz, now);
  const { data, error, stale } = useAsked({
    question: 'causes',
    subject: `${instrumentId}/${stringId}/${passId}`,
    of: tests.length + tried.length,
    ask: question,
  });
  const settled = !stale;
  return {
    string,
    passId,
    build,
    before,
    tests,
    told,
    /** What is asked before the first test; undefined where nothing is left to ask. */
    asking,
    /** What came of its remedy. */
    closed,
    question,
    answer: data,
    error,
    /** The answer is to everything that was read. */
    settled,
    found: data && settled && tests.length > 0 && data.stop && !data.misfit ? data.causes[0]! : undefined,
    /** What nothing explains is done once more before anything else. */
    next: settled ? (data?.misfit ?? data?.next) : undefined,
    answerTo: (given: string | undefined) => asking && setSaid((s) => new Map(s).set(asking, given)),
    skip: (test: CauseTest) => setSkipped((s) => new Set([...s, test])),
    /** This inquiry is gone on with, or its first test begins. @returns its name */
    goOn: (): string => {
      const goesOn = closed || !passId ? newId() : passId;
      setOwn({ stringId, passId: goesOn });
      return goesOn;
    },
    anew: (of: string) => {
      setSkipped(new Set());
      setSaid(saidBefore());
      setOwn({ stringId: of, passId: newId() });
    },
  };
}
