import { useEffect, useState } from 'react';
import { findingWords, outcomeOf, REMEDIES, TEST_GUIDES, type Cause, type CauseTest } from '../../../core/causes';
import { targetFrequencyHz } from '../../../core/music';
import type { InstrumentLife } from '../../../core/records';
import { DISTURBANCES, touched, type Disturbance, type FaultTruth } from '../../../core/simulate';
import { traitsOf } from '../../../core/strings';
import { useDigits } from '../../keys/digits';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../listening/BottomBar';
import { useListening } from '../../listening/useListening';
import { Button } from '../../parts/Button';
import { Caution } from '../../parts/Caution';
import { FallSketch, FirstStep } from '../../parts/FirstStep';
import { signed } from '../../parts/format';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { WITH_COLUMN, WorkColumn } from '../../pass/WorkColumn';
import { useAsked } from '../../store/asked';
import { useNow } from '../../store/now';
import { TOLERANCE_CENTS } from '../../store/status';
import { useWorld } from '../../store/world';
import { useWriting } from '../../store/writing';
import { questionOf } from './evidence';
import { Evidence } from './Evidence';
import { PlaceDrawing } from './PlaceDrawing';
import { Chances, ToDo } from './Finding';
import { useTestRun } from './useTestRun';

/** Tests of one inquiry lie no further apart, ms. */
const INQUIRY_MS = 6 * 3600000;
/** Marks the test that was done again after a remedy: it is no evidence of the inquiry before. */
const AFTER = ':after';
/** What puts a hidden fault of a simulated string right. */
const MENDS: Partial<Record<Cause, FaultTruth['kind'][]>> = {
  'nut-friction': ['nut', 'tree'],
  'tree-friction': ['tree', 'nut'],
  'peg-slip': ['peg', 'pin'],
};

/** What the hands do at this part of a test, where the string is a simulated one. */
function disturbanceOf(test: CauseTest, index: number): Disturbance | undefined {
  if (test === 'from-below-above') return index === 2 ? 'from-below' : index === 6 ? 'from-above' : undefined;
  return DISTURBANCES.find((d) => d === test);
}

