import { useCallback, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { stringTargetHz } from '../../../core/music';
import {
  checkPassOf,
  checkProcedure,
  checkStep,
  leadOf,
  TOLERANCE_CENTS,
  playedWords,
  leftUndone,
  leftUndoneWords,
} from '../../../core/check';
import type { InstrumentLife } from '../../../core/log';
import type { NextThing } from '../../../core/says';
import { useDigits } from '../../keys/digits';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useListening } from '../../guided/useListening';
import { signed } from '../../parts/format';
import { pathToNext } from '../../parts/next';
import { Pending } from '../../parts/Pending';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { loadOf, tunerPlaceOf } from '../../../core/guided';
import { GuardNote } from '../../guided/GuardNote';
import { simulatedHands } from '../../guided/hands';
import { SimulatorControls } from '../../guided/SimulatorControls';
import { TunerHint } from '../../guided/TunerHint';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { soundTarget, TONE_S } from '../../sound/tone';
import { useNow } from '../../world/now';
import { visitOf } from '../../../core/plan';
import { useVisits, useWalks } from '../../world/plan';
import { useSaid } from '../../world/said';
import { useNextThings, useStatus } from '../../world/status';
import { onWalk, useWalk } from '../../world/walk';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { Facts } from './Facts';
import { Lanes } from './Lanes';
import { TrialNote } from './TrialNote';
import { TuningChoice } from './TuningChoice';
import { PlayedSheet } from './PlayedSheet';
import { Wishes } from './Wishes';
import { useProcedure } from '../../guided/useProcedure';
import { MINUTE } from '../../../core/base';
import { dueMs } from '../../../core/status';

