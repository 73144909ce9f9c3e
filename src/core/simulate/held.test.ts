import fc from 'fast-check';
import {
  disturb,
  dive,
  holdBridge,
  lockNut,
  makeBridge,
  mend,
  plainString,
  touchCents,
  trueCents,
  turnClaw,
  turnOnBridge,
  type BridgeTruth,
  type FrettedTruth,
  type StringTruth,
} from '.';
import { pull, slide, type StringRun } from './run';
import { DAY } from '../base';

const T0 = Date.UTC(2026, 5, 12, 10, 0);
const string = (stringId: string, change: Partial<StringTruth> = {}): StringTruth => ({
  ...plainString(stringId, 220, Number(stringId)),
  strungMs: T0 - 90 * DAY,
  ...change,
});
const stands = (list: readonly StringTruth[]) => list.map((s) => trueCents(s, T0 + 1000));

describe('a floating bridge', () => {
  const HZ = [110, 147, 196, 247];
  const strings = HZ.map((_, i) => string(String(i)));
  const make = (count: number, sticks = 0): BridgeTruth =>
    makeBridge({
      scaleMm: 648,
      strings: HZ.map((frequencyHz) => ({ tensionN: 70, axialN: 9000, frequencyHz, leverMm: 9, behindMm: 0 })),
      springs: { count, rateNPerMm: 1.2, armMm: 18 },
      screwPitchMm: 1,
      sticks,
    });

  test('stands level at pitch, and nothing moves that nobody touches', () => {
    const { strings: after, bridge } = holdBridge(strings, make(3), T0, false);
    expect(Math.abs(bridge.angle)).toBeLessThan(1e-6);
    for (const cents of stands(after)) expect(Math.abs(cents)).toBeLessThan(0.01);
  });

  test('one string let down raises all others, and itself falls less far than its tuner was turned', () => {
    const after = stands(turnOnBridge(strings, make(3), '1', T0, -40).strings);
    expect(after[1]!).toBeLessThan(-20);
    expect(after[1]!).toBeGreaterThan(-40 + 1);
    for (const i of [0, 2, 3]) expect(after[i]!).toBeGreaterThan(1);
  });

  test('more springs give way less; blocked, it does not give way at all', () => {
    const others = (bridge: BridgeTruth) => stands(turnOnBridge(strings, bridge, '0', T0, -40).strings)[3]!;
    expect(others(make(2))).toBeGreaterThan(others(make(5)));
    const held = holdBridge(strings, make(3), T0, true).bridge;
    const after = stands(turnOnBridge(strings, held, '0', T0, -40).strings);
    expect(after[0]!).toBeCloseTo(-40, 1);
    expect(Math.abs(after[3]!)).toBeLessThan(1e-6);
  });

  test('the claw tightened raises every string, and turned back leaves them where they were', () => {
    const tight = turnClaw(strings, make(3), T0, 0.5);
    for (const cents of stands(tight.strings)) expect(cents).toBeGreaterThan(2);
    const back = turnClaw(tight.strings, tight.bridge, T0 + 500, -0.5);
    for (const cents of stands(back.strings)) expect(Math.abs(cents)).toBeLessThan(0.01);
  });

  test('a knife edge that sticks leaves it a little forward after a dive; a clean one comes back', () => {
    const [clean, worn] = [0, 6].map((sticks) => stands(dive(strings, make(3, sticks), T0).strings));
    for (const cents of clean!) expect(Math.abs(cents)).toBeLessThan(0.05);
    for (const cents of worn!) expect(cents).toBeLessThan(-0.2);
  });

  test('clamps do the same each time, a little, and seldom down', () => {
    const [once, again] = [0, 1].map(() =>
      stands(lockNut(strings, holdBridge(strings, make(3), T0, true).bridge, T0).strings),
    );
    expect(once).toEqual(again);
    for (const cents of once!) expect(cents).toBeGreaterThan(-1.01);
    for (const cents of once!) expect(cents).toBeLessThan(5.01);
    expect(new Set(once).size).toBe(HZ.length);
  });
});

describe('a string over frets', () => {
  const plain: FrettedTruth = {
    scaleMm: 648,
    saddleMm: 0,
    nutMm: 0,
    inharmonicity: 0,
    height1Mm: 0,
    height12Mm: 0,
    pressMm: 0,
    stretch: 0,
    wear: 0,
  };
  const octave = (change: Partial<FrettedTruth>) => {
    const truth = { ...plain, ...change };
    return touchCents(truth, { kind: 'fret', fret: 12 }) - touchCents(truth, { kind: 'open' });
  };
  test('made as designed, every fret is a half step', () => {
    for (const fret of [1, 5, 12]) expect(touchCents(plain, { kind: 'fret', fret })).toBeCloseTo(100 * fret, 9);
  });
  test('a saddle that stands long flattens the octave by 1200 log2 of the lengths', () => {
    expect(octave({ saddleMm: 2 })).toBeCloseTo(1200 * Math.log2((648 + 2) / (324 + 2)), 9);
    expect(octave({ saddleMm: 2 })).toBeLessThan(1200);
  });
  test('action, pressing and stiffness sharpen it, and its natural harmonic follows none of action and pressing', () => {
    expect(octave({ height12Mm: 2.5, stretch: 60 })).toBeGreaterThan(1201);
    expect(octave({ pressMm: 0.8, stretch: 60 })).toBeGreaterThan(octave({ pressMm: 0.2, stretch: 60 }));
    expect(octave({ inharmonicity: 1e-4 })).toBeGreaterThan(1200);
    const harmonic = (change: Partial<FrettedTruth>) => touchCents({ ...plain, ...change }, { kind: 'harmonic' });
    expect(harmonic({ height12Mm: 2.5, pressMm: 0.8, stretch: 60 })).toBe(harmonic({}));
  });
  test('worn under the first frets it is light where the open string swings least: the octave is off', () => {
    expect(Math.abs(octave({ wear: 0.02 }) - 1200)).toBeGreaterThan(1);
  });
});

