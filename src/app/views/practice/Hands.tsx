import { useEffect, useRef, useState } from 'react';
import {
  actHands,
  beginHands,
  HAND_TOLERANCE_CENTS,
  HAND_WORDS,
  handWords,
  reportHands,
  handStandsAt,
  withinS,
  type HandAct,
  type HandExercise,
  type HandRun,
  type TunerToHand,
} from '../../../core/practice';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { signed } from '../../parts/format';
import { Waterline } from '../../parts/Waterline';
import { playNotes } from '../../sound/notes';
import { ratioOfCents } from '../../../core/music';
import { useWorld } from '../../world/world';
import { PathChart } from './PathChart';
import { TunerDrawing } from './TunerDrawing';
import type { Done } from './done';

/** A press of a key turns the button so far, little and more, degrees. */
const BY_KEY: Record<TunerToHand, [number, number]> = {
  geared: [4, 40],
  peg: [1.5, 8],
  pin: [0.7, 3],
  fine: [15, 90],
};
const SHOWN_MS = 200;
const TARGET_HZ = 196;

/** The last seconds of a path, as a pitch that is heard: it stands where it is between two turns. */
const trailOf = (path: HandRun['strings'][number]['path'], cents: number, nowS: number) => [
  ...path.flatMap(({ tS, cents: c }, k) =>
    k === 0
      ? [{ tS, cents: c }]
      : [
          { tS, cents: path[k - 1]!.cents },
          { tS, cents: c },
        ],
  ),
  { tS: nowS, cents },
];

/** Hands on a virtual tuner: turned by keys, wheel, drag or touch; the truth comes afterwards. */
export function Hands({
  exercise,
  seed,
  onDone,
  onLeave,
}: {
  exercise: HandExercise;
  seed: number;
  onDone: (done: Done) => void;
  onLeave: () => void;
}) {
  const { clock } = useWorld();
  const [run, setRun] = useState(() => beginHands(exercise, seed));
  const beganMs = useRef<number | undefined>(undefined);
  const [nowS, setNowS] = useState(0);
  const [pushed, setPushed] = useState(false);
  const over = run.doneS !== undefined;
  const since = () => (clock.elapsedMs() - (beganMs.current ??= clock.elapsedMs())) / 1000;
  useEffect(() => {
    if (over) return undefined;
    return clock.every(SHOWN_MS, () =>
      setNowS(beganMs.current === undefined ? 0 : (clock.elapsedMs() - beganMs.current) / 1000),
    );
  }, [clock, over]);
  const act = (what: HandAct) => setRun((r) => actHands(r, what, since()));
  const string = run.strings[run.at]!;
  const cents = handStandsAt(run, string, Math.max(nowS, string.path.at(-1)!.tS));
  const { kind } = string.tuner;
  const turn = (degrees: number) => act({ do: 'turn', degrees, pushed });
  const limit = withinS(exercise);
  const report = over ? reportHands(run, run.doneS!) : undefined;
  const end = () => {
    if (over) return onLeave();
    const doneS = since();
    const ended = actHands(run, { do: 'done' }, doneS);
    setRun(ended);
    const told = reportHands(ended, doneS);
    const path = ended.strings.flatMap((s, at) => s.path.map((p) => ({ string: at, tS: p.tS, cents: p.cents })));
    onDone({
      practice: 'hands',
      exercise,
      seed,
      path: path.slice(0, 4000),
      value: told.finalCents,
      right: told.inTune === told.of,
      overshoots: Math.min(1000, told.overshoots),
      timeS: doneS,
    });
  };
  usePedal(KEYS.practice, {
    take: end,
    turn: (shift, key) => turn((key === 'ArrowUp' ? 1 : -1) * BY_KEY[kind][shift ? 1 : 0]),
    push: kind === 'peg' ? () => setPushed((p) => !p) : undefined,
    choose: run.strings.length > 1 ? (_, key) => act({ do: 'string', at: Number(key) - 1 }) : undefined,
    hear: () =>
      playNotes(
        [
          { hz: TARGET_HZ, tone: true, noiseDb: null },
          { hz: TARGET_HZ * ratioOfCents(cents), tone: false, noiseDb: null },
        ],
        seed,
      ),
    leave: onLeave,
  });
  const { title, task } = HAND_WORDS[exercise];
  return (
    <>
      <section aria-label={title} tabIndex={0} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <h1 className="text-2xl font-bold">{title}</h1>
        <p data-testid="instruction" role="status" className="pt-1 text-lg">
          {over ? 'This is what your hand did' : task}
        </p>
        {report ? (
          <div data-testid="report" className="pt-3">
            <ul className="pb-3 text-lg">
              {handWords(report).map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
            <PathChart run={run} endS={run.doneS!} />
          </div>
        ) : (
          <div className="flex flex-wrap items-center gap-10 pt-4">
            <TunerDrawing tuner={string.tuner} cents={cents} pushed={pushed} onTurn={turn} />
            <div>
              {run.strings.length > 1 && (
                <p className="pb-1 text-sm text-ink2">
                  String {run.at + 1} of {run.strings.length}: the digits go to another one
                </p>
              )}
              <p data-testid="pitch" className="figure text-[64px] leading-none font-bold">
                {string.broke ? 'broke' : signed(cents, Math.abs(cents) < 100 ? 1 : 0)}
              </p>
              <p className="pt-1 text-sm text-ink2">cents from its target</p>
              {kind === 'peg' && <p className="pt-2 font-semibold">{pushed ? 'Pushed in' : 'Not pushed in (I)'}</p>}
              <p className="figure pt-2 text-sm">
                {nowS.toFixed(0)} s{limit !== null && ` of ${limit}`}
              </p>
            </div>
            <div className="w-72">
              <Waterline
                trail={trailOf(string.path, cents, nowS)}
                toleranceCents={HAND_TOLERANCE_CENTS}
                note="the string"
              />
            </div>
          </div>
        )}
      </section>
      <BottomBar
        actions={
          over
            ? [{ words: 'Back to all exercises', hint: 'Enter', strong: true, on: onLeave }]
            : [
                { words: 'Done', hint: 'Enter', strong: true, on: end },
                { words: 'Up', hint: '↑', on: () => turn(BY_KEY[kind][0]) },
                { words: 'Down', hint: '↓', on: () => turn(-BY_KEY[kind][0]) },
                ...(kind === 'peg'
                  ? [{ words: pushed ? 'Let go' : 'Push in', hint: 'I', on: () => setPushed((p) => !p) }]
                  : []),
                { words: 'Leave', hint: 'Esc', on: onLeave },
              ]
        }
      />
    </>
  );
}
