import { median } from 'simple-statistics';
import { ageFromMs, fitLives, lastIntervalMin, type Bench, type InstrumentLife, type ReadingRecord } from '../records';
import { type SettlingMaterial, type SettlingPrior } from '../settling';
import { SETTLES_AS } from '../strings';
import type { PlanString } from './types';

const MINUTE = 60000;
const USUAL_MINUTES = 0.7;
/** Readings further apart than this belong to different walks, min. */
const PASS_GAP_MIN = 10;

/** Which prior a string starts from. */
export type PriorOf = (material: SettlingMaterial) => SettlingPrior;

/** The strings of the instruments that play, as the plan needs them. */
export function planStrings(instruments: readonly InstrumentLife[], nowMs: number, priorOf: PriorOf): PlanString[] {
  return instruments.flatMap(({ record, strings }) => {
    const materials = new Set(strings.map((life) => SETTLES_AS[life.plan.material]));
    const priors = Object.fromEntries([...materials].map((m) => [m, priorOf(m)]));
    const fits = fitLives(strings, nowMs, priors);
    const readFits = fitLives(strings, 'at the last reading', priors);
    return strings.map((life, i): PlanString => {
      const material = SETTLES_AS[life.plan.material];
      const prior = priorOf(material);
      const startMs = ageFromMs(life);
      const last = life.readings[life.readings.length - 1];
      return {
        instrumentId: record.instrumentId,
        stringId: life.plan.stringId,
        note: life.plan.note,
        material,
        prior,
        startMs,
        strungMs: life.strungMs,
        lastReadMs: last?.atMs ?? null,
        lastIntervalMin: last ? lastIntervalMin(life, startMs!) : 0,
        offsetCents: last?.cents ?? null,
        fit: last && fits[i]?.fit,
        readFit: last && readFits[i]?.fit,
        rounds: life.rounds.length,
      };
    });
  });
}

/** A walk that was done: strings of one instrument read one after the other. */
export interface DoneWalk {
  instrumentId: string;
  atMs: number;
  stringIds: string[];
  /** How many of them were brought up. */
  broughtUp: number;
}

/** The walks on record since a moment, oldest first; this is how the items of a plan tick. */
export function doneWalks(instruments: readonly InstrumentLife[], sinceMs: number): DoneWalk[] {
  return instruments
    .flatMap(({ record: { instrumentId }, strings }) =>
      walksOf(strings.flatMap((s) => s.readings).filter((r) => r.atMs >= sinceMs)).map((walk) => ({
        instrumentId,
        atMs: walk[0]!.atMs,
        stringIds: [...new Set(walk.map((r) => r.stringId))],
        broughtUp: new Set(walk.filter((r) => r.purpose === 'as-left').map((r) => r.stringId)).size,
      })),
    )
    .sort((a, b) => a.atMs - b.atMs);
}

/** Readings of one instrument parted into walks where nothing was read for ten minutes. */
function walksOf(given: readonly ReadingRecord[]): ReadingRecord[][] {
  const walks: ReadingRecord[][] = [];
  let last = -Infinity;
  for (const r of [...given].sort((a, b) => a.atMs - b.atMs)) {
    if (r.atMs - last > PASS_GAP_MIN * MINUTE) walks.push([]);
    walks[walks.length - 1]!.push(r);
    last = r.atMs;
  }
  return walks;
}

/** How long one string takes in a walk, min: the median over the walks on record. */
export function minutesPerString({ instruments }: Pick<Bench, 'instruments'>): number {
  const each: number[] = [];
  for (const { strings } of instruments) {
    for (const walk of walksOf(strings.flatMap((s) => s.readings))) {
      const count = new Set(walk.map((r) => r.stringId)).size;
      if (count > 1) each.push((walk[walk.length - 1]!.atMs - walk[0]!.atMs) / MINUTE / (count - 1));
    }
  }
  return each.length > 0 ? Math.min(5, Math.max(0.3, median(each))) : USUAL_MINUTES;
}
