import { writeLogFile } from '../../src/core/exchange';
import { RECORD_VERSION, type LogRecord } from '../../src/core/log';
import type { Random } from '../../src/core/simulate';
import { SAMPLES } from '../../testing/samples';
import { MINUTE } from '../../src/core/base';

const START = 1_780_000_000_000;
const base = { version: RECORD_VERSION, zoneMin: 60 } as const;
const ofString = { instrumentId: 'x', stringId: 's1' };

/** A good log with a record of every type in it, on two instruments. */
export function goodLog(): LogRecord[] {
  let n = 0;
  const at = (minute: number) => ({
    ...base,
    id: `g${++n}`,
    atMs: START + minute * MINUTE,
    written: { by: 'here', seq: n, atMs: START + minute * MINUTE },
  });
  const strings = ['A4', 'E4', 'C4'].map((note, k) => ({
    stringId: `s${k + 1}`,
    note,
    lengthMm: 540,
    material: 'plain-nylon' as const,
    gaugeMm: 0.7,
  }));
  const reading = (minute: number, cents: number, left = false): LogRecord => ({
    ...at(minute),
    ...ofString,
    type: 'reading',
    purpose: left ? 'as-left' : 'as-found',
    source: 'microphone',
    frequencyHz: 440 * 2 ** (cents / 1200),
    cents,
    sigmaCents: 0.3,
    targetHz: 440,
    a4Hz: 440,
    ...(left ? { arrival: 'from below' as const } : {}),
    inharmonicity: 1e-5,
    snrDb: 40,
    glideCents: 1,
    partials: [1, 2, 3].map((k) => ({ n: k, frequencyHz: 440 * k * 2 ** (cents / 1200), sigmaHz: 0.05 })),
    tempC: 19,
    passId: 'p1',
  });
  const show = { curtainMs: START + 300 * MINUTE };
  const log: LogRecord[] = [
    { ...at(0), type: 'instrument', instrumentId: 'x', name: 'Requinto', family: 'own', strings },
    { ...at(0), type: 'instrument', instrumentId: 'y', name: 'Viola', family: 'viola', strings: strings.slice(0, 2) },
    ...['s1', 's2', 's3'].map((stringId): LogRecord => ({
      ...at(1),
      type: 'fitted',
      instrumentId: 'x',
      stringId,
      windings: 3,
    })),
    reading(5, -30),
    reading(6, 0, true),
    reading(20, -8),
    reading(21, 0.3, true),
    reading(60, -5),
    { ...at(7), ...ofString, type: 'round', dropCents: 20, school: 'usual' },
    {
      ...at(8),
      type: 'treatment',
      instrumentId: 'x',
      stringIds: ['s1', 's2'],
      treatment: 'stretched',
      note: 'by hand',
    },
    { ...at(9), ...ofString, type: 'fitting', step: 'wind', outcome: 'done', note: 'four turns' },
    { ...at(61), instrumentId: 'x', stringId: 's2', type: 'removed', reason: 'broke', place: 'nut' },
    { ...at(62), type: 'room', tempC: 20.5 },
    { ...at(63), type: 'reference', a4Hz: 441 },
    {
      ...at(63),
      type: 'tuning',
      instrumentId: 'x',
      name: 'A whole step down',
      strings: strings.map(({ stringId }, k) => ({ stringId, note: ['G4', 'D4', 'Bb3'][k]!, offsetCents: -1.5 * k })),
    },
    { ...at(64), type: 'curtain', ...show },
    {
      ...at(65),
      type: 'session',
      place: 'the barge',
      ...show,
      minutes: 90,
      toleranceCents: 3,
      intervalMin: 45,
      school: 'not-same-day',
      instrumentIds: ['x', 'y'],
      thereC: 22,
    },
    {
      ...at(66),
      type: 'trial',
      trialId: 't1',
      what: 'boiled',
      byLot: true,
      pairs: [{ treated: { instrumentId: 'x', stringId: 's1' }, control: { instrumentId: 'y', stringId: 's1' } }],
    },
    ...(['open', 'fret', 'harmonic'] as const).map((touch): LogRecord => ({
      ...at(67),
      ...ofString,
      type: 'touch',
      passId: 'o1',
      touch,
      ...(touch === 'open' ? {} : { fret: 12 }),
      source: 'simulated',
      frequencyHz: touch === 'open' ? 440 : 881,
      sigmaCents: 0.2,
      scatterCents: 0.1,
      inharmonicity: null,
    })),
    { ...at(69), type: 'tuner', instrumentId: 'x', stringId: 's1', other: true, gain: 1.4 },
    {
      ...at(68),
      type: 'test',
      instrumentId: 'x',
      stringId: 's1',
      passId: 'c1',
      test: 'big-bend',
      firstCents: -9.2,
      secondCents: null,
      sigmaCents: 0.3,
    },
    {
      ...at(68.5),
      type: 'finding',
      instrumentId: 'x',
      stringId: 's1',
      passId: 'c1',
      causes: [{ cause: 'nut-friction', probability: 0.9 }],
      remedy: 'lubricated the nut',
      outcome: 'helped',
    },
    { ...at(70), type: 'adjustment', instrumentId: 'x', stringIds: ['s1'], what: 'saddle', moveMm: 0.4 },
    {
      ...at(71),
      type: 'pass',
      passId: 'p1',
      kind: 'check',
      instrumentId: 'x',
      startedMs: START,
      skipped: ['s3'],
      over: false,
    },
    { ...at(72), type: 'taken-back', supersedes: 'g9' },
  ];
  // What no one thought of above is there as its sample.
  const there = new Set(log.map((r) => r.type));
  return [...log, ...Object.values(SAMPLES).flatMap((r) => (there.has(r.type) ? [] : [{ ...r, ...at(73) }]))];
}

