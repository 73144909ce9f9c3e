import { useEffect, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { checkPassOf, checkProcedure, checkStep, leadOf, TOLERANCE_CENTS } from '../../../core/check';
import { loadOf } from '../../../core/guided';
import { stringTargetHz } from '../../../core/music';
import { type PlanItem, isDue, visitOf, type Show } from '../../../core/plan';
import type { InstrumentLife } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useListening } from '../../guided/useListening';
import { WORK_ID } from '../../parts/focus';
import { clockTime } from '../../parts/format';
import { leadWords, VISIT_WORDS } from '../../parts/visits';
import { GuardNote } from '../../guided/GuardNote';
import { simulatedHands } from '../../guided/hands';
import { SimulatorControls } from '../../guided/SimulatorControls';
import { useProcedure } from '../../guided/useProcedure';
import { useNow } from '../../world/now';
import { useStatus } from '../../world/status';
import { useWorld } from '../../world/world';
import { Countdown, timeLeft } from './Countdown';
import { Helps } from './Helps';
import { Live } from './Live';

interface Props {
  life: InstrumentLife;
  show: Show;
  /** The plan is worked out. */
  ready: boolean;
  /** What the plan asks for next, and what comes after it. */
  next: PlanItem | undefined;
  after: readonly PlanItem[];
  nameOf: (instrumentId: string) => string;
  pauseS: number;
  /** So many strings can be retuned in that time. */
  afford: number;
  onPause: () => void;
  /** This instrument is in hand until its visit is over. */
  onHold: (instrumentId: string | undefined) => void;
  message: string;
  say: (words: string) => void;
}

const STATUS_STEP_MS = 15000;

