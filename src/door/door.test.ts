import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import { readLogFile, writeLogFile, writeWav } from '../core/exchange';
import type { LogRecord } from '../core/log';
import { addNoise, plainPluck, pluck, randomFrom } from '../core/simulate';
import { runCommand } from './commands';
import { MINUTE } from '../core/base';

const folder = mkdtempSync(join(tmpdir(), 'door-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** The door in this process: what it says to lines of input. */
async function door(args: string[], input = '') {
  const said: string[] = [];
  let stderr = '';
  const status = await runCommand(args, {
    input: () => Readable.from(input.split('\n')),
    tell: (line) => said.push(line),
    complain: (text) => (stderr += text),
  });
  return { status, lines: said.map((l) => JSON.parse(l) as Record<string, unknown>), stderr };
}

// Making it anew takes a minute, and the build has just done so with the same function.
jest.mock('../../demo/make', () => ({
  makeDemonstration: () => JSON.parse(readFileSync('public/demonstration.json', 'utf8')) as object,
}));

function recording(name: string, cents: number, seed: number, glideCents = 1): string {
  const random = randomFrom(seed);
  const out = new Float32Array(44100);
  const spec = plainPluck(110 * Math.pow(2, cents / 1200), {
    pluckAt: random.between(0.1, 0.2),
    rolloff: 1.1,
    decayS: 2,
    damping: 0.1,
    secondShare: 0,
    secondCents: 0,
    glideCents,
  });
  pluck(spec, 44100, random).render(out, 4000, out.length, 1);
  addNoise(out, 0.0003, random);
  const path = join(folder, name);
  writeFileSync(path, writeWav(out, 44100));
  return path;
}

test('measure: a line in, a line out, in order; faults are lines too', async () => {
  const low = recording('low.wav', -6, 1);
  const input = [
    { file: low, target: 'A2' },
    { file: low, target: 110, a4: 440 },
    { file: low, target: 'A2', a4: 432 },
    { file: join(folder, 'none.wav'), target: 'A2' },
    { file: low, target: 'H2' },
    { file: low, target: 'A2', a4: 500 },
  ]
    .map((l) => JSON.stringify(l))
    .join('\n');
  const { status, lines } = await door(['measure'], `${input}\nno json\n`);
  expect(status).toBe(0);
  expect(lines).toHaveLength(7);
  expect(lines[0]).toMatchObject({ file: low, ok: true });
  expect(Math.abs((lines[0]!.cents as number) + 6)).toBeLessThan(0.3);
  expect(lines[1]!.cents).toBeCloseTo(lines[0]!.cents as number, 3);
  expect(Math.abs((lines[2]!.cents as number) + 6 - 31.77)).toBeLessThan(0.3);
  expect((lines[0]!.partials as unknown[]).length).toBeGreaterThan(3);
  for (const key of ['frequencyHz', 'sigmaCents', 'inharmonicity', 'snrDb', 'fromS', 'toS', 'glideCents'])
    expect(typeof lines[0]![key]).toBe('number');
  expect(lines.slice(3).map((l) => l.reason)).toEqual(['unreadable-file', 'bad-target', 'bad-reference', 'bad-line']);
}, 60000);

test('change: two files of one string, how far it moved', async () => {
  const [from, to] = [recording('a.wav', -1, 2), recording('b.wav', -8, 3)];
  const { lines } = await door(['change'], JSON.stringify({ from, to, target: 'A2' }));
  expect(lines[0]).toMatchObject({ ok: true });
  expect(Math.abs((lines[0]!.cents as number) + 7)).toBeLessThan(0.2);
  expect(lines[0]!.partials).toBeGreaterThan(3);
}, 60000);

test('forecast: cases in, forecasts out; a bad case is refused alone', async () => {
  const good = {
    id: 'x',
    material: 'plain-nylon',
    issueT: 60,
    horizonsMin: [90, 1440],
    tolerances: [3, 5],
    performanceMin: 90,
    events: [
      { t: 0, kind: 'retune' },
      { t: 5, kind: 'read', cents: -20 },
      { t: 6, kind: 'retune' },
      { t: 59, kind: 'read', cents: -30, tempC: 20 },
    ],
  };
  const input = JSON.stringify({ format: 'settle-cases/1', cases: [good, { ...good, id: 'y', material: 'wood' }] });
  const { lines, status } = await door(['forecast'], input);
  expect(status).toBe(0);
  expect(lines[0]!.format).toBe('settle-forecasts/1');
  const [x, y] = lines[0]!.forecasts as [
    { fall: Record<string, Record<string, number>>; pHold: Record<string, number> },
    object,
  ];
  const day = x.fall['1440']!;
  expect(day.q05! < day.q10! && day.q10! < day.q50! && day.q50! < day.q90! && day.q90! < day.q95!).toBe(true);
  expect(day.mean).toBeGreaterThan(x.fall['90']!.mean!);
  expect(x.pHold['5']).toBeGreaterThan(x.pHold['3']!);
  expect(y).toMatchObject({ id: 'y', ok: false, reason: 'bad-case' });
  expect((await door(['forecast'], '{}')).lines[0]).toMatchObject({ ok: false, reason: 'bad-document' });
}, 60000);

test('figure: what is typed counts from where the string belongs, and is asked about far from where it was', async () => {
  const items = [
    { note: 'A4', text: '−7,2', offsetCents: 12, lastCents: -30 },
    { note: 'A4', text: '441 Hz' },
    { note: 'A4', text: '80', lastCents: -40 },
    { note: 'A4', text: '80', lastCents: -40, sure: true },
    { note: 'A4', text: 'flat' },
    { note: 'H', text: '1' },
    { note: 'A4', text: '1', a4: 100 },
    { note: 'A4' },
  ];
  const { lines, status } = await door(['figure'], items.map((i) => JSON.stringify(i)).join('\n'));
  expect(status).toBe(0);
  expect(lines[0]).toEqual({
    ok: true,
    is: 'reading',
    cents: -7.2,
    frequencyHz: expect.closeTo(440 * 2 ** (4.8 / 1200), 6),
    sigmaCents: 1,
  });
  expect(lines.map((l) => l.is ?? l.reason)).toEqual([
    'reading',
    'reading',
    'question',
    'reading',
    'bad-figure',
    'bad-target',
    'bad-reference',
    'bad-figure',
  ]);
});

test('string and rounds: lines in, lines out', async () => {
  const e4 = { material: 'plain-steel', gaugeMm: 0.254, lengthMm: 648, frequencyHz: 329.63 };
  const odd = [
    { ...e4, material: 'synthetic-bowed' },
    { ...e4, lengthMm: -1 },
    { ...e4, wound: true },
    { ...e4, material: 'synthetic-bowed', unitMassKgPerM: 5e-4 },
  ];
  const { lines } = await door(['string'], [e4, ...odd].map((l) => JSON.stringify(l)).join('\n'));
  expect(lines[0]).toMatchObject({ ok: true, tensionN: expect.closeTo(72.6, 1) as number });
  expect(lines.slice(1, 4).map((l) => l.reason)).toEqual(['unknown-physics', 'bad-string', 'unknown-physics']);
  expect(lines[4]).toMatchObject({ ok: true, shareOfBreaking: null });
  const rounds = await door(
    ['rounds'],
    '{"dropsCents":[30,18,11]}\n{"dropsCents":[8,1.2,0.9]}\n{"dropsCents":"many"}\n',
  );
  expect(rounds.lines.map((l) => [l.ok, l.stop])).toEqual([
    [true, false],
    [true, true],
    [false, undefined],
  ]);
}, 60000);

test('export-demo writes a log that can be imported; a misuse ends with 2', async () => {
  const path = join(folder, 'demo.json');
  const { lines, status } = await door(['export-demo', path]);
  const line = lines[0]!;
  expect(status).toBe(0);
  expect(line).toMatchObject({ ok: true, file: path });
  const read = readLogFile(readFileSync(path, 'utf8'));
  expect(read.ok && read.records.length).toBe(line.records);
  const nowhere = await door(['export-demo', join(folder, 'none', 'demo.json')]);
  expect([nowhere.status, nowhere.lines[0]!.reason]).toEqual([0, 'unwritable-file']);
  // Nothing but a plain file is written over, and nothing half is left.
  const pointer = join(folder, 'pointer.json');
  symlinkSync(path, pointer);
  for (const there of [folder, pointer])
    expect((await door(['export-demo', there])).lines[0]).toMatchObject({ ok: false, reason: 'unwritable-file' });
  expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  expect((await door(['sing'])).status).toBe(2);
  expect((await door(['measure', 'extra'])).status).toBe(2);
});

test('octave and bridge-line: a move, a verdict, refusals; trial: a document in, a ratio out', async () => {
  const sharp = 220 * Math.pow(2, 5 / 1200);
  const { lines } = await door(
    ['octave'],
    [
      { lengthMm: 648, openHz: 110, fret12Hz: sharp, threadMm: 0.5 },
      { lengthMm: 648, openHz: 110, fret12Hz: 220.01, harmonic12Hz: 220.02, inharmonicity: 3e-5, sigmaCents: 0.1 },
      { lengthMm: 648, openHz: 110, fret12Hz: 165 },
      { lengthMm: 648, openHz: 110 },
    ]
      .map((l) => JSON.stringify(l))
      .join('\n'),
  );
  expect(lines[0]).toMatchObject({ ok: true, verdict: 'saddle' });
  expect(lines[0]!.errorCents).toBeCloseTo(5, 6);
  expect(lines[0]!.moveMm).toBeCloseTo(1.88, 2);
  expect(lines[0]!.turns).toBeCloseTo(3.76, 2);
  expect(lines[1]).toMatchObject({ ok: true, verdict: 'in-tune' });
  expect(lines[2]).toMatchObject({ ok: false, reason: 'no-octave' });
  expect(lines[3]).toMatchObject({ ok: false, reason: 'bad-octave' });
  const bridge = await door(
    ['bridge-line'],
    `${JSON.stringify({ strings: [0, 30].map((acrossMm) => ({ acrossMm, lengthMm: 648, errorCents: acrossMm ? 0 : 5 })) })}\n{"strings":[]}`,
  );
  expect(bridge.lines[0]).toMatchObject({ ok: true, compensation: null });
  expect((bridge.lines[0]!.footMoves as { lowMm: number }).lowMm).toBeCloseTo(1.88, 2);
  expect(bridge.lines[1]).toMatchObject({ ok: false, reason: 'no-line' });

  const string = (slope: number) => [5, 20, 90, 400].map((t) => ({ t, fall: slope * Math.log1p(t / 1.5) }));
  const pairs = [20, 25, 18, 30, 22].map((s, i) => ({ treated: string(s * (0.5 + 0.01 * i)), control: string(s) }));
  const trial = await door(['trial'], JSON.stringify({ pairs }, null, 2));
  expect(trial.lines).toHaveLength(1);
  expect(trial.lines[0]).toMatchObject({ ok: true, pairs: 5, verdict: 'less' });
  expect((trial.lines[0]!.ratio as { q50: number }).q50).toBeCloseTo(0.52, 1);
  expect((await door(['trial'], '{"pairs":[]}')).lines[0]).toMatchObject({ ok: false, reason: 'too-few-readings' });
}, 60000);

/** The demonstration's log, as it is exported. */
function demonstrated(): { exportedMs: number; records: { instrumentId?: string }[] } {
  const { records } = JSON.parse(readFileSync('public/demonstration.json', 'utf8')) as { records: LogRecord[] };
  const exportedMs = Math.max(...records.map((r) => r.atMs)) + MINUTE;
  return JSON.parse(writeLogFile(records, exportedMs)) as ReturnType<typeof demonstrated>;
}

test('say: a log and a moment in, every statement of that moment out; a log without one is refused', async () => {
  const exported = demonstrated();
  const now = new Date(exported.exportedMs).toISOString();
  const { lines } = await door(['say'], `${JSON.stringify(exported)}\n${JSON.stringify({ now })}\n`);
  const { ok, statements } = lines[0] as unknown as { ok: boolean; statements: Record<string, unknown>[] };
  expect(ok).toBe(true);
  const kinds = new Set(statements.map((s) => s['kind']));
  for (const kind of ['state', 'offset-now', 'offset-at', 'hold-chance', 'friction', 'lead', 'next-thing'])
    expect(kinds).toContain(kind);
  expect((await door(['say'], JSON.stringify(exported))).lines[0]).toMatchObject({ ok: false, reason: 'bad-now' });
  expect((await door(['say'], JSON.stringify({ now }))).lines[0]).toMatchObject({ ok: false, reason: 'bad-log' });
});

test('plan: the demonstration and a session in, items in order of time out, in the way the times were given', async () => {
  const exported = demonstrated();
  const session = { at: '2026-06-12T17:30:00Z', minutes: 90, toleranceCents: 3 };
  const now = new Date(exported.exportedMs).toISOString();
  const { lines } = await door(['plan'], JSON.stringify({ ...exported, session, now }));
  expect(lines).toHaveLength(1);
  const items = lines[0]!.items as { at: string; instrument: string; strings: string[]; what: string; why: string }[];
  expect(items.map((i) => i.at)).toEqual([...items.map((i) => i.at)].sort());
  expect(
    items
      .filter((i) => i.what === 'last-tuning')
      .map((i) => i.instrument)
      .sort(),
  ).toEqual(['baritone', 'bouzouki', 'kantele', 'requinto', 'viola']);
  expect(items.every((i) => i.strings.length > 0 && i.why.length > 10 && i.at >= now)).toBe(true);
  // The export and the session one after the other are the same; faults are told.
  const viola = { ...exported, records: exported.records.filter((r) => r.instrumentId === 'viola') };
  const alone = (await door(['plan'], JSON.stringify({ ...viola, session, now }))).lines;
  for (const space of [undefined, 1])
    expect(
      (await door(['plan'], `${JSON.stringify(viola, null, space)}\n${JSON.stringify({ session, now })}\n`)).lines,
    ).toEqual(alone);
  expect((await door(['plan'], JSON.stringify({ ...exported, session }))).lines[0]).toMatchObject({
    reason: 'bad-session',
  });
  expect((await door(['plan'], '{"session":{}}')).lines[0]).toMatchObject({ ok: false, reason: 'bad-log' });
}, 240000);

test('documents a line each are answered at once, before the input ends; a reader that goes away ends it quietly', async () => {
  const child = spawn(process.execPath, ['scripts/door.mjs', 'trial']);
  const answers = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
  for (let i = 0; i < 2; i++) {
    child.stdin.write('{"pairs":[]}\n');
    expect(JSON.parse((await answers.next()).value as string)).toMatchObject({ reason: 'too-few-readings' });
  }
  let said = '';
  child.stderr.on('data', (data) => (said += String(data)));
  child.stdout.destroy();
  child.stdin.end('{"pairs":[]}\n'.repeat(2000));
  const status = await new Promise((resolve) => child.on('close', resolve));
  expect([status, said]).toEqual([0, '']);
}, 60000);

test('documents are told apart as they come: a broken one keeps nobody waiting, and no text is read twice over', async () => {
  const reasons = async (text: string) => (await door(['trial'], text)).lines.map((l) => l.reason);
  const good = '{"pairs":[]}';
  const answered = 'too-few-readings';
  // After a document that breaks, and one that was not ended, the next is read; over several lines, or several on one.
  expect(await reasons(`{"pairs":[}\n${good}`)).toEqual(['bad-line', answered]);
  expect(await reasons(`{"pairs":[]\n${good}\n${good}`)).toEqual(['bad-line', answered, answered]);
  expect(await reasons(`{"pairs":\n${good}`)).toEqual(['bad-line', answered]);
  expect(await reasons(`${good}${good}\n{\n "pairs":\n []\n}\n[1]\n${good}`)).toEqual([
    answered,
    answered,
    answered,
    'bad-line',
    answered,
  ]);
  expect(await reasons(`{\n "pairs": [\n  ]]\n}\n${good}`)).toEqual(['bad-line', answered]);
  // What once took minutes: each of these is refused in one pass.
  expect(await reasons('} {"now"'.repeat(150000))).toEqual(['bad-line']);
  const open = await reasons('{"a":[{}\n'.repeat(3000));
  expect(new Set(open)).toEqual(new Set(['bad-line']));
  const nested = await reasons(`${'{"a":\n'.repeat(20000)}${good}`);
  expect(new Set(nested.slice(0, -1))).toEqual(new Set(['bad-line']));
});

test('one guard for every command: too deep, too large and no objects are refused, and the next line is answered', async () => {
  const good = JSON.stringify({ dropsCents: [30, 12] });
  const input = ['['.repeat(90000), '{"dropsCents":[1e18]}', '[]', 'null', '{"a":'.repeat(90000), good];
  const { lines, status, stderr } = await door(['rounds'], input.join('\n'));
  expect([status, stderr]).toEqual([0, '']);
  expect(lines.map((l) => l.reason)).toEqual(['bad-line', 'bad-number', 'bad-line', 'bad-line', 'bad-line', undefined]);
  expect(lines[5]).toMatchObject({ ok: true });
  for (const l of lines.slice(0, 5)) expect((l.message as string).length).toBeLessThanOrEqual(300);
  const huge = { format: 'settle-cases/1', cases: [{ id: 1, issueT: 1e12, events: [] }] };
  expect((await door(['forecast'], JSON.stringify(huge))).lines[0]).toMatchObject({
    forecasts: [{ reason: 'bad-case' }],
  });
}, 60000);

test('interval, reference, ear and net: each answers its own, and refuses what is none', async () => {
  const rate = 22050;
  const random = randomFrom(2);
  const out = new Float32Array(4 * rate);
  for (const [hz, at] of [
    [110, 0.3],
    [165.3, 0.5],
  ] as const)
    pluck(plainPluck(hz, { secondShare: 0, decayS: 2.5 }), rate, random).render(
      out,
      Math.round(at * rate),
      out.length,
      1,
    );
  addNoise(out, 0.0002, random);
  const two = join(folder, 'two.wav');
  writeFileSync(two, writeWav(out, rate));
  const ask = [
    { file: two, a: 'A2', b: 165, ratio: [6, 4] },
    { file: two, a: 'A2', b: 'A3', ratio: [3, 2] },
    { file: two, a: 'A2', b: 'E3', ratio: [3] },
    { file: join(folder, 'none.wav'), a: 'A2', b: 'E3', ratio: [3, 2] },
  ];
  const intervals = await door(['interval'], ask.map((a) => JSON.stringify(a)).join('\n'));
  expect(intervals.status).toBe(0);
  const [fifth, octave, short, none] = intervals.lines;
  expect(fifth).toMatchObject({ file: two, ok: true, signKnown: true });
  expect(fifth!['cents'] as number).toBeCloseTo(1200 * Math.log2(165.3 / 165), 0);
  expect(octave).toMatchObject({ ok: false, reason: 'bad-ratio' });
  expect(short).toMatchObject({ ok: false, reason: 'bad-ratio' });
  expect(none).toMatchObject({ ok: false, reason: 'unreadable-file' });

  const reference = await door(
    ['reference'],
    [
      { file: recording('fork-like.wav', 3, 4, 0), nominalHz: 110, kind: 'string' },
      { file: two, nominalHz: 110, kind: 'bell' },
    ]
      .map((a) => JSON.stringify(a))
      .join('\n'),
  );
  expect(reference.lines[0]).toMatchObject({ ok: true });
  expect(reference.lines[0]!['a4Hz'] as number).toBeCloseTo(440 * 2 ** (3 / 1200), 1);
  expect(reference.lines[1]).toMatchObject({ ok: false, reason: 'bad-reference' });

  const ear = await door(
    ['ear'],
    '{"strings":["E2","A2","D3","G3","B3","E4"],"school":"chain","anchor":1,"frets":22}\n{"strings":["C2","G2","D3","A3"],"school":"anchor","frets":0}\n{"strings":["G3","H4"],"school":"chain","frets":0}',
  );
  expect(ear.lines.map((l) => [l['ok'], l['reason']])).toEqual([
    [true, undefined],
    [false, 'no-school'],
    [false, 'bad-ear'],
  ]);
  const net = await door(
    ['net'],
    '{"strings":3,"pin":{"string":1,"cents":0},"observations":[{"a":2,"b":1,"cents":-3,"sigmaCents":0.5}]}\n{"strings":1,"pin":{"string":1,"cents":0},"observations":[{"a":2,"b":1,"cents":-3,"sigmaCents":0.5}]}\n{"strings":2,"pin":{"string":1,"cents":0},"observations":[{"a":2,"b":1,"cents":3,"sigmaCents":0.5,"unsigned":true},{"string":2,"cents":-2,"sigmaCents":1}]}',
  );
  expect((net.lines[2]!['offsets'] as number[])[1]).toBeCloseTo(-2.8, 1);
  expect(net.lines[0]).toMatchObject({
    ok: true,
    offsets: [0, expect.closeTo(-3, 4), null],
    suspect: [],
    undecided: [],
  });
  expect(net.lines[0]).toMatchObject({
    sigma: [0, expect.closeTo(0.5, 4), null],
    moves: [0, expect.closeTo(3, 4), null],
  });
  expect(net.lines[1]).toMatchObject({ ok: false, reason: 'bad-net' });
});

test('bridge: reads first, then stops that are not zero; what was learned comes back; what cannot be is refused by name', async () => {
  const strings = [
    { target: 'E4', gaugeMm: 0.254, material: 'plain-steel' },
    { target: 'B3', gaugeMm: 0.33, material: 'plain-steel' },
    { target: 196, gaugeMm: 0.432, material: 'plain-steel' },
    { target: 'D3', gaugeMm: 0.66, material: 'wound-steel' },
    { target: 'A2', gaugeMm: 0.914, material: 'wound-steel', coreMm: 0.4 },
    { target: 'E2', gaugeMm: 1.168, material: 'wound-steel' },
  ];
  const item = {
    id: 'x',
    bridge: { springs: 3, locking: false, scaleMm: 648 },
    strings,
    task: 'fresh',
    order: 'centre-out',
    memory: null,
  };
  const read = [1, 2, 3, 4, 5, 6].map((string) => ({ kind: 'read', string, cents: -60 }));
  const ask = async (more: object) =>
    (await door(['bridge'], JSON.stringify({ ...item, events: [], ...more }))).lines[0]!;
  expect(await ask({})).toMatchObject({
    ok: true,
    id: 'x',
    do: 'read',
    string: 1,
    expected: [null, null, null, null, null, null],
  });
  const first = await ask({ events: read });
  expect(first).toMatchObject({ do: 'set', string: 3 });
  expect(first['stopAtCents']).toBeGreaterThan(5);
  expect(first['coupling']).toBeGreaterThan(0.3);
  expect((await ask({ events: read, memory: first['memory'] }))['ok']).toBe(true);
  expect(await ask({ bridge: { ...item.bridge, springs: 1 } })).toMatchObject({ ok: false, reason: 'unstable-bridge' });
  expect(await ask({ events: [{ kind: 'read', string: 9, cents: 0 }] })).toMatchObject({
    ok: false,
    reason: 'bad-bridge',
  });
  expect(await ask({ events: [{ kind: 'shake' }] })).toMatchObject({ ok: false, reason: 'bad-bridge' });
  expect(await ask({ memory: { mean: [1], covariance: [[1]] } })).toMatchObject({ ok: false, reason: 'bad-bridge' });
  // A memory that is not square, symmetric and positive, or has figures that no bridge has, is none.
  const { mean, covariance } = first['memory'] as { mean: number[]; covariance: number[][] };
  const changed = (i: number, j: number, v: number) =>
    covariance.map((row, k) => row.map((c, l) => (k === i && l === j ? v : c)));
  for (const memory of [
    { mean, covariance: changed(0, 0, -1) },
    { mean, covariance: changed(0, 1, 0.5) },
    { mean: mean.map(() => 700), covariance },
    { mean, covariance: covariance.slice(1) },
    { mean, covariance: covariance.map((row) => row.slice(1)) },
  ])
    expect(await ask({ events: read, memory })).toMatchObject({ ok: false, reason: 'bad-bridge' });
  expect(await ask({ events: [...read, { kind: 'claw', turns: 160 }] })).toMatchObject({
    ok: false,
    reason: 'bad-bridge',
  });
  expect(await ask({ events: [{ ...read[0], sigmaCents: 5e-324 }] })).toMatchObject({
    ok: false,
    reason: 'bad-bridge',
  });
});

test('causes takes a pluck behind the nut as ratios or as cents, and only where there is a tree', async () => {
  const line = (pluck: object, tree = true) =>
    JSON.stringify({
      instrument: { bridge: 'fixed', nut: 'plain', tree, tuners: 'geared', frets: true },
      string: { material: 'plain-steel', lengthMm: 648, headMm: 50, targetHz: 196, ageDays: 60 },
      evidence: [
        { test: 'since-last', own: -9, others: 0.3, othersSd: 0.8 },
        { test: 'big-bend', first: -6, second: -0.3 },
        { test: 'pluck-behind-nut', ...pluck },
      ],
    });
  const nut = { before: 12.9, after: 14.6, pressed: 12.5 };
  const inCents = { first: 1200 * Math.log2(14.6 / 12.9), second: 1200 * Math.log2(12.5 / 14.6) };
  const { lines } = await door(
    ['causes'],
    [
      line(nut),
      line(inCents),
      line({ before: 12.9, after: 12.9, pressed: 12.91 }),
      line(nut, false),
      line({ before: 0, after: 1 }),
    ].join('\n'),
  );
  type Said = { causes: { cause: string; probability: number }[] };
  const of = (k: number, cause: string) =>
    (lines[k] as unknown as Said).causes.find((c) => c.cause === cause)!.probability;
  expect(of(0, 'nut-friction')).toBeCloseTo(of(1, 'nut-friction'), 6);
  expect(of(0, 'nut-friction')).toBeGreaterThan(5 * of(0, 'tree-friction'));
  expect(of(2, 'tree-friction')).toBeGreaterThan(of(2, 'nut-friction'));
  expect(lines[3]).toMatchObject({ ok: false, reason: 'bad-causes' });
  expect(lines[4]).toMatchObject({ ok: false, reason: 'bad-causes' });
});

test('causes takes what was told, and nothing that nobody asks', async () => {
  const line = (told?: object) =>
    JSON.stringify({
      instrument: { bridge: 'fixed', nut: 'plain', tree: false, tuners: 'geared', frets: true },
      string: { material: 'plain-steel', lengthMm: 648, targetHz: 196 },
      told,
      evidence: [{ test: 'since-last', own: -4, others: 0.3, othersSd: 0.8 }],
    });
  const { lines } = await door(
    ['causes'],
    [line(), line({ feel: 'creaks' }), line({ constructor: 'creaks' })].join('\n'),
  );
  type Said = { causes: { cause: string; probability: number }[] };
  const nut = (k: number) => (lines[k] as unknown as Said).causes.find((c) => c.cause === 'nut-friction')!.probability;
  expect(nut(1)).toBeGreaterThan(1.2 * nut(0));
  expect(lines[2]).toMatchObject({ ok: false, reason: 'bad-causes' });
});

test('strum: every string after one strum, from plucks of it or from ratios; a capo has its own references or none', async () => {
  const random = randomFrom(4);
  const hz = { 1: 246.9, 2: 146.8, 3: 110 };
  const strung = (at: Partial<Record<1 | 2 | 3, number>>, name: string) => {
    const out = new Float32Array(2.8 * 44100);
    for (const [string, cents] of Object.entries(at)) {
      const own = hz[Number(string) as 1 | 2 | 3];
      const spec = plainPluck(own * 2 ** (cents / 1200), { inharmonicity: 8e-5, decayS: 1.8 });
      pluck(spec, 44100, random).render(out, 11000 + 900 * Number(string), out.length, 0.5);
    }
    addNoise(out, 0.0003, random);
    const path = join(folder, name);
    writeFileSync(path, writeWav(out, 44100));
    return path;
  };
  const learn = (string: 1 | 2 | 3) => [
    { file: strung({ [string]: -5 }, `learn${string}.wav`), cents: -5 },
    { file: strung({ [string]: 3 }, `again${string}.wav`), cents: 3 },
  ];
  const file = strung({ 1: -7, 2: 4, 3: 1 }, 'strum.wav');
  const strings = ([1, 2, 3] as const).map((string) => ({ string, targetHz: hz[string], learn: learn(string) }));
  const ratios = Array.from({ length: 8 }, (_, k) => ({
    n: k + 1,
    ratio: (k + 1) * Math.sqrt((1 + 8e-5 * (k + 1) ** 2) / (1 + 8e-5)),
  }));
  const bare = { string: 3, targetHz: hz[3], partials: ratios };
  const { lines } = await door(
    ['strum'],
    [
      { file, strings },
      { file, strings: [strings[0], strings[1], bare] },
      { file, strings: [strings[0], { ...bare, capo: 2 }] },
      { file, strings: [strings[0], strings[0]] },
      { file, strings: [{ ...strings[0], learn: [{ file: join(folder, 'none.wav'), cents: 0 }] }] },
    ]
      .map((l) => JSON.stringify(l))
      .join('\n'),
  );
  type Said = { strings: { string: number; cents?: number; sigmaCents?: number; refused?: string }[] };
  const said = (k: number) => (lines[k] as unknown as Said).strings;
  expect(said(0).map((s) => s.string)).toEqual([1, 2, 3]);
  [-7, 4, 1].forEach((cents, i) => expect(Math.abs(said(0)[i]!.cents! - cents)).toBeLessThan(0.5));
  expect(Math.abs(said(1)[2]!.cents! - 1)).toBeLessThan(1);
  expect(said(2)[1]).toEqual({ string: 3, refused: 'no-reference' });
  expect(lines.slice(3).map((l) => l.reason)).toEqual(['bad-strum', 'unreadable-file']);
});
