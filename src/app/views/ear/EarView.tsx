import { useMemo, useState } from 'react';
import { EAR_SD, earRound, SCHOOLS, type School } from '../../../core/intervals';
import type { InstrumentLife } from '../../../core/records';
import { earSkill, earSpread } from '../../../core/story';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../listening/BottomBar';
import { useListening } from '../../listening/useListening';
import { Button } from '../../parts/Button';
import { signed } from '../../parts/format';
import { HandControls } from '../../pass/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../pass/WorkColumn';
import { TOLERANCE_CENTS } from '../../store/status';
import { useWorld } from '../../store/world';
import { useWriting } from '../../store/writing';
import { Costs } from './Costs';
import { useEarRound } from './useEarRound';
import { beatWords, intervalWords, SCHOOL_WORDS, soundWords } from './words';

/** Frets of an instrument of which nobody said how many (house estimate). */
const USUAL_FRETS = 19;

/** Tuning by ear: what to sound against what, what it costs, and what this ear is worth. */
export function EarView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz, demo, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const frets = traitsOf(life.record).frets ? USUAL_FRETS : 0;
  // From the lowest string: as one counts when tuning.
  const low = useMemo(() => ({ ...life, strings: [...life.strings].reverse() }), [life]);
  const names = low.strings.map((s) => s.plan.note).join(' ');
  const notes = useMemo(() => names.split(' '), [names]);
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
  const sound = useListening(
    guided,
    nowMs,
    (verdict) => {
      if (!run?.reads) return;
      if (verdict.kind !== 'keep') {
        say(verdict.message);
        return;
      }
      const done = heard(verdict.reading);
      if (!done) return;
      const words = `${notes[inHand!]}: ${signed(done.cents)} cents from its target.${done.over ? ' The round is done.' : ''}`;
      if (done.drafts.length === 0) say(words);
      else void write(done.drafts, () => say(words));
    },
    say,
  );
  const deaf = sound.listening === undefined;
  const start = () => {
    say('');
    begin();
    if (deaf) sound.open();
  };
  const enter = () => {
    if (!run) start();
    else if (!run.reads) {
      tuned();
      say('');
    } else if (deaf) sound.open();
    else sound.take();
  };
  const nextSchool = () => {
    const at = possible.indexOf(school);
    end();
    setChosen(possible[(at + 1) % possible.length]);
  };
  const stringId = inHand === undefined ? undefined : low.strings[inHand]!.plan.stringId;
  const turn = (by: number) => stringId && demo?.turn(instrumentId, stringId, by);
  const pluck = (hardness: number) =>
    stringId && demo && sound.pluck(() => demo.stringOf(instrumentId, stringId)!, hardness);
  usePedal(KEYS.ear, {
    listen: sound.toggle,
    take: enter,
    school: nextSchool,
    end,
    pluck: demo ? (shift) => pluck(shift ? 1 : 0.4) : undefined,
    turn: demo ? (shift, key) => turn((shift ? 10 : 2) * (key === 'ArrowUp' ? 1 : -1)) : undefined,
  });
  const skill = earSkill(own.length > 0 ? own : bench.judgements);

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
                  end();
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
          {round && (
            <ol aria-label="Steps" className="border-t border-line">
              {round.steps.map((s, i) => (
                <li
                  key={i}
                  aria-current={s.tune - 1 === inHand ? 'step' : undefined}
                  className="flex items-baseline gap-x-4 border-b border-l-4 border-line border-l-transparent py-1.5 pl-2 aria-[current=step]:border-l-deep aria-[current=step]:bg-sheet max-lg:flex-wrap"
                >
                  <span className="w-14 shrink-0 text-lg font-bold">{notes[s.tune - 1]}</span>
                  <span className="w-80 shrink-0 text-sm max-sm:w-full">
                    {soundWords(s.sound, notes)} against {soundWords(s.against, notes)}: {intervalWords(s.interval)}
                  </span>
                  <span className="text-xs text-ink2">{beatWords(s)}</span>
                </li>
              ))}
            </ol>
          )}
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
          heading={run ? `String ${run.at + 1} of ${run.order.length}` : 'A round by ear'}
          note={inHand === undefined ? undefined : notes[inHand]!}
          trace={run?.reads ? sound.trace : undefined}
          instruction={
            !run
              ? round
                ? 'Enter begins: the first string is read, the others are tuned by it'
                : 'Choose another school'
              : run.reads
                ? deaf
                  ? 'Press Space to listen'
                  : `Pluck ${notes[inHand!]}, the others still`
                : 'Let both ring, turn while they ring, finish from below. Enter: it is right'
          }
          toleranceCents={TOLERANCE_CENTS}
          message={message}
          hint={
            run &&
            !run.reads && (
              <ul className="text-sm">
                {steps.map((s, i) => (
                  <li key={i} className="border-l-4 border-water pl-2">
                    {soundWords(s.sound, notes)} against {soundWords(s.against, notes)}
                  </li>
                ))}
              </ul>
            )
          }
        >
          {demo && run && <HandControls onPluck={pluck} onTurn={turn} broken={undefined} />}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={[
          {
            words: !run ? 'Begin' : run.reads ? 'Take it' : 'It is right',
            hint: 'Enter',
            strong: !run?.reads,
            disabled: !run && !round,
            on: enter,
          },
          { words: 'Next school', hint: 'S', disabled: possible.length < 2, on: nextSchool },
          ...(run ? [{ words: 'Stop', hint: 'Esc', on: end }] : []),
        ]}
      />
    </div>
  );
}
