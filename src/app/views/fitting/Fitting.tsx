import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ratioOfCents, targetFrequencyHz } from '../../../core/music';
import type { Verdict } from '../../../core/pass';
import { fittingPlan, SCHOOLS, turnsFor } from '../../../core/fitting';
import type { InstrumentLife, Source } from '../../../core/records';
import { adviseRounds } from '../../../core/settling';
import { traitsOf } from '../../../core/strings';
import { guidedOf } from '../../pass/guided';
import { loadOf } from '../../pass/loadOf';
import { useGuard } from '../../pass/useGuard';
import { useListening } from '../../listening/useListening';
import { simulatedHands, usePedal } from '../../keys/usePedal';
import { focusWork } from '../../parts/focus';
import { signed } from '../../parts/format';
import { TOLERANCE_CENTS } from '../../store/status';
import { heldInMemory } from '../../store/held';
import { useWorld } from '../../store/world';
import { FittingBar } from './FittingBar';
import { FittingDone } from './FittingDone';
import { NoteSheet } from './NoteSheet';
import { REMOVALS } from './removal';
import { SoundPanel } from './SoundPanel';
import { StepList } from './StepList';
import { StepScreen } from './StepScreen';
import type { Progress } from './useFitting';
import { dropSince, useRounds } from './useRounds';

/** Where a new string waits while it is bedded, cents from its target, and how near is near enough there. */
const UNDER_CENTS = -200;
const UNDER_TOLERANCE = 40;
/** A fresh simulated string begins this far below its target, cents. */
const SLACK_CENTS = 700;

interface Props {
  life: InstrumentLife;
  progress: Progress;
  go: (by: number) => void;
  onEnd: () => void;
}

