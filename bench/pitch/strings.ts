/**
 * Plucks on bodies by a law that is not ours: what a reading says of the change between two plucks of one string.
 * `npm run bench:strings -- RAWDIR`; RAWDIR as the maker of such strings writes it: kc.tsv and float32 files.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { quantileSorted } from 'simple-statistics';
import { changeBetween, measure, type Reading } from '../../src/core/pitch';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { renderSampled, SAMPLED, sampledInstrumentsInstalled } from './sampled';

const folder = process.argv[2] ?? '';
/** Silence before the pluck, s, and the room's noise against the loudest sample, dB. */
const PRE_ROLL_S = 0.4;
const NOISE_DB = -55;
const LEVEL = 0.4;
/** Its extreme: it rings for half a minute and is picked very hard. */
const EXTREME = /electric/i;
const CENTS = 1200 / Math.LN2;

interface Pluck {
  source: string;
  group: string;
  hz: number;
  cents: number;
  reading: Reading | undefined;
}

function readPluck(line: string, k: number): Pluck {
  const [name = '', rateHz, source = '', group = '', hz, known, nominal] = line.split('\t');
  const bytes = readFileSync(join(folder, `${name}.f32`));
  const raw = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength >> 2);
  const rate = Number(rateHz);
  const peak = raw.reduce((m, v) => Math.max(m, Math.abs(v)), 1e-9);
  const r = randomFrom(1000 + k);
  const before = Math.round(PRE_ROLL_S * rate);
  const noise = LEVEL * 10 ** (NOISE_DB / 20);
  const samples = new Float32Array(before + Math.min(raw.length, 4 * rate));
  for (let i = 0; i < samples.length; i++)
    samples[i] = noise * r.normal() + (i < before ? 0 : (LEVEL * raw[i - before]!) / peak);
  const nominalHz = Number(nominal);
  const outcome = measure(samples, rate, { targetHz: nominalHz });
  const reading = outcome.ok ? outcome : undefined;
  return { source, group, hz: Number(hz), cents: Number(known), reading };
}

const rms = (list: number[]) => Math.sqrt(list.reduce((s, e) => s + e * e, 0) / Math.max(1, list.length));
const f = (v: number) => (Number.isFinite(v) ? v.toFixed(3) : '–');

/** One note of a sampled instrument struck five times, at velocities and offsets in cents. */
const STRUCK: [number, number][] = [
  [70, 0],
  [110, 0],
  [90, -11],
  [60, -4],
  [100, 6],
];
const sampledGroups = (): Pluck[][] =>
  SAMPLED.flatMap(({ name, program, midi }) =>
    midi.map((note) => {
      const hz = 440 * 2 ** ((note - 69) / 12);
      return STRUCK.map(([velocity, cents]): Pluck => {
        const outcome = measure(renderSampled(program, note, velocity, cents), 44100, { targetHz: hz });
        const group = `${name} ${note}`;
        return { source: name, group, hz: hz * 2 ** (cents / 1200), cents, reading: outcome.ok ? outcome : undefined };
      });
    }),
  );

const text = readFileSync(join(folder, 'kc.tsv'), 'utf8').trim().split('\n');
const began = process.cpuUsage().user;
const plucks = text.map(readPluck);
const groups = new Map<string, Pluck[]>();
for (const p of plucks) groups.set(p.group, [...(groups.get(p.group) ?? []), p]);

function table(name: string, own: Pluck[][]): string {
  const errors: number[] = [];
  let within = 0;
  let missed = 0;
  const offsets: number[] = [];
  for (const list of own) {
    missed += list.filter((p) => !p.reading).length;
    for (let i = 0; i < list.length; i++)
      for (let j = i + 1; j < list.length; j++) {
        const [a, b] = [list[i]!, list[j]!];
        if (!a.reading || !b.reading) continue;
        const change = changeBetween(a.reading, b.reading);
        const error = change.cents - (b.cents - a.cents);
        errors.push(error);
        if (Math.abs(error) < 2 * change.sigmaCents) within++;
      }
    for (const p of list) if (p.reading) offsets.push(CENTS * Math.log(p.reading.frequencyHz / p.hz));
  }
  const sorted = errors.map(Math.abs).sort((a, b) => a - b);
  const q = (x: number) => (sorted.length ? quantileSorted(sorted, x) : NaN);
  return `| ${name} | ${own.length} | ${f(q(0.5))} | ${f(rms(errors))} | ${f(q(0.95))} | ${((100 * within) / Math.max(1, errors.length)).toFixed(0)} % | ${missed} | ${f(rms(offsets))} |`;
}

const all = [...groups.values()];
const tame = all.filter((g) => !EXTREME.test(g[0]!.source) && !EXTREME.test(g[0]!.group));
const lines = [
  '| strings | groups | change, median | RMSE | p95 | within 2 sigma | missed | against the first partial on its body, RMSE |',
  '|---|---|---|---|---|---|---|---|',
  table('without the electric', tame),
  table('all', all),
  ...[...new Set(all.map((g) => g[0]!.source))].map((s) =>
    table(
      s,
      all.filter((g) => g[0]!.source === s),
    ),
  ),
  ...(sampledInstrumentsInstalled() ? [table('sampled instruments, five velocities', sampledGroups())] : []),
];
console.log(lines.join('\n'));
if (process.argv[3] !== 'only-say')
  writeSection(
    'Strings on bodies',
    [`${plucks.length} plucks, all pairs of a string; cents.`, '', ...lines],
    (process.cpuUsage().user - began) / 1e6,
  );
