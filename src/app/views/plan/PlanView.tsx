import { Pending } from '../../parts/Pending';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import {
  doneWalks,
  EFFORTS,
  type Effort,
  type PlanItem,
  type PlanSum,
  WALKS,
  type Show,
  outlookWords,
  sumWords,
  showWords,
} from '../../../core/plan';
import { planCalendar } from '../../../core/exchange';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { Button } from '../../parts/Button';
import { dueTime, span } from '../../parts/format';
import { FirstStep, PlanSketch } from '../../parts/FirstStep';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { WORK_ID } from '../../parts/focus';
import { leadWords } from '../../parts/visits';
import { saveFile } from '../../parts/saveFile';
import { soundTarget } from '../../sound/tone';
import { useAsked } from '../../world/asked';
import { usePlan, useShow } from '../../world/plan';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { Restring } from './Restring';
import { ShowSheet } from './ShowSheet';
import { TimeLine } from './TimeLine';
import { Choices } from './Choices';
import { ToDo } from './ToDo';
import { ADVICE, STEP_WORDS } from './words';
import { MINUTE } from '../../../core/base';

const CHIME_HZ = 660;
/** Walks that are done and still stand above the next one. */
const SHOWN_DONE = 3;

/** Backward from the curtain: what to do when, on which instrument; what will hold and what will not. */
export function PlanView() {
  const { bench, basePath, zone, nowMs } = useWorld();
  const navigate = useNavigate();
  const show = useShow();
  const { plan, error, playing, now, ask, enabled } = usePlan(show);
  const done = useMemo(() => (show ? doneWalks(playing, show.sinceMs) : []), [playing, show]);
  const { data: choices } = useAsked({ question: 'choices', subject: '', of: bench, ask, enabled, waits: true });
  const [message, say] = useState('');
  const write = useWriting(say);
  const [editing, setEditing] = useState(false);
  const [chime, setChime] = useState(false);
  const lives = useMemo(() => new Map(bench.instruments.map((i) => [i.record.instrumentId, i])), [bench.instruments]);
  const nameOf = (instrumentId: string) => lives.get(instrumentId)?.record.name ?? instrumentId;
  const notesOf = (item: PlanItem, more: (stringId: string) => string = () => '') => {
    const life = lives.get(item.instrumentId);
    const notes = item.stringIds.map((id) => {
      const note = life?.strings.find((s) => s.plan.stringId === id)?.plan.note ?? id;
      return `${note}${more(id)}`;
    });
    const all = notes.length === life?.strings.length && item.stringIds.every((id) => more(id) === '');
    return all ? 'all strings' : notes.join(', ');
  };
  const work = useMemo(() => (plan?.items ?? []).filter((i) => !ADVICE.has(i.what)), [plan]);
  const advice = (plan?.items ?? []).filter((i) => ADVICE.has(i.what));
  const next = work.find((i) => WALKS.has(i.what)) ?? work[0];
  const go = () => next && void navigate(`${basePath}/bench/${next.instrumentId}`);
  /** The show written down anew with a change, at its own time: its walks count from there. And what that does to the plan. */
  const change = (fields: Partial<Show>, words: (was: PlanSum) => string) => {
    if (!show || !plan) return;
    const { sinceMs: _since, ...kept } = show;
    void write([{ type: 'session', ...kept, ...fields }], () => say(words(plan)));
  };
  const skip = () => {
    if (next?.what !== 'check' && next?.what !== 'between') return say('Only a check or a retuning can be skipped.');
    change({ skippedMs: Math.floor(nowMs()) }, (was) => `Skipped. Before: ${sumWords(was)}.`);
  };
  const effort = EFFORTS.find((e) => e === show?.effort) ?? 'few';
  const onEffort = (e: Effort) => change({ effort: e }, (was) => `Before: ${sumWords(was)}.`);
  const wings = () => void navigate(`${basePath}/wings`);
  usePedal(KEYS.plan, {
    skip,
    wings,
    go: show ? go : () => bench.instruments.length > 0 && setEditing(true),
    show: () => bench.instruments.length > 0 && setEditing(true),
    chime: () => setChime((v) => !v),
  });

  // Once for each item, when its time has come.
  const rung = useRef('');
  useEffect(() => {
    if (!chime || !next || next.atMs > now + 15000 || rung.current === next.uid) return;
    rung.current = next.uid;
    soundTarget(CHIME_HZ);
  }, [chime, next, now]);

  if (!show || bench.instruments.length === 0) {
    return (
      <div className="p-10">
        <h1 className="text-2xl font-bold">No show ahead</h1>
        <FirstStep
          drawing={<PlanSketch />}
          {...(bench.instruments.length === 0 ? { to: `${basePath}/add`, words: 'Add an instrument' } : {})}
        >
          Say when the show starts and who plays. The plan then works backward: when to check which strings, and when to
          tune for the last time.
          {bench.instruments.length === 0 && ' First add an instrument.'}
        </FirstStep>
        {bench.instruments.length > 0 && (
          <Button strong hint="Enter" onClick={() => setEditing(true)}>
            Set the show
          </Button>
        )}
        {editing && <ShowSheet show={undefined} onClose={() => setEditing(false)} />}
      </div>
    );
  }
  const endMs = show.curtainMs + show.minutes * MINUTE;
  const intervalMs = show.intervalMin === null ? null : show.curtainMs + show.intervalMin * MINUTE;
  const recent = done.filter((d) => d.atMs > now - 90 * MINUTE);
  const tunedMs = plan && (work.find((i) => i.what === 'last-tuning')?.atMs ?? now);
  const calendar = () =>
    saveFile(
      'slow-anchor-plan.ics',
      planCalendar(
        work,
        {
          title: (i) => `${STEP_WORDS[i.what]}: ${nameOf(i.instrumentId)}`,
          strings: (i) => notesOf(i, (id) => leadWords(i.leaveAtCents?.[id])),
          place: show.place,
        },
        nowMs(),
      ),
      'text/calendar',
    );

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] overflow-y-auto max-lg:grid-cols-[minmax(0,1fr)] print:block">
      <section id={WORK_ID} tabIndex={-1} aria-labelledby="plan-name" className="min-w-0 px-5 py-3">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-1">
          <h1 id="plan-name" className="text-2xl font-bold">
            Plan for {show.place}, {dueTime(show.curtainMs, now, zone)}
          </h1>
          <span className="text-sm text-ink2">
            {showWords(show)}
            {intervalMs !== null && `, interval ${dueTime(intervalMs, now, zone)}`}
          </span>
        </div>
        <NotWorkedOut error={error} waiting={enabled && !plan} what="The plan" kept="Readings are saved as usual." />
        <TimeLine
          items={work}
          done={recent}
          instruments={playing.map(({ record }) => ({ id: record.instrumentId, name: record.name }))}
          fromMs={Math.min(now, ...recent.map((d) => d.atMs)) - 4 * MINUTE}
          nowMs={now}
          curtainMs={show.curtainMs}
          intervalMs={intervalMs}
          endMs={endMs}
          zone={zone}
        />
        <p className="pt-1 text-xs text-ink2 print:hidden">
          ○ check ✓ done ▬ cases open ■ stretch, last tuning ▲ retune in a pause; dashed: the show starts
        </p>
        <ToDo items={work} done={recent.slice(-SHOWN_DONE)} nowMs={now} zone={zone} nameOf={nameOf} notesOf={notesOf} />
      </section>
      <aside aria-label="Next" className="border-l border-line bg-sheet px-4 py-3 max-lg:border-l-0 print:hidden">
        {next && (
          <div className="pb-3" data-testid="next">
            <p className="text-sm text-ink2">Next{next.atMs > now ? `, in ${span(next.atMs - now)}` : ''}</p>
            <p role="status" className="text-2xl font-bold leading-tight">
              {STEP_WORDS[next.what]} {dueTime(next.atMs, now, zone)}
            </p>
            <p className="pb-2 text-base">
              {nameOf(next.instrumentId)}, {notesOf(next)}
            </p>
            <div className="flex flex-wrap gap-2">
              <Button strong hint="Enter" onClick={go}>
                Go to it
              </Button>
              {(next.what === 'check' || next.what === 'between') && (
                <Button hint="S" onClick={skip}>
                  Skip it
                </Button>
              )}
              <Button hint="W" onClick={wings}>
                Backstage
              </Button>
            </div>
          </div>
        )}
        <p role="status" data-testid="message" className="text-sm">
          {message && plan ? `${message} Now: ${sumWords(plan)}.` : message}
        </p>
        <Choices choices={choices} effort={effort} onEffort={onEffort} />
        <div className="flex flex-wrap gap-2 border-t border-line py-3">
          <Button hint="E" onClick={() => setEditing(true)}>
            The show
          </Button>
          <Button hint="C" aria-pressed={chime} strong={chime} onClick={() => setChime((v) => !v)}>
            {chime ? 'Chime on' : 'Chime'}
          </Button>
          <Button onClick={() => window.print()}>Print</Button>
          <Button onClick={calendar}>Calendar</Button>
        </div>
        <section aria-labelledby="holds" className="border-t border-line py-3">
          <h2 id="holds" className="pb-1 text-base font-semibold">
            From the last tuning to the end
          </h2>
          <ul className="text-sm">
            {playing.map(({ record }) => {
              const own = plan?.outlook.filter((o) => o.instrumentId === record.instrumentId) ?? [];
              const strings = lives.get(record.instrumentId)?.strings;
              const told = outlookWords(own, (id) => strings?.find((s) => s.plan.stringId === id)?.plan.note ?? '');
              return (
                <li key={record.instrumentId} className="border-t border-line py-1 first:border-t-0">
                  <b>{record.name}</b>{' '}
                  {told ? (
                    <>
                      {told.holds}{' '}
                      <span className="figure" data-testid={`fall-${record.instrumentId}`}>
                        {told.weakest}
                      </span>
                    </>
                  ) : plan ? (
                    'not read yet'
                  ) : (
                    <Pending />
                  )}
                </li>
              );
            })}
          </ul>
        </section>
        {advice.length > 0 && (
          <section aria-labelledby="advice" className="border-t border-line py-3 text-sm">
            <h2 id="advice" className="pb-1 text-base font-semibold">
              New strings
            </h2>
            <ul>
              {advice.map((i) => (
                <li key={i.uid} className="py-1">
                  <b>
                    {nameOf(i.instrumentId)}
                    {i.what === 'restring' && `, until ${dueTime(i.atMs, now, zone)}`}:
                  </b>{' '}
                  {i.why}
                </li>
              ))}
            </ul>
          </section>
        )}
        <div className="border-t border-line py-3">
          {tunedMs !== undefined && <Restring show={show} playing={playing} tunedMs={tunedMs} nowMs={now} />}
        </div>
      </aside>
      {editing && <ShowSheet show={show} onClose={() => setEditing(false)} />}
    </div>
  );
}