/** Values that break what trusts its input. */
const HOSTILE: unknown[] = [
  null,
  true,
  false,
  0,
  -0,
  -1,
  1,
  0.5,
  1e-320,
  1e18,
  -1e18,
  1e308,
  8.64e15,
  8.65e15,
  7258118400000,
  -62135596800000,
  '',
  ' ',
  'a',
  '__proto__',
  'constructor',
  '<img src=x onerror=alert(1)>',
  '\u0000',
  '\ud800',
  'x'.repeat(500),
  'NaN',
  'Infinity',
  '=1+1',
  'A4',
  'H9',
  'A-9',
  [],
  [[]],
  {},
  [null],
  [1, 2],
  { toString: 1 },
  { length: -1 },
  { __proto__: { a: 1 } },
];

const numbers = (random: Random): number =>
  [
    random.normal(),
    1e3 * random.normal(),
    10 ** random.between(-12, 18),
    -(10 ** random.between(-3, 12)),
    Math.round(1e13 * random.uniform()),
  ][Math.floor(random.uniform() * 5)]!;

/** One random change, somewhere inside: a value put in, taken out, doubled, moved. */
export function bend(value: unknown, random: Random): unknown {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)]!;
  const other = () => (random.uniform() < 0.5 ? pick(HOSTILE) : numbers(random));
  if (typeof value === 'number' && random.uniform() < 0.4) return value * pick([-1, 0.999, 1.001, 10, 1e-9, 1e9]);
  if (typeof value !== 'object' || value === null || random.uniform() < 0.1) return other();
  if (Array.isArray(value)) {
    const at = Math.floor(random.uniform() * value.length);
    const way = random.uniform();
    if (way < 0.2) return value.filter((_, i) => i !== at);
    if (way < 0.4) return [...value, value[at]];
    return value.map((v: unknown, i) => (i === at ? bend(v, random) : v));
  }
  const entries = Object.entries(value);
  const at = Math.floor(random.uniform() * entries.length);
  const way = random.uniform();
  if (way < 0.15) return Object.fromEntries(entries.filter((_, i) => i !== at));
  if (way < 0.2) return { ...value, [pick(['extra', 'away', 'toString', 'type', 'supersedes', 'atMs'])]: other() };
  return Object.fromEntries(entries.map(([k, v], i) => [k, i === at ? bend(v, random) : v]));
}

const EXTREMES = [0, 1, -1, 0.5, 60, -6000, 6000, 20000, 1000000, 7258118399999];
const NAMES = ['x', 'y', 's1', 's2', 'p1', 'nobody', '__proto__', 'constructor', 'toString', 'A4', '=1+1', '<b>'];

