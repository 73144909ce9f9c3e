import fc from 'fast-check';
import { cents, ratioOfCents, targetFrequencyHz } from '../music';
import { createTracker } from '../pitch';
import { pluck, pluckOf, randomFrom, trueCents, turnString, type StringTruth } from '../simulate';
import { FAMILIES, guardAllowanceCents, pitchGuard, setLoad, stringLoad, type PresetString } from '.';

const loadOf = (s: PresetString, frequencyHz: number) =>
  stringLoad({ material: s.material, gaugeMm: s.gaugeMm ?? undefined, lengthMm: s.lengthMm, frequencyHz });

function truthOf(s: PresetString): StringTruth {
  const targetHz = targetFrequencyHz(s.note, 440)!;
  const load = loadOf(s, targetHz);
  return {
    stringId: 's1',
    targetHz,
    strungMs: 0,
    creepCents: 2,
    renewal: 0.3,
    tempCoefficient: 0,
    inharmonicity: load?.inharmonicity ?? 3e-5,
    decayS: 2,
    rolloff: 1.1,
    seed: 4,
    startCents: -40,
    turns: [],
    slips: [],
    ...(load?.breakingHz ? { breakCents: cents(load.breakingHz, targetHz) } : {}),
  };
}

const RATE = 16000;
const STEP_S = 0.05;

/** Turns a sounding string up without stopping, 10 cents a step; tells where the guard said stop and where it broke. */
function turnTooFar(s: PresetString, stopAtGuard: boolean) {
  let string = truthOf(s);
  const load = loadOf(s, string.targetHz);
  const tracker = createTracker(RATE, string.targetHz);
  const voice = pluck(pluckOf(string, 0.4, 1), RATE, randomFrom(9));
  const window = new Float64Array(Math.ceil(tracker.windowS * RATE));
  const block = new Float32Array(STEP_S * RATE);
  for (let k = 1; k < 200 && string.brokenMs === undefined; k++) {
    const atMs = k * STEP_S * 1000;
    string = turnString(string, atMs, 10);
    block.fill(0);
    voice.render(block, 0, block.length, ratioOfCents(trueCents(string, atMs)));
    window.copyWithin(0, block.length);
    window.set(block, window.length - block.length);
    const heard = tracker.glimpse(window, atMs / 1000, []).point.cents;
    const call = heard === null ? undefined : pitchGuard(heard, load, s.note);
    if (call?.level === 'stop' && stopAtGuard) return { string, heard, call };
  }
  return { string, heard: null, call: undefined };
}

test.each(FAMILIES.map((f) => [f.name, f] as const))(
  '%s: the guard stops the hand by ear before the string breaks',
  (_, family) => {
    const tightest = [...family.strings].sort((a, b) => {
      const headroom = (s: PresetString) => loadOf(s, targetFrequencyHz(s.note, 440)!)?.headroomSemitones ?? Infinity;
      return headroom(a) - headroom(b);
    });
    for (const s of tightest.slice(0, 2)) {
      const { string, call } = turnTooFar(s, true);
      expect(call?.level).toBe('stop');
      expect(string.brokenMs).toBeUndefined();
    }
  },
);

test('without the guard the simulated string does break at its limit, and sounds no more', () => {
  const { string } = turnTooFar(FAMILIES.find((f) => f.code === 'kantele-11')!.strings[0]!, false);
  expect(string.brokenMs).toBeDefined();
  expect(turnString(string, 1e6, 50)).toBe(string);
});

test('the guard allows a third of the headroom, 100 cents at most, and 100 where the physics is unknown', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.2, max: 1, noNaN: true }), (share) => {
      const load = {
        unitMassKgPerM: 1e-3,
        tensionN: 50,
        shareOfBreaking: share,
        breakingHz: 440 / Math.sqrt(share),
        headroomSemitones: -6 * Math.log2(share),
        inharmonicity: null,
      };
      const allowed = guardAllowanceCents(load);
      expect(allowed).toBeLessThanOrEqual(100);
      expect(allowed).toBeLessThanOrEqual(200 * -Math.log2(share) + 1e-9);
      expect(pitchGuard(allowed + 1, load, 'A4')?.level).toBe('stop');
    }),
  );
  expect(guardAllowanceCents(undefined)).toBe(100);
  expect(pitchGuard(99, undefined, 'A4')).toBeUndefined();
  expect(pitchGuard(101, undefined, 'A4')).toMatchObject({ level: 'stop', reason: 'past-target' });
});

test('a string at 80 % of breaking is called near from 85 %, and stopped at a third of its headroom', () => {
  const load = loadOf({ note: 'A4', lengthMm: 400, material: 'plain-steel', gaugeMm: 0.4 }, 440)!;
  const to = (share: number) => 600 * Math.log2(share / load.shareOfBreaking!);
  const at80 = loadOf(
    { note: 'A4', lengthMm: 400, material: 'plain-steel', gaugeMm: 0.4 },
    440 * ratioOfCents(to(0.8)),
  )!;
  expect(at80.shareOfBreaking).toBeCloseTo(0.8, 6);
  expect(pitchGuard(0, at80, 'A4')).toBeUndefined();
  expect(pitchGuard(600 * Math.log2(0.86 / 0.8), at80, 'A4')).toMatchObject({ level: 'near', reason: 'share' });
  expect(pitchGuard(600 * Math.log2(0.94 / 0.8), at80, 'A4')).toMatchObject({ level: 'stop', reason: 'share' });
});

describe('a whole set', () => {
  const set = (code: string, shift = 0) =>
    FAMILIES.find((f) => f.code === code)!.strings.map((s) => ({
      ...s,
      gaugeMm: s.gaugeMm ?? undefined,
      frequencyHz: targetFrequencyHz(s.note, 440)! * ratioOfCents(shift),
    }));

  test('default sets of guitars are even enough to call nothing', () => {
    for (const code of ['guitar-steel', 'guitar-nylon', 'electric-floating', 'bass-4'])
      expect(setLoad(set(code)).warnings).toEqual([]);
  });

  test('a half step down pulls 11 % less; back up it is told that it pulls more', () => {
    const now = setLoad(set('guitar-steel'));
    const down = setLoad(set('guitar-steel', -100));
    expect(down.sumN / now.sumN).toBeCloseTo(2 ** (-1 / 6), 6);
    expect(setLoad(set('guitar-steel'), set('guitar-steel', -100)).warnings.map((w) => w.code)).toEqual([
      'set-pulls-more',
    ]);
  });

  test('a string tuned far below its neighbours is floppy, one tuned far above them is over its limit', () => {
    const strings = set('guitar-steel');
    strings[0] = { ...strings[0]!, frequencyHz: strings[0]!.frequencyHz * 0.55 };
    expect(setLoad(strings).warnings).toMatchObject([{ code: 'floppy', string: 0 }]);
    strings[0] = { ...strings[0]!, frequencyHz: targetFrequencyHz('A4', 440)! };
    expect(setLoad(strings).warnings[0]).toMatchObject({ code: 'over-limit', string: 0 });
  });

  test('a string of unknown mass takes no part in sums and is not guessed at', () => {
    const { loads, known, balance } = setLoad(set('violin'));
    expect(known).toBe(1);
    expect(loads.filter((l) => l === undefined)).toHaveLength(3);
    expect(balance[1]).toBeNull();
  });
});
