import { MINUTE } from '../../../core/base';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { stringTargetHz } from '../../../core/music';
import { traitsOf } from '../../../core/strings';
import {
  beginFitting,
  fittingAt,
  fittingProcedure,
  STRETCH_SCHOOLS,
  stepsOf,
  stringsToFit,
  UNDER_TOLERANCE,
  type Progress,
} from '../../../core/fitting';
import { adviseRounds } from '../../../core/settling';
import type { InstrumentLife } from '../../../core/log';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useProcedure } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { GuardNote } from '../../guided/GuardNote';
import { loadOf, tunerPlaceOf } from '../../../core/guided';
import { simulatedHands } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { TunerHint } from '../../guided/TunerHint';
import { WorkColumn } from '../../guided/WorkColumn';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useNow } from '../../world/now';
import { useSaid } from '../../world/said';
import { useWorld } from '../../world/world';
import { Drops } from './Drops';
import { FittingDone } from './FittingDone';
import { NoteSheet } from './NoteSheet';
import { StepList } from './StepList';
import { StepScreen } from './StepScreen';

/** A fresh simulated string begins this far below its target, cents. */
const SLACK_CENTS = 700;

interface Props {
  life: InstrumentLife;
  progress: Progress;
  /** The place in the plan, whenever it is another: it survives a reload of the tab. */
  onProgress: (progress: Progress) => void;
  onEnd: () => void;
}

/** The fitting under way: the step in hand, its sound where it has one, and the record of all of it. */
export function Fitting({ life, progress: begun, onProgress, onEnd }: Props) {
  const { a4Hz, basePath, demo, nowMs } = useWorld();
  const navigate = useNavigate();
  const { instrumentId } = life.record;
  const [message, setMessage] = useState('');
  const [asks, setAsks] = useState<'skip' | 'note' | undefined>(undefined);
  const player = useProcedure(fittingProcedure, beginFitting(begun), { life, without: KEYS.fitting.skip }, setMessage);
  const { state } = player;
  const { progress } = state;
  const tell = useRef(onProgress);
  useEffect(() => {
    tell.current = onProgress;
  });
  useEffect(() => tell.current(progress), [progress]);
  const steps = useMemo(() => stepsOf({ life }, progress), [life, progress]);
  const { step, own, under, sounding, waiting } = fittingAt({ life }, state);
  const drops = own?.rounds.map((r) => r.dropCents) ?? [];
  const rounds = adviseRounds(drops);
  const school = STRETCH_SCHOOLS.find((s) => s.code === progress.school)!;
  const said = useSaid(life, useNow(MINUTE));
  const sound = useListening(player, nowMs, setMessage);
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
    // What the simulated hands do at this step.
    if (step.kind === 'on')
      for (const { plan } of stringsToFit({ life }, state)) demo?.restring(instrumentId, plan.stringId, SLACK_CENTS);
    if (waiting) demo?.stretch(instrumentId, own!.plan.stringId);
    if (!sounding || state.again || waiting) player.press({ do: 'done' });
    else if (deaf) sound.open();
    else sound.take();
  };
  const warmed =
    step?.kind === 'warm'
      ? () => {
          for (const id of step.stringIds) demo?.stretch(instrumentId, id);
          player.press({ do: 'warmed' });
        }
      : undefined;
  const back = () => player.press({ do: 'back' });
  const truth = demo?.stringOf(instrumentId, own?.plan.stringId);
  const hands = simulatedHands(demo, instrumentId, truth, sound);
  const goOn =
    step?.kind === 'warm' ? 'Do not warm it' : waiting ? 'Stretched: read it' : sounding ? 'Save it as it is' : 'Done';
  const { actions, more } = useActions(KEYS.fitting, [
    ...(sounding ? [...soundActions(sound), ...handActions(demo && hands)] : []),
    { key: 'next', words: goOn, strong: true, on: next },
    warmed && { key: 'warmed', words: 'Warmed it', on: warmed },
    { key: 'back', words: 'Back', disabled: progress.index === 0, on: back },
    step && { key: 'skip', words: step.kind === 'rounds' ? 'Enough rounds' : 'Skip', on: () => setAsks('skip') },
    step && { key: 'note', words: 'Note', menu: sounding, on: () => setAsks('note') },
    { key: 'leave', words: 'Leave', menu: sounding, on: leave },
    step?.kind === 'remove' && {
      key: 'choose',
      on: (_, key) => player.press({ do: 'removal', index: Number(key) - 1 }),
    },
  ]);

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
          traits={traitsOf(life.record)}
          strings={life.strings.filter((s) => step.stringIds.includes(s.plan.stringId))}
          removal={state.removal}
          onRemoval={(index) => player.press({ do: 'removal', index })}
          note={state.note}
          hint={waiting ? school.how : undefined}
        />
        {sounding && (
          <div className="flex w-[312px] shrink-0 flex-col overflow-y-auto max-md:order-first max-md:w-full">
            <WorkColumn
              heading={of}
              note={own!.plan.note}
              trace={waiting ? undefined : sound.trace}
              instruction={waiting ? `${school.name}, then press Enter` : undefined}
              lineCents={sound.lineCents}
              toleranceCents={under ? UNDER_TOLERANCE : TOLERANCE_CENTS}
              message={message}
              hint={<TunerHint trace={sound.trace} place={tunerPlaceOf(life, own!.plan.stringId)} />}
            >
              <GuardNote trace={sound.trace} load={load} note={own!.plan.note} lineCents={sound.lineCents} />
              {step.kind === 'rounds' && (
                <>
                  <Drops drops={drops} next={rounds.next} />
                  <p className="text-sm text-ink2">
                    Round {drops.length + (state.phase === 'up' ? 0 : 1)}.{' '}
                    {message.includes(rounds.advice) ? '' : rounds.advice}
                  </p>
                  <p data-testid="rounds-told" className="text-sm">
                    {said.of('rounds-did', own!.plan.stringId)?.text}
                  </p>
                </>
              )}
              {truth && (
                <HandControls
                  onPluck={hands.pluck}
                  onTurn={hands.turn}
                  broken={
                    truth.brokenMs === undefined ? undefined : 'It broke. Press Page Up to go back to taking it off.'
                  }
                />
              )}
            </WorkColumn>
          </div>
        )}
      </div>
      <BottomBar sound={sounding ? sound : undefined} actions={actions} more={more} />
      <NoteSheet
        asks={asks}
        onClose={() => setAsks(undefined)}
        onKeep={(text) => {
          player.press(asks === 'note' ? { do: 'note', text } : { do: 'skip', note: text });
          setAsks(undefined);
        }}
      />
    </div>
  );
}
