import { useState } from 'react';
import { READY_SCHOOLS, readShow, rolesOf, type Roles, type Show } from '../../../core/plan';
import { Button } from '../../parts/Button';
import { instantOf, localText, HOUR } from '../../../core/base';
import { figureIn } from '../../parts/format';
import { Modal } from '../../parts/Modal';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { Who } from './Who';

const SCHOOLS: Record<(typeof READY_SCHOOLS)[number], string> = {
  'not-same-day': 'Never put on new strings on the day of the show',
  'make-ready': 'Stretch new strings until they are ready',
};
/** A curtain is offered so far ahead, at the half hour. */
const OFFERED_MS = 5 * HOUR;
const HALF_HOUR_MS = 1800000;
const field = 'figure rounded-md border border-ink2 bg-sheet px-2 py-1';

/** The show: where, when, how long, how near, who plays, and how the player holds it with new strings. */
export function ShowSheet({ show, onClose }: { show: Show | undefined; onClose: () => void }) {
  const { bench, nowMs, zone } = useWorld();
  const local = (ms: number) => localText(ms, zone);
  const [place, setPlace] = useState(show?.place ?? 'the show');
  const [at, setAt] = useState(
    local(show?.curtainMs ?? Math.ceil((nowMs() + OFFERED_MS) / HALF_HOUR_MS) * HALF_HOUR_MS),
  );
  const [minutes, setMinutes] = useState(String(show?.minutes ?? 90));
  const [interval, setIntervalAt] = useState(show?.intervalMin ? String(show.intervalMin) : '');
  const [tolerance, setTolerance] = useState(String(show?.toleranceCents ?? 3));
  const [there, setThere] = useState(typeof show?.thereC === 'number' ? String(show.thereC) : '');
  const [school, setSchool] = useState(show?.school ?? READY_SCHOOLS[0]);
  const [roles, setRoles] = useState<Roles>(
    rolesOf(show ?? { instrumentIds: bench.instruments.map((i) => i.record.instrumentId) }),
  );
  const [leads, setLeads] = useState(show?.leads ?? true);
  const [hands, setHands] = useState(String(show?.hands ?? 1));
  const [trouble, setTrouble] = useState('');
  const write = useWriting(setTrouble);
  const num = (text: string) => (text.trim() === '' ? null : figureIn(text));

  const keep = () => {
    const written = {
      place,
      curtainMs: instantOf(at, zone),
      minutes: num(minutes),
      intervalMin: num(interval),
      toleranceCents: num(tolerance),
      thereC: num(there),
      hands: num(hands),
      school,
      leads,
      roles,
      ...(show?.effort === undefined ? {} : { effort: show.effort }),
    };
    const read = readShow(written, nowMs());
    setTrouble('fault' in read ? read.fault : '');
    if ('drafts' in read) void write(read.drafts, onClose);
  };

  return (
    <Modal open title="The show" onClose={onClose}>
      <form
        noValidate
        className="grid gap-3 text-sm"
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <label className="flex flex-wrap items-center justify-between gap-2">
          Where <input className={field} value={place} maxLength={80} onChange={(e) => setPlace(e.target.value)} />
        </label>
        <label className="flex flex-wrap items-center justify-between gap-2">
          Show starts
          <input type="datetime-local" className={field} value={at} onChange={(e) => setAt(e.target.value)} />
        </label>
        <div className="flex flex-wrap gap-4">
          <label>
            Length, min{' '}
            <input
              inputMode="decimal"
              className={`${field} w-16`}
              value={minutes}
              onChange={(e) => setMinutes(e.target.value)}
            />
          </label>
          <label>
            Interval after, min{' '}
            <input
              inputMode="decimal"
              className={`${field} w-16`}
              value={interval}
              onChange={(e) => setIntervalAt(e.target.value)}
            />
          </label>
        </div>
        <div className="flex flex-wrap gap-4">
          <label>
            Within ± cents{' '}
            <input
              inputMode="decimal"
              className={`${field} w-16`}
              value={tolerance}
              onChange={(e) => setTolerance(e.target.value)}
            />
          </label>
          <label>
            There, °C{' '}
            <input
              inputMode="decimal"
              className={`${field} w-16`}
              value={there}
              onChange={(e) => setThere(e.target.value)}
            />
          </label>
        </div>
        <Who all={bench.instruments.map((i) => i.record)} roles={roles} onRoles={setRoles} />
        <div className="flex flex-wrap gap-4">
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={leads} onChange={() => setLeads((l) => !l)} />
            Leave strings that will fall a little sharp
          </label>
          <label>
            People who tune{' '}
            <input
              inputMode="numeric"
              className={`${field} w-12`}
              value={hands}
              onChange={(e) => setHands(e.target.value)}
            />
          </label>
        </div>
        <fieldset>
          <legend className="font-semibold">New strings</legend>
          {READY_SCHOOLS.map((s) => (
            <label key={s} className="flex items-center gap-1.5">
              <input type="radio" name="school" checked={school === s} onChange={() => setSchool(s)} />
              {SCHOOLS[s]}
            </label>
          ))}
        </fieldset>
        {trouble && (
          <p role="alert" className="text-rust">
            {trouble}
          </p>
        )}
        <div className="flex gap-2">
          <Button strong type="submit">
            Plan it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Modal>
  );
}
