import { useDeferredValue, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { localDay } from '../../../core/base';
import { KIND_WORDS, RECORD_KINDS, type Draft, type LogRecord, type RecordType } from '../../../core/log';
import { EditReading } from '../../parts/EditReading';
import { clockTime } from '../../parts/format';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { useRows } from '../../parts/rows';
import { useAskedEach } from '../../world/asked';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';

const ROW_PX = 34;
/** So many rows are asked for at once. */
const PAGE = 60;
/** What is not a thing of its own: another entry says how it ended. */
const FIXED: readonly RecordType[] = ['taken-back', 'instrument', 'pass'];
const choose = 'rounded-md border border-ink2 bg-sheet px-2 py-1';

/** The entries of the log, found by instrument, string, kind, day and words; a wrong one is corrected where it stands. */
export function Entries() {
  const { count, bench, world, nowMs, zone, planAt } = useWorld();
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState('');
  const [message, say] = useState('');
  const [editing, setEditing] = useState<string | undefined>(undefined);
  const write = useWriting(say);
  const sought = useDeferredValue(text);
  const given = (name: string) => params.get(name) ?? undefined;
  const [instrumentId, stringId, type, from] = ['instrument', 'string', 'kind', 'from'].map(given);
  const set = (name: string, value: string) =>
    setParams((p) => {
      if (value) p.set(name, value);
      else p.delete(name);
      if (name === 'instrument') p.delete('string');
      return p;
    });
  const differ = given('differ') !== undefined;
  const wanted = { instrumentId, stringId, type: type as RecordType | undefined, from, text: sought, differ };
  const scroller = useRef<HTMLDivElement>(null);
  const [found, setFound] = useState(0);
  const virtual = useRows(scroller, found, ROW_PX);
  const shown = virtual.getVirtualItems();
  const pages = [...new Set([0, ...shown.map(({ index }) => Math.floor(index / PAGE))])];
  const { data, error } = useAskedEach(
    pages.map((p) => ({
      question: 'entries',
      subject: String(p),
      of: bench,
      ask: { wanted, from: p * PAGE, count: PAGE, zone },
    })),
  );
  const first = data[0];
  if (first && first.found !== found) setFound(first.found);
  const at = (index: number) => data[pages.indexOf(Math.floor(index / PAGE))]?.rows[index % PAGE];
  const reading = data.flatMap((d) => d?.rows ?? []).find(({ record }) => record.id === editing)?.record;
  const life = bench.instruments.find((i) => i.record.instrumentId === instrumentId);
  const lifeOf = (r: LogRecord) =>
    r.type === 'reading' ? bench.instruments.find((i) => i.record.instrumentId === r.instrumentId) : undefined;
  const bringBack = (r: LogRecord, said: string) =>
    void write([{ type: 'taken-back', supersedes: r.id }], () => say(`${said.replace('Taken back', 'Brought back')}.`));
  const takeBack = (r: LogRecord, said: string) =>
    void write([{ type: 'taken-back', supersedes: r.id }], () => say(`Taken back: ${said}.`));
  /** What another correction had replaced is written anew over that. */
  const standInstead = (r: LogRecord, stands: string, said: string) => {
    const { id: _id, version: _version, zoneMin: _zone, written: _written, ...draft } = r;
    void write([{ ...draft, supersedes: stands } as Draft], () => say(`It stands again: ${said}.`));
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 pb-2 text-sm">
        <input
          type="search"
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-label="Words in an entry"
          placeholder="Words in an entry"
          className={`${choose} w-52`}
        />
        <select
          aria-label="Which instrument"
          className={choose}
          value={instrumentId ?? ''}
          onChange={(e) => set('instrument', e.target.value)}
        >
          <option value="">all instruments</option>
          {bench.instruments.map(({ record }) => (
            <option key={record.instrumentId} value={record.instrumentId}>
              {record.name}
            </option>
          ))}
        </select>
        {life && (
          <select
            aria-label="Which string"
            className={choose}
            value={stringId ?? ''}
            onChange={(e) => set('string', e.target.value)}
          >
            <option value="">all strings</option>
            {life.strings.map(({ plan }) => (
              <option key={plan.stringId} value={plan.stringId}>
                {plan.note}
              </option>
            ))}
          </select>
        )}
        <select
          aria-label="Which kind"
          className={choose}
          value={type ?? ''}
          onChange={(e) => set('kind', e.target.value)}
        >
          <option value="">everything</option>
          {RECORD_KINDS.map((k) => (
            <option key={k.type} value={k.type}>
              {KIND_WORDS[k.type]}
            </option>
          ))}
        </select>
        <label>
          from <input type="date" className={choose} value={from ?? ''} onChange={(e) => set('from', e.target.value)} />
        </label>
        {differ && (
          <button type="button" className="text-deep underline" onClick={() => set('differ', '')}>
            Only what was corrected differently: show all
          </button>
        )}
        <span className="text-ink2">
          {first ? <span data-testid="record-count">{first.found}</span> : 'looking through'} of {count} records
        </span>
      </div>
      <p role="status" data-testid="entry-message" className="min-h-5 text-sm font-semibold">
        {message}
      </p>
      <NotWorkedOut error={error} what="What was looked for" />
      <div
        ref={scroller}
        tabIndex={0}
        aria-label="Entries"
        role="group"
        className="h-[60vh] overflow-y-auto border-y border-line"
      >
        <ol className="relative" style={{ height: virtual.getTotalSize() }}>
          {shown.map(({ index, start }) => {
            const row = at(index);
            if (!row) return null;
            const { record: r, said, gone: isGone, instead } = row;
            const of = lifeOf(r);
            return (
              <li
                key={r.id}
                ref={virtual.measureElement}
                data-index={index}
                className="group absolute right-0 left-0 flex gap-4 border-b border-line py-1.5 text-sm"
                style={{ transform: `translateY(${start}px)` }}
              >
                <span className="figure w-36 shrink-0 text-ink2">
                  {localDay(r.atMs, r.zoneMin)} {clockTime(r.atMs, r.zoneMin)}
                </span>
                <span className={isGone ? 'flex-1 text-ink2 line-through' : 'flex-1'}>
                  {said}
                  {isGone && <span className="sr-only"> (superseded)</span>}
                </span>
                {instead !== undefined && (
                  <span className="flex shrink-0 gap-2 pr-2">
                    corrected differently
                    <button
                      type="button"
                      className="text-deep underline"
                      onClick={() => standInstead(r, instead, said)}
                    >
                      Use this one
                    </button>
                  </span>
                )}
                {!isGone && r.type === 'taken-back' && (
                  <button
                    type="button"
                    className="shrink-0 pr-2 text-deep underline"
                    onClick={() => bringBack(r, said)}
                  >
                    Bring it back
                  </button>
                )}
                {!isGone && !FIXED.includes(r.type) && (
                  <span className="flex shrink-0 gap-2 pr-2">
                    {of && (
                      <button type="button" className="text-deep underline" onClick={() => (say(''), setEditing(r.id))}>
                        Correct
                      </button>
                    )}
                    <button type="button" className="text-deep underline" onClick={() => takeBack(r, said)}>
                      Take back
                    </button>
                  </span>
                )}
              </li>
            );
          })}
        </ol>
      </div>
      {reading?.type === 'reading' && (
        <EditReading
          key={`${world}/${reading.id}`}
          life={lifeOf(reading)!}
          reading={reading}
          zone={zone}
          planAt={planAt}
          nowMs={nowMs}
          trouble={message}
          onSave={(draft) =>
            void write([draft], () => {
              setEditing(undefined);
              say('Corrected. The first figure stays, struck through.');
            })
          }
          onClose={() => setEditing(undefined)}
        />
      )}
    </>
  );
}
