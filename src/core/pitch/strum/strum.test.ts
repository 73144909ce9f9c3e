import { addNoise, plainPluck, pluck, randomFrom } from '../../simulate';
import { knownPartials, measure, readStrum, type StrummedString } from '..';

const RATE = 44100;
const GUITAR = { E4: 329.63, B3: 246.94, G3: 196, D3: 146.83, A2: 110, E2: 82.41 };
type Name = keyof typeof GUITAR;
const NAMES = Object.keys(GUITAR) as Name[];
const at = (hz: number, cents: number) => hz * 2 ** (cents / 1200);

/** Each string has a stiffness of its own: what tells its partials from the octaves of another. */
const spec = (name: Name, cents: number) =>
  plainPluck(at(GUITAR[name], cents), { inharmonicity: 3e-5 * (1 + NAMES.indexOf(name)), decayS: 1.8, glideCents: 1 });

function sound(plucks: { name: Name; cents: number; atS: number }[], seed: number, seconds: number): Float32Array {
  const random = randomFrom(seed);
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const { name, cents, atS } of plucks)
    pluck(spec(name, cents), RATE, random).render(out, Math.round(atS * RATE), out.length, 0.5);
  addNoise(out, 0.0003, random);
  return out;
}

const learned = new Map(
  NAMES.map((name) => {
    const targetHz = GUITAR[name];
    const plucks = [-8, 2].flatMap((cents) => {
      const reading = measure(sound([{ name, cents, atS: 0.2 }], NAMES.indexOf(name), 1.8), RATE, { targetHz });
      return reading.ok ? [{ reading, cents }] : [];
    });
    return [name, knownPartials(targetHz, plucks)] as const;
  }),
);
const known = (name: Name, expectedCents = 0): StrummedString => ({
  id: name,
  targetHz: GUITAR[name],
  expectedCents,
  expectedSigmaCents: 3,
  partials: learned.get(name)!,
});
/** Struck from the lowest to the highest, 20 ms apart. */
function strum(stand: Partial<Record<Name, number>>, seconds = 2.8, strings = NAMES.map((n) => known(n))) {
  const struck = NAMES.toReversed().filter((n) => stand[n] !== undefined);
  const x = sound(
    struck.map((name, k) => ({ name, cents: stand[name]!, atS: 0.3 + 0.02 * k })),
    9,
    seconds,
  );
  return new Map(readStrum(x, RATE, strings).map((h) => [h.id, h]));
}
const STAND = { E4: -4, B3: 3, G3: -2, D3: -6, A2: 1.5, E2: -3 };

test('what a string’s partials are is learned from plucks of it, with what they differ by', () => {
  const reading = (hz: number[]) => ({
    partials: hz.map((frequencyHz, i) => ({ n: i + 1, frequencyHz, sigmaHz: 0.01 })),
  });
  const [first, second] = knownPartials(100, [
    { reading: reading([at(100, 10), at(201, 10)]), cents: 10 },
    { reading: reading([at(100, -5 + 0.6)]), cents: -5 },
  ]);
  expect(1200 * Math.log2(first!.ratio)).toBeCloseTo(0.3, 6);
  expect(first!.sigmaCents).toBeCloseTo(Math.hypot(0.12, 0.6 / Math.SQRT2), 6);
  expect(second).toMatchObject({ n: 2, sigmaCents: 0.35 });
  expect(second!.ratio).toBeCloseTo(2.01, 6);
});

test('one strum tells where every string stands, also one that is far from where it should be', () => {
  const heard = strum({ ...STAND, G3: -31 });
  let read = 0;
  for (const [name, cents] of Object.entries({ ...STAND, G3: -31 })) {
    const h = heard.get(name)!;
    if (!h.ok) continue;
    read++;
    expect(Math.abs(h.cents - cents)).toBeLessThan(0.5);
    expect(h.sigmaCents).toBeLessThan(1);
  }
  expect(read).toBeGreaterThanOrEqual(5);
  expect(heard.get('G3')!.ok).toBe(true);
});

test.each(NAMES)('%s, where it was not struck, is not answered', (name) => {
  const { [name]: _, ...others } = STAND;
  expect(strum(others).get(name)).toMatchObject({ ok: false });
});

test('what cannot be told is refused with its reason', () => {
  const bare = { ...known('E4'), partials: [] };
  const twin = { ...known('B3'), id: 'B3 b' };
  const heard = strum(STAND, 2.8, [bare, known('B3'), twin, known('G3')]);
  expect(heard.get('E4')).toEqual({ id: 'E4', ok: false, reason: 'no-reference' });
  expect(heard.get('B3')).toEqual({ id: 'B3', ok: false, reason: 'course' });
  expect(heard.get('B3 b')).toEqual({ id: 'B3 b', ok: false, reason: 'course' });
  expect(strum(STAND, 1).get('G3')).toEqual({ id: 'G3', ok: false, reason: 'too-short' });
  expect(strum({}).get('G3')).toMatchObject({ ok: false });
});