/** One instrument in the wings: the visit that is next, or the string in hand. */
export function Wings({
  life,
  show,
  ready,
  next,
  after,
  nameOf,
  pauseS,
  afford,
  onPause,
  onHold,
  message,
  say,
}: Props) {
  const { a4Hz, basePath, demo, nowMs: clock, zone } = useWorld();
  const navigate = useNavigate();
  const now = useNow(500);
  const { instrumentId } = life.record;
  const { statuses } = useStatus(life, Math.ceil(now / STATUS_STEP_MS) * STATUS_STEP_MS);
  const player = useProcedure(checkProcedure, {}, { life, statuses, without: KEYS.wings.next }, say);
  const pass = checkPassOf(player.log());
  const step = checkStep(player.log(), player.state);
  const noteOf = (id: string) => life.strings.find((s) => s.plan.stringId === id)?.plan.note ?? id;
  const note = step ? noteOf(step.stringId) : '';
  const leadCents = step ? leadOf(player.log(), step) : 0;
  const sound = useListening(player, clock, say);
  const inHand = life.strings.find((s) => s.plan.stringId === step?.stringId)?.plan;
  const load = useMemo(() => inHand && loadOf(inHand, stringTargetHz(inHand, a4Hz)!), [inHand, a4Hz]);

  const hurried = next?.what === 'between';
  const begin = () => {
    if (!next || next.instrumentId !== instrumentId || next.what === 'swap') return;
    // There every string moves the others: where each is to stop is said on the bridge.
    if (traitsOf(life.record).holds === 'springs') return void navigate(`${basePath}/bridge/${instrumentId}`);
    if (!isDue(next, clock())) return say('Not yet. It would change nothing now.');
    say('');
    const visit = visitOf(next);
    onHold(instrumentId);
    player.press({
      do: 'start',
      visit: hurried ? { ...visit, strings: visit.strings.slice(0, afford) } : visit,
    });
    if (!sound.listening) sound.open();
  };
  const stop = () => {
    onHold(undefined);
    player.press({ do: 'stop' });
    say('Stopped. What was read is saved, and the plan goes on from it.');
  };
  const truth = demo?.stringOf(instrumentId, step?.stringId);
  const hands = simulatedHands(demo, instrumentId, truth, sound);
  const take = () => {
    if (!step) begin();
    else if (!sound.listening) sound.open();
    else sound.take();
  };
  const { actions } = useActions(KEYS.wings, [
    ...soundActions(sound),
    ...handActions(demo && hands),
    { key: 'take', words: step ? 'Save it' : 'Begin', strong: !step, disabled: !step && !next, on: take },
    step && { key: 'next', words: 'Next string', on: () => player.press({ do: 'next' }) },
    pass && { key: 'stop', words: 'Stop here', on: stop },
    { key: 'time', words: `${pauseS} s between pieces`, on: onPause },
  ]);

  const strings = pass?.visit?.strings ?? [];
  const asked = next?.stringIds.slice(0, hurried ? afford : undefined) ?? [];
  const over = pass !== undefined && !step;
  // What is done is done: the plan says what comes next, perhaps at another instrument.
  useEffect(() => {
    if (!over) return;
    player.press({ do: 'stop' });
    onHold(undefined);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [over]);
  const leftMs = pass && hurried ? pass.startedMs + pauseS * 1000 - now : undefined;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section
        id={WORK_ID}
        tabIndex={-1}
        aria-label="Backstage"
        className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto px-8 py-4 max-sm:px-4"
      >
        <h1 className="sr-only">Backstage</h1>
        <Countdown show={show} nowMs={now} zone={zone} />
        {step ? (
          <>
            <p className="text-2xl text-ink2">
              {life.record.name}
              {leftMs !== undefined && (
                <b className={leftMs > 0 ? 'figure pl-6 text-ink' : 'pl-6 text-rust'}>
                  {leftMs > 0 ? `${timeLeft(leftMs)} left` : 'Time is up. Press Esc to stop'}
                </b>
              )}
            </p>
            <Live trace={sound.trace} note={note} lead={leadCents} tolerance={TOLERANCE_CENTS} />
            <GuardNote trace={sound.trace} load={load} note={note} lineCents={sound.lineCents} />
            <ol aria-label="In this order" className="figure flex flex-wrap gap-x-6 text-2xl text-ink2">
              {strings.map((s) => (
                <li
                  key={s.stringId}
                  aria-current={s.stringId === step.stringId ? 'step' : undefined}
                  className="aria-[current=step]:text-ink"
                >
                  {noteOf(s.stringId)}
                  {leadWords(s.leadCents)}
                </li>
              ))}
              <li>then stop</li>
            </ol>
          </>
        ) : (
          <Next ready={ready} next={next} nameOf={nameOf} nowMs={now}>
            {next && next.instrumentId === instrumentId && (
              <p className="figure text-4xl" data-testid="asked">
                {asked.map((id) => `${noteOf(id)}${leadWords(next.leaveAtCents?.[id])}`).join('   ')}
              </p>
            )}
          </Next>
        )}
        <p role="status" data-testid="message" className="min-h-8 text-xl">
          {message}
        </p>
        <ul aria-label="After that" className="text-lg text-ink2">
          {after.map((i) => (
            <li key={i.uid}>
              <span className="figure">{clockTime(i.atMs, zone)}</span> {nameOf(i.instrumentId)}: {wordsOf(i)}
            </li>
          ))}
        </ul>
        <Helps life={life} />
        {demo && (
          <div className="max-w-md">
            <SimulatorControls
              demo={demo}
              nowMs={clock}
              curtainMs={show.curtainMs}
              onPluck={hands.pluck}
              onTurn={hands.turn}
              broken={truth?.brokenMs !== undefined}
            />
          </div>
        )}
      </section>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}

const wordsOf = (item: PlanItem) => (item.what === 'swap' ? 'use the spare' : VISIT_WORDS[item.for ?? 'learn']);

/** Nearer than this it is now, ms. */
const SOON_MS = 30000;

/** Nothing in hand: what is next, and in how long. */
function Next({
  ready,
  next,
  nameOf,
  nowMs,
  children,
}: {
  ready: boolean;
  next: PlanItem | undefined;
  nameOf: (instrumentId: string) => string;
  nowMs: number;
  children: React.ReactNode;
}) {
  const waits = next ? next.atMs - nowMs : 0;
  return (
    <div className="flex flex-col gap-3">
      <p role="status" data-testid="instruction" className="text-6xl font-bold leading-tight max-sm:text-4xl">
        {!ready
          ? 'A moment …'
          : !next
            ? 'Leave them. They hold to the end'
            : waits > SOON_MS
              ? `In ${timeLeft(waits)}`
              : 'Now'}
      </p>
      {next && (
        <p className="text-5xl font-bold leading-tight max-sm:text-3xl">
          {nameOf(next.instrumentId)}: {wordsOf(next)}
        </p>
      )}
      {children}
      {next && <p className="max-w-3xl text-xl text-ink2">{next.why}</p>}
    </div>
  );
}
