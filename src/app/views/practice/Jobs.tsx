import clsx from 'clsx';
import { useState } from 'react';
import {
  actJob,
  beginJob,
  jobEnd,
  jobOver,
  jobSeen,
  jobSound,
  jobSteps,
  jobTitle,
  jobUnit,
  type Job,
  type JobEnd,
  type JobRun,
} from '../../../core/practice';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { Button } from '../../parts/Button';
import { playNotes } from '../../sound/notes';
import { useWorld } from '../../world/world';
import type { Done } from './done';
import { NetResult } from './Net';

/** A whole job on a simulated instrument: step by step by keys; the truth when it ends. */
export function Jobs({
  job,
  seed,
  onDone,
  onLeave,
}: {
  job: Job;
  seed: number;
  onDone: (done: Done) => void;
  onLeave: () => void;
}) {
  const { clock } = useWorld();
  const [beganMs] = useState(() => clock.elapsedMs());
  const [run, setRun] = useState(() => beginJob(job, seed));
  const [end, setEnd] = useState<JobEnd | undefined>(undefined);
  const seen = jobSeen(run);
  const steps = end ? [] : jobSteps(run);
  const hear = (of: JobRun) => {
    const sound = jobSound(of);
    if (sound)
      playNotes(
        sound.hz.map((hz) => ({ hz, tone: false, noiseDb: null })),
        seed,
        { together: true, lastsS: sound.lastsS },
      );
  };
  const act = (id: string | undefined) => {
    if (id === undefined) return;
    if (id === 'hear') return hear(run);
    const next = actJob(run, id);
    setRun(next);
    if (!jobOver(next)) return hear(next);
    const ended = jobEnd(next);
    const { value, right } = ended;
    setEnd(ended);
    onDone({
      practice: 'job',
      exercise: job,
      seed,
      acts: [...next.acts],
      unit: jobUnit(job),
      value,
      right,
      timeS: (clock.elapsedMs() - beganMs) / 1000,
    });
  };
  const byKey = (key: string) => steps.find((s) => s.key === key)?.id;
  usePedal(KEYS.practice, {
    take: end ? onLeave : () => act(byKey('Enter')),
    turn: (shift, key) => act(byKey(`${shift ? '⇧' : ''}${key === 'ArrowUp' ? '↑' : '↓'}`)),
    choose: (_, key) => act(byKey(key)),
    hear: () => act(byKey('P')),
    leave: onLeave,
  });
  const title = jobTitle(job);
  const digits = steps.filter((s) => /^\d$/.test(s.key));
  return (
    <>
      <section aria-label={title} tabIndex={0} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <h1 className="text-2xl font-bold">{title}</h1>
        <p data-testid="instruction" role="status" className="pt-1 text-lg">
          {end ? 'This is how it ended' : seen.words}
        </p>
        {end ? (
          <div data-testid="report" className="max-w-3xl pt-3">
            <ul className="pb-4 text-lg">
              {end.words.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
            {end.strings.length > 0 && <NetResult strings={end.strings} />}
          </div>
        ) : (
          <>
            <p className="max-w-2xl pt-1 text-sm text-ink2">{seen.note}</p>
            {digits.length > 0 && (
              <div role="group" aria-label="What you can do" className="flex max-w-2xl flex-wrap gap-2 pt-5">
                {digits.map((s) => (
                  <Button key={s.id} hint={s.key} onClick={() => act(s.id)}>
                    {s.words}
                  </Button>
                ))}
              </div>
            )}
            <dl className="max-w-md pt-5">
              {seen.rows.map(({ name, figure, inHand }) => (
                <div
                  key={name}
                  aria-current={inHand ? 'step' : undefined}
                  className={clsx('flex items-baseline gap-4 border-t border-line py-1.5', inHand && 'font-bold')}
                >
                  <dt className="flex-1">{name}</dt>
                  <dd className={clsx('figure', inHand && 'text-2xl')}>{figure}</dd>
                </div>
              ))}
            </dl>
          </>
        )}
      </section>
      <BottomBar
        actions={
          end
            ? [{ words: 'Back to all exercises', hint: 'Enter', strong: true, on: onLeave }]
            : [
                ...steps
                  .filter((s) => !digits.includes(s))
                  .map((s) => ({
                    words: s.words,
                    hint: s.key,
                    strong: s.key === 'Enter',
                    seldom: s.key.startsWith('⇧'),
                    on: () => act(s.id),
                  })),
                { words: 'Leave', hint: 'Esc', on: onLeave },
              ]
        }
      />
    </>
  );
}
