import { FAMILIES, SETTLES_AS, stringLoad, type StringMaterial } from '../src/core/strings';
import { cents, DEFAULT_A4_HZ, targetFrequencyHz } from '../src/core/music';
import { acrossMm } from '../src/core/octave';
import {
  makeBridge,
  randomFrom,
  octaveCents,
  type BridgeTruth,
  type FrettedTruth,
  type StringTruth,
} from '../src/core/simulate';
import type { StringPlan } from '../src/core/log';
import { DAY, HOUR, MINUTE } from '../src/core/base';

/** The Heron's local time is two hours ahead of UTC; noon of the demonstration's day. */
export const ZONE_MIN = 120;
export const NOON_MS = Date.UTC(2026, 5, 12, 10, 0);
/** The A4 of the harmonium in the cabin. */
const HARMONIUM_HZ = 441.3;

/** One instrument of the Heron's pit: who it is, how old its strings are, when they were looked at. */
export interface DemoInstrument {
  instrumentId: string;
  name: string;
  family: string;
  strings: StringPlan[];
  truths: StringTruth[];
  passesMs: number[];
  /** Where it was tuned to, cents above 440. */
  tunedCents: number;
}

const CREEP: Record<string, [cents: number, temp: number]> = {
  'plain-nylon': [26, -1.6],
  'wound-nylon': [13, -2],
  'plain-steel': [2.2, -1.8],
  'wound-steel': [2.6, -1.4],
  'synthetic-bowed': [9, -1.4],
};

function instrument(
  instrumentId: string,
  name: string,
  familyCode: string,
  seed: number,
  strungMs: (index: number) => number,
  passesMs: number[],
  overrides: (StringPlan['note'] | undefined)[] = [],
): DemoInstrument {
  const random = randomFrom(seed);
  const preset = FAMILIES.find((f) => f.code === familyCode)!;
  const strings = preset.strings.map((s, i): StringPlan => ({
    ...s,
    note: overrides[i] ?? s.note,
    stringId: `s${i + 1}`,
  }));
  const truths = strings.map((s, i): StringTruth => {
    const targetHz = targetFrequencyHz(s.note, DEFAULT_A4_HZ)!;
    const [creepCents, tempCoefficient] = CREEP[SETTLES_AS[s.material as StringMaterial]]!;
    const load = stringLoad({
      material: s.material,
      gaugeMm: s.gaugeMm ?? undefined,
      lengthMm: s.lengthMm,
      frequencyHz: targetHz,
    });
    const nylon = s.material.includes('nylon');
    return {
      stringId: s.stringId,
      targetHz,
      strungMs: strungMs(i),
      creepCents: creepCents * Math.exp(0.25 * random.normal()),
      renewal: random.between(0.2, 0.7),
      tempCoefficient: tempCoefficient * random.between(0.7, 1.2),
      inharmonicity: load?.inharmonicity ?? 3e-5,
      decayS: (nylon ? 1.1 : 2.4) * Math.pow(220 / targetHz, 0.3),
      rolloff: nylon ? 1.3 : 1,
      seed: Math.floor(random.uniform() * 1e9),
      startCents: 0,
      turns: [],
      slips: [],
      ...(load?.breakingHz ? { breakCents: 1200 * Math.log2(load.breakingHz / targetHz) } : {}),
    };
  });
  return { instrumentId, name, family: familyCode, strings, truths, passesMs, tunedCents: 0 };
}

const after = (startMs: number, minutes: number[]) => minutes.map((m) => startMs + m * MINUTE);
/** The same set, years old by its fall: it was fitted long before the record begins. */
const settledSince = (days: number) => () => NOON_MS - days * DAY;

/** Frets as usual; the saddle where the octave is right, and then as far off as it is told. */
function frettedAt(string: StringTruth, scaleMm: number, offMm: number, wear: number): FrettedTruth {
  const truth: FrettedTruth = {
    scaleMm,
    saddleMm: 0,
    nutMm: 0,
    inharmonicity: string.inharmonicity,
    height1Mm: 0.5,
    height12Mm: 2,
    pressMm: 0.05,
    stretch: 110,
    wear: 0,
  };
  const error = (saddleMm: number) => octaveCents({ ...truth, saddleMm });
  let [low, high] = [-5, 15];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (error(middle) > 0) low = middle;
    else high = middle;
  }
  return { ...truth, saddleMm: low + offMm, wear };
}

/** When the baritone got the set before this one; its second string was left on yesterday. */
export const BARITONE_BEFORE_MS = NOON_MS - 160 * DAY;
/** Wear of that string by its age, share of its mass. */
export const wearAt = (atMs: number): number => (0.024 * (atMs - BARITONE_BEFORE_MS)) / (160 * DAY);

/** The treated side of the bouzouki's trial; its neighbours in the courses are the other side. */
export const BOUZOUKI_STRETCHED = ['s2', 's3', 's6', 's7'];

