import { localIso, MINUTE } from '../base';
import Papa from 'papaparse';
import { standing, type FittedRecord, type InstrumentRecord, type LogRecord } from '../log';

/** What a spreadsheet would run as a formula, also in full width or behind a break; a true number is none. */
const FORMULA = /^(?![+-]?\d+(\.\d+)?([eE][+-]?\d+)?$)[=+\-@＝＋－＠\t\r\n]/;
const NUMBER = /^[+-]?\d+(\.\d+)?$/;

const COLUMNS = [
  'time (UTC)',
  'time (local)',
  'instrument (id)',
  'instrument',
  'string (number)',
  'note',
  'string age (min)',
  'purpose',
  'source',
  'offset (cents)',
  'standard error (cents)',
  'frequency (Hz)',
  'target (Hz)',
  'reference A4 (Hz)',
  'arrived',
  'room (deg C)',
] as const;

/** All standing readings as CSV (RFC 4180), UTC and local times, units in the headers. */
export function readingsCsv(records: readonly LogRecord[]): string {
  const live = standing(records);
  const instruments = new Map(
    live.filter((r): r is InstrumentRecord => r.type === 'instrument').map((r) => [r.instrumentId, r]),
  );
  /** When the string in a place was put on last, as the log goes on. */
  const fitted = new Map<string, FittedRecord>();
  const rows = live.flatMap((r) => {
    if (r.type === 'fitted') fitted.set(`${r.instrumentId}/${r.stringId}`, r);
    if (r.type === 'removed') fitted.delete(`${r.instrumentId}/${r.stringId}`);
    if (r.type !== 'reading') return [];
    const strung = fitted.get(`${r.instrumentId}/${r.stringId}`);
    const instrument = instruments.get(r.instrumentId);
    const index = instrument?.strings.findIndex((s) => s.stringId === r.stringId) ?? -1;
    const row: Record<(typeof COLUMNS)[number], string> = {
      'time (UTC)': new Date(r.atMs).toISOString(),
      'time (local)': localIso(r.atMs, r.zoneMin),
      'instrument (id)': r.instrumentId,
      instrument: instrument?.name ?? r.instrumentId,
      'string (number)': index >= 0 ? String(index + 1) : '',
      note: instrument?.strings[index]?.note ?? '',
      'string age (min)': strung ? ((r.atMs - strung.atMs) / MINUTE).toFixed(1) : '',
      purpose: r.purpose,
      source: r.source,
      'offset (cents)': r.cents.toFixed(3),
      'standard error (cents)': r.sigmaCents.toFixed(3),
      'frequency (Hz)': r.frequencyHz.toFixed(5),
      'target (Hz)': r.targetHz.toFixed(5),
      'reference A4 (Hz)': r.a4Hz.toFixed(2),
      arrived: r.arrival ?? '',
      'room (deg C)': r.tempC?.toFixed(1) ?? '',
    };
    return [row];
  });
  // A header stands also over no readings; text is quoted, a figure is not.
  const table = [[...COLUMNS], ...rows.map((row) => COLUMNS.map((c) => row[c]))];
  const quotes = (cell: unknown) => !NUMBER.test(String(cell));
  return Papa.unparse(table, { newline: '\r\n', escapeFormulae: FORMULA, quotes }) + '\r\n';
}
