import { v4 as newId } from 'uuid';
import { useEffect, useMemo, useRef, useState } from 'react';
import { couplingOf } from '../../../core/bridge';
import { type BridgeTask } from '../../../core/codes';
import { cents, ratioOfCents, stringTargetHz } from '../../../core/music';
import { type GuidedStep, lastHzOf, soundedAlone } from '../../../core/guided';
import type { BridgeStepRecord, InstrumentLife } from '../../../core/records';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { simulatedHands, usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../guided/BottomBar';
import { useHearer } from '../../guided/useHearer';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { Caution } from '../../parts/Caution';
import { signed } from '../../parts/format';
import { handsOn } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { useWorld } from '../../world/world';
import type { Draft } from '../../../core/records';
import { useWriting } from '../../world/writing';
import { BridgeDrawing } from './BridgeDrawing';
import { CouplingTable } from './CouplingTable';
import { Level } from './Level';
import { Locking } from './Locking';
import { Setup } from './Setup';
import { StringsNow } from './StringsNow';
import { BRIDGE_TOLERANCE, useBridge, type Begun } from './useBridge';
import { clawWords, couplingWords, doubtfulClawWords, keptWords, offWords, stopWords } from './words';
import { Ways } from './Ways';

/** A press so soon after the step has changed by itself was meant for the one before, ms (house). */
const MEANT_MS = 700;

/** What to stop at, string by string, so that all are right at the end; how far to turn the claw. */
export function Tune({ life, onReturnTest }: { life: InstrumentLife; onReturnTest: () => void }) {
  const { a4Hz, clock, demo, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const bridge = useBridge(life);
  const { law, advice, session, springs, memory } = bridge;
  const { lastBegun } = bridge;
  const [task, setTask] = useState<BridgeTask>(life.tuning ? 'new-tuning' : 'touch-up');
  const [order, setOrder] = useState<Begun['order']>(lastBegun?.order ?? 'least-tilt');
  const [own, setOwn] = useState<number[] | undefined>(lastBegun?.own);
  const [held, setHeld] = useState<Begun['held']>(lastBegun?.held === 'stop' ? 'stop' : undefined);
  const [nutOpen, setNutOpen] = useState(life.tuning !== undefined);
  const [message, say] = useState('');
  const write = useWriting(say);
  const notes = life.strings.map((s) => s.plan.note);
  const { locking } = traitsOf(life.record);

  const at = advice?.string === undefined ? undefined : advice.string - 1;
  const string = at === undefined ? undefined : life.strings[at];
  const note = string?.plan.note ?? '';
  const targetHz = string ? stringTargetHz(string.plan, a4Hz)! : a4Hz;
  const stop = advice?.do === 'set' ? advice.stopAtCents! : 0;
  const expected = at === undefined ? null : (advice?.expected[at] ?? null);
  const key = `${session?.passId}:${session?.steps.length}:${at}`;
  const act = advice?.do;
  const within = advice?.withinCents ?? BRIDGE_TOLERANCE;
  const guided = useMemo((): GuidedStep | undefined => {
    if (!string || (act !== 'read' && act !== 'set')) return undefined;
    const lastHz = expected === null ? lastHzOf(string) : targetHz * ratioOfCents(expected);
    if (act === 'read') return soundedAlone(key, note, targetHz, lastHz);
    const { stringId } = string.plan;
    return {
      step: { stringId, purpose: 'left' },
      named: { id: stringId, name: note, targetHz: targetHz * ratioOfCents(stop), ...(lastHz ? { lastHz } : {}) },
      others: [],
      toleranceCents: within,
      foundCents: expected === null ? null : expected - stop,
    };
  }, [act, string, key, note, targetHz, stop, expected, within]);

  // One press, one step: a second one, meant for the step before, does not end the session or turn the claw twice.
  const written = useRef({ key: '', ms: -Infinity });
  /** The step of which a claw turn beyond the law was agreed to. */
  const [agreed, setAgreed] = useState('');
  const doubtful = act === 'claw' && advice?.lawTurns !== undefined && agreed !== key;
  const changedMs = useRef(0);
  useEffect(() => {
    changedMs.current = clock.elapsedMs();
  }, [clock, key, act]);
  const goOn = (fields: Pick<BridgeStepRecord, 'step'> & Partial<BridgeStepRecord>, words: string) => {
    if (!session) return;
    const { step, stringId, cents: read } = fields;
    // Released from its block, the bridge leans by what the claw is not right by: that is what is to be turned back.
    const degrees = step === 'read' && stringId ? bridge.lean(stringId, read!) : undefined;
    const seen = degrees === undefined ? [] : [bridge.stepDraft(session, { step: 'tilt', degrees })];
    void write([bridge.stepDraft(session, fields), ...seen], () => say(words));
  };
  const sound = useListening(
    useHearer(guided, (verdict) => {
      if (!string || (act !== 'read' && act !== 'set')) return;
      if (verdict.kind !== 'keep') return say(verdict.message);
      const { frequencyHz, sigmaCents } = verdict.reading;
      const off = cents(frequencyHz, targetHz);
      goOn(
        { step: act, stringId: string.plan.stringId, cents: off, sigmaCents: Math.max(0.2, sigmaCents), frequencyHz },
        act === 'read' ? `${note} reads ${signed(off)}.` : `${note} stopped at ${signed(off)}.`,
      );
    }),
    nowMs,
    say,
  );
  const deaf = sound.listening === undefined;
  const begin = () => {
    if (!bridge.stands) return say('These springs do not hold these strings: say how many there are.');
    say('');
    const places = order === 'own' && own ? { own } : {};
    const open = locking && nutOpen ? { nutOpen } : {};
    start({ task, order, ...places, ...(held ? { held } : {}), ...open }, 'begin');
  };
  const start = (begun: Begun, step: 'begin' | 'lock') => {
    demo?.holdBridge(instrumentId, begun.held !== undefined);
    void write([bridge.stepDraft({ passId: newId(), begun }, { step })], () => undefined);
    if (deaf) sound.open();
  };
  const lock = () => {
    demo?.lockNut(instrumentId);
    say('');
    setNutOpen(false);
    start({ task: 'touch-up', order: 'least-tilt' }, 'lock');
  };
  /** What was learned is kept, and every string as it was read last. */
  const finish = () => {
    if (!session || !advice) return;
    const by = session.begun.held;
    const left = life.strings.flatMap(({ plan: { stringId }, plan }): Draft[] => {
      const last = session.steps.findLast((s) => s.stringId === stringId && s.frequencyHz !== undefined);
      if (last?.cents === undefined || last.frequencyHz === undefined) return [];
      return [
        {
          type: 'reading',
          instrumentId,
          stringId,
          purpose: 'as-left',
          source: sound.listening ?? 'microphone',
          frequencyHz: last.frequencyHz,
          cents: last.cents,
          sigmaCents: last.sigmaCents ?? 0.5,
          targetHz: stringTargetHz(plan, a4Hz)!,
          a4Hz,
          partials: [],
        },
      ];
    });
    void write(
      [
        ...left,
        ...(by ? [] : [bridge.setupDraft({ memory: advice.memory })]),
        bridge.stepDraft(session, { step: 'end', ...(session.begun.nutOpen ? {} : { wound: advice.wound }) }),
      ],
      () => {
        if (by === 'block') setHeld(undefined);
        say(keptWords(by, session.begun.nutOpen ?? false));
      },
    );
  };
  const turned = () => {
    if (advice?.do !== 'claw') return;
    goOn({ step: 'claw', turns: advice.turns! }, `Claw ${clawWords(advice.turns!)}: now the strings.`);
  };
  const enter = () => {
    const now = clock.elapsedMs();
    if (!session) {
      if (now - written.current.ms > MEANT_MS) begin();
    } else if (act === 'done' || act === 'claw') {
      const soon = now - changedMs.current < MEANT_MS;
      if (written.current.key === key || ((act === 'done' || agreed === key) && soon)) return;
      if (doubtful) {
        changedMs.current = now;
        return setAgreed(key);
      }
      written.current = { key, ms: now };
      if (act === 'done') finish();
      else turned();
    } else if (deaf) sound.open();
    else sound.take();
  };
  const stopIt = () => {
    if (!session) return;
    void write([bridge.stepDraft(session, { step: 'end' })], () => say('Stopped. What was read stays in the log.'));
  };
  const hands = handsOn(demo, instrumentId, demo?.stringOf(instrumentId, string?.plan.stringId), sound);
  usePedal(KEYS.bridge, {
    listen: sound.toggle,
    take: enter,
    claw: demo && act === 'claw' && !doubtful ? () => demo.turnClaw(instrumentId, advice!.turns!) : undefined,
    returns: session ? undefined : onReturnTest,
    locked: !session && locking ? lock : undefined,
    end: stopIt,
    ...(demo ? simulatedHands(hands) : { pluck: undefined, turn: undefined }),
  });
  const offsets = life.strings.map((s, i) => advice?.expected[i] ?? s.readings.at(-1)?.cents ?? 0);
  const coupling = advice?.coupling ?? (law && couplingOf(law));
  const claws = session?.steps.reduce((sum, s) => sum + (s.turns ?? 0), 0) ?? 0;

  const instruction = !session
    ? 'Enter begins: every string is read first'
    : deaf && (act === 'read' || act === 'set')
      ? 'Press Space to listen'
      : doubtful
        ? doubtfulClawWords(advice!.turns!, advice!.lawTurns!)
        : act === 'claw'
          ? `Turn both screws of the claw ${clawWords(advice!.turns!)}, alike. Enter: done`
          : act === 'done'
            ? 'All are right. Enter: keep it'
            : act === 'read'
              ? `Pluck ${note}: the others damped, hand off the bridge, bar at rest`
              : undefined;
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
              onSprings={(n) => void write([bridge.setupDraft({ springs: n })], () => say(`${n} springs.`))}
              onTask={setTask}
              onOrder={setOrder}
              onOwn={setOwn}
              onHeld={setHeld}
              onNut={setNutOpen}
            />
          )}
          {!law && (
            <p className="py-2 text-sm">
              What these strings pull is not known: give their gauges under Edit, and the stops can be reckoned.
            </p>
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
                    ? 'As this bridge was learned.'
                    : 'Reckoned from gauges and springs: it is learned while you tune.'}
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
            <p className="max-w-2xl py-1 text-sm">{offWords(coupling, notes)}</p>
          )}
          {session && (
            <Level onLevel={(degrees) => goOn({ step: 'tilt', degrees }, `Tilt ${signed(degrees)}° taken.`)} />
          )}
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
          from={act === 'set' ? 'from the stop' : undefined}
          toleranceCents={within}
          message={message}
          hint={
            act === 'set' ? (
              <p data-testid="stop" className="text-2xl font-bold text-deep">
                {note}: {stopWords(stop)}
              </p>
            ) : (
              act === 'claw' && (
                <Caution>
                  Each spring pulls 20 to 70 N. Slacken the strings a little first, hold the driver straight, eyes away,
                  and turn both screws alike. Where in doubt, a repairer.
                </Caution>
              )
            )
          }
        >
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
      <BottomBar
        sound={sound}
        actions={[
          {
            words: !session
              ? 'Begin'
              : act === 'done'
                ? 'Keep it'
                : doubtful
                  ? 'Turn it all the same'
                  : act === 'claw'
                    ? 'The claw is turned'
                    : 'Take it',
            hint: 'Enter',
            strong: !session || act === 'done' || act === 'claw',
            disabled: !law || (!session && order === 'own' && !own),
            on: enter,
          },
          ...(session
            ? [{ words: 'Stop', hint: 'Esc', on: stopIt }]
            : [
                ...(locking ? [{ words: 'It is locked', hint: 'L', on: lock }] : []),
                { words: 'Return test', hint: 'R', on: onReturnTest },
              ]),
        ]}
      />
    </div>
  );
}
