import { bowed, electric, geared, loose, peg, pin, type FamilyTraits } from './builds';
import type { StringMaterial } from './materials';

export interface PresetString {
  note: string;
  lengthMm: number;
  material: StringMaterial;
  gaugeMm: number | null;
}

/** A ready family: sensible strings in the instrument's own order, the highest first as it lies under the hand. */
export interface FamilyPreset {
  code: string;
  name: string;
  strings: PresetString[];
  traits: FamilyTraits;
}

type Row = [note: string, material: StringMaterial, gaugeMm: number | null, lengthMm?: number];

const NW = 'wound-steel-nickel';
const BW = 'wound-steel-bronze';
const PS = 'plain-steel';
const PN = 'plain-nylon';
const WN = 'wound-nylon';
const SB = 'synthetic-bowed';

const family = (code: string, name: string, scaleMm: number, traits: FamilyTraits, rows: Row[]): FamilyPreset => ({
  code,
  name,
  traits,
  strings: rows.map(([note, material, gaugeMm, lengthMm]) => ({
    note,
    material,
    gaugeMm,
    lengthMm: lengthMm ?? scaleMm,
  })),
});

const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'];
/** Diatonic notes from one down to another, 'A6' to 'C2'. */
function downTo(high: string, low: string): string[] {
  const place = (note: string) => LETTERS.indexOf(note[0]!) + 7 * Number(note[1]);
  return Array.from({ length: place(high) - place(low) + 1 }, (_, k) => {
    const at = place(high) - k;
    return `${LETTERS[at % 7]!}${Math.floor(at / 7)}`;
  });
}
/** A harp's string: lengths shrink by 3/4 of an octave's power, nylon to the tenor, wound below (house estimates). */
function harpString(note: string): Row {
  const octaves = LETTERS.indexOf(note[0]!) / 7 + Number(note[1]) - 2;
  const lengthMm = Math.round(1300 * 2 ** (-0.75 * octaves));
  return octaves < 1.3 ? [note, WN, null, lengthMm] : [note, PN, Number((1.35 - 0.18 * octaves).toFixed(2)), lengthMm];
}
/** Both strings of each course. */
const doubled = (rows: Row[]): Row[] => rows.flatMap((r) => [r, r]);
/** The same strings on a smaller body. */
const PART_SIZES = { '3/4': 0.92, '1/2': 0.83, '1/4': 0.75 } as const;
const smaller = (
  code: string,
  name: string,
  scaleMm: number,
  pegsMm: Record<keyof typeof PART_SIZES, number>,
  rows: Row[],
): FamilyPreset[] =>
  (Object.keys(PART_SIZES) as (keyof typeof PART_SIZES)[]).map((size) =>
    family(
      `${code}-${size.replace('/', '')}`,
      `${name} ${size}`,
      Math.round(scaleMm * PART_SIZES[size]),
      peg(pegsMm[size]),
      rows,
    ),
  );

const VIOLIN: Row[] = [
  ['E5', PS, 0.26],
  ['A4', SB, null],
  ['D4', SB, null],
  ['G3', SB, null],
];
const CELLO: Row[] = [
  ['A3', SB, null],
  ['D3', SB, null],
  ['G2', SB, null],
  ['C2', SB, null],
];
const ELECTRIC: Row[] = [
  ['E4', PS, 0.254],
  ['B3', PS, 0.33],
  ['G3', PS, 0.432],
  ['D3', NW, 0.66],
  ['A2', NW, 0.914],
  ['E2', NW, 1.168],
];

