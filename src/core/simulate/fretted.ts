/** The geometry and wear of one simulated string over frets: physical truth, serialisable. */
export interface FrettedTruth {
  /** Nut to saddle as designed, mm. */
  scaleMm: number;
  /** How much further than designed the saddle stands from the frets, and the nut from the frets, mm. */
  saddleMm: number;
  nutMm: number;
  /** Stiffness of the open string. */
  inharmonicity: number;
  /** Height over the first and the 12th fret, mm. */
  height1Mm: number;
  height12Mm: number;
  /** How far the finger drives the string below the fret's top, mm. */
  pressMm: number;
  /** Axial stiffness over tension, EA / T. */
  stretch: number;
  /** Mass lost by wear over the first frets, share of the unit mass (negative: dirt and corrosion added). */
  wear: number;
}

/** What is sounded: the open string, a stopped note, or the harmonic at the octave. */
export type Touch = { kind: 'open' } | { kind: 'fret'; fret: number } | { kind: 'harmonic' };

const CENTS = 1200;
const PARTS = 240;
/** Wear is spread over this part of the open length, from the nut end, as shares of it. */
const WORN_FROM = 0.08;
const WORN_TO = 0.45;

/** Rayleigh's first-order shift of mode n on a string from x0 to x1 by a change of its unit mass, as a share of frequency. */
function massShift(truth: FrettedTruth, openMm: number, fromMm: number, mode: number): number {
  const length = openMm - fromMm;
  let sum = 0;
  for (let i = 0; i < PARTS; i++) {
    const x = ((i + 0.5) / PARTS) * length;
    const at = (fromMm + x) / openMm;
    const change = at > WORN_FROM && at < WORN_TO ? -truth.wear : 0;
    sum += change * Math.sin((mode * Math.PI * x) / length) ** 2;
  }
  return -sum / PARTS;
}

/** Lengthening of a string pressed down by h at a from the nut and b from the saddle, as a share of its length. */
function lengthening(truth: FrettedTruth, fret: number, openMm: number, stoppedMm: number): number {
  const a = openMm - stoppedMm;
  const behind = truth.pressMm;
  const frets = 1 - Math.pow(2, -fret / 12);
  const first = 1 - Math.pow(2, -1 / 12);
  // Height over the frets grows along a straight line through the first and the 12th.
  const h = truth.height1Mm + ((truth.height12Mm - truth.height1Mm) * (frets - first)) / (0.5 - first);
  const down = h + behind;
  return (down ** 2 / 2) * ((1 / a + 1 / stoppedMm) / openMm) + (behind ** 2 * 0.5) / (20 * openMm);
}

/**
 * First partial (of the harmonic: the second, as it sounds) against the open string's first partial as it would be without
 * stiffness and wear at the designed length, cents. Differences between touches are what an instrument shows.
 * @param truth saddle and nut ends, stiffness (Fletcher 1964), pressing (elastic lengthening), uneven mass (Rayleigh)
 */
export function touchCents(truth: FrettedTruth, touch: Touch): number {
  const openMm = truth.scaleMm + truth.saddleMm + truth.nutMm;
  const b = truth.inharmonicity;
  if (touch.kind !== 'fret') {
    const mode = touch.kind === 'open' ? 1 : 2;
    return (
      CENTS * Math.log2((mode * truth.scaleMm) / openMm) +
      (CENTS / 2) * Math.log2(1 + b * mode * mode) +
      CENTS * Math.log2(1 + massShift(truth, openMm, 0, mode))
    );
  }
  const stoppedMm = truth.scaleMm * Math.pow(2, -touch.fret / 12) + truth.saddleMm;
  const strain = lengthening(truth, touch.fret, openMm, stoppedMm);
  return (
    CENTS * Math.log2(truth.scaleMm / stoppedMm) +
    (CENTS / 2) * Math.log2(1 + b * (openMm / stoppedMm) ** 2) +
    (CENTS / 2) * Math.log2(1 + truth.stretch * strain) +
    CENTS * Math.log2(1 + massShift(truth, openMm, openMm - stoppedMm, 1))
  );
}

/** The octave stopped at the 12th fret against the open string's, cents: sharp where the saddle stands too near. */
export const octaveCents = (truth: FrettedTruth): number =>
  touchCents(truth, { kind: 'fret', fret: 12 }) - touchCents(truth, { kind: 'open' }) - CENTS;