/** The fitting under way: the step in hand, its sound where it has one, and the record of all of it. */
export function Fitting({ life, progress, go, onEnd }: Props) {
  const { bench, a4Hz, append, basePath, demo, nowMs } = useWorld();
  const navigate = useNavigate();
  const { instrumentId, family } = life.record;
  const steps = useMemo(
    () =>
      fittingPlan(
        family,
        life.record.strings.filter((s) => progress.stringIds.includes(s.stringId)),
      ),
    [family, life.record.strings, progress.stringIds],
  );
  const step = steps[progress.index];
  const own = life.strings.find((s) => s.plan.stringId === step?.stringId);
  const [message, setMessage] = useState('');
  const [asks, setAsks] = useState<'skip' | 'note' | undefined>(undefined);
  const [note, setNote] = useState('');
  const [removal, setRemoval] = useState(0);
  const [again, setAgain] = useState(false);
  const rounds = useRounds(step?.kind === 'rounds' ? own : undefined);
  const school = SCHOOLS.find((s) => s.code === progress.school)!;
  const under = step?.kind === 'raise-under';
  const sounding = own !== undefined && (under || step?.kind === 'raise' || step?.kind === 'rounds');
  const reading = step?.kind === 'rounds' && rounds.phase === 'read';
  const waiting = step?.kind === 'rounds' && rounds.phase === 'stretch';
  const truth = own && demo?.truthOf(instrumentId)?.find((t) => t.stringId === own.plan.stringId);

  const ownId = sounding && !waiting ? own.plan.stringId : undefined;
  const guided = useMemo(() => {
    if (!ownId) return undefined;
    const asked = guidedOf(
      life,
      {
        stringId: ownId,
        purpose: reading ? 'found' : 'left',
        confirm: false,
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

  type Drafts = Parameters<typeof append>[0];
  const write = (drafts: Drafts, then: () => void) =>
    append(drafts).then(then, (error: Error) => setMessage(heldInMemory(error)));
  const advance = (by: number) => {
    setNote('');
    setRemoval(0);
    setAgain(false);
    go(by);
  };
  /** Ticks or skips the step in hand, with what else it writes. */
  const finish = (outcome: 'done' | 'skipped', words: string, more: Drafts = []) => {
    if (!step) return;
    const stringId = step.stringId;
    void write(
      [
        ...more,
        {
          type: 'fitting',
          instrumentId,
          ...(stringId ? { stringId } : {}),
          step: step.code,
          outcome,
          ...(words ? { note: words } : {}),
        },
      ],
      () => advance(1),
    );
  };

  const hear = (verdict: Verdict, source: Source) => {
    if (!own || !step || !sounding || waiting) return;
    if (verdict.kind !== 'keep') {
      setMessage(verdict.message);
      return;
    }
    if (under) {
      finish('done', note);
      return;
    }
    const { reading: outcome, arrival } = verdict;
    const { ok: _ok, fromS: _from, toS: _to, driftCents: _drift, ...figures } = outcome;
    const kept: Drafts[number] = {
      type: 'reading',
      instrumentId,
      stringId: own.plan.stringId,
      targetHz: targetFrequencyHz(own.plan.note, a4Hz)!,
      a4Hz,
      source,
      ...(bench.room ? { tempC: bench.room.tempC } : {}),
      ...figures,
      purpose: reading ? 'as-found' : 'as-left',
      ...(reading ? { stretched: true } : arrival ? { arrival } : {}),
    };
    if (reading) {
      const dropCents = dropSince(own.readings.at(-1), outcome);
      const said = adviseRounds([...rounds.drops, dropCents]);
      const isLow = Math.abs(outcome.cents) > TOLERANCE_CENTS;
      void write(
        [kept, { type: 'round', instrumentId, stringId: own.plan.stringId, dropCents, school: progress.school }],
        () => {
          setMessage(`Dropped ${dropCents.toFixed(1)} cents. ${said.advice}`);
          if (isLow) rounds.setPhase('up');
          else if (said.stop) endRounds([...rounds.drops, dropCents].length);
          else rounds.setPhase('stretch');
        },
      );
      return;
    }
    const above = arrival === 'from above' || arrival === 'overshot';
    void write([kept], () => {
      setMessage(
        `${own.plan.note} as left ${signed(outcome.cents)} kept.${above ? ' It came from above and may fall: take it below and up, or go on.' : ''}`,
      );
      setAgain(above);
      if (!above) goOn();
    });
  };
  const sound = useListening(guided, nowMs, hear, setMessage);

  /** The string stands at pitch: on to the next step, or to the next round. */
  function goOn() {
    if (step?.kind === 'raise') finish('done', note);
    else if (rounds.advice.stop) endRounds(rounds.drops.length);
    else rounds.setPhase('stretch');
  }

  function endRounds(count: number) {
    if (!own) return;
    const stretched: Drafts = [
      {
        type: 'treatment',
        instrumentId,
        stringIds: [own.plan.stringId],
        treatment: 'stretched',
        note: `${count} rounds, ${school.name.toLowerCase()}`,
      },
    ];
    finish('done', note, count > 0 ? stretched : []);
  }

  const { liveCents } = sound;
  const load = useMemo(() => own && loadOf(own.plan, targetFrequencyHz(own.plan.note, a4Hz)!), [own, a4Hz]);
  const fromTarget = liveCents === null ? null : liveCents + (under ? UNDER_CENTS : 0);
  const guard = useGuard(sounding ? fromTarget : null, load, own?.plan.note);

  // The ear opens by itself at the first step that needs it.
  const open = useRef(sound.listen);
  useEffect(() => {
    open.current = sound.listen;
  });
  const deaf = sounding && sound.listening === undefined;
  const opened = useRef(false);
  useEffect(() => {
    if (!deaf || opened.current) return;
    opened.current = true;
    void open.current(demo ? 'simulated' : 'microphone');
  }, [deaf, demo]);

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
    if (step.kind === 'remove') {
      const why = REMOVALS[removal]!.removal;
      finish('done', note, why ? [{ type: 'removed', instrumentId, stringId: step.stringId!, ...why }] : []);
    } else if (step.kind === 'on') {
      const windings = turnsFor(own!.plan.material, traitsOf(family).tuner);
      demo?.restring(instrumentId, step.stringId!, SLACK_CENTS);
      finish('done', note, [{ type: 'fitted', instrumentId, stringId: step.stringId!, windings }]);
    } else if (step.kind === 'do') finish('done', note);
    else if (step.kind === 'warm') finish('skipped', note || 'left cold');
    else if (again) {
      setAgain(false);
      goOn();
    } else if (waiting) {
      demo?.stretch(instrumentId, own!.plan.stringId);
      rounds.setPhase('read');
    } else if (deaf) void sound.listen(demo ? 'simulated' : 'microphone');
    else sound.take();
  };
  const warmed = () => {
    if (step?.kind !== 'warm') return;
    demo?.stretch(instrumentId, step.stringId!);
    finish('done', note, [{ type: 'treatment', instrumentId, stringIds: [step.stringId!], treatment: 'warmed' }]);
  };
  const truthNow = () => demo!.truthOf(instrumentId)!.find((t) => t.stringId === truth!.stringId)!;
  const hands = {
    pluck: (hardness: number) => truth && sound.pluck(truthNow, hardness),
    turn: (cents: number) => truth && demo?.turn(instrumentId, truth.stringId, cents),
  };
  usePedal({
    Enter: next,
    PageDown: next,
    PageUp: () => advance(-1),
    ' ': () => (sound.listening ? sound.pause() : void sound.listen(demo ? 'simulated' : 'microphone')),
    s: () => step && setAsks('skip'),
    n: () => step && setAsks('note'),
    w: warmed,
    ...Object.fromEntries(REMOVALS.map((_, i) => [String(i + 1), () => step?.kind === 'remove' && setRemoval(i)])),
    ...(demo && sounding ? simulatedHands(hands) : {}),
  });

  if (!step) return <FittingDone life={life} stringIds={progress.stringIds} onEnd={next} />;

  const instruction = !sounding ? step.title : waiting ? `${school.name}, then press Enter` : sound.view.sentence;

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 grid-cols-[220px_1fr] max-lg:grid-cols-1">
        <StepList steps={steps} index={progress.index} />
        <StepScreen
          step={step}
          of={`${progress.index + 1} of ${steps.length}`}
          instrument={life.record.name}
          own={own}
          removal={removal}
          onRemoval={setRemoval}
          note={note}
          hint={waiting ? school.how : undefined}
        >
          {sounding && (
            <SoundPanel
              plan={own.plan}
              instruction={instruction}
              message={message}
              liveCents={liveCents}
              faded={sound.view.faded}
              targetWords={under ? 'from two semitones under' : 'from its target'}
              trail={sound.trail}
              tolerance={under ? UNDER_TOLERANCE : TOLERANCE_CENTS}
              guard={guard}
              rounds={step.kind === 'rounds' ? rounds : undefined}
              simulated={
                truth && {
                  pluck: hands.pluck,
                  turn: hands.turn,
                  broken: truth.brokenMs !== undefined,
                }
              }
            />
          )}
        </StepScreen>
      </div>
      <FittingBar
        step={step}
        waiting={waiting}
        sounding={sounding}
        first={progress.index === 0}
        onNext={next}
        onWarmed={warmed}
        onBack={() => advance(-1)}
        onAsk={setAsks}
        onLeave={leave}
      />
      <NoteSheet
        asks={asks}
        onClose={() => {
          setAsks(undefined);
          focusWork();
        }}
        onKeep={(text) => {
          if (asks === 'note') setNote(text);
          else if (step.kind === 'rounds' && rounds.drops.length > 0) endRounds(rounds.drops.length);
          else finish('skipped', text);
          setAsks(undefined);
          focusWork();
        }}
      />
    </div>
  );
}
