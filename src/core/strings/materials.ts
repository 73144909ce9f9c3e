import type { SettlingMaterial } from '../settling';
import { clamp } from '../base';

/** What a string is made of; the codes are part of the open formats. */
export const STRING_MATERIALS = [
  'plain-steel',
  'wound-steel-nickel',
  'wound-steel-bronze',
  'wound-steel-flat',
  'plain-nylon',
  'wound-nylon',
  'fluorocarbon',
  'gut',
  'synthetic-bowed',
  'unknown',
] as const;
export type StringMaterial = (typeof STRING_MATERIALS)[number];

export const MATERIAL_NAMES: Record<StringMaterial, string> = {
  'plain-steel': 'plain steel',
  'wound-steel-nickel': 'nickel wound steel',
  'wound-steel-bronze': 'bronze wound steel',
  'wound-steel-flat': 'flat-wound steel',
  'plain-nylon': 'plain nylon',
  'wound-nylon': 'wound nylon',
  fluorocarbon: 'fluorocarbon',
  gut: 'gut',
  'synthetic-bowed': 'synthetic core',
  unknown: 'unknown',
};

/** How each material counts for settling. */
export const SETTLES_AS: Record<StringMaterial, SettlingMaterial> = {
  'plain-steel': 'plain-steel',
  'wound-steel-nickel': 'wound-steel',
  'wound-steel-bronze': 'wound-steel',
  'wound-steel-flat': 'wound-steel',
  'plain-nylon': 'plain-nylon',
  'wound-nylon': 'wound-nylon',
  fluorocarbon: 'fluorocarbon',
  gut: 'gut',
  'synthetic-bowed': 'synthetic-bowed',
  unknown: 'unknown',
};

/** Mechanical constants of a material. */
export interface Mechanics {
  /** Effective density over the outer section, kg/m3, from the outer diameter in mm. */
  densityKgM3: (gaugeMm: number) => number;
  /** Diameter that carries the load, mm. */
  coreMm: (gaugeMm: number) => number;
  /** Share of that section that carries (floss cores are loose). */
  coreFill: number;
  youngGPa: number;
  /** Breaking stress of the load-bearing section, MPa. */
  breakingMPa: (coreMm: number) => number;
}

/** ASTM A228 music wire, textbook fit for 0.10 to 6.5 mm (e.g. Shigley, Mechanical Engineering Design): 2211 d^-0.145. */
const musicWireMPa = (mm: number) => 2211 * Math.pow(mm, -0.145);
const whole = (mm: number) => mm;
/** House estimate: the core of wound steel is 0.40 of the outside, 0.30 to 0.55 mm on guitar gauges. */
const steelCore = (mm: number) => clamp(0.4 * mm, 0.3, 0.55);
const woundSteel = (densityKgM3: number): Mechanics => ({
  densityKgM3: () => densityKgM3,
  coreMm: steelCore,
  coreFill: 1,
  youngGPa: 200,
  breakingMPa: musicWireMPa,
});
const plain = (densityKgM3: number, youngGPa: number, breakingMPa: number): Mechanics => ({
  densityKgM3: () => densityKgM3,
  coreMm: whole,
  coreFill: 1,
  youngGPa,
  breakingMPa: () => breakingMPa,
});

/** Densities of plain materials: handbook values; wound densities, moduli and plastics' strengths: house estimates. */
export const MECHANICS: Partial<Record<StringMaterial, Mechanics>> = {
  'plain-steel': { ...plain(7850, 200, 0), breakingMPa: musicWireMPa },
  'wound-steel-nickel': woundSteel(6350),
  'wound-steel-bronze': woundSteel(6900),
  'wound-steel-flat': woundSteel(6700),
  'plain-nylon': plain(1140, 5, 380),
  fluorocarbon: plain(1780, 4, 600),
  gut: plain(1300, 6, 350),
  'wound-nylon': {
    densityKgM3: (mm) => 4500 + ((clamp(mm, 0.74, 1.09) - 0.74) / (1.09 - 0.74)) * (5860 - 4500),
    coreMm: whole,
    coreFill: 0.35,
    youngGPa: 5,
    // Drawn filaments are far stronger than a thick monofilament (house estimate, usual for nylon yarn).
    breakingMPa: () => 900,
  },
};
