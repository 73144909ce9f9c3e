import { useEffect, useMemo, useState } from 'react';
import {
  answered,
  EAR_ANSWERS,
  EAR_RULES,
  EAR_WORDS,
  earTrial,
  earWords,
  ENOUGH_TRIALS,
  thresholdOf,
  type EarExercise,
  type StaircaseAnswer,
  answerWords,
} from '../../../core/practice';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { playNotes } from '../../sound/notes';
import { useWorld } from '../../world/world';
import type { Done } from './done';

/** Flat or sharp, by ear: each answer chooses the next difference, until the threshold is known. */
export function Ears({
  exercise,
  seed,
  onDone,
  onLeave,
}: {
  exercise: EarExercise;
  seed: number;
  onDone: (done: Done) => void;
  onLeave: () => void;
}) {
  const { clock } = useWorld();
  const [beganMs] = useState(() => clock.elapsedMs());
  const [trials, setTrials] = useState<StaircaseAnswer[]>([]);
  const [ended, setEnded] = useState(false);
  const trial = useMemo(() => earTrial(exercise, seed, trials), [exercise, seed, trials]);
  const threshold = useMemo(() => thresholdOf(trials), [trials]);
  const { tone, noiseDb, asks } = EAR_RULES[exercise];
  const [down, up] = EAR_ANSWERS[asks];
  const play = () =>
    playNotes(
      trial.hz.map((hz, k) => ({ hz, tone: tone && k === 0, noiseDb })),
      trial.seed,
    );
  // Each pair sounds by itself when it comes.
  useEffect(() => {
    if (!ended) play();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trial, ended]);
  const finish = (all: readonly StaircaseAnswer[]) => {
    setEnded(true);
    const { cents, low, high } = thresholdOf(all);
    onDone({
      practice: 'ear',
      exercise,
      seed,
      trials: [...all],
      value: cents,
      low,
      high,
      timeS: (clock.elapsedMs() - beganMs) / 1000,
    });
  };
  const answer = (saidUp: boolean) => {
    if (ended) return;
    const all = [...trials, answered(trial, saidUp)];
    setTrials(all);
    if (all.length >= ENOUGH_TRIALS) finish(all);
  };
  usePedal(KEYS.practice, {
    turn: (_, key) => answer(key === 'ArrowUp'),
    hear: play,
    take: () => (ended ? onLeave() : play()),
    leave: () => (!ended && trials.length > 0 ? finish(trials) : onLeave()),
  });
  const { title, task } = EAR_WORDS[exercise];
  const last = trials.at(-1);
  return (
    <>
      <section aria-label={title} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <h1 className="text-2xl font-bold">{title}</h1>
        <p data-testid="instruction" role="status" className="pt-1 text-2xl font-semibold">
          {ended ? 'This is what your ear tells' : task}
        </p>
        {ended ? (
          <p data-testid="report" className="pt-4 text-lg">
            {earWords(threshold)}
          </p>
        ) : (
          <>
            <p className="pt-6 text-lg">
              {trials.length} of {ENOUGH_TRIALS} answers
            </p>
            <p role="status" className="pt-1">
              {last && answerWords(last.right, last.cents)}
            </p>
          </>
        )}
      </section>
      <BottomBar
        actions={
          ended
            ? [{ words: 'Back to all exercises', hint: 'Enter', strong: true, on: onLeave }]
            : [
                { words: up, hint: '↑', strong: true, on: () => answer(true) },
                { words: down, hint: '↓', strong: true, on: () => answer(false) },
                { words: 'Hear it again', hint: 'Enter', on: play },
                { words: 'End here', hint: 'Esc', on: () => (trials.length > 0 ? finish(trials) : onLeave()) },
              ]
        }
      />
    </>
  );
}
