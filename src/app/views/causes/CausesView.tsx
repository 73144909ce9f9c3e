import { loseWords } from '../../../core/friction';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  answersOf,
  findingWords,
  inquiryTests,
  partsWords,
  REMEDIES,
  TEST_GUIDES,
  treatmentFor,
} from '../../../core/causes';
import { isCauseTest, type Cause, type CauseTest } from '../../../core/codes';
import type { InstrumentLife } from '../../../core/log';
import type { FaultTruth } from '../../../core/simulate';
import { traitsOf } from '../../../core/strings';
import { useDigits } from '../../keys/digits';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { soundActions, useActions } from '../../guided/useActions';
import { FallSketch, FirstStep } from '../../parts/FirstStep';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { WITH_COLUMN } from '../../guided/WorkColumn';
import { useWorld } from '../../world/world';
import { EvidenceList } from './Evidence';
import { Chances, Remedies } from './Finding';
import { Question } from './Question';
import { StringChoice } from './StringChoice';
import { useInquiry } from './useInquiry';
import { ProbeColumn } from '../../guided/ProbeColumn';
import { useProbe } from '../../guided/useProbe';

/** What puts a hidden fault of a simulated string right. */
const MENDS: Partial<Record<Cause, FaultTruth['kind'][]>> = {
  'nut-friction': ['nut', 'tree'],
  'tree-friction': ['tree', 'nut'],
  'peg-slip': ['peg', 'pin'],
};

/** What a test showed last: the second time, in the state that the first has left. */
const shownLast = ({ firstCents, secondCents }: { firstCents: number; secondCents: number | null }): number =>
  secondCents ?? firstCents;