/** Why does it not stay? The next best test, the cause with its evidence, the remedy, and whether it helped. */
export function CausesView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz, demo, nowMs } = useWorld();
  const now = useNow(60000);
  const { instrumentId } = life.record;
  const [message, setMessage] = useState('');
  /** How much was written when a test was done: until there is more, what was said before it is not said again. */
  const [awaits, setAwaits] = useState(-1);
  const size = bench.tests.length + bench.findings.length;
  const [skipped, setSkipped] = useState<ReadonlySet<CauseTest>>(new Set());
  const [own, setOwn] = useState<{ stringId: string; passId: string } | undefined>(undefined);
  /** The same test again, after something was done. */
  const [retest, setRetest] = useState<{ before: number; cause: Cause } | undefined>(undefined);

  // An inquiry under way is found in the log, also after a reload.
  const goesOn = bench.tests.findLast(
    (t) =>
      t.instrumentId === instrumentId &&
      now - t.atMs < INQUIRY_MS &&
      !t.passId.endsWith(AFTER) &&
      !bench.findings.some((f) => f.passId === t.passId && f.outcome !== undefined),
  );
  const suspect = (life.strings.find((s) => s.readings.at(-1)?.slip) ?? life.strings[0]!).plan.stringId;
  const { stringId, passId } = own ?? goesOn ?? { stringId: suspect, passId: '' };
  const string = life.strings.find((s) => s.plan.stringId === stringId) ?? life.strings[0]!;
  const { note } = string.plan;
  const tests = bench.tests.filter((t) => t.passId === passId && t.stringId === stringId);
  const closed = bench.findings.findLast((f) => f.passId === passId && f.outcome !== undefined);
  const question = questionOf(life, string, tests, skipped, targetFrequencyHz(note, a4Hz)!, now);
  const {
    data: answer,
    error,
    stale,
  } = useAsked({
    question: 'causes',
    subject: `${instrumentId}/${stringId}/${passId}`,
    of: tests.length,
    ask: question,
  });
  const test = useTestRun(string, a4Hz);
  const { run, part } = test;
  const since = question.evidence.find((e) => e.test === 'since-last');
  const settled = !stale && awaits !== size;
  const found = answer && settled && tests.length > 0 && answer.stop ? answer.causes[0]! : undefined;
  const next = settled ? answer?.next : undefined;

  const write = useWriting(setMessage);

  const sound = useListening(
    test.guided,
    nowMs,
    (verdict) => {
      if (part?.kind !== 'read') return;
      if (verdict.kind !== 'keep') {
        setMessage(verdict.message);
        return;
      }
      const result = test.heard(verdict.reading);
      setMessage('Heard.');
      if (!result) return;
      setAwaits(size);
      const { first, second, sigmaCents } = result;
      const record = {
        type: 'test' as const,
        instrumentId,
        stringId,
        test: result.test,
        firstCents: first,
        secondCents: second ?? null,
        sigmaCents,
      };
      if (!retest) {
        void write([{ ...record, passId }], () =>
          setMessage(`${TEST_GUIDES[result.test].title}: ${signed(first)} cents.`),
        );
        return;
      }
      const outcome = outcomeOf(retest.before, first, sigmaCents);
      const words = { helped: 'it helped', 'did-not': 'it did not help', 'cannot-tell': 'it cannot be told yet' }[
        outcome
      ];
      setRetest(undefined);
      void write(
        [
          { ...record, passId: `${passId}${AFTER}` },
          {
            type: 'finding',
            instrumentId,
            stringId,
            passId,
            causes: answer?.causes ?? [],
            remedy: `treated because ${REMEDIES[retest.cause].name}`,
            outcome,
          },
        ],
        () => setMessage(`${signed(retest.before)} before, ${signed(first)} after: ${words}.`),
      );
    },
    setMessage,
  );
  const deaf = sound.listening === undefined;

  // The ear opens with the first part that is sounded.
  const sounding = part?.kind === 'read';
  useEffect(() => {
    if (sounding && deaf) sound.open();
    // Only when a part comes: somebody may have paused it on purpose.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sounding]);

  const begin = (which: CauseTest) => {
    setMessage('');
    setOwn({ stringId, passId: closed || !passId ? crypto.randomUUID() : passId });
    test.begin(which);
  };
  /** The test that showed most is done once more after a remedy. */
  const telling = [...tests].sort((a, b) => Math.abs(b.firstCents) - Math.abs(a.firstCents))[0];
  const treated = () => {
    if (!found || !telling) return;
    setAwaits(size);
    setOwn({ stringId, passId });
    demo?.mend(instrumentId, stringId, MENDS[found.cause] ?? []);
    void write([{ type: 'finding', instrumentId, stringId, passId, causes: answer!.causes }], () => {
      setRetest({ before: telling.firstCents, cause: found.cause });
      test.begin(telling.test);
    });
  };
  const done = () => {
    if (!run || part?.kind !== 'do') return;
    const how = disturbanceOf(run.test, run.index);
    if (how) demo?.disturb(instrumentId, stringId, how);
    if (part.waitS) demo?.moveClock(nowMs() + 1000 * part.waitS);
    setMessage('');
    test.acted();
  };
  const offersRemedy = found !== undefined && found.cause !== 'none' && telling !== undefined && !closed;
  const enter = () => {
    if (part?.kind === 'do') done();
    else if (part) {
      if (deaf) sound.open();
      else sound.take();
    } else if (closed) reset();
    else if (offersRemedy) treated();
    else if (next && !found) begin(next);
  };
  const reset = (to = stringId) => {
    test.end();
    setRetest(undefined);
    setSkipped(new Set());
    setOwn({ stringId: to, passId: crypto.randomUUID() });
    setMessage('');
  };
  const choose = (index: number) => {
    const chosen = life.strings[index];
    if (chosen) reset(chosen.plan.stringId);
  };
  const digit = useDigits(life.strings.length, choose, (d) => setMessage(`String ${d} …`));
  const pluck = (hardness: number) => {
    if (!demo || part?.kind !== 'read') return;
    const { touch } = part;
    sound.pluck(
      () =>
        touched(
          demo.stringOf(instrumentId, stringId)!,
          touch === 'fret' ? { kind: 'fret', fret: 12 } : { kind: touch },
        ),
      hardness,
    );
  };
  const skip = () => {
    const which = run?.test ?? next;
    if (!which) return;
    test.end();
    setSkipped((s) => new Set([...s, which]));
    setMessage(`Without: ${TEST_GUIDES[which].title.toLowerCase()}.`);
  };
  const again = () => run && test.begin(run.test);
  usePedal(KEYS.causes, {
    listen: sound.toggle,
    take: enter,
    choose: (_, key) => digit(Number(key)),
    skip,
    again,
    end: () => reset(),
    pluck: demo ? (shift) => pluck(shift ? 1 : 0.4) : undefined,
  });

  const guide = run ? TEST_GUIDES[run.test] : undefined;
  const instruction = part
    ? part.words
    : closed
      ? 'Done. Enter begins anew'
      : offersRemedy
        ? 'Do what is told beside, then Enter: the same test again'
        : found
          ? 'Leave it as it is'
          : next
            ? `Next: ${TEST_GUIDES[next].title.toLowerCase()}`
            : 'A moment …';

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section
          aria-label="Why does it not stay"
          tabIndex={0}
          className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible"
        >
          <div role="group" aria-label="Which string" className="flex flex-wrap gap-1.5 pb-2">
            {life.strings.map((s, i) => (
              <Button
                key={s.plan.stringId}
                hint={String(i + 1)}
                strong={s.plan.stringId === stringId}
                aria-pressed={s.plan.stringId === stringId}
                onClick={() => choose(i)}
              >
                {s.plan.note}
              </Button>
            ))}
          </div>
          <NotWorkedOut error={error} kept="What was read is kept." />
          {tests.length === 0 ? (
            <FirstStep drawing={<FallSketch />}>
              Why does {note} not stay? A few tests by hand tell: each is a reading, something done, a reading again,
              twice. The next one is always the one that tells most. Enter begins; a digit chooses another string.
            </FirstStep>
          ) : (
            answer && (
              <p data-testid="finding" className="max-w-2xl py-2 text-2xl leading-snug font-semibold">
                {findingWords(answer)}
              </p>
            )
          )}
          {found && !run && <ToDo cause={found.cause} />}
          <Evidence since={since} tests={tests} />
          {tests.length > 0 && answer && <Chances causes={answer.causes} />}
          {answer?.friction && tests.length > 1 && found && (
            <p className="pb-2 text-sm">
              You can lose about <b className="figure">{answer.friction.cents.toFixed(0)} cents</b> at the{' '}
              {answer.friction.place} of the {note} between its two ends (friction times wrap{' '}
              {answer.friction.muTheta.toFixed(2)} ±{answer.friction.sd.toFixed(2)}).
            </p>
          )}
        </section>
        <WorkColumn
          heading={
            guide
              ? `${retest ? 'Again: ' : ''}${guide.title}, ${run!.index + 1} of ${guide.parts.length}`
              : `Test ${tests.length + 1}`
          }
          note={note}
          trace={sounding ? sound.trace : undefined}
          instruction={part?.kind === 'read' && deaf ? 'Press Space to listen' : instruction}
          toleranceCents={TOLERANCE_CENTS}
          message={message}
          hint={
            guide && (
              <PlaceDrawing
                place={part?.kind === 'do' ? guide.place : 'none'}
                tree={question.build.tree}
                title={guide.title}
              />
            )
          }
        >
          {guide?.caution && part?.kind === 'do' && <Caution>{guide.caution}</Caution>}
          {traitsOf(life.record).holds === 'bridge-and-soundpost' && !run && (
            <p className="text-xs text-ink2">If bridge or soundpost move, stop: a repairer sets them.</p>
          )}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={[
          {
            words:
              part?.kind === 'do'
                ? 'Done'
                : part
                  ? 'Take it'
                  : offersRemedy
                    ? 'Done: test again'
                    : closed
                      ? 'Begin anew'
                      : 'Begin',
            hint: 'Enter',
            strong: !sounding,
            on: enter,
          },
          { words: 'Not this test', hint: 'S', disabled: !run && !next, on: skip },
          ...(run ? [{ words: 'From its beginning', hint: 'R', on: again }] : []),
          ...(closed ? [] : [{ words: 'Begin anew', hint: 'Esc', on: () => reset(), seldom: true }]),
          ...(demo && sounding ? [{ words: 'Pluck (simulated)', hint: 'P', on: () => pluck(0.4) }] : []),
        ]}
      />
    </div>
  );
}
