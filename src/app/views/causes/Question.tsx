import { answersOf, QUESTIONS, type CauseBuild } from '../../../core/causes';
import type { ToldQuestion } from '../../../core/codes';
import { Button } from '../../parts/Button';

/** One question before the tests: a letter answers, Enter leaves it open. */
export function Question({
  asked,
  build,
  onAnswer,
}: {
  asked: ToldQuestion;
  build: CauseBuild;
  onAnswer: (answer: string | undefined) => void;
}) {
  const { words, answers } = QUESTIONS[asked];
  return (
    <section aria-label={words} className="max-w-2xl py-2">
      <h2 className="pb-2 text-2xl font-semibold">{words}</h2>
      <div className="flex flex-wrap gap-2">
        {answersOf(asked, build).map((answer, i) => (
          <Button key={answer} hint={String.fromCharCode('A'.charCodeAt(0) + i)} onClick={() => onAnswer(answer)}>
            {answers[answer]}
          </Button>
        ))}
        <Button hint="Enter" onClick={() => onAnswer(undefined)}>
          I do not know
        </Button>
      </div>
    </section>
  );
}
