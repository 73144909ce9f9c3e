import { TriangleAlert } from 'lucide-react';
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
import { FallSketch, FirstStep } from '../../parts/FirstStep';
import { signed } from '../../parts/format';
import { WorkColumn } from '../../pass/WorkColumn';
import { useAsked } from '../../store/asked';
import { heldInMemory } from '../../store/held';
import { useNow } from '../../store/now';
import { TOLERANCE_CENTS, useStatus } from '../../store/status';
import { useWorld } from '../../store/world';
import { buildOf, questionOf } from './evidence';
import { Evidence } from './Evidence';
import { PlaceDrawing } from './PlaceDrawing';
import { useTestRun } from './useInquiry';

/** Tests of one inquiry lie no further apart, ms. */
const INQUIRY_MS = 6 * 3600000;
const WAIT_MS = 600000;
/** Marks the test that was done again after a remedy: it is no evidence of the inquiry before. */
const AFTER = ':after';
/** Chances below this are not worth a line. */
const LISTED = 0.05;
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
  const { bench, a4Hz, append, demo, nowMs } = useWorld();
  const now = useNow(60000);
  const { instrumentId } = life.record;
  const { statuses } = useStatus(life, now);
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
  const suspect = statuses.find((s) => s.state === 'slipped')?.stringId ?? life.strings[0]!.plan.stringId;
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

  type Drafts = Parameters<typeof append>[0];
  const write = (drafts: Drafts, then: () => void) =>
    append(drafts).then(then, (fault: Error) => setMessage(heldInMemory(fault)));

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
  const listen = () => void sound.listen(demo ? 'simulated' : 'microphone');

  // The ear opens with the first part that is sounded.
  const sounding = part?.kind === 'read';
  useEffect(() => {
    if (sounding && deaf) void sound.listen(demo ? 'simulated' : 'microphone');
    // Only when a part comes: somebody may have paused it on purpose.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sounding]);

  const begin = (which: CauseTest) => {
    setMessage('');
    if (!passId || closed) setOwn({ stringId, passId: crypto.randomUUID() });
    else if (!own) setOwn({ stringId, passId });
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
    if (part.waitS) demo?.moveClock(nowMs() + WAIT_MS);
    setMessage('');
    test.acted();
  };
  const offersRemedy = found !== undefined && found.cause !== 'none' && telling !== undefined && !closed;
  const enter = () => {
    if (part?.kind === 'do') done();
    else if (part) {
      if (deaf) listen();
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
    const truth = () => demo!.truthOf(instrumentId)!.find((t) => t.stringId === stringId)!;
    if (!demo || part?.kind !== 'read') return;
    const { touch } = part;
    sound.pluck(
      () =>
        touch === 'open'
          ? truth()
          : touched(truth(), touch === 'fret' ? { kind: 'fret', fret: 12 } : { kind: 'harmonic' }),
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
    listen: () => (deaf ? listen() : sound.pause()),
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
  const remedy = found && REMEDIES[found.cause];

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_312px] max-lg:grid-cols-[minmax(0,1fr)_300px] max-md:grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto">
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
          {error && (
            <p role="alert" className="py-2 text-sm text-rust">
              This could not be worked out ({error.message}). What was read is kept.
            </p>
          )}
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
          {remedy && !run && (
            <section aria-label="What to do about it" className="max-w-2xl border-t border-line pt-2">
              <ul className="flex flex-col gap-1.5 text-lg">
                {remedy.steps.map((s) => (
                  <li key={s} className="border-l-4 border-water pl-3">
                    {s}
                  </li>
                ))}
              </ul>
              <p className="py-2 text-sm">{remedy.expect} The maker’s and a qualified repairer’s word comes first.</p>
              {remedy.caution && (
                <p className="flex gap-2 rounded-lg border border-rust p-2 text-sm text-rust">
                  <TriangleAlert size={18} className="shrink-0" aria-label="Caution" />
                  {remedy.caution}
                </p>
              )}
            </section>
          )}
          <Evidence since={since} tests={tests} />
          {tests.length > 0 && answer && (
            <ul aria-label="Chances" className="max-w-xl py-3 text-sm">
              {answer.causes
                .filter((c) => c.probability >= LISTED)
                .map(({ cause, probability }) => (
                  <li key={cause} className="flex items-center gap-3 py-0.5">
                    <span className="w-64">{REMEDIES[cause].name}</span>
                    <span className="h-2.5 flex-1 bg-water/60">
                      <span className="block h-full bg-deep" style={{ width: `${(100 * probability).toFixed(0)}%` }} />
                    </span>
                  </li>
                ))}
            </ul>
          )}
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
                tree={buildOf(life).tree}
                title={guide.title}
              />
            )
          }
        >
          {guide?.caution && part?.kind === 'do' && (
            <p className="flex gap-2 rounded-lg border border-rust p-2 text-sm text-rust">
              <TriangleAlert size={18} className="shrink-0" aria-label="Caution" />
              {guide.caution}
            </p>
          )}
          {traitsOf(life.record).holds === 'bridge-and-soundpost' && !run && (
            <p className="text-xs text-ink2">If bridge or soundpost move, stop: a repairer sets them.</p>
          )}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        onListen={() => (deaf ? listen() : sound.pause())}
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
          { words: 'Begin anew', hint: 'Esc', on: () => reset(), seldom: true },
          ...(demo && sounding ? [{ words: 'Pluck (simulated)', hint: 'P', on: () => pluck(0.4) }] : []),
        ].filter((a, i, all) => all.findIndex((b) => b.words === a.words) === i)}
      />
    </div>
  );
}
