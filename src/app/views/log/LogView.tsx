import { useMemo, useRef, useState } from 'react';
import { localIso } from '../../../core/exchange';
import { namesIn, sayRecord, type LogRecord } from '../../../core/log';
import { Button } from '../../parts/Button';
import { FileInput } from '../../parts/FileInput';
import { FirstStep, LogSketch } from '../../parts/FirstStep';
import { clockTime } from '../../parts/format';
import { saveFile } from '../../parts/saveFile';
import { reasonOf } from '../../world/database';
import { useWorld } from '../../world/world';

const SHOWN = 200;

/** The newest records, the newest first; in a long log only those are put in order. */
function newestOf(records: readonly LogRecord[]): LogRecord[] {
  const times = Float64Array.from(records, (r) => r.atMs).sort();
  const from = times[Math.max(0, times.length - SHOWN)] ?? 0;
  return records
    .filter((r) => r.atMs >= from)
    .sort((a, b) => b.atMs - a.atMs)
    .slice(0, SHOWN);
}

/** Every record, newest first, with export and import. */
export function LogView() {
  const { records, ask, basePath, nowMs, world, lasting, damaged } = useWorld();
  const [message, setMessage] = useState('');
  /** The file being taken in, and how far it is. */
  const [taking, setTaking] = useState<{ name: string; done: number; call: AbortController } | undefined>(undefined);
  const input = useRef<HTMLInputElement>(null);
  const newest = useMemo(() => newestOf(records), [records]);
  const superseded = useMemo(() => new Set(records.flatMap((r) => r.supersedes ?? [])), [records]);
  const names = useMemo(() => namesIn(records), [records]);
  const stem = `slow-anchor-${world === 'demo' ? 'demonstration-' : ''}${localIso(nowMs(), 0).slice(0, 10)}`;

  async function take(file: File) {
    const call = new AbortController();
    setMessage('');
    setTaking({ name: file.name, done: 0, call });
    const onProgress = (done: number) => setTaking((t) => t && { ...t, done });
    try {
      const became = await ask('import', { file }, { signal: call.signal, onProgress });
      if (!became.ok) setMessage(`${file.name}: ${became.message}`);
      else {
        const { fresh, known, strangers } = became;
        const stray = strangers > 0 ? ` ${strangers} readings belong to instruments that are not here.` : '';
        setMessage(`${file.name}: ${fresh} new entries, ${known} were here already.${stray}`);
      }
    } catch (error) {
      setMessage(
        call.signal.aborted ? `${file.name}: cancelled. Nothing was imported.` : `${file.name}: ${reasonOf(error)}`,
      );
    }
    setTaking(undefined);
  }

  const give = (as: 'json' | 'csv', name: string) =>
    ask('export', { as, nowMs: Math.round(nowMs()) }).then(
      (blob) => saveFile(name, blob),
      (error: unknown) => setMessage(`No file was written: ${reasonOf(error)}.`),
    );

  return (
    <div className="mx-auto w-full max-w-4xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">History</h1>
      <p className="pt-1 text-sm text-ink2">
        Nothing here is ever changed: a correction is a new entry. Everything stays on this device until you export it.
      </p>
      <div className="flex flex-wrap gap-2 py-4">
        <Button strong onClick={() => void give('json', `${stem}.json`)}>
          Export everything (JSON)
        </Button>
        <Button onClick={() => void give('csv', `${stem}-readings.csv`)}>Export readings (CSV)</Button>
        <Button onClick={() => input.current?.click()}>Import a JSON export</Button>
        <FileInput ref={input} accept=".json,application/json" label="JSON export" onFile={(file) => void take(file)} />
      </div>
      {taking && (
        <p className="flex items-center gap-3 text-sm">
          <span>
            {taking.name} is being checked, {Math.floor(100 * taking.done)} %
          </span>
          <progress className="accent-deep" max={1} value={taking.done} aria-label={`Checking ${taking.name}`} />
          <Button onClick={() => taking.call.abort()}>Cancel</Button>
        </p>
      )}
      {lasting === false && world === 'own' && (
        <p className="pb-2 text-sm">
          This browser has not promised to keep the log: it may let go of it when room runs short, and a private window
          takes it along when it is closed. Export it at the end of the day.
        </p>
      )}
      {damaged.length > 0 && (
        <p role="alert" className="flex flex-wrap items-center gap-3 pb-2 text-sm text-rust">
          {damaged.length} stored {damaged.length === 1 ? 'piece' : 'pieces'} of this log could not be read: set aside,
          not dropped.{' '}
          <Button
            onClick={() => saveFile('slow-anchor-set-aside.json', JSON.stringify(damaged, null, 1), 'application/json')}
          >
            Export what could not be read
          </Button>
        </p>
      )}
      <p role="status" data-testid="log-message" className="min-h-6 text-sm font-semibold">
        {message}
      </p>
      <p className="pb-2 text-sm text-ink2">
        <span data-testid="record-count">{records.length}</span> records
        {records.length > SHOWN && `, the newest ${SHOWN} shown`}
      </p>
      {records.length === 0 && (
        <FirstStep drawing={<LogSketch />} to={`${basePath}/add`} words="Add an instrument">
          Nothing is here yet. Everything you read, put on or move is listed here with its time. You can also import
          what another device exported.
        </FirstStep>
      )}
      <ol className="border-t border-line">
        {newest.map((r) => {
          const day = localIso(r.atMs, r.zoneMin).slice(0, 10);
          return (
            <li key={r.id} className="flex gap-4 border-b border-line py-1.5 text-sm">
              <span className="figure w-36 shrink-0 text-ink2">
                {day} {clockTime(r.atMs, r.zoneMin)}
              </span>
              <span className={superseded.has(r.id) ? 'text-ink2 line-through' : ''}>
                {sayRecord(r, names)}
                {superseded.has(r.id) && <span className="sr-only"> (superseded)</span>}
              </span>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
