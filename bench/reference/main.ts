/** Keyboards and wind from sampled banks against their own first partial. Usage: main.ts [seed] BANK.sf2… */
import { argv, cpuUsage, exit } from 'node:process';
import { measureSteady, type ReferenceKind } from '../../src/core/two-strings';
import { randomFrom } from '../../src/core/simulate';
import { pinkNoise } from '../room/kits';
import { writeSection } from '../report';
import { PROGRAMMES, TONE_RATE, renderTones, type Programme } from './tones';

const [seed = '1', ...banks] = argv.slice(2);
if (banks.length === 0) {
  process.stderr.write('usage: npm run bench:reference -- SEED BANK.sf2…\n');
  exit(2);
}
const NOTES = [57, 64, 69, 72, 81];
const KIND: Record<Programme, ReferenceKind> = { keyboard: 'keyboard', wind: 'reed' };
const random = randomFrom(Number(seed));
const noise = pinkNoise(20 * TONE_RATE, random);
const quantile = (list: readonly number[], p: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(p * list.length))] ?? NaN;
const lines = [
  `Seed ${seed}; ${banks.length} banks, notes A3, E4, A4, C5, A5, detuned by up to 15 cents, pink room noise of −60 to −45 dB.`,
  '',
  '| | sounds | read | refused | median / 90th percentile, cents | within 2 sigma | median sigma |',
  '|---|---|---|---|---|---|---|',
];
for (const group of ['keyboard', 'wind'] as const)
  for (const holdS of [0.6, 1, 3]) {
    const errors: number[] = [];
    const sigmas: number[] = [];
    let [within, refused] = [0, 0];
    for (const bank of banks)
      for (const programme of PROGRAMMES[group])
        for (const tone of renderTones(bank, programme, NOTES, holdS, random.between(-15, 15))) {
          if (tone.hz === undefined) continue;
          const heard = Float32Array.from(tone.samples);
          const peak = heard.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
          const level = 10 ** (random.between(-60, -45) / 20);
          const from = Math.floor(random.uniform() * (noise.length - heard.length));
          for (let i = 0; i < heard.length; i++) heard[i] = (0.4 / peak) * heard[i]! + level * noise[from + i]!;
          const read = measureSteady(heard, TONE_RATE, tone.nominalHz, KIND[group]);
          const error = read.ok ? 1200 * Math.log2(read.frequencyHz / tone.hz) : NaN;
          if (!read.ok) {
            refused++;
            continue;
          }
          errors.push(Math.abs(error));
          sigmas.push(read.sigmaCents);
          if (Math.abs(error) < 2 * read.sigmaCents) within++;
        }
    const all = errors.length + refused;
    lines.push(
      `| ${group} | ${holdS} s | ${errors.length} | ${((100 * refused) / all).toFixed(0)} % | ${quantile(errors, 0.5).toFixed(2)} / ${quantile(errors, 0.9).toFixed(2)} | ${((100 * within) / errors.length).toFixed(0)} % | ${quantile(sigmas, 0.5).toFixed(2)} |`,
    );
    process.stderr.write(`${lines.at(-1)!}\n`);
  }
writeSection('Reference: keyboards and wind', lines, cpuUsage().user / 1e6);
