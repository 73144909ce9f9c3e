import { useRef, useState } from 'react';
import { newRecords, readingsCsv, readLogFile, writeLogFile } from '../../../core/exchange';
import type { InstrumentRecord, LogRecord } from '../../../core/records';
import { Button } from '../../parts/Button';
import { clockTime, signed } from '../../parts/format';
import { saveFile } from '../../parts/saveFile';
import { useWorld } from '../../store/world';

const SHOWN = 200;

/** What a record says, in a line. */
function sentence(r: LogRecord, instruments: Map<string, InstrumentRecord>): string {
  const note = (instrumentId: string, stringId: string) => {
    const i = instruments.get(instrumentId);
    return `${i?.name ?? instrumentId}, ${i?.strings.find((s) => s.stringId === stringId)?.note ?? stringId}`;
  };
  switch (r.type) {
    case 'instrument':
      return `${r.name}: ${r.strings.map((s) => s.note).join(' ')}${r.away ? ', put away' : ''}`;
    case 'fitted':
      return `${note(r.instrumentId, r.stringId)}: new string${r.windings ? `, ${r.windings} turns` : ''}`;
    case 'removed':
      return `${note(r.instrumentId, r.stringId)}: taken off, ${r.reason}${r.place ? ` at the ${r.place}` : ''}`;
    case 'fitting':
      return `${r.stringId ? note(r.instrumentId, r.stringId) : (instruments.get(r.instrumentId)?.name ?? r.instrumentId)}: ${r.step.replaceAll('-', ' ')} ${r.outcome}${r.note ? ` (${r.note})` : ''}`;
    case 'treatment':
      return `${r.stringIds.map((s) => note(r.instrumentId, s)).join('; ')}: ${r.treatment}${r.note ? ` (${r.note})` : ''}`;
    case 'round':
      return `${note(r.instrumentId, r.stringId)}: stretch round, dropped ${r.dropCents.toFixed(1)} cents`;
    case 'reading':
      return `${note(r.instrumentId, r.stringId)}: ${r.purpose} ${signed(r.cents)} ±${r.sigmaCents.toFixed(1)} cents (${r.source}${r.arrival && r.arrival !== 'untouched' ? `, ${r.arrival}` : ''})${r.slip ? ', slipped' : ''}`;
    case 'room':
      return `Room ${r.tempC.toFixed(1)} °C`;
    case 'reference':
      return `Reference A4 ${r.a4Hz.toFixed(1)} Hz`;
    case 'curtain':
      return r.curtainMs === null ? 'No curtain' : `Curtain at ${clockTime(r.curtainMs, r.zoneMin)}`;
    case 'session':
      return `Show at ${clockTime(r.curtainMs, r.zoneMin)}, ${r.place}: ${r.minutes} min, ±${r.toleranceCents} cents`;
    case 'trial':
      return `Trial: ${r.what}, ${r.pairs.length} pairs${r.byLot ? ', by lot' : ''}`;
    case 'touch':
      return `${note(r.instrumentId, r.stringId)}: ${r.touch === 'fret' ? `fret ${r.fret}` : r.touch} ${r.frequencyHz.toFixed(3)} Hz ±${r.sigmaCents.toFixed(1)} cents (${r.source})`;
    case 'adjustment':
      return `${r.stringIds.length === 1 ? note(r.instrumentId, r.stringIds[0]!) : (instruments.get(r.instrumentId)?.name ?? r.instrumentId)}: ${r.what.replace('-', ' ')} moved ${signed(r.moveMm)} mm`;
    case 'pass':
      return `${instruments.get(r.instrumentId)?.name ?? r.instrumentId}: ${r.kind} pass ${r.over ? 'ended' : r.skipped.length > 0 ? `goes on, ${r.skipped.length} skipped` : 'started'}`;
    case 'taken-back':
      return 'Took a record back';
  }
}

/** Every record, newest first, with export and import. */
export function LogView() {
  const { records, importRecords, nowMs, world } = useWorld();
  const [message, setMessage] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const superseded = new Set(records.flatMap((r) => (r.supersedes ? [r.supersedes] : [])));
  const instruments = new Map(
    records.filter((r): r is InstrumentRecord => r.type === 'instrument').map((r) => [r.instrumentId, r]),
  );
  const newest = [...records].sort((a, b) => b.atMs - a.atMs).slice(0, SHOWN);
  const stem = `slow-anchor-${world === 'demo' ? 'demonstration-' : ''}${new Date(nowMs()).toISOString().slice(0, 10)}`;

  async function take(file: File) {
    const read = readLogFile(await file.text());
    if (!read.ok) {
      setMessage(`${file.name}: ${read.message}`);
      return;
    }
    const fresh = newRecords(records, read.records);
    try {
      await importRecords(fresh);
      setMessage(
        `${file.name}: ${fresh.length} new records kept, ${read.records.length - fresh.length} were here already.`,
      );
    } catch (error) {
      setMessage((error as Error).message);
    }
  }

  return (
    <div className="mx-auto w-full max-w-4xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">Log</h1>
      <p className="pt-1 text-sm text-ink2">
        Nothing here is ever changed: a correction is a new record. All of it stays on this device until you export it.
      </p>
      <div className="flex flex-wrap gap-2 py-4">
        <Button
          strong
          onClick={() => saveFile(`${stem}.json`, writeLogFile(records, Math.round(nowMs())), 'application/json')}
        >
          Export everything (JSON)
        </Button>
        <Button onClick={() => saveFile(`${stem}-readings.csv`, readingsCsv(records), 'text/csv')}>
          Export readings (CSV)
        </Button>
        <Button onClick={() => input.current?.click()}>Import a JSON export</Button>
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          className="hidden"
          aria-label="JSON export"
          tabIndex={-1}
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void take(file);
            e.target.value = '';
          }}
        />
      </div>
      <p role="status" data-testid="log-message" className="min-h-6 text-sm font-semibold">
        {message}
      </p>
      <p className="pb-2 text-sm text-ink2">
        <span data-testid="record-count">{records.length}</span> records
        {records.length > SHOWN && `, the newest ${SHOWN} shown`}
      </p>
      <ol className="border-t border-line">
        {newest.map((r) => {
          const day = new Date(r.atMs + r.zoneMin * 60000).toISOString().slice(0, 10);
          return (
            <li key={r.id} className="flex gap-4 border-b border-line py-1.5 text-sm">
              <span className="figure w-36 shrink-0 text-ink2">
                {day} {clockTime(r.atMs, r.zoneMin)}
              </span>
              <span className={superseded.has(r.id) ? 'text-ink2 line-through' : ''}>
                {sentence(r, instruments)}
                {superseded.has(r.id) && <span className="sr-only"> (superseded)</span>}
              </span>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