describe('how a string is held', () => {
  const binding = string('1', { faults: [{ kind: 'nut', cents: 8, at: -1 }] });
  const cents = (s: StringTruth) => trueCents(s, T0 + 1000);
  test('a nut that binds holds it anywhere within its width and nowhere outside', () => {
    let s = binding;
    const seen: number[] = [];
    for (const how of ['dive', 'big-bend', 'press-behind-nut', 'pull-up', 'dive', 'from-above'] as const) {
      s = disturb(s, T0, how);
      seen.push(cents(s));
    }
    expect(Math.max(...seen) - Math.min(...seen)).toBeCloseTo(8, 6);
    // A dive leaves it sharp, a bend flat, whatever was before.
    expect(seen[0]! - seen[1]!).toBeCloseTo(8, 6);
    expect(seen[4]!).toBeCloseTo(seen[0]!, 6);
  });
  test('mended it moves a tenth as far', () => {
    const width = (s: StringTruth) =>
      cents(disturb(s, T0, 'dive')) - cents(disturb(disturb(s, T0, 'dive'), T0, 'big-bend'));
    expect(width(mend(binding, 'nut'))).toBeCloseTo(0.1 * width(binding), 6);
  });
  test('a peg that slips only lets down, and warmth takes it as far as its material says', () => {
    const loose = string('1', { faults: [{ kind: 'peg', cents: 10, at: 0 }], tempCoefficient: -1.5 });
    for (const how of ['big-bend', 'pull-up', 'side-stretch', 'wait'] as const)
      expect(cents(disturb(loose, T0, how))).toBeLessThan(cents(loose) - 1);
    expect(cents(disturb(loose, T0, 'warm')) - cents(loose)).toBeCloseTo(-4.5, 6);
  });
});

describe('a string over contacts', () => {
  const run = (tensions: number[]): StringRun => ({
    lengths: [0.2, 1, 0.1],
    speaking: 1,
    holds: [
      { still: 6, sliding: 4 },
      { still: 3, sliding: 2 },
    ],
    tensions: [...tensions],
  });
  const length = (r: StringRun) => r.tensions.reduce((sum, t, i) => sum + t * r.lengths[i]!, 0);
  test('what a contact can hold stays; beyond it slides until no contact holds more than it can, and no length is lost', () => {
    const still = run([5, 0, 2]);
    slide(still);
    expect(still.tensions).toEqual([5, 0, 2]);
    const sliding = run([40, 0, -30]);
    const before = length(sliding);
    slide(sliding);
    expect(length(sliding)).toBeCloseTo(before, 9);
    expect(Math.abs(sliding.tensions[0]! - sliding.tensions[1]!)).toBeLessThanOrEqual(6.01);
    expect(Math.abs(sliding.tensions[1]! - sliding.tensions[2]!)).toBeLessThanOrEqual(3.01);
  });
  test('pulled where it speaks and pulled behind the contact leave it on opposite sides, and a second pull at the same place', () => {
    const after = (segment: number, times: number) => {
      const r = run([0, 0, 0]);
      for (let k = 0; k < times; k++) pull(r, segment, 60);
      return r.tensions[1]!;
    };
    expect(after(1, 1)).toBeLessThan(-0.05);
    expect(after(0, 1)).toBeGreaterThan(0.05);
    for (const segment of [0, 1]) expect(Math.abs(after(segment, 2) - after(segment, 1))).toBeLessThan(0.02);
  });
  test('all contacts give together: pulled and let go at once, it stands where it does when that is done little by little', () => {
    const length = fc.double({ min: 0.03, max: 0.5, noNaN: true });
    const hold = fc.double({ min: 0.2, max: 60, noNaN: true });
    const part = fc.double({ min: -0.99, max: 0.99, noNaN: true });
    const rise = fc.double({ min: -300, max: 500, noNaN: true });
    fc.assert(
      fc.property(length, length, length, hold, hold, hold, part, part, part, rise, fc.nat(3), (...drawn) => {
        const [l0, l1, l3, h0, h1, h2, p0, p1, p2, cents, segment] = drawn;
        const holds = [h0, h1, h2].map((h) => ({ still: h, sliding: h }));
        const begin = (): StringRun => ({
          lengths: [l0, l1, 1, l3],
          speaking: 2,
          holds,
          tensions: [p1 * h1 + p0 * h0, p1 * h1, 0, p2 * h2],
        });
        const [once, slowly] = [begin(), begin()];
        pull(once, segment, cents);
        const STEPS = 150;
        for (const sign of [1, -1])
          for (let k = 0; k < STEPS; k++) {
            slowly.tensions[segment]! += (sign * cents) / STEPS;
            slide(slowly);
          }
        once.tensions.forEach((t, i) => expect(Math.abs(t - slowly.tensions[i]!)).toBeLessThan(0.1));
      }),
      { numRuns: 60 },
    );
  });
  test('a bend takes pitch away at a nut that binds, also where a long free tail gives first', () => {
    const r: StringRun = {
      lengths: [0.38, 1, 0.3],
      speaking: 1,
      holds: [
        { still: 20.2, sliding: 13.1 },
        { still: 0.8, sliding: 0.7 },
      ],
      tensions: [4.4, 0, 0.4],
    };
    pull(r, 1, 173);
    expect(r.tensions[1]).toBeLessThan(-2);
    expect(r.tensions[0]! - r.tensions[1]!).toBeCloseTo(13.1, 1);
  });
});
