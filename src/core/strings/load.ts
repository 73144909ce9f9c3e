import { MECHANICS, type StringMaterial } from './materials';

export interface StringSpec {
  material: StringMaterial;
  /** Outer diameter, mm; undefined when unknown. */
  gaugeMm?: number | undefined;
  /** Speaking length, mm. */
  lengthMm: number;
  frequencyHz: number;
  /** From the packet; overrides the estimate. */
  unitMassKgPerM?: number | undefined;
}

/** What a string pulls and how far it is from breaking. */
export interface StringLoad {
  unitMassKgPerM: number;
  tensionN: number;
  /** Share of the breaking load, 1 is the break; null where the strength is unknown. */
  shareOfBreaking: number | null;
  breakingHz: number | null;
  headroomSemitones: number | null;
  /** Stiffness coefficient B. */
  inharmonicity: number | null;
}

/**
 * Load of a string at pitch. Taylor's law T = mu (2 L f)^2 (Mersenne 1636); mu = rho pi d^2 / 4; share = stress of the
 * load-bearing section over its strength; breaking pitch f / sqrt(share); headroom -6 log2(share) semitones;
 * B = pi^3 E d^4 / (64 T L^2) with the load-bearing diameter (Fletcher 1964).
 * @returns undefined when neither the gauge's material nor a unit mass tells the mass: unknown stays unknown
 * @example a plain steel 0.254 mm string at 329.63 Hz over 648 mm pulls 72.6 N
 */
export function stringLoad(spec: StringSpec): StringLoad | undefined {
  const mechanics = MECHANICS[spec.material];
  const { gaugeMm } = spec;
  const estimate =
    mechanics && gaugeMm ? (mechanics.densityKgM3(gaugeMm) * Math.PI * (gaugeMm * 1e-3) ** 2) / 4 : undefined;
  const unitMassKgPerM = spec.unitMassKgPerM ?? estimate;
  if (unitMassKgPerM === undefined) return undefined;
  const lengthM = spec.lengthMm * 1e-3;
  const tensionN = unitMassKgPerM * (2 * lengthM * spec.frequencyHz) ** 2;
  if (!mechanics || !gaugeMm) {
    return {
      unitMassKgPerM,
      tensionN,
      shareOfBreaking: null,
      breakingHz: null,
      headroomSemitones: null,
      inharmonicity: null,
    };
  }
  const coreMm = mechanics.coreMm(gaugeMm);
  const sectionM2 = (mechanics.coreFill * Math.PI * (coreMm * 1e-3) ** 2) / 4;
  const share = tensionN / sectionM2 / (mechanics.breakingMPa(coreMm) * 1e6);
  return {
    unitMassKgPerM,
    tensionN,
    shareOfBreaking: share,
    breakingHz: spec.frequencyHz / Math.sqrt(share),
    headroomSemitones: -6 * Math.log2(share),
    inharmonicity:
      (Math.PI ** 3 * mechanics.youngGPa * 1e9 * mechanics.coreFill * (coreMm * 1e-3) ** 4) /
      (64 * tensionN * lengthM ** 2),
  };
}

/** How a string's pull compares with the others'. @param share of the mean pull */
export const balanceWords = (share: number): string => `${(100 * share).toFixed(0)} % of the mean`;
/** How far from its note a string breaks, semitones. */
export const breaksWords = (semitones: number): string =>
  semitones >= 0 ? `breaks ${semitones.toFixed(1)} semitones up` : 'breaks before it gets there';
