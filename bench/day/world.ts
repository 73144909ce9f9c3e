import { targetFrequencyHz } from '../../src/core/music';
import { createLogIndex, RECORD_VERSION, type Draft, type InstrumentLife, type LogRecord } from '../../src/core/log';
import {
  addNoise,
  pluck,
  pluckOf,
  trueCents,
  type Random,
  type StringTruth,
  type Voice,
} from '../../src/core/simulate';
import { FAMILIES } from '../../src/core/strings';
import { HOUR } from '../../src/core/base';

export const DAY_RATE = 24000;
export const A4 = 440;
/** Families whose strings are simulated as they are; a floating bridge has a bench of its own. */
const PLAYED = ['guitar-steel', 'guitar-nylon', 'ukulele', 'violin', 'viola', 'kantele-11', 'bass-4'];

/** One simulated instrument, its log and its time. */
export interface DayWorld {
  instrumentId: string;
  strings: Map<string, StringTruth>;
  nowMs: number;
  life(): InstrumentLife;
  bench(): ReturnType<ReturnType<typeof createLogIndex>['bench']>;
  write(drafts: readonly Draft[]): LogRecord[];
  newId(): string;
}

/** An instrument drawn by lot, strung hours or days ago, its strings somewhere about their pitch. */
export function drawDay(random: Random): DayWorld {
  const families = FAMILIES.filter((f) => PLAYED.includes(f.code));
  const family = families[Math.floor(random.uniform() * families.length)]!;
  const index = createLogIndex();
  let serial = 0;
  const newId = () => `n${serial++}`;
  const world: DayWorld = {
    instrumentId: 'played',
    strings: new Map(),
    nowMs: Date.UTC(2026, 5, 12, 9),
    newId,
    bench: () => index.bench(),
    life: () => index.bench().instruments[0]!,
    write(drafts) {
      const records = drafts.map((d, i) => ({
        ...d,
        id: newId(),
        version: RECORD_VERSION,
        atMs: Math.round(d.atMs ?? world.nowMs),
        zoneMin: 0,
        written: { by: 'bench', seq: index.nextSeq() + i, atMs: Math.round(world.nowMs) },
      })) as LogRecord[];
      index.add(records);
      return records;
    },
  };
  const strings = family.strings.map((s, i) => ({ ...s, stringId: `s${i + 1}` }));
  world.write([
    {
      type: 'instrument',
      instrumentId: world.instrumentId,
      name: family.name,
      family: family.code,
      strings: strings.map(({ stringId, note, lengthMm, material, gaugeMm }) => ({
        stringId,
        note,
        lengthMm,
        material,
        gaugeMm,
      })),
    } as Draft,
  ]);
  const ageMs = HOUR * Math.exp(random.between(0, 4.5));
  for (const s of strings) {
    const strungMs = world.nowMs - ageMs;
    const nylon = /nylon|fluoro|gut/.test(s.material);
    const truth: StringTruth = {
      stringId: s.stringId,
      targetHz: targetFrequencyHz(s.note, A4)!,
      strungMs,
      creepCents: nylon ? random.between(4, 16) : random.between(0.5, 3),
      renewal: random.between(0.1, 0.5),
      tempCoefficient: random.between(-4, 1),
      inharmonicity: 10 ** random.between(-5, -4),
      decayS: random.between(0.6, 2.5),
      rolloff: random.between(1, 1.5),
      seed: Math.floor(random.uniform() * 1e6),
      startCents: 0,
      turns: [],
      slips: [],
    };
    // It stands about its pitch this morning.
    const goal = random.between(-35, 6);
    world.strings.set(s.stringId, { ...truth, startCents: goal - trueCents(truth, world.nowMs) });
  }
  return world;
}

/** The sound of the strings that ring, at the world's time. */
export class RingingStrings {
  private voices: { stand: () => StringTruth; voice: Voice }[] = [];
  private plucks = 0;

  constructor(
    private readonly world: DayWorld,
    private readonly noiseRms: number,
    private readonly random: Random,
  ) {}

  pluck(stand: () => StringTruth, hardness: number): void {
    for (const v of this.voices) v.voice.damp();
    const spec = pluckOf(stand(), hardness, ++this.plucks);
    this.voices.push({ stand, voice: pluck(spec, DAY_RATE, this.random) });
  }

  block(frames: number): Float32Array {
    const out = new Float32Array(frames);
    for (const { stand, voice } of this.voices)
      voice.render(out, 0, frames, 2 ** (trueCents(stand(), this.world.nowMs) / 1200));
    this.voices = this.voices.filter(({ voice }) => voice.loudness() > 0.001);
    addNoise(out, this.noiseRms, this.random);
    return out;
  }
}
