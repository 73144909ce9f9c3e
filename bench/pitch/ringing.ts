/** Does a neighbour that rings on pass for the string? Usage: ringing.ts ROOMS: every string of every kit, with the others ringing. */
import { argv, cpuUsage } from 'node:process';
import { measure } from '../../src/core/pitch';
import { cents } from '../../src/core/music';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { loadKits, ROOM_RATE } from '../room/kits';

const KITS = ['nylon', 'steel', 'clean-electric', 'bass', 'banjo', 'harp', 'cello', 'koto'];
const kits = loadKits(argv[2]!, KITS);
const lines = [
  '| others ring at | notes | octave or twelfth misread | refused | worst of the others, cents |',
  '|---|---|---|---|---|',
];
const random = randomFrom(Number(argv[3] ?? 1));
const BEFORE_S = 0.02;
for (const among of ['all', 'one'] as const)
  for (const db of [-20, -30]) {
    let [notes, misread, refused, worst] = [0, 0, 0, 0];
    for (const kit of kits)
      for (const note of kit.notes) {
        const clean = measure(note.samples, ROOM_RATE, { targetHz: note.targetHz });
        if (!clean.ok) continue;
        const sets =
          among === 'all' ? [kit.notes.filter((n) => n !== note)] : kit.notes.filter((n) => n !== note).map((n) => [n]);
        for (const others of sets) {
          const begin = Math.round(BEFORE_S * ROOM_RATE);
          const out = new Float64Array(note.samples.length + begin);
          for (const other of others) {
            const from = Math.round(random.between(0, 0.3) * begin);
            for (let i = 0; i + from < out.length && i < other.samples.length; i++)
              out[i + from]! += 10 ** (db / 20) * other.samples[i]!;
          }
          for (let i = 0; i < note.samples.length; i++) out[i + begin]! += note.samples[i]!;
          for (let i = 0; i < out.length; i++) out[i]! += 1e-4 * random.normal();
          const r = measure(out, ROOM_RATE, { targetHz: note.targetHz });
          notes++;
          if (!r.ok) refused++;
          else {
            const off = cents(r.frequencyHz, clean.frequencyHz);
            if (Math.abs(off) > 300) {
              misread++;
              process.stderr.write(
                `${among} ${kit.name} ${note.name} ${db}: ${off.toFixed(0)} with ${others.map((o) => o.name).join(' ')}\n`,
              );
            } else worst = Math.max(worst, Math.abs(off));
          }
        }
      }
    lines.push(`| ${db} dB, ${among} | ${notes} | ${misread} | ${refused} | ${worst.toFixed(1)} |`);
    process.stderr.write(lines.at(-1)! + '\n');
  }
writeSection('A neighbour that rings', lines, cpuUsage().user / 1e6);