/** A figure, a word or a list changed to another of its kind: what schemas may well accept. */
function nudged(value: unknown, random: Random): unknown {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)]!;
  if (typeof value === 'number') {
    const whole = Number.isInteger(value);
    const next = random.uniform() < 0.4 ? pick(EXTREMES) : value * pick([-1, 0.5, 2, 0.9999, 1.0001, 0]);
    return whole ? Math.round(next) : next;
  }
  if (typeof value === 'string') return pick(NAMES);
  if (typeof value === 'boolean') return !value;
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    const at = Math.floor(random.uniform() * value.length);
    if (random.uniform() < 0.2) return value.filter((_, i) => i !== at);
    return value.map((v: unknown, i) => (i === at ? nudged(v, random) : v));
  }
  const entries = Object.entries(value);
  const key = pick(entries.map(([k]) => k).filter((k) => !['version', 'type', 'id'].includes(k)));
  if (random.uniform() < 0.15) return Object.fromEntries(entries.filter(([k]) => k !== key));
  return Object.fromEntries(entries.map(([k, v]) => [k, k === key ? nudged(v, random) : v]));
}

/** A log file with one to four of its records bent; some whole texts are cut or overwritten. */
export function bentLogFile(good: readonly LogRecord[], random: Random): string {
  const records: unknown[] = [...good];
  const change = random.uniform() < 0.6 ? nudged : bend;
  for (let k = 0; k < 1 + 3 * random.uniform(); k++) {
    const i = Math.floor(random.uniform() * records.length);
    records[i] = change(records[i], random);
  }
  if (change === nudged) return JSON.stringify({ format: 'slow-anchor-log/1', exportedMs: START, records });
  const text = writeLogFile(good, START).replace(/"records": \[[\s\S]*/, `"records": ${JSON.stringify(records)}}`);
  const way = random.uniform();
  const at = Math.floor(random.uniform() * text.length);
  if (way < 0.02) return text.slice(0, at);
  if (way < 0.04) return text.slice(0, at) + '['.repeat(10 ** (1 + Math.floor(5 * random.uniform()))) + text.slice(at);
  return way < 0.06 ? text.slice(0, at) + String.fromCharCode(255 * random.uniform()) + text.slice(at + 1) : text;
}

const TEXTS = 500;
const IDS = /^[A-Za-z0-9_:.-]{1,80}$/;

/** Faults of an accepted record, by rules written down apart from the schemas: [] where there are none. */
export function faultsOf(value: unknown, path = ''): string[] {
  const faults: string[] = [];
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) faults.push(`${path} is no number`);
    if (/Ms$/.test(path) && !(value >= 0 && value < Date.UTC(2200, 0, 1))) faults.push(`${path} is no time`);
    if (/Hz$/.test(path) && !/(sigma|beats)Hz$/.test(path) && !(value > 0 && value <= 200000))
      faults.push(`${path} is no frequency`);
    if (/[cC]ents$/.test(path) && !(Math.abs(value) <= 6000)) faults.push(`${path} is beyond five octaves`);
  } else if (typeof value === 'string') {
    if (value.length > TEXTS) faults.push(`${path} is too long`);
    if (/(^|\.)(id|\w+Id)$/.test(path) && !IDS.test(value)) faults.push(`${path} is no id`);
  } else if (Array.isArray(value)) value.forEach((v, i) => faults.push(...faultsOf(v, `${path}[${i}]`)));
  else if (typeof value === 'object' && value !== null) {
    if (path === '') {
      const { id, type, atMs, zoneMin } = value as Record<string, unknown>;
      if (typeof id !== 'string' || typeof type !== 'string') faults.push('it has no id or type');
      if (!Number.isInteger(atMs) || !Number.isInteger(zoneMin)) faults.push('it has no time');
    }
    if (/pairs\[\d+\]$/.test(path) && !('treated' in value && 'control' in value)) faults.push(`${path} has one side`);
    for (const [k, v] of Object.entries(value)) faults.push(...faultsOf(v, path ? `${path}.${k}` : k));
  }
  return faults;
}
