import { checkRecord, RECORD_VERSION } from '../log';
import type { Zone } from '../base';
import { FAMILIES } from '../strings';
import { checkInventory, guessColumns, inventoryDrafts, readTable } from '.';

const NOW = Date.UTC(2026, 5, 20);
const check = (text: string, taken: string[] = [], nowMs = NOW, zone: Zone = 0) => {
  const table = readTable(text);
  if (!table.ok) throw new Error(table.message);
  return checkInventory(table.rows, guessColumns(table.header), taken, nowMs, zone);
};
const HEAD = 'Name;Kind;Owner;Place;Tags;Code;Strung\n';

test('a list with another separator, a mark at its beginning and quoted cells is read, its columns found by their headings', () => {
  const { rows, faults } = check(
    `\uFEFF${HEAD}"Viola; school";viola;Orchestra;Locker 3;"school, loan";V-1;2026-05-31\n`,
  );
  expect(faults).toEqual([]);
  expect(rows[0]).toMatchObject({ name: 'Viola; school', owner: 'Orchestra', tags: ['school', 'loan'], code: 'V-1' });
  expect(rows[0]!.family.code).toBe('viola');
  const drafts = inventoryDrafts(rows[0]!, 'new');
  expect(drafts.map((d) => d.type)).toEqual(['instrument', 'about', 'fitted', 'fitted', 'fitted', 'fitted']);
  for (const d of drafts)
    expect(checkRecord({ id: 'a', version: RECORD_VERSION, atMs: NOW, zoneMin: 0, ...d })).toMatchObject({ ok: true });
});

test('every fault is told with its line, and a row with one is not taken', () => {
  const { rows, faults } = check(
    `${HEAD}One;viola;;;;;\nOne;viola;;;;;\n;viola;;;;;\nTwo;steam organ;;;;;\nThree;viola;;;;no code!;\nFour;viola;;;;;31 May\nFive;viola;;;;;2027-01-01\nSix;viola;;;;;\n`,
    ['Six'],
  );
  expect(rows.map((r) => r.name)).toEqual(['One']);
  expect(faults.map((f) => f.line)).toEqual([3, 4, 5, 6, 7, 8, 9]);
  expect(faults.map((f) => f.message).join(' ')).toMatch(
    /line 2 too.*name is missing.*steam organ.*no code!.*no date.*to come.*on the bench already/,
  );
});

test('a day is one of here: strung today is so in the morning too, and no 30th of February is the 2nd of March', () => {
  const morning = Date.UTC(2026, 9, 25, 7);
  const on = (day: string) => check(`Name,Kind,Strung\nX,viola,${day}\n`, [], morning, 'Europe/Berlin');
  expect(on('2026-10-25').rows[0]!.strungMs).toBe(morning);
  // The day before is still in summer time.
  expect(on('2026-10-24').rows[0]!.strungMs).toBe(Date.UTC(2026, 9, 24, 10));
  expect(on('2026-10-26').faults[0]!.message).toContain('to come');
  expect(on('2026-02-30').faults[0]!.message).toContain('no date');
});

test('every kind of instrument here is found by its own name; an empty file, an open quotation mark and too many rows are said', () => {
  for (const f of FAMILIES) expect(check(`Name,Kind\nX,"${f.name}"\n`).rows[0]!.family.code).toBe(f.code);
  expect(readTable('')).toMatchObject({ ok: false, message: expect.stringContaining('no rows') });
  expect(readTable('Name,Kind\n"X,viola\n')).toMatchObject({
    ok: false,
    message: expect.stringContaining('quotation mark'),
  });
  expect(readTable(`Name${',x'.repeat(1_000_000)}\nX\n`)).toMatchObject({
    ok: false,
    message: 'The list has 1000001 columns. 200 can be told apart.',
  });
  expect(readTable(`Name\n${'x\n'.repeat(2001)}`)).toMatchObject({
    ok: false,
    message: expect.stringContaining('2000'),
  });
});

test('what the log would not take is told by its line: a name of signs that nobody sees', () => {
  const { rows, faults } = check(`Name,Kind\n\u200B\u200D\u2060,viola\nSeen,viola\n`);
  expect(rows.map((r) => r.name)).toEqual(['Seen']);
  expect(faults).toEqual([{ line: 2, message: 'A name has a letter, a figure or a sign that can be seen.' }]);
});
