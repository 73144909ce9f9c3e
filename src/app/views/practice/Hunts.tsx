import { useMemo, useState } from 'react';
import { causesOf, REMEDIES, TEST_GUIDES } from '../../../core/causes';
import type { Cause, CauseTest } from '../../../core/codes';
import {
  beginHunt,
  endHunt,
  huntEvidence,
  huntQuestion,
  HUNT_TITLE,
  huntTests,
  huntWords,
  type HuntEnd,
} from '../../../core/practice';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { Button } from '../../parts/Button';
import { signed } from '../../parts/format';
import { useWorld } from '../../world/world';
import type { Done } from './done';
import { reasonOf } from '../../store/database';

/** A string with a hidden fault: tests are chosen one by one, then a verdict; the truth comes after it. */
export function Hunts({ seed, onDone, onLeave }: { seed: number; onDone: (done: Done) => void; onLeave: () => void }) {
  const { clock, ask } = useWorld();
  const [beganMs] = useState(() => clock.elapsedMs());
  const hunt = useMemo(() => beginHunt(seed), [seed]);
  const [tests, setTests] = useState<CauseTest[]>([]);
  const [end, setEnd] = useState<HuntEnd | undefined>(undefined);
  const evidence = useMemo(() => huntEvidence(hunt, tests), [hunt, tests]);
  const left = huntTests(hunt).filter((t) => !tests.includes(t));
  const [message, setMessage] = useState('');
  const say = async (said: Cause) => {
    const timeS = (clock.elapsedMs() - beganMs) / 1000;
    let told: HuntEnd;
    try {
      told = endHunt(hunt, tests, said, await ask('causes', huntQuestion(hunt, tests)));
    } catch (error) {
      return setMessage(`The finder gave no answer: ${reasonOf(error)}. Say it again.`);
    }
    setEnd(told);
    onDone({
      practice: 'hunt',
      exercise: 'hunt',
      seed,
      tests,
      said,
      truth: told.truth,
      value: tests.length,
      right: told.right,
      timeS,
    });
  };
  usePedal(KEYS.practice, { leave: onLeave, take: end ? onLeave : undefined });
  const { bridge, tuners, tree } = hunt.build;
  return (
    <>
      <section aria-label={HUNT_TITLE} tabIndex={0} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <h1 className="text-2xl font-bold">{HUNT_TITLE}</h1>
        <p data-testid="instruction" role="status" className="pt-1 text-lg">
          {end
            ? 'This is what it was'
            : `A string that does not stay: ${bridge} bridge, ${tuners} tuners${tree ? ', a string tree' : ''}. Choose tests, then say why.`}
        </p>
        {message && <p role="alert">{message}</p>}
        {end && (
          <ul data-testid="report" className="py-3 text-lg">
            {huntWords(end).map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        )}
        <ol aria-label="What was read" className="max-w-xl py-3 text-sm">
          {evidence.map((e) => (
            <li key={e.test} className="flex justify-between gap-4 border-b border-line py-1">
              <span>{e.test === 'since-last' ? 'Since it was tuned' : TEST_GUIDES[e.test].title}</span>
              <span className="figure">
                {e.test === 'since-last'
                  ? signed(e.own)
                  : `${signed(e.first)}${e.second === undefined ? '' : `, then ${signed(e.second)}`}`}
                <span className="text-ink2">, the others {signed(e.others ?? 0)}</span>
              </span>
            </li>
          ))}
        </ol>
        {!end && (
          <>
            <h2 className="pb-1 font-semibold">Do a test</h2>
            <div className="flex flex-wrap gap-1.5 pb-4">
              {left.map((t) => (
                <Button key={t} onClick={() => setTests((done) => [...done, t])}>
                  {TEST_GUIDES[t].title}
                </Button>
              ))}
            </div>
            <h2 className="pb-1 font-semibold">Say why</h2>
            <div role="group" aria-label="Say why" className="flex flex-wrap gap-1.5">
              {causesOf(hunt.build).map((c) => (
                <Button key={c} onClick={() => void say(c)}>
                  {REMEDIES[c].name}
                </Button>
              ))}
            </div>
          </>
        )}
      </section>
      <BottomBar
        actions={[
          end
            ? { words: 'Back to all exercises', hint: 'Enter', strong: true, on: onLeave }
            : { words: 'Leave', hint: 'Esc', on: onLeave },
        ]}
      />
    </>
  );
}
