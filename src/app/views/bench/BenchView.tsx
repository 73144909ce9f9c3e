import { useCallback, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { nearestNote, ratioOfCents, targetFrequencyHz } from '../../../core/music';
import { isOfPass, lastKept, type PassStep, type Verdict } from '../../../core/pass';
import type { ReadingRecord, Source, StringStatus } from '../../../core/records';
import { Button } from '../../parts/Button';
import { focusWork, WORK_ID } from '../../parts/focus';
import { dueTime, signed, span } from '../../parts/format';
import { soundTarget, TONE_S } from '../../sound/tone';
import { heldInMemory } from '../../store/held';
import { useNow } from '../../store/now';
import { TOLERANCE_CENTS, useStatuses } from '../../store/status';
import { useWorld } from '../../store/world';
import { GuardNote } from '../../pass/GuardNote';
import { guidedOf } from '../../pass/guided';
import { loadOf } from '../../pass/loadOf';
import { useDigits } from '../../keys/digits';
import { useGuard } from '../../pass/useGuard';
import { InputSheet } from './InputSheet';
import { LaneRow } from './LaneRow';
import { Panel } from './Panel';
import { Rack } from './Rack';
import { SimulatorControls } from '../../pass/SimulatorControls';
import { SoundBar } from './SoundBar';
import { TypedFigure } from './TypedFigure';
import { useCheckPass } from './useCheckPass';
import { useKeys } from './useKeys';
import { useListening } from '../../listening/useListening';

/** Standard error given to a figure typed from another device, cents (house estimate). */
const TYPED_SIGMA = 1;
/** A second pluck this close to the first confirms a slip, cents. */
const CONFIRM_CENTS = 2.5;
/** How long the bar says that the input was overdriven, s. */
const CLIP_SHOWN_S = 2;

export function BenchView() {
  const world = useWorld();
  const { bench, a4Hz, zoneMin, append, demo, basePath, nowMs: clock } = world;
  const params = useParams();
  const navigate = useNavigate();
  const now = useNow(demo ? 2000 : 5000);
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const life = bench.instruments.find((i) => i.record.instrumentId === params.instrumentId) ?? bench.instruments[0];
  const instrumentId = life?.record.instrumentId ?? '';
  const statuses = useStatuses(bench.instruments, now, curtainMs, instrumentId);
  const own = useMemo(() => statuses.get(instrumentId) ?? [], [statuses, instrumentId]);
  const [message, setMessage] = useState('');
  const clearMessage = useCallback(() => setMessage(''), []);
  const pass = useCheckPass(life, own, setMessage);
  const [insist, setInsist] = useState(false);
  const [typing, setTyping] = useState(false);
  const [checking, setChecking] = useState(false);

  const step = pass.step;
  const choose = (next: PassStep) => pass.choose(next, life?.strings.map((s) => s.plan.stringId) ?? []);
  const dueMs = (s: StringStatus) =>
    Math.abs(s.cents ?? Infinity) > TOLERANCE_CENTS ? (s.lastReadMs ?? 0) : (s.nextCheckMs ?? Infinity);
  const dueFirst = [...own].sort((a, b) => dueMs(a) - dueMs(b))[0];
  const focusId = step?.stringId ?? dueFirst?.stringId ?? life?.strings[0]?.plan.stringId;
  const focus = life?.strings.find((s) => s.plan.stringId === focusId);
  const target = (note: string) => targetFrequencyHz(note, a4Hz)!;

  const purpose = step?.purpose ?? 'found';
  const confirm = step?.confirm === true;
  const again = step?.again === true;
  const guided = useMemo(
    () =>
      life && focusId
        ? guidedOf(life, { stringId: focusId, purpose, confirm, ...(again ? { again } : {}) }, a4Hz, clock(), {
            toleranceCents: TOLERANCE_CENTS,
            insist,
          })
        : undefined,
    [life, focusId, a4Hz, purpose, confirm, again, clock, insist],
  );

  async function keep(
    stringId: string,
    fields: Pick<ReadingRecord, 'purpose' | 'source' | 'frequencyHz' | 'cents' | 'sigmaCents' | 'partials'> &
      Partial<ReadingRecord>,
    of: PassStep | undefined,
  ) {
    const string = life!.strings.find((s) => s.plan.stringId === stringId)!;
    const previous = string.readings[string.readings.length - 1];
    const slip =
      of?.confirm === true && previous !== undefined && Math.abs(previous.cents - fields.cents) < CONFIRM_CENTS;
    const { note } = string.plan;
    const off = Math.abs(fields.cents) > TOLERANCE_CENTS;
    const words = fields.purpose === 'as-found' ? 'as found' : off ? 'kept as it is,' : 'as left';
    let held = '';
    try {
      await append([
        {
          type: 'reading',
          instrumentId,
          stringId,
          targetHz: target(note),
          a4Hz,
          ...(bench.room ? { tempC: bench.room.tempC } : {}),
          ...(slip ? { slip: true } : {}),
          ...(pass.pass ? { passId: pass.pass.passId } : {}),
          ...fields,
        },
      ]);
      const hard =
        (fields.glideCents ?? 0) >= 4 ? ` Plucked hard: ${fields.glideCents!.toFixed(0)} cents sharp at first.` : '';
      setMessage(`${note} ${words} ${signed(fields.cents)} ±${fields.sigmaCents.toFixed(1)} kept.${hard}`);
    } catch (error) {
      held = `${note} ${signed(fields.cents)}: ${heldInMemory(error as Error)}`;
      setMessage(held);
    }
    const above = fields.arrival === 'from above' || fields.arrival === 'overshot';
    if (fields.purpose === 'as-left' && above) {
      choose({ stringId, purpose: 'left', confirm: false, again: true });
      if (!held)
        setMessage(`${note} kept, but it came from above and may fall. Finish it from below, or press N to go on.`);
    } else pass.clearChoice();
    setInsist(false);
  }

  const hear = (verdict: Verdict, source: Source) => {
    if (verdict.kind !== 'keep') {
      setMessage(verdict.message);
      return;
    }
    const { ok: _ok, fromS: _from, toS: _to, driftCents: _drift, ...figures } = verdict.reading;
    if (!step) {
      setMessage(
        `${focus?.plan.note ?? ''} stands at ${signed(figures.cents)}. Press Enter to start a check pass and keep readings.`,
      );
      return;
    }
    const { arrival } = verdict;
    void keep(
      step.stringId,
      {
        ...figures,
        source,
        purpose: step.purpose === 'left' ? 'as-left' : 'as-found',
        ...(arrival ? { arrival } : {}),
      },
      step,
    );
  };
  const sound = useListening(guided, clock, hear, setMessage);

  const { newest, liveCents } = sound;
  const load = useMemo(() => focus && loadOf(focus.plan, targetFrequencyHz(focus.plan.note, a4Hz)!), [focus, a4Hz]);
  const guard = useGuard(liveCents, load, focus?.plan.note);
  const truthOf = (stringId: string | undefined) => demo?.truthOf(instrumentId)?.find((t) => t.stringId === stringId);
  const truth = truthOf(focusId);

  const listen = () => void sound.listen(demo ? 'simulated' : 'microphone');
  const actions = {
    listenOrPause: () => (sound.listening ? sound.pause() : listen()),
    keepOrNext: () => {
      if (!life) {
        void navigate(`${basePath}/instrument`);
        return;
      }
      if (!step) {
        setMessage('');
        pass.start();
        if (!sound.listening) listen();
      } else if (!sound.listening) listen();
      else sound.take();
    },
    next: () => {
      if (!step) return;
      setMessage('');
      if (!pass.clearChoice()) pass.skip(step.stringId);
    },
    back: () => {
      const i = life?.strings.findIndex((s) => s.plan.stringId === focusId) ?? -1;
      const before = life?.strings[i - 1];
      if (before) choose({ stringId: before.plan.stringId, purpose: 'found', confirm: false });
    },
    choose: (index: number) => {
      const string = life?.strings[index];
      if (!string) return;
      const last = string.readings.findLast((r) => pass.pass && isOfPass(r, pass.pass));
      const off = last !== undefined && last.purpose === 'as-found' && Math.abs(last.cents) > TOLERANCE_CENTS;
      choose({ stringId: string.plan.stringId, purpose: off ? 'left' : 'found', confirm: false });
      setMessage('');
    },
    takeBack: () => {
      const last = life && pass.pass && lastKept(life.strings, pass.pass);
      if (!last) {
        setMessage('Nothing was kept in this pass to take back.');
        return;
      }
      pass.clearChoice();
      void append([{ type: 'taken-back', supersedes: last.id }]).then(
        () => setMessage('The last reading is taken back; it stays in the log, marked so.'),
        (error: Error) => setMessage(heldInMemory(error)),
      );
    },
    tone: () => {
      if (!focus) return;
      soundTarget(target(focus.plan.note));
      sound.deafen(TONE_S);
    },
    insist: () => {
      setInsist(true);
      setMessage(`Taken as ${focus?.plan.note ?? 'the named string'}: pluck it again.`);
    },
    stop: () => {
      pass.stop();
      setMessage('');
    },
    pluck: (hardness: number) => truth && sound.pluck(() => truthOf(truth.stringId) ?? truth, hardness),
    fit: () => {
      if (focusId) void navigate(`${basePath}/fitting/${instrumentId}/${focusId}`);
    },
    type: () => {
      if (focus) setTyping(true);
    },
    turn: (amount: number) => truth && demo?.turn(instrumentId, truth.stringId, amount),
  };
  const digit = useDigits(life?.strings.length ?? 0, actions.choose, (d) => setMessage(`String ${d} …`));
  useKeys({ ...actions, digit }, demo !== undefined);

  if (!life || !focus) {
    return (
      <div className="mx-auto flex max-w-xl flex-col gap-4 p-10">
        <h1 className="text-2xl font-bold">The bench is empty</h1>
        <p>
          Put the instrument in front of you on it: choose its family, say when it was strung, and start the first check
          pass.
        </p>
        <div className="flex flex-wrap gap-3">
          <Button strong onClick={() => void navigate(`${basePath}/instrument`)}>
            Add an instrument
          </Button>
          {!demo && (
            <Button onClick={() => void navigate('/demo/bench')}>Look round the Heron’s bench (demonstration)</Button>
          )}
        </div>
      </div>
    );
  }

  const status = own.find((s) => s.stringId === focusId);
  const number = life.strings.findIndex((s) => s.plan.stringId === focusId) + 1;
  const holding = own.filter((s) => s.state === 'holding').length;
  const strung = Math.max(...life.strings.map((s) => s.strungMs ?? 0));
  const laneHeight = Math.max(44, Math.min(88, Math.floor(540 / life.strings.length)));
  const done = pass.pass !== undefined && !step;
  const checkAgain = dueFirst && dueFirst.nextCheckMs !== null ? dueTime(dueMs(dueFirst), now, zoneMin) : '';
  const idle = done
    ? checkAgain
      ? `Check again ${/^(now|in )/.test(checkAgain) ? checkAgain : `at ${checkAgain}`}`
      : 'Done. Read once more in a few minutes'
    : checkAgain && !checkAgain.startsWith('now')
      ? `Next check ${checkAgain.startsWith('in ') ? checkAgain : `at ${checkAgain}`}`
      : 'Start a check pass';
  const gone = !step && !done ? dueFirst?.byNow : undefined;
  const heading = step
    ? `String ${number}, ${step.purpose === 'found' ? 'as found' : 'bring up'}`
    : done
      ? 'Pass done'
      : `String ${number}, next to check${gone && checkAgain.startsWith('now') ? `, ${checkAgain}` : ''}`;

  return (
    <div
      className="flex min-h-0 flex-1 flex-col"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const file = e.dataTransfer.files[0];
        if (file) void sound.openFile(file);
      }}
    >
      <div className="grid min-h-0 flex-1 grid-cols-[188px_1fr_312px] max-lg:grid-cols-[1fr_300px] max-lg:grid-rows-[auto_1fr] max-sm:grid-cols-1 max-sm:grid-rows-none">
        <Rack
          instruments={bench.instruments}
          current={life}
          statuses={statuses}
          nowMs={now}
          zoneMin={zoneMin}
          basePath={basePath}
          onChoose={clearMessage}
        />
        <section aria-labelledby="instrument-name" className="min-w-0 overflow-y-auto px-4 py-3 max-sm:order-2">
          <div className="flex flex-wrap items-baseline gap-x-4 pb-2">
            <h1 id="instrument-name" className="text-2xl font-bold">
              {life.record.name}
            </h1>
            <p className="text-sm text-ink2">
              {holding} of {life.strings.length} strings will hold ±{TOLERANCE_CENTS} cents for 90 min
              {strung > 0 && `, strung ${span(now - strung)} ago`}
            </p>
            <span className="ml-auto flex gap-4 text-sm text-deep [&_a]:underline [&_a]:underline-offset-4">
              <Link to={`${basePath}/set/${instrumentId}`}>String set</Link>
              <Link to={`${basePath}/fitting/${instrumentId}`}>Fit strings</Link>
              <Link to={`${basePath}/instrument/${instrumentId}`}>Edit</Link>
            </span>
          </div>
          <ol className="border-t border-line">
            {life.strings.map((s, i) => (
              <LaneRow
                key={s.plan.stringId}
                number={i + 1}
                life={s}
                status={own.find((t) => t.stringId === s.plan.stringId)}
                nowMs={now}
                zoneMin={zoneMin}
                curtainMs={curtainMs}
                current={s.plan.stringId === focusId}
                height={laneHeight}
                onChoose={() => actions.choose(i)}
              />
            ))}
          </ol>
          <p className="pt-1 text-xs text-ink2">
            Age since strung runs to the right, in ever longer steps; cents are drawn so that 1 and 60 both show. Grey:
            what comes if it is left alone.{curtainMs !== null && ' Dashed: the curtain.'}
          </p>
        </section>
        <aside
          id={WORK_ID}
          tabIndex={-1}
          aria-label="What to do now"
          className="overflow-y-auto border-l border-line bg-sheet p-4 max-sm:order-1 max-sm:border-l-0 max-sm:border-b"
        >
          <Panel
            heading={heading}
            life={focus}
            status={status}
            liveCents={liveCents}
            trail={sound.trail}
            instruction={step ? sound.view.sentence : idle}
            faded={sound.listening && step ? sound.view.faded : null}
            message={message}
            nowMs={now}
            zoneMin={zoneMin}
            curtainMs={curtainMs}
            load={load}
          >
            <GuardNote call={guard} />
            {demo && truth && (
              <SimulatorControls
                demo={demo}
                nowMs={clock}
                curtainMs={curtainMs}
                onPluck={actions.pluck}
                onTurn={actions.turn}
                broken={truth.brokenMs !== undefined}
              />
            )}
          </Panel>
        </aside>
      </div>
      <SoundBar
        listening={sound.listening}
        point={newest}
        clipped={sound.trail.some((p) => p.clipped && newest!.tS - p.tS < CLIP_SHOWN_S)}
        passRunning={pass.pass !== undefined}
        stepping={step !== undefined}
        deaf={sound.deaf}
        demo={demo !== undefined}
        onListen={actions.listenOrPause}
        onMicrophone={(id) => void sound.listen('microphone', id)}
        onFile={(file) => void sound.openFile(file)}
        onTake={actions.keepOrNext}
        onNext={actions.next}
        onStop={actions.stop}
        onTone={actions.tone}
        onTakeBack={actions.takeBack}
        onType={() => setTyping(true)}
        onInsist={actions.insist}
        onCheckInput={() => setChecking(true)}
      />
      <InputSheet
        open={checking}
        listening={sound.listening !== undefined}
        check={sound.check}
        onCheck={sound.startCheck}
        onUseClock={(ratio) => void sound.useClock(ratio)}
        onClose={() => setChecking(false)}
      />
      <TypedFigure
        open={typing}
        note={focus.plan.note}
        targetHz={target(focus.plan.note)}
        purpose={step?.purpose ?? 'found'}
        onClose={() => setTyping(false)}
        onKeep={(cents) => {
          setTyping(false);
          focusWork();
          const frequencyHz = target(focus.plan.note) * ratioOfCents(cents);
          const far = Math.abs(cents) > 600 ? ` (near ${nearestNote(frequencyHz, a4Hz).name})` : '';
          if (far) setMessage(`That is far from ${focus.plan.note}${far}.`);
          void keep(
            focus.plan.stringId,
            {
              source: 'typed',
              purpose: step?.purpose === 'left' ? 'as-left' : 'as-found',
              frequencyHz,
              cents,
              sigmaCents: TYPED_SIGMA,
              partials: [],
            },
            step,
          );
        }}
      />
    </div>
  );
}
