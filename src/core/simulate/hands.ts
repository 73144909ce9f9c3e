import { touchCents } from './fretted';
import { trueCents, type StringTruth } from './truth';

/** Turns this close together are one movement of the hand, ms. */
const ONE_MOVEMENT_MS = 15000;

/** The tuner is turned; beyond its limit the string breaks, as a real one does. */
export function turnString(string: StringTruth, atMs: number, cents: number): StringTruth {
  if (string.brokenMs !== undefined) return string;
  const last = string.turns[string.turns.length - 1];
  const turns =
    last && atMs - last.atMs < ONE_MOVEMENT_MS
      ? [...string.turns.slice(0, -1), { atMs, cents: last.cents + cents }]
      : [...string.turns, { atMs, cents }];
  const turned = { ...string, turns };
  const broke = string.breakCents !== undefined && trueCents(turned, atMs) >= string.breakCents;
  return broke ? { ...turned, brokenMs: atMs } : turned;
}

/** A fresh string of the same kind is put on, slack. */
export function restring(string: StringTruth, atMs: number, startCents: number): StringTruth {
  const { brokenMs: _broken, ...rest } = string;
  return { ...rest, strungMs: atMs, startCents, turns: [], slips: [], stretches: [], seed: string.seed + 1 };
}

/** First stretch takes this much of the string's creep per e-fold, each next one this share of the one before (house). */
const FIRST_SHARE = 0.8;
const SHRINK = 0.5;

/** The string is stretched by hand: it drops at once, each time less. */
export function stretchString(string: StringTruth, atMs: number): StringTruth {
  const before = string.stretches ?? [];
  const cents = string.creepCents * FIRST_SHARE * SHRINK ** before.length;
  return { ...string, stretches: [...before, { atMs, cents }] };
}

/** The saddle is moved away from the nut (positive, mm): the string gets longer, and flat by as much, at the same tension. */
export function moveSaddle(string: StringTruth, atMs: number, moveMm: number): StringTruth {
  if (!string.fretted) return string;
  const before = touchCents(string.fretted, { kind: 'open' });
  const fretted = { ...string.fretted, saddleMm: string.fretted.saddleMm + moveMm };
  return { ...turnString(string, atMs, touchCents(fretted, { kind: 'open' }) - before), fretted };
}
