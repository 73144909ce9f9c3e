import { measurePair, measureSteady, type PairOptions } from '.';
import { pluck, plainPluck, randomFrom, type PluckSpec } from '../simulate';
import { clamp } from '../base';

const RATE = 22050;
interface Sounded {
  spec: PluckSpec;
  atS: number;
}
/** Strings of the simulator, which is not the law that the measurement fits: polarisations, a sharp start, body noise. */
function sound(strings: Sounded[], lastsS = 3.6, noise = 2e-4): Float32Array {
  const out = new Float32Array(Math.round(lastsS * RATE));
  const random = randomFrom(3);
  for (const { spec, atS } of strings) pluck(spec, RATE, random).render(out, Math.round(atS * RATE), out.length, 1);
  for (let i = 0; i < out.length; i++) out[i]! += noise * random.normal();
  return out;
}
const two = (aHz: number, [p, q]: [number, number], off: number, laterS: number, more: Partial<PluckSpec> = {}) => {
  const quiet = { secondShare: 0, glideCents: 0.3, attack: 0.02, decayS: 2.5 };
  const bHz = ((aHz * p) / q) * 2 ** (off / 1200);
  return sound([
    { spec: plainPluck(aHz, quiet), atS: 0.3 },
    {
      spec: plainPluck(bHz, { ...quiet, inharmonicity: 9e-5, pluckAt: 0.19, level: 0.25, ...more }),
      atS: 0.3 + laterS,
    },
  ]);
};
const asked = (aHz: number, ratio: [number, number]): PairOptions => ({ aHz, bHz: (aHz * ratio[0]) / ratio[1], ratio });

test.each<[string, number, [number, number], number]>([
  ['fifth', 196, [3, 2], 3.2],
  ['fourth, flat', 110, [4, 3], -12.5],
  ['octave', 147, [2, 1], 6],
  ['octave below', 294, [1, 2], -4.5],
  ['double octave', 98, [4, 1], 15],
  ['twelfth', 131, [3, 1], -22],
  ['major third', 165, [5, 4], 13.7],
  ['minor sixth', 123, [8, 5], -8],
  ['wide fifth', 220, [3, 2], 38],
])('%s', (_, aHz, ratio, off) => {
  const r = measurePair(two(aHz, ratio, off, 0.22), RATE, asked(aHz, ratio));
  expect(r).toMatchObject({ ok: true, signKnown: true });
  if (!r.ok) return;
  expect(Math.abs(r.cents - off)).toBeLessThan(0.5);
  const [p, q] = ratio;
  // The lowest partials that meet are the p-th of the one and the q-th of the other.
  const beats = Math.abs(q * r.bHz - p * r.aHz);
  expect(Math.abs(r.beatsHz - beats)).toBeLessThan(0.02 * q * r.bHz * 0.01 + 0.3);
});

test.each([-18, -6, 7, 24])('a unison that stands %p off: how far, and which way since the first was alone', (off) => {
  const r = measurePair(two(220, [1, 1], off, 0.3), RATE, asked(220, [1, 1]));
  expect(r.ok).toBe(true);
  if (!r.ok) return;
  expect(Math.abs(Math.abs(r.cents) - Math.abs(off))).toBeLessThan(0.6);
  if (r.signKnown) expect(Math.sign(r.cents)).toBe(Math.sign(off));
});

test('plucked together, a unison does not say which is which', () => {
  const r = measurePair(two(220, [1, 1], 12, 0), RATE, asked(220, [1, 1]));
  expect(r).toMatchObject({ ok: true, signKnown: false });
});

test.each<[string, Float32Array, string]>([
  ['one string', sound([{ spec: plainPluck(196, { secondShare: 0 }), atS: 0.3 }]), 'one-string'],
  [
    'a third string beside them',
    sound([196, 294, 247].map((hz) => ({ spec: plainPluck(hz, { secondShare: 0 }), atS: 0.3 }))),
    'other-notes',
  ],
  ['silence', sound([]), 'no-pitch'],
  ['hardly a sound', new Float32Array(RATE).map((_, i) => 1e-5 * Math.sin(i)), 'too-quiet'],
  ['a moment', two(196, [3, 2], 3, 0).subarray(0, Math.round(0.4 * RATE)), 'too-short'],
  [
    'hum',
    new Float32Array(3 * RATE).map(
      (_, i) => 0.2 * Math.sin((2 * Math.PI * 50 * i) / RATE) + 0.1 * Math.sin((2 * Math.PI * 150 * i) / RATE),
    ),
    'hum',
  ],
])('%s is refused', (_, samples, reason) => {
  const r = measurePair(samples, RATE, asked(196, [3, 2]));
  expect(r.ok ? 'accepted' : r.reason).toBe(reason);
});

test('a gap and a clipped recording are refused', () => {
  const gap = two(196, [3, 2], 3, 0.1);
  gap.fill(gap[Math.round(1.5 * RATE)]!, Math.round(1.5 * RATE), Math.round(1.52 * RATE));
  expect(measurePair(gap, RATE, asked(196, [3, 2]))).toMatchObject({ ok: false, reason: 'gap' });
  const loud = two(196, [3, 2], 3, 0.1).map((v) => clamp(v, -0.01, 0.01));
  expect(measurePair(loud, RATE, asked(196, [3, 2]))).toMatchObject({ ok: false, reason: 'clipped' });
});

test('a fork for six seconds: within a twentieth of a cent, and a drifting reed says so', () => {
  const random = randomFrom(8);
  const tone = (hz: (t: number) => number, partials: number[]) => {
    const out = new Float32Array(6 * RATE);
    let phase = 0;
    for (let i = Math.round(0.3 * RATE); i < out.length; i++) {
      phase += (2 * Math.PI * hz(i / RATE)) / RATE;
      for (const n of partials) out[i]! += (0.2 / n) * Math.sin(n * phase);
      out[i]! += 1e-3 * random.normal();
    }
    return out;
  };
  const fork = measureSteady(
    tone(() => 441.3, [1]),
    RATE,
    440,
    'fork',
  );
  expect(fork.ok && Math.abs(1200 * Math.log2(fork.frequencyHz / 441.3))).toBeLessThan(0.05);
  expect(fork.ok && fork.sigmaCents).toBeLessThan(0.1);
  const reed = measureSteady(
    tone((t) => 440 * 2 ** ((0.5 * t) / 1200), [1, 2, 3, 4]),
    RATE,
    440,
    'reed',
  );
  // Half a cent a second: from the first third to the last some two cents.
  expect(reed.ok && reed.driftCents).toBeGreaterThan(1.2);
  expect(
    measureSteady(
      tone(() => 494, [1]),
      RATE,
      440,
      'fork',
    ),
  ).toMatchObject({ ok: false, reason: 'other-notes' });
  expect(measureSteady(tone(() => 440, [1]).subarray(0, 12000), RATE, 440, 'fork')).toMatchObject({
    ok: false,
    reason: 'too-short',
  });
});