/** The pit of the Heron, a travelling puppet theatre on a canal barge. */
export function heronsBench(): DemoInstrument[] {
  const requinto = instrument(
    'requinto',
    'Requinto, nylon',
    'requinto-nylon',
    11,
    () => NOON_MS,
    after(NOON_MS, [1.5, 5, 9, 14, 20, 27, 36, 47, 60, 75, 92, 110, 124]),
  );
  // The G string of the treble side was wound too few times: it lets go once, shortly before the last pass.
  requinto.truths[2]!.slips.push({ atMs: NOON_MS + 118 * MINUTE, cents: 12 });
  const yesterday = NOON_MS - 21 * HOUR;
  const baritone = instrument(
    'baritone',
    'Baritone, floating bridge',
    'baritone-floating',
    23,
    (i) => (i === 1 ? BARITONE_BEFORE_MS : yesterday),
    after(yesterday, [3, 12, 40, 120, 300, 1080, 1250, 1330]),
  );
  const viola = instrument(
    'viola',
    'Viola',
    'viola',
    37,
    (i) => (i === 0 ? NOON_MS - 20 * HOUR : NOON_MS - 200 * DAY),
    after(NOON_MS - 20 * HOUR, [4, 15, 45, 150, 1100, 1260]),
  );
  const kantele = instrument(
    'kantele',
    'Kantele, 11 strings',
    'kantele-11',
    41,
    settledSince(36),
    after(NOON_MS - 9 * DAY, [0, 3 * 1440, 7 * 1440, 8.9 * 1440]),
  );
  // Tuned to the harmonium of the cabin.
  kantele.tunedCents = cents(HARMONIUM_HZ, DEFAULT_A4_HZ);
  const bouzouki = instrument(
    'bouzouki',
    'Bouzouki, loose bridge',
    'bouzouki',
    53,
    () => NOON_MS - 3 * DAY,
    after(NOON_MS - 3 * DAY, [5, 30, 180, 1000, 2600, 4200]),
  );
  // From its nut to the guides on its head.
  baritone.strings.forEach((s, i) => (s.headMm = 42 + 5 * i));
  // The baritone's third saddle stands two millimetres short, its second string is worn.
  baritone.truths.forEach((t, i) => {
    t.fretted = frettedAt(t, baritone.strings[i]!.lengthMm, i === 2 ? -2 : 0, i === 1 ? wearAt(NOON_MS) : 0);
  });
  // The bouzouki's loose bridge stands 1.5 mm short at its low foot.
  const across = acrossMm(bouzouki.strings.map((s) => s.note));
  bouzouki.truths.forEach((t, i) => {
    t.fretted = frettedAt(t, bouzouki.strings[i]!.lengthMm, -1.5 * (1 - across[i]! / Math.max(...across)), 0);
  });
  // Of each course one string, drawn by lot, was stretched by hand when it was put on.
  for (const id of BOUZOUKI_STRETCHED) {
    const string = bouzouki.truths.find((t) => t.stringId === id)!;
    string.creepCents *= 0.5;
  }
  // What nobody has found yet: a peg that slips, a string that binds in its nut and tree, a loose pin.
  viola.truths[1]!.faults = [{ kind: 'peg', cents: 26, at: 0 }];
  baritone.truths[1]!.faults = [
    { kind: 'nut', cents: 16, at: 0 },
    { kind: 'tree', cents: 5, at: 0 },
  ];
  // What its last measured friction says of the two slots that were lubricated.
  baritone.truths[2]!.faults = [{ kind: 'nut', cents: 7.5, at: 0 }];
  baritone.truths[3]!.faults = [{ kind: 'nut', cents: 9.2, at: 0 }];
  kantele.truths[4]!.faults = [{ kind: 'pin', cents: 30, at: 0 }];
  return [requinto, baritone, viola, kantele, bouzouki];
}

/** The baritone's floating bridge: its own springs, cores and levers, which nothing in the app is told. */
export function baritonesBridge(): BridgeTruth {
  const { strings } = FAMILIES.find((f) => f.code === 'baritone-floating')!;
  const random = randomFrom(61);
  return makeBridge({
    scaleMm: strings[0]!.lengthMm,
    screwPitchMm: 1.7,
    sticks: 6,
    springs: { count: 4, rateNPerMm: 1.7, armMm: 36 },
    strings: strings.map(({ note, material, gaugeMm, lengthMm }) => {
      const frequencyHz = targetFrequencyHz(note, DEFAULT_A4_HZ)!;
      const wound = material !== 'plain-steel';
      const coreMm = wound ? gaugeMm! * random.between(0.37, 0.42) : gaugeMm!;
      return {
        tensionN: stringLoad({ material, gaugeMm: gaugeMm!, lengthMm, frequencyHz })!.tensionN,
        axialN: (200000 * Math.PI * Math.min(0.6, coreMm) ** 2) / 4,
        frequencyHz,
        leverMm: 12.4 * (1 + random.between(-0.05, 0.05)),
        behindMm: random.between(110, 200),
      };
    }),
  });
}

/** When the curtain rises: half past seven. */
export const CURTAIN_MS = NOON_MS + 7.5 * HOUR;