/** Why does it go out of tune? The next best test, the cause with its evidence, the remedy, and whether it helped. */
export function CausesView({ life }: { life: InstrumentLife }) {
  const { demo, basePath } = useWorld();
  const { instrumentId } = life.record;
  const inquiry = useInquiry(life);
  const { string, passId, build, before, tests, told, asking, closed, question, answer, error, found, next } = inquiry;
  const { note, stringId } = string.plan;
  const [message, say] = useState('');
  const session = useProbe(inquiryTests, life, say);
  const { run, part, sound } = session;

  const begin = (test: CauseTest) =>
    session.press({ do: 'begin', test, stringId, why: { passId: inquiry.goOn(), told } });
  /** The test that showed most is done once more after a remedy. */
  const telling = [...tests].sort((a, b) => Math.abs(shownLast(b)) - Math.abs(shownLast(a)))[0];
  const treated = () => {
    if (!found || !telling) return;
    const { cause } = found;
    const { causes } = answer!;
    inquiry.goOn();
    demo?.mend(instrumentId, stringId, MENDS[cause] ?? []);
    const what = { treatment: treatmentFor(cause), note: REMEDIES[cause].name };
    session.press({
      do: 'begin',
      test: telling.test,
      stringId,
      why: { passId, told, after: { expectedCents: shownLast(telling), cause, causes } },
      records: [
        { type: 'finding', instrumentId, stringId, passId, causes },
        { type: 'treatment', instrumentId, stringIds: [stringId], ...what },
      ],
    });
  };
  const reset = (to = stringId) => {
    session.end();
    inquiry.anew(to);
    say('');
  };
  const offersRemedy = found !== undefined && found.cause !== 'none' && telling !== undefined && !closed;
  /** All tests were passed over, or cannot be done, and nothing is found. */
  const isLeftOver = answer !== undefined && inquiry.settled && !next && !found;
  const enter = () => {
    if (session.enter()) return;
    if (asking) inquiry.answerTo(undefined);
    else if (closed) reset();
    else if (offersRemedy) treated();
    else if (next && !found) begin(next);
    else if (isLeftOver) reset();
  };
  const choose = (index: number) => {
    const chosen = life.strings[index];
    if (chosen) reset(chosen.plan.stringId);
  };
  const digit = useDigits(life.strings.length, choose, (d) => say(`String ${d} …`));
  const answerBy = (letter: string) => {
    const given = asking && answersOf(asking, build)[letter.charCodeAt(0) - 'a'.charCodeAt(0)];
    if (given) inquiry.answerTo(given);
  };
  const skip = () => {
    const which = run?.test ?? next;
    if (!which || !isCauseTest(which)) return;
    session.end();
    inquiry.skip(which);
    say(`Without: ${TEST_GUIDES[which].title.toLowerCase()}.`);
  };

  const instruction = asking
    ? 'Answer, or press Enter: I do not know'
    : closed
      ? 'Done. Press Enter to start again'
      : offersRemedy
        ? 'Do the steps beside. Then press Enter and test again'
        : found
          ? 'Leave it as it is'
          : next
            ? `Next: ${TEST_GUIDES[next].title.toLowerCase()}`
            : isLeftOver
              ? 'No test is left that you can do. Press Enter to start again'
              : 'A moment …';
  const goOn = part
    ? part.kind === 'do'
      ? 'Done'
      : 'Save it'
    : asking
      ? 'I do not know'
      : offersRemedy
        ? 'Done: test again'
        : closed || isLeftOver
          ? 'Start again'
          : 'Begin';

  const { actions } = useActions(KEYS.causes, [
    ...soundActions(sound),
    { key: 'take', words: goOn, strong: !session.sounding, on: enter },
    { key: 'skip', words: 'Skip this test', disabled: asking !== undefined || (!run && !next), on: skip },
    run && { key: 'again', words: 'Start again', on: session.again },
    { key: 'end', words: closed || run || isLeftOver ? undefined : 'Start again', seldom: true, on: () => reset() },
    { key: 'choose', on: (_, key) => digit(Number(key)) },
    { key: 'answer', on: (_, key) => answerBy(key) },
    demo &&
      session.sounding && { key: 'pluck', words: 'Pluck (simulated)', on: (shift) => session.pluck(shift ? 1 : 0.4) },
  ]);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section
          aria-label="Why does it go out of tune"
          tabIndex={0}
          className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible"
        >
          <StringChoice life={life} chosen={stringId} onChoose={choose} />
          <NotWorkedOut error={error} kept="Your readings are saved." />
          {asking ? (
            <Question asked={asking} build={build} onAnswer={inquiry.answerTo} />
          ) : tests.length === 0 && !isLeftOver ? (
            <FirstStep drawing={<FallSketch />}>
              A few tests by hand show why {note} does not stay in tune. Each is a reading, an action, a reading again,
              twice. The next one is always the one that tells most.
            </FirstStep>
          ) : (
            answer && (
              <p data-testid="finding" className="max-w-2xl py-2 text-2xl leading-snug font-semibold">
                {findingWords(answer)}
              </p>
            )
          )}
          {found && !run && (
            <Remedies causes={answer!.cannotTell.length > 1 ? answer!.cannotTell : [found.cause]} build={build} />
          )}
          {closed?.remedy && found && (
            <p className="pb-2 text-sm">
              Does it help other strings too?{' '}
              <Link
                className="text-deep underline"
                to={`${basePath}/trial?${new URLSearchParams({ what: `${REMEDIES[found.cause].trial} / not`, instrument: instrumentId }).toString()}`}
              >
                Compare treatments
              </Link>
            </p>
          )}
          <EvidenceList evidence={question.evidence} speaks={inquiry.settled ? answer?.speaks : undefined} />
          <ul aria-label="What the log says" className="list-disc py-2 pl-5 text-xs text-ink2">
            {before.says.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
          {tests.length > 0 && answer && <Chances causes={answer.causes} />}
          {answer?.friction && tests.length > 1 && found && (
            <p className="pb-2 text-sm">
              {loseWords(answer.friction.cents, note, answer.friction.place)}{' '}
              <Link className="text-deep underline" to={`${basePath}/friction/${instrumentId}`}>
                Measure it
              </Link>
            </p>
          )}
        </section>
        <ProbeColumn
          session={session}
          message={message}
          note={note}
          tree={build.tree}
          heading={asking ? 'Before the tests' : `Test ${tests.length + 1}`}
          instruction={instruction}
        >
          {next && !found && !asking && answer && <p className="text-sm">{partsWords(answer)}</p>}
          {traitsOf(life.record).holds === 'bridge-and-soundpost' && (
            <p className="text-xs text-ink2">If bridge or soundpost move, stop: a repairer sets them.</p>
          )}
        </ProbeColumn>
      </div>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}
