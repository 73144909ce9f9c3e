/**
 * Real instruments in real rooms: the listener and the rules of the pass, fed as the worker feeds them, with a hand that
 * plucks and turns and a player who obeys the sentence. `npm run bench:room -- ROOMS [seed]`, where ROOMS is a folder that the
 * rooms' script has made.
 */
import { argv, exit } from 'node:process';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { loadKits, pinkNoise, ROOM_RATE } from './kits';
import { found, left, noises, ownTone, passes, slack, steady, wrong, type Room } from './rows';

const [folder, seed = '1'] = argv.slice(2);
if (!folder) {
  process.stderr.write('usage: npm run bench:room -- ROOMS [seed]\n');
  exit(2);
}
const random = randomFrom(Number(seed));
const room: Room = {
  kits: loadKits(folder, ['nylon', 'steel', 'bass', 'harp', 'banjo']),
  noise: pinkNoise(20 * ROOM_RATE, random),
  random,
  folder,
};
const lines = [
  `Sampled instruments of five kits (32 strings), pink room noise (rms against notes of −8 dB peak), seed ${seed}.`,
  '',
  '| what | asked | room −60 | −45 | −35 | −25 dB |',
  '|---|---|---|---|---|---|',
];
const row = (cells: string[]) => {
  lines.push(`| ${cells.join(' | ')} |`);
  process.stderr.write(`${lines[lines.length - 1]!}\n`);
};
for (const r of found(room)) row(r);
for (const r of left(room)) row(r);
for (const one of [wrong, slack, ownTone, steady, passes, noises]) for (const r of one(room)) row(r);
writeSection('On real strings in a room', lines, process.cpuUsage().user / 1e6);
