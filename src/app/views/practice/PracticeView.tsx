import { useRef, useState } from 'react';
import type { ExerciseRecord } from '../../../core/log';
import { readText } from '../../../core/exchange';
import {
  BEAT_JOBS,
  CARE,
  EAR_EXERCISES,
  exerciseTitle,
  HAND_EXERCISES,
  WHOLE_JOBS,
  nextExercise,
  practiceOf,
  readExercise,
  writeExercise,
  writeResult,
  type EarExercise,
  type HandExercise,
  type Job,
  type SharedExercise,
} from '../../../core/practice';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { FileInput } from '../../parts/FileInput';
import { saveFile } from '../../parts/saveFile';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { ExerciseCourse } from './Course';
import type { Done } from './done';
import { Ears } from './Ears';
import { Hands } from './Hands';
import { Hunts } from './Hunts';
import { Jobs } from './Jobs';

/** Jobs of the ear alone. */

type Chosen = Pick<SharedExercise, 'practice' | 'exercise' | 'seed'> & { task?: string };

/** Practice on simulated strings that know the truth: hands, ears, hidden faults. Nothing of it counts as a reading. */
export function PracticeView() {
  const { bench, nowMs } = useWorld();
  const [chosen, setChosen] = useState<Chosen | undefined>(undefined);
  const [message, say] = useState('');
  const write = useWriting(say);
  const file = useRef<HTMLInputElement>(null);
  const wanted = nextExercise(bench.exercises, nowMs());
  const done = bench.exercises;
  /** Another one each time: by what was done so far. */
  const freshSeed = () => (Math.round(nowMs() / 1000) + done.length) % 2 ** 31;
  const begin = (practice: Chosen['practice'], exercise: string) => {
    say('');
    setChosen({ practice, exercise, seed: freshSeed() });
  };
  const keep = (of: Done) =>
    void write([{ type: 'exercise', ...of, ...(chosen?.task ? { task: chosen.task } : {}) }], () => undefined);
  const leave = () => setChosen(undefined);
  const open = async (f: File) => {
    const said = await readText(f);
    const read = said.ok ? readExercise(said.text) : said;
    if (!read.ok) return say(`${f.name}: ${read.message}`);
    setChosen(read.exercise);
  };
  const last = done.at(-1);
  usePedal(KEYS.practice, chosen ? {} : { take: () => begin(wanted.practice, wanted.exercise) });
  const frame = 'flex min-h-0 flex-1 flex-col';
  if (chosen) {
    const props = { seed: chosen.seed, onDone: keep, onLeave: leave };
    return (
      <div className={frame}>
        {chosen.practice === 'hands' ? (
          <Hands key={chosen.seed} exercise={chosen.exercise as HandExercise} {...props} />
        ) : chosen.practice === 'ear' ? (
          <Ears key={chosen.seed} exercise={chosen.exercise as EarExercise} {...props} />
        ) : chosen.practice === 'job' ? (
          <Jobs key={chosen.seed} job={chosen.exercise as Job} {...props} />
        ) : (
          <Hunts key={chosen.seed} {...props} />
        )}
      </div>
    );
  }
  const list = (heading: string, exercises: readonly string[]) => (
    <section aria-label={heading}>
      <h2 className="pb-1 font-semibold">{heading}</h2>
      <ul>
        {exercises.map((e) => (
          <li key={e} className="flex items-center gap-3 border-t border-line py-1.5">
            <button
              type="button"
              className="flex-1 text-left text-deep underline underline-offset-4"
              onClick={() => begin(practiceOf(e), e)}
            >
              {exerciseTitle(e)}
            </button>
            <ExerciseCourse records={done.filter((r) => r.exercise === e)} />
          </li>
        ))}
      </ul>
    </section>
  );
  return (
    <div className={frame}>
      <section aria-label="Practice" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <h1 className="text-2xl font-bold">Practice</h1>
        <p className="max-w-2xl pt-1 text-sm">
          Simulated strings, real sound. What is true is shown afterwards. Nothing here counts as a reading. {CARE}
        </p>
        <p data-testid="instruction" role="status" className="pt-4 text-xl font-semibold">
          Next: {exerciseTitle(wanted.exercise)}
        </p>
        <p className="pb-4 text-sm text-ink2">{wanted.why}</p>
        <p role="status" data-testid="message" className="text-sm font-semibold">
          {message}
        </p>
        <div className="grid max-w-5xl grid-cols-3 gap-x-10 gap-y-6 max-lg:grid-cols-1">
          {list('Hands', HAND_EXERCISES)}
          {list('Ears', [...EAR_EXERCISES, ...BEAT_JOBS])}
          {list('Whole jobs', ['hunt', ...WHOLE_JOBS])}
        </div>
        <FileInput ref={file} accept=".json,application/json" label="Exercise file" onFile={(f) => void open(f)} />
      </section>
      <BottomBar
        actions={[
          { words: 'Begin', hint: 'Enter', strong: true, on: () => begin(wanted.practice, wanted.exercise) },
          {
            words: 'Hand out this exercise',
            on: () =>
              saveFile(
                `exercise-${wanted.exercise}.json`,
                writeExercise({
                  practice: wanted.practice,
                  exercise: wanted.exercise,
                  seed: freshSeed(),
                  task: exerciseTitle(wanted.exercise),
                }),
                'application/json',
              ),
          },
          { words: 'Open an exercise', on: () => file.current?.click() },
          ...(last
            ? [
                {
                  words: 'Save my last result',
                  on: () =>
                    saveFile(`result-${last.exercise}.json`, writeResult(last as ExerciseRecord), 'application/json'),
                },
              ]
            : []),
        ]}
      />
    </div>
  );
}
