import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ratioOfCents, stringTargetHz } from '../../../core/music';
import { fittingPlan, SCHOOLS } from '../../../core/fitting';
import type { InstrumentLife } from '../../../core/records';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { simulatedHands, usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../guided/BottomBar';
import { useHearer } from '../../guided/useHearer';
import { useListening } from '../../guided/useListening';
import { GuardNote } from '../../guided/GuardNote';
import { guidedOf, loadOf, placeOf } from '../../../core/guided';
import { handsOn } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { TunerHint } from '../../guided/TunerHint';
import { WorkColumn } from '../../guided/WorkColumn';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { Drops } from './Drops';
import { FittingDone } from './FittingDone';
import { NoteSheet } from './NoteSheet';
import { REMOVALS } from './removal';
import { StepList } from './StepList';
import { StepScreen } from './StepScreen';
import type { Progress } from './useFitting';
import { useKeepingSteps } from './useKeepingSteps';
import { useRounds } from './useRounds';
import { useRoundsTold } from './useRoundsTold';

/** Where a new string waits while it is bedded, cents from its target, and how near is near enough there. */
const UNDER_CENTS = -200;
const UNDER_TOLERANCE = 40;

interface Props {
  life: InstrumentLife;
  progress: Progress;
  go: (by: number) => void;
  onEnd: () => void;
}

/** The fitting under way: the step in hand, its sound where it has one, and the record of all of it. */
export function Fitting({ life, progress, go, onEnd }: Props) {
  const { a4Hz, basePath, demo, nowMs } = useWorld();
  const navigate = useNavigate();
  const { instrumentId } = life.record;
  const steps = useMemo(
    () =>
      fittingPlan(
        traitsOf(life.record),
        life.record.strings.filter((s) => progress.stringIds.includes(s.stringId)),
      ),
    [life.record, progress.stringIds],
  );
  const step = steps[progress.index];
  const [onlyId] = step?.stringIds.length === 1 ? step.stringIds : [];
  const own = life.strings.find((s) => s.plan.stringId === onlyId);
  const [message, setMessage] = useState('');
  const [asks, setAsks] = useState<'skip' | 'note' | undefined>(undefined);
  const [note, setNote] = useState('');
  const [removal, setRemoval] = useState(0);
  const rounds = useRounds(step?.kind === 'rounds' ? own : undefined);
  const school = SCHOOLS.find((s) => s.code === progress.school)!;
  const under = step?.kind === 'raise-under';
  const sounding = own !== undefined && (under || step?.kind === 'raise' || step?.kind === 'rounds');
  const reading = step?.kind === 'rounds' && rounds.phase === 'read';
  const waiting = step?.kind === 'rounds' && rounds.phase === 'stretch';
  const advance = (by: number) => {
    setNote('');
    setRemoval(0);
    keeping.setAgain(false);
    go(by);
  };
  const keeping = useKeepingSteps({
    life,
    progress,
    step,
    own,
    rounds,
    school,
    reading,
    under,
    note,
    say: setMessage,
    onDone: () => advance(1),
  });
  const { again } = keeping;
  const roundsTold = useRoundsTold(life);

  const ownId = sounding && !waiting ? own.plan.stringId : undefined;
  const guided = useMemo(() => {
    if (!ownId) return undefined;
    const asked = guidedOf(
      life,
      {
        stringId: ownId,
        purpose: reading ? 'found' : 'left',
        ...(again ? { again: true as const } : {}),
      },
      a4Hz,
      nowMs(),
      // In rounds a string is let go and brought back on purpose: each time is a new one.
      { toleranceCents: under ? UNDER_TOLERANCE : TOLERANCE_CENTS, leftAlready: false },
    );
    if (!asked || reading) return asked;
    const { named } = asked;
    // A string on its way up may stand anywhere below, also at a neighbour's pitch.
    return {
      ...asked,
      named: { ...named, fresh: true, ...(under ? { targetHz: named.targetHz * ratioOfCents(UNDER_CENTS) } : {}) },
    };
  }, [ownId, life, a4Hz, nowMs, under, reading, again]);
  const sound = useListening(
    useHearer(guided, (verdict, source) => sounding && !waiting && keeping.hear(verdict, source)),
    nowMs,
    setMessage,
  );
  const load = useMemo(() => own && loadOf(own.plan, stringTargetHz(own.plan, a4Hz)!), [own, a4Hz]);

  // The ear opens by itself at the first step that needs it.
  const open = useRef(sound.open);
  useEffect(() => {
    open.current = sound.open;
  });
  const deaf = sounding && sound.listening === undefined;
  const opened = useRef(false);
  useEffect(() => {
    if (!deaf || opened.current) return;
    opened.current = true;
    open.current();
  }, [deaf]);

  const leave = () => {
    onEnd();
    void navigate(`${basePath}/bench/${instrumentId}`);
  };
  const next = () => {
    if (!step) {
      leave();
      return;
    }
    setMessage('');
    if (!sounding) keeping.tick(removal);
    else if (again) keeping.goOn();
    else if (waiting) {
      demo?.stretch(instrumentId, own.plan.stringId);
      rounds.setPhase('read');
    } else if (deaf) sound.open();
    else sound.take();
  };
  const truth = demo?.stringOf(instrumentId, own?.plan.stringId);
  const hands = handsOn(demo, instrumentId, truth, sound);
  usePedal(KEYS.fitting, {
    next,
    back: () => advance(-1),
    listen: sounding ? sound.toggle : undefined,
    skip: step && (() => setAsks('skip')),
    note: step && (() => setAsks('note')),
    warmed: keeping.warmed,
    choose: step?.kind === 'remove' ? (_, key) => REMOVALS[Number(key) - 1] && setRemoval(Number(key) - 1) : undefined,
    leave,
    ...(demo && sounding ? simulatedHands(hands) : { pluck: undefined, turn: undefined }),
  });

  const others = [
    { words: 'Note', hint: 'N', on: () => setAsks('note') },
    { words: 'Leave the fitting', hint: 'Esc', on: leave },
  ];
  if (!step) return <FittingDone life={life} stringIds={progress.stringIds} onEnd={next} />;
  const of = `Step ${progress.index + 1} of ${steps.length}`;

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <StepList steps={steps} index={progress.index} />
        <StepScreen
          step={step}
          of={of}
          owns={!sounding}
          own={own}
          strings={life.strings.filter((s) => step.stringIds.includes(s.plan.stringId))}
          removal={removal}
          onRemoval={setRemoval}
          note={note}
          hint={waiting ? school.how : undefined}
        />
        {sounding && (
          <div className="flex w-[312px] shrink-0 flex-col overflow-y-auto max-md:order-first max-md:w-full">
            <WorkColumn
              heading={of}
              note={own.plan.note}
              trace={waiting ? undefined : sound.trace}
              instruction={waiting ? `${school.name}, then press Enter` : undefined}
              from={under ? 'from two semitones under' : 'from its target'}
              toleranceCents={under ? UNDER_TOLERANCE : TOLERANCE_CENTS}
              message={message}
              hint={<TunerHint trace={sound.trace} place={placeOf(life, own.plan.stringId)} />}
            >
              <GuardNote trace={sound.trace} load={load} note={own.plan.note} targetCents={under ? UNDER_CENTS : 0} />
              {step.kind === 'rounds' && (
                <>
                  <Drops drops={rounds.drops} next={rounds.advice.next} />
                  <p className="text-sm text-ink2">
                    Round {rounds.drops.length + (rounds.phase === 'up' ? 0 : 1)}.{' '}
                    {message.includes(rounds.advice.advice) ? '' : rounds.advice.advice}
                  </p>
                  <p data-testid="rounds-told" className="text-sm">
                    {roundsTold(own.plan.stringId)}
                  </p>
                </>
              )}
              {truth && (
                <HandControls
                  onPluck={hands.pluck}
                  onTurn={hands.turn}
                  broken={truth.brokenMs === undefined ? undefined : 'It broke. Page Up leads back to taking it off.'}
                />
              )}
            </WorkColumn>
          </div>
        )}
      </div>
      <BottomBar
        sound={sounding ? sound : undefined}
        actions={[
          {
            words:
              step.kind === 'warm'
                ? 'Leave it cold'
                : waiting
                  ? 'Stretched: read it'
                  : sounding
                    ? 'Take it as it sounds'
                    : 'Done',
            hint: 'Enter',
            strong: true,
            on: next,
          },
          ...(keeping.warmed ? [{ words: 'Warmed it', hint: 'W', on: keeping.warmed }] : []),
          { words: 'Back', hint: 'Page Up', disabled: progress.index === 0, on: () => advance(-1) },
          { words: step.kind === 'rounds' ? 'Enough rounds' : 'Skip', hint: 'S', on: () => setAsks('skip') },
          ...(sounding ? [] : others),
        ]}
        more={sounding ? others : []}
      />
      <NoteSheet
        asks={asks}
        onClose={() => setAsks(undefined)}
        onKeep={(text) => {
          if (asks === 'note') setNote(text);
          else if (step.kind === 'rounds' && rounds.drops.length > 0) keeping.endRounds(rounds.drops.length);
          else keeping.finish('skipped', text);
          setAsks(undefined);
        }}
      />
    </div>
  );
}