/** What does this instrument need now, string by string, and what next? */
export function BenchView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz, demo, basePath, lasting, world, nowMs: clock } = useWorld();
  const navigate = useNavigate();
  const now = useNow(demo ? 2000 : 5000);
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const { instrumentId } = life.record;
  const { statuses: own, error } = useStatus(life, now);
  const [told, setTold] = useState({ of: '', words: '' });
  const say = useCallback((words: string) => setTold({ of: instrumentId, words }), [instrumentId]);
  const write = useWriting(say);
  const visits = useVisits(instrumentId);
  const walks = useWalks(instrumentId);
  const said = useSaid(life, now);
  const [played, setPlayed] = useState(false);

  const dueFirst = [...own].sort((a, b) => dueMs(a) - dueMs(b))[0];
  const idleId = visits?.next?.stringIds[0] ?? dueFirst?.stringId ?? life.strings[0]!.plan.stringId;
  const player = useProcedure(
    checkProcedure,
    {},
    { life, statuses: own, focusId: idleId, without: KEYS.bench.next },
    say,
  );
  const pass = checkPassOf(player.log());
  const step = checkStep(player.log(), player.state);
  const focusId = step?.stringId ?? idleId;
  const number = life.strings.findIndex((s) => s.plan.stringId === focusId) + 1;
  const focus = life.strings[number - 1] ?? life.strings[0]!;
  const { note } = focus.plan;
  const targetHz = stringTargetHz(focus.plan, a4Hz)!;
  const leadCents = step ? leadOf(player.log(), step) : 0;
  const sound = useListening(player, clock, say);
  const load = useMemo(() => loadOf(focus.plan, targetHz), [focus, targetHz]);
  const truth = demo?.stringOf(instrumentId, focusId);

  const [next] = useNextThings(
    useMemo(() => [life], [life]),
    now,
    () => walks,
    instrumentId,
  );
  const choose = (index: number) => {
    const string = life.strings[index];
    if (string) player.press({ do: 'choose', stringId: string.plan.stringId });
  };
  const digit = useDigits(life.strings.length, choose, (d) => say(`String ${d} …`));
  const hands = simulatedHands(demo, instrumentId, truth, sound);
  const onward = !step && next && next.to !== 'bench' ? pathToNext(basePath, instrumentId, next) : '';
  const stands = onWalk(useWalk(world), instrumentId);
  /** On a walk a check that is done leads to the next instrument. */
  const walkOn = pass !== undefined && !step ? stands?.nextId : undefined;
  const take = () => {
    if (walkOn) return void navigate(`${basePath}/bench/${walkOn}`);
    if (!step) player.press({ do: 'start', visit: visits?.due && visitOf(visits.due) });
    if (!sound.listening) sound.open();
    else if (step) sound.take();
  };
  const tone = () => {
    soundTarget(targetHz);
    sound.deafen(TONE_S);
  };
  const { actions, more } = useActions(KEYS.bench, [
    ...soundActions(sound),
    ...handActions(demo && hands),
    { key: 'take', words: step ? 'Save it' : walkOn ? 'Next instrument' : 'Start check', strong: !step, on: take },
    { key: 'next', words: step && 'Next string', on: () => player.press({ do: 'next' }) },
    { key: 'tone', words: 'Play the note', seldom: true, on: tone },
    { key: 'takeBack', words: 'Take back', on: () => player.press({ do: 'take-back' }) },
    { key: 'back', on: () => player.press({ do: 'back' }) },
    { key: 'choose', on: (_, key) => digit(Number(key)) },
    {
      key: 'insist',
      words: 'It really is the string that was asked for (I)',
      menu: true,
      on: () => player.press({ do: 'insist' }),
    },
    onward ? { key: 'onward', on: () => void navigate(onward) } : undefined,
    { key: 'fit', on: () => void navigate(`${basePath}/fitting/${instrumentId}/${focusId}`) },
  ]);

  const together = said.of('common-offset');
  const done = pass !== undefined && !step;
  const undone = pass && done ? leftUndoneWords(leftUndone(life.strings, pass, TOLERANCE_CENTS)) : '';
  const heading = step
    ? `String ${number}, ${step.purpose === 'found' ? 'as found' : 'bring up'}`
    : done
      ? 'Check done'
      : dueFirst
        ? `String ${number}, first in the next check`
        : `String ${number}`;

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="Strings" className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible">
          <div className="flex flex-wrap items-baseline pb-1.5 text-sm text-ink2">
            {said.waiting ? <Pending /> : said.of('holding')?.text} {said.of('age')?.text}
            <TuningChoice life={life} say={say} />
          </div>
          {lasting === false && !demo && (
            <p className="pb-1.5 text-sm">
              This browser may delete your data when space runs short. In a private window it is lost when you close it.{' '}
              <Link to={`${basePath}/log`} className="text-deep underline underline-offset-4">
                Export it
              </Link>{' '}
              at the end of the day.
            </p>
          )}
          <TrialNote life={life} />
          {together && <p className="pb-1.5 text-sm font-semibold">{together.text}</p>}
          <NotWorkedOut error={error} what="The forecasts" kept="Readings are saved as usual." />
          {life.strings.every((s) => s.readings.length === 0) && <Wishes life={life} />}
          <Lanes life={life} statuses={own} said={said} nowMs={now} focusId={focusId} onChoose={choose} />
        </section>
        <WorkColumn
          heading={heading}
          note={note}
          trace={sound.trace}
          instruction={step ? undefined : walkOn ? 'Done. Press Enter: the next instrument' : idleWords(next, !error)}
          known={{ cents: focus.readings.at(-1)?.cents ?? null, age: said.of('reading', focusId)?.brief ?? '' }}
          toleranceCents={TOLERANCE_CENTS}
          message={told.of === instrumentId ? told.words : ''}
          lineCents={sound.lineCents}
          hint={
            <>
              {undone && <p data-testid="undone">{undone}</p>}
              {leadCents !== 0 && (
                <p data-testid="lead" className="text-xl font-bold text-deep">
                  Leave it at {signed(leadCents)}: it is going to fall
                </p>
              )}
              {onward && (
                <Link to={onward} className="text-deep underline underline-offset-4">
                  Go there (G)
                </Link>
              )}
              <TunerHint trace={sound.trace} place={tunerPlaceOf(life, focusId)} />
            </>
          }
        >
          <GuardNote trace={sound.trace} load={load} note={note} lineCents={sound.lineCents} />
          {demo && truth && (
            <SimulatorControls
              demo={demo}
              nowMs={clock}
              curtainMs={curtainMs}
              onPluck={hands.pluck}
              onTurn={hands.turn}
              broken={truth.brokenMs !== undefined}
            />
          )}
          <Facts life={focus} said={said} load={load} nowMs={now} />
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={actions}
        more={[
          ...(pass ? [{ words: 'Stop check', on: () => (player.press({ do: 'stop' }), say('')) }] : []),
          { words: 'It was played', on: () => setPlayed(true) },
          ...more,
        ]}
      />
      <PlayedSheet
        open={played}
        name={life.record.name}
        onClose={() => setPlayed(false)}
        onKeep={(minutes) => {
          setPlayed(false);
          const stringIds = life.strings.map((s) => s.plan.stringId);
          const atMs = Math.round(clock() - minutes * MINUTE);
          void write([{ type: 'treatment', instrumentId, stringIds, treatment: 'played', minutes, atMs }], () =>
            say(playedWords(minutes)),
          );
        }}
      />
    </div>
  );
}

/** What to do while no string is asked for; nothing is said while that is being worked out. @param waiting it is not that it could not be */
const idleWords = (next: NextThing | undefined, waiting: boolean): string => {
  if (next) return next.atMs === undefined ? next.words : `Leave it. ${next.words}`;
  return waiting ? '' : 'Press Enter to check all strings';
};
