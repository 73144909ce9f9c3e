/**
 * Readings judged on sound that nobody here wrote, and on the product's own simulator last.
 * `npm run bench:pitch -- STRINGS ROOMS [seeds] [first seed]`: folders as the makers of strings on bodies and of rooms write them;
 * no seeds: the simulator is left out, and nothing is written down.
 */
import { quantileSorted } from 'simple-statistics';
import { changeBetween, measure, sharpAfter, type MeasureOutcome } from '../../src/core/pitch';
import { writeSection } from '../report';
import { DETECTORS } from './detectors';
import { ownSimulator } from './own';
import {
  badSounds,
  harmonics,
  inRooms,
  resampled,
  roomNotes,
  sampledNotes,
  stringsOnBodies,
  torn,
  wavering,
  withNeighbour,
  type SoundGroup,
  type BenchSound,
} from './sounds';

const [strings = '', rooms = '', seeds = '', first = '9000'] = process.argv.slice(2);
const began = process.cpuUsage().user;
const rms = (list: number[]) => Math.sqrt(list.reduce((s, e) => s + e * e, 0) / Math.max(1, list.length));
const mean = (list: number[]) => list.reduce((s, e) => s + e, 0) / Math.max(1, list.length);
const f = (v: number) => (Number.isFinite(v) ? v.toFixed(3) : '–');

const whole = (s: BenchSound): MeasureOutcome => measure(s.samples, s.rate, { targetHz: s.targetHz });
/** A stretch of the note as it is read while a hand may turn: long after the pluck, its beginning unknown. */
function stretch(s: BenchSound): MeasureOutcome {
  const from = Math.round((s.onsetS + 0.9) * s.rate);
  const part = s.samples.subarray(from, from + Math.round(0.8 * s.rate));
  const near = whole(s);
  if (!near.ok) return near;
  const { cents, glideCents, sharpTauS, fromS } = near;
  const sharp = sharpAfter({ cents: glideCents, tauS: sharpTauS }, s.onsetS + 0.9 - fromS);
  const where = { targetHz: s.targetHz, lowCents: cents - 60, highCents: cents + 60 };
  return measure(part, s.rate, { ...where, sustained: true, sharp });
}

interface Errors {
  errors: number[];
  within: number;
  missed: string[];
  count: number;
  /** Error by how much more the second was struck, where that differs: the harder one against the softer. */
  hard: number[];
}
/** All pairs of every group: the change that is read against the one that is known. */
function changes(groups: SoundGroup[], read = whole): Errors {
  const t: Errors = { errors: [], within: 0, missed: [], count: 0, hard: [] };
  for (const { sounds } of groups) {
    const outcomes = sounds.map(read);
    t.count += outcomes.length;
    for (const o of outcomes) if (!o.ok) t.missed.push(o.reason);
    for (let i = 0; i < sounds.length; i++)
      for (let j = i + 1; j < sounds.length; j++) {
        const [a, b] = [outcomes[i]!, outcomes[j]!];
        if (!a.ok || !b.ok) continue;
        const change = changeBetween(a, b);
        const error = change.cents - (sounds[j]!.cents - sounds[i]!.cents);
        t.errors.push(error);
        if (Math.abs(error) < 2 * change.sigmaCents) t.within++;
        const harder = b.glideCents - a.glideCents;
        if (Math.abs(harder) > 1) t.hard.push(Math.sign(harder) * error);
      }
  }
  return t;
}
/** What a stretch late in the note says against the whole of it: the string stood still. */
function standing(groups: SoundGroup[]): Errors {
  const t: Errors = { errors: [], within: 0, missed: [], count: 0, hard: [] };
  for (const s of groups.flatMap((g) => g.sounds)) {
    const a = whole(s);
    const b = a.ok ? stretch(s) : undefined;
    t.count++;
    if (!a.ok || !b?.ok) {
      if (a.ok && b && !b.ok) t.missed.push(b.reason);
      continue;
    }
    const change = changeBetween(a, b);
    t.errors.push(change.cents);
    if (Math.abs(change.cents) < 2 * change.sigmaCents) t.within++;
  }
  return t;
}

