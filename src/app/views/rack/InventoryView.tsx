import { counted } from '../../../core/base';
import { v4 as newId } from 'uuid';
import { useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import {
  checkInventory,
  guessColumns,
  INVENTORY_FIELDS,
  inventoryDrafts,
  readTable,
  readText,
  type Columns,
  type InventoryField,
} from '../../../core/exchange';
import { Button } from '../../parts/Button';
import { FileInput } from '../../parts/FileInput';
import { saveFile } from '../../parts/saveFile';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';

const WORDS: Record<InventoryField, string> = {
  name: 'Name',
  family: 'Kind of instrument',
  owner: 'Owner',
  place: 'Place',
  tags: 'Tags',
  code: 'Short code',
  strung: 'New strings on',
};
const NEEDED: readonly InventoryField[] = ['name', 'family'];
/** Rows shown of a list that is right. */
const SHOWN = 8;
const EXAMPLE =
  'Name,Kind,Owner,Place,Tags,Code,Strung\r\nSchool viola 1,Viola,Orchestra,Locker 3,school,V-1,2026-05-31\r\n';

/** A list of instruments comes in: its columns are matched, every row is checked, and nothing is written before all is right. */
export function InventoryView() {
  const { bench, basePath, nowMs, zone } = useWorld();
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [message, say] = useState('');
  const [list, setList] = useState<{ name: string; header: string[]; rows: string[][] } | undefined>(undefined);
  const [columns, setColumns] = useState<Columns>({});
  const write = useWriting(say);
  const taken = useMemo(() => bench.instruments.map(({ record }) => record.name), [bench]);
  const checked = useMemo(
    () => list && checkInventory(list.rows, columns, taken, nowMs(), zone),
    [list, columns, taken, nowMs, zone],
  );
  const open = async (f: File) => {
    const said = await readText(f);
    const table = said.ok ? readTable(said.text) : said;
    if (!table.ok) {
      setList(undefined);
      return say(`${f.name}: ${table.message}`);
    }
    say('');
    setList({ name: f.name, header: table.header, rows: table.rows });
    setColumns(guessColumns(table.header));
  };
  const ready = checked !== undefined && checked.faults.length === 0 && checked.rows.length > 0;
  const take = () =>
    ready &&
    void write(
      checked.rows.flatMap((row) => inventoryDrafts(row, newId())),
      () => void navigate(`${basePath}/rack`),
      list!.name,
    );
  return (
    <div className="mx-auto w-full max-w-4xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">Import a list of instruments</h1>
      <p className="pt-1 text-sm">
        A CSV file from a spreadsheet: a line of headings, then a line for each instrument. Every line is checked first.
        Nothing is written before all is right.
      </p>
      <div className="flex flex-wrap gap-2 py-4">
        <Button strong={!list} onClick={() => file.current?.click()}>
          {list ? 'Choose the file again' : 'Choose a CSV file'}
        </Button>
        <Button onClick={() => saveFile('instruments-example.csv', EXAMPLE, 'text/csv')}>Save an example</Button>
        <FileInput
          ref={file}
          accept=".csv,text/csv,text/plain"
          label="List of instruments"
          onFile={(f) => void open(f)}
        />
      </div>
      <p role="status" data-testid="message" className="min-h-6 text-sm font-semibold">
        {message}
      </p>
      {list && checked && (
        <>
          <h2 className="pb-1 font-semibold">
            {list.name}: {list.rows.length} instruments. What each column holds
          </h2>
          <div className="grid grid-cols-2 gap-x-6 gap-y-1.5 pb-4 text-sm max-sm:grid-cols-1">
            {INVENTORY_FIELDS.map((field) => (
              <label key={field} className="flex items-center justify-between gap-2">
                <span>
                  {WORDS[field]}
                  {NEEDED.includes(field) && <span className="text-ink2"> (needed)</span>}
                </span>
                <select
                  value={columns[field] ?? ''}
                  onChange={(e) =>
                    setColumns((c) => ({ ...c, [field]: e.target.value === '' ? undefined : Number(e.target.value) }))
                  }
                  className="w-56 rounded-md border border-ink2 bg-sheet px-2 py-1"
                >
                  <option value="">none</option>
                  {list.header.map((h, i) => (
                    <option key={`${h}${i}`} value={i}>
                      {h || `column ${i + 1}`}
                    </option>
                  ))}
                </select>
              </label>
            ))}
          </div>
          {checked.faults.length > 0 && (
            <section aria-label="What is to be mended" className="pb-4">
              <h2 className="pb-1 font-semibold text-rust">
                {counted(checked.faults.length, 'thing is', 'things are')} to be mended. Nothing is written yet.
              </h2>
              <ol className="max-h-72 overflow-y-auto text-sm">
                {checked.faults.map((f) => (
                  <li key={`${f.line}${f.message}`} className="flex gap-3 border-b border-line py-1">
                    <span className="figure w-16 shrink-0 text-ink2">line {f.line}</span>
                    {f.message}
                  </li>
                ))}
              </ol>
            </section>
          )}
          {ready && (
            <ul aria-label="What will come in" className="pb-3 text-sm">
              {checked.rows.slice(0, SHOWN).map((r) => (
                <li key={r.name} className="border-b border-line py-1">
                  <b>{r.name}</b>, {r.family.name}
                  {[r.owner, r.place, ...r.tags].filter(Boolean).map((s) => `, ${s}`)}
                </li>
              ))}
              {checked.rows.length > SHOWN && <li className="py-1">and {checked.rows.length - SHOWN} more</li>}
            </ul>
          )}
          <Button strong disabled={!ready} onClick={take}>
            Import {checked.rows.length} instruments
          </Button>
        </>
      )}
    </div>
  );
}
