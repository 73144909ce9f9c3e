/** Do the other strings stand in for a thermometer? Steel instruments in one room, with and without their neighbours. */
import { quantile } from 'simple-statistics';
import type { ReadingRecord, StringLife } from '../../src/core/log';
import { fallAhead, mixtureQuantile, warmthOf } from '../../src/core/settling';
import { randomFrom } from '../../src/core/simulate';
import { logBetween, trueString, type TrueString } from './truth';
import { MINUTE } from '../../src/core/base';
import { fitLives } from '../../src/core/status';

const INSTRUMENTS = 120;
const HORIZONS = [90, 720, 1440];
const MATERIALS = ['wound-steel', 'wound-steel', 'wound-steel', 'wound-steel', 'plain-steel', 'plain-steel'] as const;
const KINDS = { 'wound-steel': 'wound-steel-nickel', 'plain-steel': 'plain-steel' } as const;

interface Ways {
  alone: number[][];
  together: number[][];
  thermometer: number[][];
}

/** Lines of the report. */
export function roomLines(seed: number): string[] {
  const errors: Ways = { alone: [[], [], []], together: [[], [], []], thermometer: [[], [], []] };
  const covered: Record<keyof Ways, number> = { alone: 0, together: 0, thermometer: 0 };
  const coefficient: Record<keyof Ways, number[]> = { alone: [], together: [], thermometer: [] };
  for (let id = 0; id < INSTRUMENTS; id++) {
    const r = randomFrom(seed * 31 + id * 7919);
    const endMin = logBetween(r, 600, 7 * 1440);
    const room = trueString(r, 'wound-steel', endMin + 2000, 0).tempAt;
    const truths = MATERIALS.map((m) => trueString(r, m, endMin + 2000, Math.floor(r.uniform() * 7), room));
    const lives = truths.map((_, i) => blankLife(i));
    let t = 2;
    for (let step = r.between(5, 15); t < endMin; t += step, step = Math.min(720, step * r.between(1.1, 1.7)))
      readAll(truths, lives, t, r.normal.bind(r), room);
    readAll(truths, lives, endMin, r.normal.bind(r), room);
    const bare = lives.map((l) => ({
      ...l,
      readings: l.readings.map((reading) => {
        const read = { ...reading };
        delete read.tempC;
        return read;
      }),
    }));
    const nowMs = endMin * MINUTE;
    const fits = {
      alone: bare.map((l) => fitLives([l], nowMs)[0]!),
      together: fitLives(bare, nowMs),
      thermometer: fitLives(lives, nowMs),
    };
    for (const way of Object.keys(fits) as (keyof Ways)[])
      truths.forEach((truth, i) => {
        const { fit } = fits[way][i]!;
        coefficient[way].push((warmthOf(fit).mean - truth.centsPerC) ** 2);
        HORIZONS.forEach((h, k) => {
          const fall = truth.centsAt(endMin) - truth.centsAt(endMin + h);
          const [low, middle, high] = [0.05, 0.5, 0.95].map((p) => mixtureQuantile(fallAhead(fit, h), p));
          errors[way][k]!.push(Math.abs(middle! - fall));
          if (fall >= low! && fall <= high!) covered[way]++;
        });
      });
  }
  const rows = (Object.keys(errors) as (keyof Ways)[]).map((way) => {
    const rms = Math.sqrt(coefficient[way].reduce((a, b) => a + b, 0) / coefficient[way].length);
    const cells = errors[way].map((e) => `${quantile(e, 0.5).toFixed(2)} / ${quantile(e, 0.9).toFixed(1)}`);
    const share = (100 * covered[way]) / (errors[way][0]!.length * HORIZONS.length);
    return `| ${{ alone: 'each string alone', together: 'with the other strings', thermometer: 'with a thermometer' }[way]} | ${cells.join(' | ')} | ${share.toFixed(0)} % | ${rms.toFixed(2)} |`;
  });
  return [
    `${INSTRUMENTS} steel instruments of six strings in one room each, read together; cents.`,
    '',
    '| | median / p90 at 90 min | 12 h | 24 h | 90 % covers | coefficient, rms error, cents per °C |',
    '|---|---|---|---|---|---|',
    ...rows,
  ];
}

function readAll(
  truths: TrueString[],
  lives: StringLife[],
  t: number,
  normal: () => number,
  room: (t: number) => number,
): void {
  const warmth = room(t) + 0.2 * normal();
  truths.forEach((truth, i) => {
    const { readings } = lives[i]!;
    const found = t + 0.3 * i;
    readings.push(reading(i, found, truth.centsAt(found) + 0.35 * normal(), 'as-found', warmth));
    if (Math.abs(truth.centsAt(found)) <= 3) return;
    const left = found + 3;
    truth.bringUp(left - 0.02);
    readings.push(reading(i, left, truth.centsAt(left) + 0.35 * normal(), 'as-left', warmth));
  });
}

const reading = (
  i: number,
  t: number,
  cents: number,
  purpose: ReadingRecord['purpose'],
  tempC: number,
): ReadingRecord => ({
  id: `${i}-${t}`,
  version: 2,
  type: 'reading',
  atMs: t * MINUTE,
  zoneMin: 0,
  instrumentId: 'x',
  stringId: `s${i}`,
  purpose,
  source: 'typed',
  frequencyHz: 110,
  cents,
  sigmaCents: 0.35,
  targetHz: 110,
  a4Hz: 440,
  partials: [],
  tempC,
});

const blankLife = (i: number): StringLife => ({
  plan: { stringId: `s${i}`, note: 'A2', lengthMm: 648, material: KINDS[MATERIALS[i]!], gaugeMm: 0.5 },
  strungMs: 0,
  readings: [],
  rounds: [],
  treatments: [],
  windings: null,
  bare: false,
  past: [],
});