const HEAD = [
  '| sound | sounds | median | RMSE | p95 | within 2 sigma | missed | hard minus soft, mean |',
  '|---|---|---|---|---|---|---|---|',
];
function row(name: string, t: Errors): string {
  const sorted = t.errors.map(Math.abs).sort((a, b) => a - b);
  const q = (x: number) => (sorted.length > 0 ? f(quantileSorted(sorted, x)) : '–');
  const reasons = [...new Set(t.missed)].map((r) => `${r} ${t.missed.filter((m) => m === r).length}`).join(', ');
  return `| ${name} | ${t.count} | ${q(0.5)} | ${f(rms(t.errors))} | ${q(0.95)} | ${((100 * t.within) / Math.max(1, t.errors.length)).toFixed(0)} % | ${t.missed.length}${reasons ? ` (${reasons})` : ''} | ${t.hard.length > 5 ? f(mean(t.hard)) : '–'} |`;
}

const lines: string[] = [...HEAD];
const say = (line: string) => {
  lines.push(line);
  console.log(line);
};
const onBodies = strings ? stringsOnBodies(strings) : [];
const tame = onBodies.filter((g) => g.kind !== 'electric');
if (onBodies.length > 0) {
  say(row('strings on bodies, without the electric', changes(tame)));
  for (const kind of new Set(onBodies.map((g) => g.kind)))
    say(row(`· ${kind}`, changes(onBodies.filter((g) => g.kind === kind))));
  say(row('standing: a late stretch against the whole', standing(tame)));
}
const sampled = sampledNotes();
if (sampled.length > 0) {
  say(row('sampled instruments, five velocities', changes(sampled)));
  say(row('standing: a late stretch against the whole', standing(sampled)));
}
if (rooms) {
  const notes = roomNotes(rooms);
  const plucked = notes.filter((n) => n.kind !== 'cello');
  const bowed = notes.filter((n) => n.kind === 'cello');
  const again = resampled(notes);
  say(row('recordings, resampled pairs', changes(again)));
  say(row('standing: a late stretch against the whole', standing(again)));
  for (const s of [0.4, 0.8, 1.5]) say(row(`a room of ${s} s`, changes(inRooms(plucked, s))));
  for (const db of [-30, -20]) say(row(`a neighbour at ${db} dB`, changes(withNeighbour(plucked, db))));
  for (const how of ['left out', 'silent'] as const)
    say(row(`10 ms ${how}, against the whole note`, changes(torn(plucked, how))));
  say(row('harmonics', changes(harmonics(plucked))));
  for (const c of [4, 8, 12])
    say(row(`vibrato of ±${c} cents`, changes(wavering([...bowed, ...plucked.slice(0, 6)], c))));
  const bad = badSounds(rooms, notes);
  const read = bad.filter((b) => whole(b.sound).ok);
  say(`\nBad sounds accepted: ${read.length} of ${bad.length} (${[...new Set(read.map((b) => b.what))].join(', ')}).`);
  const time = (run: (s: BenchSound) => unknown) => {
    const t = process.cpuUsage().user;
    for (const g of again) for (const s of g.sounds) run(s);
    return (process.cpuUsage().user - t) / 1000;
  };
  const mcleod = DETECTORS.find((d) => d.name.includes('McLeod'))!;
  const [ours, theirs] = [0, 1, 2].reduce(
    ([a, b]) => [a! + time(whole), b! + time((s) => mcleod.read(s.samples, s.rate, s.onsetS))],
    [0, 0],
  );
  say(`\nCPU against the McLeod detector, same recordings, same run: ${(ours! / theirs!).toFixed(2)}.`);
}
if (seeds) {
  lines.push('', '**The product’s own simulator**', '', ...ownSimulator(Number(seeds), Number(first)));
  writeSection('Pitch', lines, (process.cpuUsage().user - began) / 1e6);
}
