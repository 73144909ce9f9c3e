/** What the tests of plans are made from: strings of an age, and a show. */
import { randomFrom } from '../src/core/simulate';
import { fitSettling, SETTLING_PRIORS, type SettlingEvent, type SettlingMaterial } from '../src/core/settling';
import type { PlanSession, PlanString } from '../src/core/plan';
import { MINUTE } from '../src/core/base';

export const NOW = Date.UTC(2026, 5, 12, 12, 0);

/** A string of an age whose readings follow the logarithmic law, last read and brought up just now; and so many minutes ago. */
export function aged(
  id: string,
  material: SettlingMaterial,
  ageMin: number,
  more: Partial<PlanString> = {},
  extraMin: number[] = [],
): PlanString {
  const prior = SETTLING_PRIORS[material];
  const random = randomFrom(id.charCodeAt(0) + ageMin);
  const fallen = (t: number) => prior.slopeCents * Math.log1p(t / prior.tauMin);
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  let base = 0;
  const extra = extraMin.map((m) => ageMin - m);
  for (const t of [0.02, 0.06, 0.15, 0.35, 0.6, 0.85, 1]
    .map((s) => s * ageMin)
    .concat(extra)
    .sort((a, b) => a - b)) {
    events.push({ t: Math.max(0, t - 1), kind: 'read', cents: base - fallen(t) + 0.3 * random.normal(), tempC: 20 });
    base = fallen(t);
    events.push({ t: t - 0.1, kind: 'retune' }, { t, kind: 'read', cents: 0.2 * random.normal(), tempC: 20 });
  }
  const fit = fitSettling({ material, events }, ageMin);
  return {
    instrumentId: 'one',
    stringId: id,
    note: 'A4',
    material,
    prior,
    startMs: NOW - ageMin * MINUTE,
    strungMs: NOW - ageMin * MINUTE,
    lastReadMs: NOW,
    fit,
    leftThere: true,
    rounds: 0,
    mostLeadCents: 8,
    ...more,
  };
}

export const aShow: PlanSession = {
  curtainMs: NOW + 300 * MINUTE,
  minutes: 90,
  toleranceCents: 3,
  intervalMin: 40,
  school: 'not-same-day',
  thereC: null,
  hereC: 20,
  effort: 'few',
  leads: true,
  hands: 1,
  plays: {},
  spares: [],
  skippedMs: null,
};
