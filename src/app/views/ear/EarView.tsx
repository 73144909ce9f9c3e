import { useMemo, useState } from 'react';
import {
  apartAlone,
  BEGIN_EAR,
  EAR_SD,
  earAt,
  earProcedure,
  earSkill,
  earWorth,
  expected,
  netOf,
  octaveErrors,
  readAlone,
  SCHOOL_WORDS,
  soundWords,
  stopsWords,
} from '../../../core/by-ear';
import { EAR_SCHOOLS, type EarSchool } from '../../../core/codes';
import { stringTargetHz } from '../../../core/music';
import type { InstrumentLife } from '../../../core/log';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useProcedure } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { octavesUp } from '../../sound/drone';
import { useDrone } from '../../sound/useDrone';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { Costs } from './Costs';
import { Beats } from './Beats';
import { NetDrawing } from './NetDrawing';
import { Steps } from './Steps';
import { soundedAs } from './soundedAs';

const DRONE_LEVEL = 0.5;

/** Tuning by ear: what to sound against what, what it costs, and what this ear is worth. */
export function EarView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz, demo, nowMs, zone } = useWorld();
  const { instrumentId } = life.record;
  const [message, say] = useState('');
  const player = useProcedure(earProcedure, BEGIN_EAR, { life }, say);
  const { run, check, shows } = player.state;
  const at = earAt({ life, bench, a4Hz }, player.state);
  const { low, notes, ids, rounds, possible, best, school, answer, round } = at;
  const { inHand, steps, checkStep, turning, heardStep } = at;
  const own = bench.judgements.filter((j) => j.instrumentId === instrumentId);
  const worth = earWorth(bench);
  const [droning, setDroning] = useState(false);
  const errors = useMemo(() => octaveErrors(bench.touches, low), [bench.touches, low]);
  const expectations = useMemo(
    () => (round?.steps ?? []).map((s) => expected(s, ids, errors)),
    // The ids are the strings'.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [round, low, errors],
  );
  const sound = useListening(player, nowMs, say);
  const deaf = sound.listening === undefined;
  const begin = (what: 'begin' | 'check') => {
    setDroning(false);
    player.press({ do: what });
    if (deaf) sound.open();
  };
  const stop = () => {
    setDroning(false);
    player.press({ do: 'end' });
  };
  const enter = () => {
    if (check) {
      if (deaf) sound.open();
      else player.press({ do: 'next' });
    } else if (!run) begin('begin');
    else if (!run.reads) {
      // Never a reading of one's own loudspeaker.
      setDroning(false);
      player.press({ do: 'tuned' });
    } else if (deaf) sound.open();
    else sound.take();
  };
  const choose = (to: EarSchool) => {
    setDroning(false);
    player.press({ do: 'school', school: to });
  };
  const nextSchool = () => choose(possible[(possible.indexOf(school) + 1) % possible.length]!);
  const other = () => player.press({ do: 'other' });
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
    // What is looked at is not drowned.
    setDroning(false);
    player.press({ do: 'show' });
  };
  const drone = () => {
    if (shows) say('The microphone is on to show the beats, and would hear the tone. Press W first.');
    else setDroning((d) => !d);
  };
  const { actions } = useActions(KEYS.ear, [
    ...soundActions(sound),
    ...handActions(demo && { pluck, turn }),
    {
      key: 'take',
      words: check ? 'Skip this one' : !run ? 'Begin' : run.reads ? 'Save it' : 'It is in tune',
      strong: !check && !run?.reads,
      disabled: !run && !check && !round,
      on: enter,
    },
    turning && { key: 'show', words: shows ? 'Hide the beats' : 'Show beats while I turn', on: show },
    turning && shows && steps.length > 1 && { key: 'other', words: 'The other checkpoint', on: other },
    turning && { key: 'tone', words: droning ? 'No tone' : 'Tone', on: drone },
    { key: 'end', words: run || check ? 'Stop' : undefined, on: stop },
    {
      key: 'checkpoints',
      words: run || check ? undefined : 'Read the checkpoints',
      disabled: !round,
      on: () => begin('check'),
    },
    {
      key: 'school',
      words: run || check ? undefined : 'Next school',
      disabled: possible.length < 2,
      on: nextSchool,
    },
  ]);
  const net = useMemo(
    () => netOf(bench.checkpoints, low, bench.judgements),
    [bench.checkpoints, bench.judgements, low],
  );
  const skill = earSkill(own.length > 0 ? own : bench.judgements);

  const instructionWords = (): string => {
    if (deaf && (check || run?.reads)) return 'Press Space to listen';
    if (check && checkStep)
      return `Sound ${soundWords(checkStep.against, notes)}, then ${soundWords(checkStep.sound, notes)}: let both ring`;
    if (!run) return round ? 'Press Enter to read the first string' : 'Choose another way';
    if (run.reads) return `Pluck ${notes[inHand!]} alone`;
    return 'Turn while both ring. Finish from below, then Enter';
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="By ear" tabIndex={0} className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible">
          <div role="group" aria-label="School" className="flex flex-wrap gap-1.5 pb-2">
            {EAR_SCHOOLS.map((s) => (
              <Button
                key={s}
                strong={s === school}
                aria-pressed={s === school}
                disabled={!rounds.get(s)!.ok}
                onClick={() => choose(s)}
              >
                {SCHOOL_WORDS[s].name}
              </Button>
            ))}
          </div>
          <p className="pb-2 text-sm">
            {SCHOOL_WORDS[school].what}
            {school === best && possible.length > 1 && ' It leaves the smallest error on this instrument.'}
            {!answer.ok && ` ${answer.message}`}
          </p>
          {net && !run && <NetDrawing net={net} notes={notes} ids={ids} zone={zone} tolerance={TOLERANCE_CENTS} />}
          {round && <Steps steps={round.steps} notes={notes} inHand={inTurn} expected={expectations} />}
          {round && <Costs notes={notes} round={round} earSd={worth?.cents ?? EAR_SD} by={worth?.by} />}
          {skill.length > 0 && (
            <ul aria-label="Your ear" className="py-2 text-sm">
              {skill.map((s) => (
                <li key={s.interval}>{stopsWords(s)}</li>
              ))}
            </ul>
          )}
        </section>
        <WorkColumn
          heading={
            check
              ? `Checkpoint ${check.at + 1} of ${round?.steps.length}`
              : run
                ? `String ${run.at + 1} of ${run.order.length}`
                : 'Tune by ear'
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
                known={apartAlone(heardStep, readAlone(low, own, nowMs(), nowMs()))}
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
          {demo && (run || check) && <HandControls onPluck={pluck} onTurn={turn} broken={undefined} />}
        </WorkColumn>
      </div>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}
