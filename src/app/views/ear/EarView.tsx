import { useMemo, useState } from 'react';
import { EAR_SD, earRound, placeOf, type EarStep, SCHOOL_WORDS, soundWords } from '../../../core/by-ear';
import { SCHOOLS, type School } from '../../../core/codes';
import { stringTargetHz } from '../../../core/music';
import type { InstrumentLife } from '../../../core/records';
import { earSkill, earSpread, expected, netOf, octaveErrors, readAlone } from '../../../core/story';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../guided/BottomBar';
import { useHearer } from '../../guided/useHearer';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { signed } from '../../parts/format';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { octavesUp } from '../../sound/drone';
import { useDrone } from '../../sound/useDrone';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { Costs } from './Costs';
import { Beats } from './Beats';
import { NetDrawing } from './NetDrawing';
import { Steps } from './Steps';
import { useCheckpoints, useSteadyPair } from './useCheckpoints';
import { useEarRound } from './useEarRound';
import { soundedAs, usePair } from './usePair';

/** Frets of an instrument of which nobody said how many (house estimate). */
const USUAL_FRETS = 19;
const DRONE_LEVEL = 0.5;

/** Tuning by ear: what to sound against what, what it costs, and what this ear is worth. */
export function EarView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz, demo, nowMs, zoneMin } = useWorld();
  const { instrumentId } = life.record;
  const frets = traitsOf(life.record).frets ? USUAL_FRETS : 0;
  // From the lowest string: as one counts when tuning.
  const low = useMemo(() => ({ ...life, strings: [...life.strings].reverse() }), [life]);
  const names = low.strings.map((s) => s.plan.note).join(' ');
  const notes = useMemo(() => names.split(' '), [names]);
  const ids = low.strings.map((s) => s.plan.stringId);
  // By the notes alone: another reading is no other tuning.
  const rounds = useMemo(
    () => new Map(SCHOOLS.map((s) => [s, earRound(notes, s, frets, a4Hz)] as const)),
    [notes, frets, a4Hz],
  );
  const possible = SCHOOLS.filter((s) => rounds.get(s)!.ok);
  // The one whose worst string is the best.
  const worst = (s: School) => {
    const r = rounds.get(s)!;
    return r.ok ? Math.max(...Object.values(r.round.chainSd)) : Infinity;
  };
  const best = [...possible].sort((a, b) => worst(a) - worst(b))[0];
  const [chosen, setChosen] = useState<School | undefined>(undefined);
  const school = chosen ?? best ?? 'chain';
  const answer = rounds.get(school)!;
  const round = answer.ok ? answer.round : undefined;
  const own = bench.judgements.filter((j) => j.instrumentId === instrumentId);
  const spread = earSpread(bench.judgements);
  const [message, say] = useState('');
  const write = useWriting(say);
  const { run, inHand, steps, guided, begin, end, tuned, heard } = useEarRound(low, school, round, a4Hz);
  /** Which of the string's checkpoints is looked at while it is turned; and whether it is shown at all. */
  const [which, setWhich] = useState(0);
  const [shows, setShows] = useState(false);
  const [droning, setDroning] = useState(false);
  const errors = useMemo(() => octaveErrors(bench.touches, low), [bench.touches, low]);
  const expectations = useMemo(
    () => (round?.steps ?? []).map((s) => expected(s, ids, errors)),
    // The ids are the strings'.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [round, low, errors],
  );
  const check = useCheckpoints(round);
  const checkStep = check.step;
  const turning = run !== undefined && !run.reads;
  const heardStep = checkStep ?? (turning && shows ? steps[which % Math.max(1, steps.length)] : undefined);
  const pair = usePair(low, heardStep, a4Hz);
  const sound = useListening(
    useHearer(guided, (verdict) => {
      if (!run?.reads) return;
      if (verdict.kind !== 'keep') {
        say(verdict.message);
        return;
      }
      const done = heard(verdict.reading);
      if (!done) return;
      const words = `${notes[inHand!]}: ${signed(done.cents)} cents from its target.${done.over ? ` The round is done.${again(done.rms)}` : ''}`;
      if (done.drafts.length === 0) say(words);
      else void write(done.drafts, () => say(words));
    }),
    nowMs,
    say,
    pair,
  );
  useSteadyPair(checkStep, sound.trace, ({ cents, sigmaCents, beatsHz }) => {
    if (!checkStep || !check.run || !round) return;
    const { sound: one, against, interval } = checkStep;
    const { expectCents } = expectations[check.run.at]!;
    const off = cents - expectCents;
    const said = `${notes[one.string - 1]} with ${notes[against.string - 1]}: ${interval[0] === interval[1] ? Math.abs(off).toFixed(1) : signed(off)} cents, ${beatsHz.toFixed(1)} beats a second.`;
    const last = check.run.at + 1 === round.steps.length;
    check.next();
    void write(
      [
        {
          type: 'checkpoint',
          instrumentId,
          stringId: ids[one.string - 1]!,
          againstId: ids[against.string - 1]!,
          anchorId: ids[anchor]!,
          passId: check.run.passId,
          interval,
          expectCents,
          cents,
          sigmaCents,
          beatsHz,
          places: [placeOf(one), placeOf(against)],
        },
      ],
      () => say(`${said}${last ? ' All checkpoints are read.' : ''}`),
    );
  });
  const anchor = round ? notes.findIndex((_, i) => !round.steps.some((s) => s.tune === i + 1)) : 0;
  const deaf = sound.listening === undefined;
  /** Going through once more is worth it while the strings stand further off than this ear leaves them. */
  const again = (rms: number) => {
    const sds = round ? Object.values(round.chainSd) : [];
    const leaves =
      (Math.sqrt(sds.reduce((t, x) => t + x * x, 0) / Math.max(1, sds.length - 1)) * (spread ?? EAR_SD)) / EAR_SD;
    return rms > 1.15 * leaves
      ? ` On average ${rms.toFixed(1)} cents off. Your ear can do ${leaves.toFixed(1)}: go round once more.`
      : ` On average ${rms.toFixed(1)} cents off. Going round again would gain nothing.`;
  };
  const start = () => {
    say('');
    check.end();
    begin();
    if (deaf) sound.open();
  };
  const startCheck = () => {
    say('');
    end();
    setDroning(false);
    check.begin();
    if (deaf) sound.open();
  };
  const stop = () => {
    end();
    check.end();
    setDroning(false);
  };
  const enter = () => {
    if (check.run) {
      if (deaf) sound.open();
      else check.next();
    } else if (!run) start();
    else if (!run.reads) {
      tuned();
      // Never a reading of one's own loudspeaker.
      setDroning(false);
      setWhich(0);
      say('');
    } else if (deaf) sound.open();
    else sound.take();
  };
  const nextSchool = () => {
    const at = possible.indexOf(school);
    stop();
    setChosen(possible[(at + 1) % possible.length]);
  };
  const inTurn = checkStep ? checkStep.tune - 1 : inHand;
  const stringId = inTurn === undefined ? undefined : ids[inTurn];
  const turn = (by: number) => stringId && demo?.turn(instrumentId, stringId, by);
  const pluck = (hardness: number) => {
    if (!stringId || !demo) return;
    if (!heardStep) {
      sound.pluck(() => demo.stringOf(instrumentId, stringId)!, hardness);
      return;
    }
    // Both of the step, one a moment after the other.
    [heardStep.against, heardStep.sound].forEach((s, k) =>
      sound.pluck(() => soundedAs(demo.stringOf(instrumentId, ids[s.string - 1]!)!, s), hardness, k > 0),
    );
  };
  const hertz = inHand === undefined ? undefined : stringTargetHz(low.strings[inHand]!.plan, a4Hz)!;
  useDrone(droning && turning && hertz ? hertz * 2 ** octavesUp(hertz) : undefined, DRONE_LEVEL);
  const show = () => {
    if (!turning) return;
    // What is looked at is not drowned.
    setDroning(false);
    setShows((s) => !s);
  };
  const drone = () => {
    if (!turning) return;
    if (shows) say('While the beats are shown the microphone listens: it would hear the tone. Press W first.');
    else setDroning((d) => !d);
  };
  usePedal(KEYS.ear, {
    listen: sound.toggle,
    take: enter,
    school: nextSchool,
    end: stop,
    show,
    other: () => setWhich((w) => w + 1),
    tone: drone,
    checkpoints: () => round && startCheck(),
    pluck: demo ? (shift) => pluck(shift ? 1 : 0.4) : undefined,
    turn: demo ? (shift, key) => turn((shift ? 10 : 2) * (key === 'ArrowUp' ? 1 : -1)) : undefined,
  });
  const net = useMemo(
    () => netOf(bench.checkpoints, low, bench.judgements),
    [bench.checkpoints, bench.judgements, low],
  );
  const skill = earSkill(own.length > 0 ? own : bench.judgements);

  /** How far the two of a step stood apart when each was read alone, where that tells a way. */
  const knownOf = ({ sound: one, against }: EarStep): number | undefined => {
    const alone = readAlone(low, own, nowMs(), nowMs());
    const [a, b] = [alone[one.string - 1], alone[against.string - 1]];
    const apart = a && b && a.cents - b.cents;
    return apart !== undefined && Math.abs(apart) > 2 * Math.hypot(a!.sigmaCents, b!.sigmaCents) ? apart : undefined;
  };

  const instructionWords = (): string => {
    if (deaf && (check.run || run?.reads)) return 'Press Space to listen';
    if (check.run && checkStep)
      return `Sound ${soundWords(checkStep.against, notes)}, then ${soundWords(checkStep.sound, notes)}: let both ring`;
    if (!run) return round ? 'Press Enter to read the first string' : 'Choose another school';
    if (run.reads) return `Pluck ${notes[inHand!]} alone`;
    return 'Turn while both ring, finish from below, then Enter';
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="By ear" tabIndex={0} className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible">
          <div role="group" aria-label="School" className="flex flex-wrap gap-1.5 pb-2">
            {SCHOOLS.map((s) => (
              <Button
                key={s}
                strong={s === school}
                aria-pressed={s === school}
                disabled={!rounds.get(s)!.ok}
                onClick={() => {
                  stop();
                  setChosen(s);
                }}
              >
                {SCHOOL_WORDS[s].name}
              </Button>
            ))}
          </div>
          <p className="pb-2 text-sm">
            {SCHOOL_WORDS[school].what}
            {school === best &&
              possible.length > 1 &&
              ' Its worst string is the best of all schools on this instrument.'}
            {!answer.ok && ` ${answer.message}`}
          </p>
          {net && !run && (
            <NetDrawing net={net} notes={notes} ids={ids} zoneMin={zoneMin} tolerance={TOLERANCE_CENTS} />
          )}
          {round && <Steps steps={round.steps} notes={notes} inHand={inTurn} expected={expectations} />}
          {round && <Costs notes={notes} round={round} earSd={spread ?? EAR_SD} known={spread !== undefined} />}
          {skill.length > 0 && (
            <ul aria-label="Your ear" className="py-2 text-sm">
              {skill.map((s) => (
                <li key={s.interval}>
                  {s.interval}: you stop <span className="figure">{signed(s.biasCents)}</span> from beatless
                  {s.spreadCents !== null && (
                    <>
                      {' '}
                      ±<span className="figure">{s.spreadCents.toFixed(1)}</span>
                    </>
                  )}{' '}
                  cents ({s.count} times).
                </li>
              ))}
            </ul>
          )}
        </section>
        <WorkColumn
          heading={
            check.run
              ? `Checkpoint ${check.run.at + 1} of ${round?.steps.length}`
              : run
                ? `String ${run.at + 1} of ${run.order.length}`
                : 'A round by ear'
          }
          note={inTurn === undefined ? undefined : notes[inTurn]!}
          trace={run?.reads ? sound.trace : undefined}
          instruction={instructionWords()}
          toleranceCents={TOLERANCE_CENTS}
          message={message}
          hint={
            heardStep && round ? (
              <Beats
                trace={sound.trace}
                step={heardStep}
                expect={expectations[round.steps.indexOf(heardStep)]!}
                known={knownOf(heardStep)}
              />
            ) : (
              turning && (
                <ul className="text-sm">
                  {steps.map((s, i) => (
                    <li key={i} className="border-l-4 border-water pl-2">
                      {soundWords(s.sound, notes)} against {soundWords(s.against, notes)}
                    </li>
                  ))}
                </ul>
              )
            )
          }
        >
          {demo && (run || check.run) && <HandControls onPluck={pluck} onTurn={turn} broken={undefined} />}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={[
          {
            words: check.run ? 'Without this one' : !run ? 'Begin' : run.reads ? 'Take it' : 'It is right',
            hint: 'Enter',
            strong: !check.run && !run?.reads,
            disabled: !run && !check.run && !round,
            on: enter,
          },
          ...(turning
            ? [
                { words: shows ? 'Hide the beats' : 'Show me while I turn', hint: 'W', on: show },
                ...(steps.length > 1 && shows
                  ? [{ words: 'The other checkpoint', hint: 'O', on: () => setWhich((w) => w + 1) }]
                  : []),
                { words: droning ? 'No tone' : 'Tone', hint: 'T', on: drone },
              ]
            : []),
          ...(run || check.run
            ? [{ words: 'Stop', hint: 'Esc', on: stop }]
            : [
                { words: 'Read the checkpoints', hint: 'C', disabled: !round, on: startCheck },
                { words: 'Next school', hint: 'S', disabled: possible.length < 2, on: nextSchool },
              ]),
        ]}
      />
    </div>
  );
}