/** Default sets: usual gauges of each family, house choice; every figure can be edited. */
export const FAMILIES: FamilyPreset[] = [
  family('guitar-steel', 'Six-string guitar, steel', 648, geared(6, 16, { bridgePins: true }), [
    ['E4', PS, 0.305],
    ['B3', PS, 0.406],
    ['G3', BW, 0.61],
    ['D3', BW, 0.813],
    ['A2', BW, 1.067],
    ['E2', BW, 1.346],
  ]),
  family('guitar-nylon', 'Six-string guitar, nylon', 650, geared(10, 15, { tied: true }), [
    ['E4', PN, 0.71],
    ['B3', PN, 0.82],
    ['G3', PN, 1.03],
    ['D3', WN, 0.74],
    ['A2', WN, 0.89],
    ['E2', WN, 1.09],
  ]),
  family('requinto-nylon', 'Requinto, nylon', 540, geared(10, 15, { tied: true }), [
    ['A4', PN, 0.64],
    ['E4', PN, 0.74],
    ['C4', PN, 0.93],
    ['G3', WN, 0.69],
    ['D3', WN, 0.84],
    ['A2', WN, 1.02],
  ]),
  family('electric-fixed', 'Electric with fixed bridge', 648, geared(6, 16, { tree: true, layout: 'line' }), ELECTRIC),
  family('electric-floating', 'Electric with floating bridge', 648, geared(6, 16, electric), ELECTRIC),
  family('baritone-floating', 'Baritone electric, floating bridge', 686, geared(6, 16, electric), [
    ['B3', PS, 0.33],
    ['F#3', PS, 0.432],
    ['D3', NW, 0.66],
    ['A2', NW, 0.914],
    ['E2', NW, 1.168],
    ['B1', NW, 1.575],
  ]),
  family('bass-4', 'Bass, four strings', 864, geared(12, 20, { tree: true, layout: 'line' }), [
    ['G2', NW, 1.143],
    ['D2', NW, 1.651],
    ['A1', NW, 2.159],
    ['E1', NW, 2.667],
  ]),
  family('bass-5', 'Bass, five strings', 864, geared(12, 20, { tree: true, layout: 'line' }), [
    ['G2', NW, 1.143],
    ['D2', NW, 1.651],
    ['A1', NW, 2.159],
    ['E1', NW, 2.667],
    ['B0', NW, 3.302],
  ]),
  family('bass-6', 'Bass, six strings', 864, geared(12, 20, { tree: true, layout: 'line' }), [
    ['C3', NW, 0.813],
    ['G2', NW, 1.143],
    ['D2', NW, 1.651],
    ['A1', NW, 2.159],
    ['E1', NW, 2.667],
    ['B0', NW, 3.302],
  ]),
  family('twelve-string', 'Twelve-string guitar', 648, geared(6, 16, { bridgePins: true }), [
    ['E4', PS, 0.254],
    ['E4', PS, 0.254],
    ['B3', PS, 0.356],
    ['B3', PS, 0.356],
    ['G4', PS, 0.203],
    ['G3', BW, 0.584],
    ['D4', PS, 0.305],
    ['D3', BW, 0.762],
    ['A3', PS, 0.457],
    ['A2', BW, 0.991],
    ['E3', BW, 0.686],
    ['E2', BW, 1.194],
  ]),
  family('mandolin', 'Mandolin', 350, geared(6, 16, loose), [
    ['E5', PS, 0.279],
    ['E5', PS, 0.279],
    ['A4', PS, 0.381],
    ['A4', PS, 0.381],
    ['D4', BW, 0.66],
    ['D4', BW, 0.66],
    ['G3', BW, 1.016],
    ['G3', BW, 1.016],
  ]),
  family('ukulele', 'Ukulele', 380, geared(6, 14, { tied: true }), [
    ['A4', 'fluorocarbon', 0.52],
    ['E4', 'fluorocarbon', 0.66],
    ['C4', 'fluorocarbon', 0.81],
    ['G4', 'fluorocarbon', 0.57],
  ]),
  family('violin', 'Violin', 328, peg(7.2), VIOLIN),
  ...smaller('violin', 'Violin', 328, { '3/4': 6.8, '1/2': 6.4, '1/4': 6 }, VIOLIN),
  family('viola', 'Viola', 375, peg(8), [
    ['A4', SB, null],
    ['D4', SB, null],
    ['G3', SB, null],
    ['C3', SB, null],
  ]),
  family('cello', 'Cello', 690, peg(12.5), CELLO),
  ...smaller('cello', 'Cello', 690, { '3/4': 11.5, '1/2': 10.5, '1/4': 9.5 }, CELLO),
  family('double-bass', 'Double bass', 1050, geared(16, 24, bowed), [
    ['G2', SB, null],
    ['D2', SB, null],
    ['A1', SB, null],
    ['E1', SB, null],
  ]),
  family('lyre-7', 'Seven-string lyre, pentatonic', 430, pin(5), [
    ['E5', PS, 0.3, 290],
    ['D5', PS, 0.3, 320],
    ['B4', PS, 0.35, 350],
    ['A4', PS, 0.35, 380],
    ['G4', PS, 0.4, 410],
    ['E4', PS, 0.45, 440],
    ['D4', PS, 0.5, 470],
  ]),
  family('kantele-11', 'Kantele, eleven strings', 500, pin(5), [
    ['A5', PS, 0.3, 210],
    ['G5', PS, 0.3, 235],
    ['F#5', PS, 0.3, 255],
    ['E5', PS, 0.33, 280],
    ['D5', PS, 0.33, 310],
    ['C5', PS, 0.36, 340],
    ['B4', PS, 0.36, 365],
    ['A4', PS, 0.4, 400],
    ['G4', PS, 0.4, 440],
    ['F#4', PS, 0.45, 470],
    ['D4', PS, 0.5, 540],
  ]),
  family('harp-26', 'Lever harp, 26 strings', 700, pin(6), downTo('G6', 'C3').map(harpString)),
  family('harp-34', 'Lever harp, 34 strings', 700, pin(6), downTo('A6', 'C2').map(harpString)),
  family(
    'zither-15',
    'Fretless zither, 15 strings',
    400,
    pin(5),
    downTo('C6', 'C4').map((note, k): Row => [note, PS, k < 8 ? 0.3 : 0.4, Math.round(210 * 2 ** (k / 13))]),
  ),
  family(
    'dulcimer-12',
    'Hammered dulcimer, twelve courses of two',
    500,
    pin(5),
    doubled(downTo('D5', 'G3').map((note, k): Row => [note, PS, k < 5 ? 0.4 : 0.5, Math.round(330 * 2 ** (k / 14))])),
  ),
  family('banjo-tenor', 'Tenor banjo', 580, geared(6, 16, loose), [
    ['A4', PS, 0.229],
    ['D4', PS, 0.33],
    ['G3', NW, 0.533],
    ['C3', NW, 0.762],
  ]),
  family('banjo-5', 'Five-string banjo', 670, geared(6, 16, loose), [
    ['D4', PS, 0.254],
    ['B3', PS, 0.305],
    ['G3', PS, 0.356],
    ['D3', NW, 0.533],
    ['G4', PS, 0.254, 500],
  ]),
  family('bouzouki', 'Bouzouki, flat back, loose bridge', 660, geared(6, 16, loose), [
    ['D4', PS, 0.279],
    ['D4', PS, 0.279],
    ['A3', PS, 0.406],
    ['A3', PS, 0.406],
    ['D3', BW, 0.66],
    ['D3', BW, 0.66],
    ['G2', BW, 1.016],
    ['G2', BW, 1.016],
  ]),
];
