import { useEffect, useRef, useState } from 'react';
import {
  BEGIN_BRIDGE,
  BRIDGE_TOLERANCE,
  bridgeAt,
  bridgeProcedure,
  bridgeSentence,
  CLAW_CAUTION,
  couplingWords,
  othersWords,
  stopWords,
  type Begun,
  couplingOf,
} from '../../../core/bridge';
import type { BridgeTask } from '../../../core/codes';
import type { InstrumentLife } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useProcedure } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { Caution } from '../../parts/Caution';
import { loadOf } from '../../../core/guided';
import { stringTargetHz } from '../../../core/music';
import { GuardNote } from '../../guided/GuardNote';
import { simulatedHands } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { useWorld } from '../../world/world';
import { BridgeDrawing } from './BridgeDrawing';
import { CouplingTable } from './CouplingTable';
import { Level } from './Level';
import { Locking } from './Locking';
import { Setup } from './Setup';
import { StringsNow } from './StringsNow';
import { Ways } from './Ways';

/** A press so soon after the step has changed by itself was meant for the one before, ms (house). */
const MEANT_MS = 700;

/** What to stop at, string by string, so that all are right at the end; how far to turn the claw. */
export function Tune({ life, onReturnTest }: { life: InstrumentLife; onReturnTest: () => void }) {
  const { a4Hz, clock, demo, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const [message, say] = useState('');
  const player = useProcedure(bridgeProcedure, BEGIN_BRIDGE, { life }, say);
  const { state } = player;
  const { now: bridge, advice, session, at, string, key, doubtful } = bridgeAt(player.log(), state);
  const { law, springs, memory, lastBegun } = bridge;
  const [task, setTask] = useState<BridgeTask>(life.tuning ? 'new-tuning' : 'touch-up');
  const [order, setOrder] = useState<Begun['order']>(lastBegun?.order ?? 'least-tilt');
  const [own, setOwn] = useState<number[] | undefined>(lastBegun?.own);
  const [held, setHeld] = useState<Begun['held']>(lastBegun?.held === 'stop' ? 'stop' : undefined);
  const [nutOpen, setNutOpen] = useState(life.tuning !== undefined);
  const notes = life.strings.map((s) => s.plan.note);
  const { locking } = traitsOf(life.record);

  const note = string?.plan.note ?? '';
  const stop = advice?.do === 'set' ? advice.stopAtCents! : 0;
  const act = advice?.do;
  const within = advice?.withinCents ?? BRIDGE_TOLERANCE;

  // One press, one step: a second one, meant for the step before, does not end the session or turn the claw twice.
  const written = useRef({ key: '', ms: -Infinity });
  const changedMs = useRef(0);
  useEffect(() => {
    changedMs.current = clock.elapsedMs();
  }, [clock, key, act]);
  const sound = useListening(player, nowMs, say);
  const deaf = sound.listening === undefined;
  const begin = () => {
    const places = order === 'own' && own ? { own } : {};
    const open = locking && nutOpen ? { nutOpen } : {};
    if (bridge.stands) demo?.holdBridge(instrumentId, held !== undefined);
    player.press({ do: 'begin', begun: { task, order, ...places, ...(held ? { held } : {}), ...open } });
    if (bridge.stands && deaf) sound.open();
  };
  const lock = () => {
    demo?.lockNut(instrumentId);
    demo?.holdBridge(instrumentId, false);
    setNutOpen(false);
    player.press({ do: 'locked' });
    if (deaf) sound.open();
  };
  const finish = () => {
    player.press({ do: 'keep', source: sound.listening ?? 'microphone' });
    if (session?.begun.held === 'block') setHeld(undefined);
  };
  const enter = () => {
    const now = clock.elapsedMs();
    if (!session) {
      if (now - written.current.ms > MEANT_MS) begin();
    } else if (act === 'done' || act === 'claw') {
      const soon = now - changedMs.current < MEANT_MS;
      if (written.current.key === key || ((act === 'done' || state.agreed === key) && soon)) return;
      if (doubtful) changedMs.current = now;
      else written.current = { key, ms: now };
      if (act === 'done') finish();
      else player.press({ do: 'claw' });
    } else if (deaf) sound.open();
    else sound.take();
  };
  const stopIt = () => player.press({ do: 'stop' });
  const hands = simulatedHands(demo, instrumentId, demo?.stringOf(instrumentId, string?.plan.stringId), sound);
  const goOn = !session
    ? 'Begin'
    : act === 'done'
      ? 'Save it'
      : doubtful
        ? 'Turn it anyway'
        : act === 'claw'
          ? 'Claw is turned'
          : 'Save it';
  const { actions } = useActions(KEYS.bridge, [
    ...soundActions(sound),
    ...handActions(demo && hands),
    {
      key: 'take',
      words: goOn,
      strong: !session || act === 'done' || act === 'claw',
      disabled: !law || (!session && order === 'own' && !own),
      on: enter,
    },
    act === 'claw' &&
      !doubtful && {
        key: 'slackened',
        words: 'Turned, strings let down for it',
        on: () => player.press({ do: 'claw', slackened: true }),
      },
    session && { key: 'end', words: 'Stop', on: stopIt },
    !session && locking && { key: 'locked', words: 'Nut is locked', on: lock },
    !session && { key: 'returns', words: 'Return test', on: onReturnTest },
    demo && act === 'claw' && !doubtful && { key: 'claw', on: () => demo.turnClaw(instrumentId, advice!.turns!) },
  ]);
  const offsets = life.strings.map((s, i) => advice?.expected[i] ?? s.readings.at(-1)?.cents ?? 0);
  const coupling = advice?.coupling ?? (law && couplingOf(law));
  const claws = session?.steps.reduce((sum, s) => sum + (s.turns ?? 0), 0) ?? 0;

  const levelSeen = session?.steps.some((s) => s.step === 'tilt') === true;
  const instruction =
    session && deaf && (act === 'read' || act === 'set')
      ? 'Press Space to listen'
      : bridgeSentence(
          session && act,
          note,
          { turns: advice?.turns ?? 0, lawTurns: advice?.lawTurns, doubtful },
          levelSeen,
        );
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="Bridge" tabIndex={0} className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible">
          {!session && (
            <Setup
              springs={springs}
              task={task}
              order={order}
              own={own}
              held={held}
              nutOpen={locking ? nutOpen : undefined}
              strings={life.strings.length}
              onSprings={(n) => player.press({ do: 'springs', springs: n })}
              onTask={setTask}
              onOrder={setOrder}
              onOwn={setOwn}
              onHeld={setHeld}
              onNut={setNutOpen}
            />
          )}
          {!law && (
            <p className="py-2 text-sm">The pull of these strings is not known. Give their gauges under Settings.</p>
          )}
          {law && !bridge.stands && (
            <p className="py-2 text-sm font-semibold text-rust">
              {springs} springs do not hold these strings: add a spring, or lighter strings.
            </p>
          )}
          <BridgeDrawing angle={advice?.angle ?? 0} level={advice?.level ?? 0} springs={springs} turns={claws} />
          <StringsNow
            notes={notes}
            at={at}
            offsets={offsets}
            read={session ? advice : undefined}
            begun={session !== undefined}
          />
          {coupling && (
            <div className="flex flex-wrap gap-x-8 gap-y-3 py-2">
              <div>
                <CouplingTable notes={notes} coupling={coupling} />
                <p className="max-w-md pt-1 text-xs text-ink2">
                  {couplingWords(coupling.lambda)}{' '}
                  {memory
                    ? 'As learned from this bridge.'
                    : 'Calculated from gauges and springs. It is learned while you tune.'}
                </p>
              </div>
              {law && !session && bridge.stands && (
                <Ways
                  instrumentId={instrumentId}
                  ask={{ law, task, offsetsCents: offsets, memory, toleranceCents: BRIDGE_TOLERANCE }}
                />
              )}
            </div>
          )}
          {coupling && !session && task === 'fresh' && (
            <p className="max-w-2xl py-1 text-sm">{othersWords(coupling, notes)}</p>
          )}
          {session && <Level onLevel={(degrees) => player.press({ do: 'tilt', degrees })} />}
          {locking && <Locking notes={notes} shifts={bridge.shifts} rooms={bridge.rooms} />}
        </section>
        <WorkColumn
          heading={
            session
              ? act === 'done'
                ? 'Done'
                : `Pass ${advice?.pass ?? 1}, ${session.begun.task.replace('-', ' ')}`
              : 'Floating bridge'
          }
          note={string ? note : undefined}
          trace={string && !deaf ? sound.trace : undefined}
          instruction={instruction}
          lineCents={sound.lineCents}
          toleranceCents={within}
          message={message}
          hint={
            act === 'set' ? (
              <p data-testid="stop" className="text-2xl font-bold text-deep">
                {note}: {stopWords(stop)}
              </p>
            ) : (
              act === 'claw' && <Caution>{CLAW_CAUTION}</Caution>
            )
          }
        >
          {act === 'set' && string && (
            <GuardNote
              trace={sound.trace}
              load={loadOf(string.plan, stringTargetHz(string.plan, a4Hz)!)}
              note={note}
              lineCents={sound.lineCents}
            />
          )}
          {demo && session && (
            <HandControls onPluck={hands.pluck} onTurn={hands.turn} broken={undefined}>
              {act === 'claw' && !doubtful && (
                <Button hint="C" onClick={() => demo.turnClaw(instrumentId, advice!.turns!)}>
                  Turn the claw
                </Button>
              )}
            </HandControls>
          )}
        </WorkColumn>
      </div>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}
