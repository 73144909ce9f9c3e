import type { PluckSpec } from './voice';

/** An everyday pluck of a lightly stiff string, for tests: two polarisations, a small sharp start. */
export const plainPluck = (frequencyHz: number, change: Partial<PluckSpec> = {}): PluckSpec => ({
  frequencyHz,
  inharmonicity: 5e-5,
  pluckAt: 0.14,
  rolloff: 1,
  decayS: 1.5,
  damping: 0.12,
  secondShare: 0.15,
  secondCents: 0.1,
  secondLonger: 2,
  glideCents: 1,
  level: 0.4,
  attack: 0.1,
  ...change,
});
