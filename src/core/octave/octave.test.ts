import fc from 'fast-check';
import { randomFrom, touchCents, type FrettedTruth } from '../simulate';
import {
  ageTrend,
  bridgeLine,
  errorAfterMove,
  grewAlone,
  judgeFrets,
  judgeString,
  learnResponse,
  octaveOf,
  saddleMoveMm,
  stiffOctaveCents,
} from '.';

const at = (cents: number, hz = 220) => hz * Math.pow(2, cents / 1200);
const length = fc.double({ min: 250, max: 1100, noNaN: true });
const error = fc.double({ min: -30, max: 30, noNaN: true });

test('648 mm and +5.0 cents ask for 1.88 mm longer', () => {
  expect(saddleMoveMm(648, 5)).toBeCloseTo(1.88, 2);
  expect(saddleMoveMm(648, 0)).toBe(0);
});

test('sharp means longer, flat shorter; the move made leaves nothing, undone it gives the error back', () => {
  fc.assert(
    fc.property(length, error, (mm, cents) => {
      fc.pre(Math.abs(cents) > 0.01);
      const move = saddleMoveMm(mm, cents);
      expect(Math.sign(move)).toBe(Math.sign(cents));
      const left = errorAfterMove(mm, cents, move);
      expect(left).toBeCloseTo(0, 8);
      expect(errorAfterMove(mm + move, left, -move, mm / 2 + move)).toBeCloseTo(cents, 8);
    }),
  );
});

test('a uniform stiff string’s harmonic is sharp of two by what Fletcher’s law says', () => {
  const b = 3e-4;
  expect(stiffOctaveCents(b)).toBeCloseTo(1200 * Math.log2(Math.sqrt((1 + 4 * b) / (1 + b))), 10);
  const o = octaveOf({
    openHz: 110,
    fret12Hz: at(4),
    harmonic12Hz: at(stiffOctaveCents(b)),
    inharmonicity: b,
    sigmaCents: 0.1,
  });
  expect(o.stringCents).toBeCloseTo(0, 8);
  expect(o.geometryCents).toBeCloseTo(4, 8);
  expect(o.sigmaCents).toBeCloseTo(0.1 * Math.SQRT2, 10);
});

test.each([
  ['in-tune', 0.4, 0, 0.1],
  ['saddle', 5, 0, 0.1],
  ['saddle', -3, 0.3, 0.2],
  ['string', 5, 2.4, 0.1],
  ['string', 0, -1.8, 0.2],
  ['pressing', 6, 0, 1.5],
  ['pressing', 24, 0, 0.2],
  ['unclear', 1.5, 0, 1],
] as const)('%s: octave %s, harmonic %s, a reading good to %s', (verdict, e, h, sigmaCents) => {
  const o = octaveOf({ openHz: 110, fret12Hz: at(e), harmonic12Hz: at(h), inharmonicity: 0, sigmaCents });
  expect(judgeString(o, sigmaCents, 648)).toBe(verdict);
});

test('a straight bridge: the outer strings ask, the inner ones follow, and a curve wants compensation', () => {
  const strings = [0, 12, 24, 36].map((acrossMm) => {
    const moveMm = 2 - acrossMm / 12;
    // The error that exactly this move mends.
    return { acrossMm, lengthMm: 670, errorCents: -errorAfterMove(670, 0, moveMm) };
  });
  const line = bridgeLine(strings)!;
  expect(line.footMoves.lowMm).toBeCloseTo(2, 1);
  expect(line.footMoves.highMm).toBeCloseTo(-1, 1);
  for (const r of line.residualCents) expect(Math.abs(r)).toBeLessThan(0.05);
  expect(line.compensation).toBeNull();
  const bent = bridgeLine(strings.map((s, i) => (i === 1 ? { ...s, errorCents: s.errorCents + 6 } : s)))!;
  expect(bent.residualCents[1]).toBeCloseTo(6, 1);
  expect(bent.compensation![1]).toBeCloseTo(saddleMoveMm(670, 6), 1);
  expect(Math.max(...bent.leastSquares.residualCents.map(Math.abs))).toBeLessThan(6);
  expect(bridgeLine([strings[0]!])).toBeUndefined();
  expect(bridgeLine([strings[0]!, { ...strings[1]!, acrossMm: 0.2 }])).toBeUndefined();
});

const even: FrettedTruth = {
  scaleMm: 648,
  saddleMm: 0,
  nutMm: 0,
  inharmonicity: 0,
  height1Mm: 0.05,
  height12Mm: 0.05,
  pressMm: 0,
  stretch: 60,
  wear: 0,
};
const fretErrors = (truth: FrettedTruth, more: (fret: number) => number = () => 0) =>
  [1, 3, 5, 7, 12, 15, 19].map((fret) => ({
    fret,
    errorCents:
      touchCents(truth, { kind: 'fret', fret }) - touchCents(truth, { kind: 'open' }) - 100 * fret + more(fret),
    sigmaCents: 0.2,
    scatterCents: 0.3,
  }));

test('several frets tell the saddle’s end from the nut’s', () => {
  const saddle = judgeFrets(648, fretErrors({ ...even, saddleMm: -2 }))!;
  expect(saddle.verdict).toBe('saddle');
  expect(saddle.saddleMm).toBeCloseTo(2, 1);
  expect(Math.abs(saddle.nutMm)).toBeLessThan(0.1);
  const nut = judgeFrets(648, fretErrors({ ...even, nutMm: 1.5 }))!;
  expect(nut.verdict).toBe('nut');
  expect(nut.nutMm).toBeCloseTo(1.5, 1);
  expect(nut.doubt).toContain('Hard pressing');
  expect(judgeFrets(648, fretErrors(even))!.verdict).toBe('in-tune');
  expect(
    judgeFrets(
      648,
      fretErrors(even, (f) => (f === 7 ? 6 : 0)),
    ),
  ).toMatchObject({
    verdict: 'frets',
    doubt: expect.stringContaining('Fret 7') as string,
  });
  const hard = fretErrors({ ...even, height1Mm: 0.6, height12Mm: 2, pressMm: 1.5, stretch: 200 });
  expect(
    judgeFrets(
      648,
      hard.map((f) => ({ ...f, scatterCents: 2 })),
    )!.verdict,
  ).toBe('pressing');
  expect(judgeFrets(648, hard.slice(0, 1))).toBeUndefined();
});

test('the simulated string: stiffness, pressing and wear do what physics says', () => {
  const octave = (t: FrettedTruth) =>
    touchCents(t, { kind: 'fret', fret: 12 }) - touchCents(t, { kind: 'open' }) - 1200;
  const harmonic = (t: FrettedTruth) => touchCents(t, { kind: 'harmonic' }) - touchCents(t, { kind: 'open' }) - 1200;
  expect(Math.abs(octave(even))).toBeLessThan(0.05);
  // (600 / ln 2) EA/T h^2 / (2 a b) of the length: 0.99 cents for 2 mm in the middle of 648 mm with EA/T = 60.
  expect(octave({ ...even, height12Mm: 2 })).toBeCloseTo(((600 / Math.LN2) * 60 * 4) / (2 * 324 * 324), 1);
  expect(octave({ ...even, height12Mm: 2, pressMm: 0.5 })).toBeGreaterThan(octave({ ...even, height12Mm: 2 }));
  expect(harmonic({ ...even, inharmonicity: 2e-4 })).toBeCloseTo(stiffOctaveCents(2e-4), 6);
  expect(
    octave({ ...even, saddleMm: saddleMoveMm(648, octave({ ...even, height12Mm: 2 })), height12Mm: 2 }),
  ).toBeCloseTo(0, 1);
  expect(Math.abs(harmonic({ ...even, wear: 0.02 }))).toBeGreaterThan(1);
});

test('a bridge that answers less than geometry says is learned from its moves', () => {
  const plain = learnResponse(648, []);
  expect(plain.centsPerMm).toBeCloseTo(-2.67, 1);
  const moved = [2, -1.5, 1].map((moveMm) => ({ moveMm, beforeCents: 3, afterCents: 3 - 2 * moveMm, sigmaCents: 0.1 }));
  const learned = learnResponse(648, moved);
  expect(learned.centsPerMm).toBeCloseTo(-2, 1);
  expect(learned.sigma).toBeLessThan(plain.sigma);
});

test('age: a steady growth is called and its crossing foretold, noise is not', () => {
  const random = randomFrom(3);
  const passes = (perMonth: number) =>
    Array.from({ length: 9 }, (_, m) => ({
      ageDays: 30 * m,
      errorCents: perMonth * m + 0.3 * random.normal(),
      sigmaCents: 0.3,
    }));
  const grown = ageTrend(passes(0.35), 4)!;
  expect(grown.grows).toBe(true);
  expect(grown.crosses!.q50! / 30).toBeGreaterThan(9);
  expect(grown.crosses!.q50! / 30).toBeLessThan(14);
  expect(grown.crosses!.q10!).toBeLessThan(grown.crosses!.q50!);
  const still = ageTrend(passes(0), 4)!;
  expect(still.grows).toBe(false);
  expect(still.crosses).toBeNull();
  expect(ageTrend(passes(1).slice(0, 3), 4)).toBeUndefined();
});

test('what grew on one string alone is that string; what grew on all is not', () => {
  const trend = (perMonth: number, wobble = 0) =>
    ageTrend(
      Array.from({ length: 8 }, (_, m) => ({
        ageDays: 30 * m,
        errorCents: perMonth * m + wobble * (m % 2 ? 1 : -1),
        sigmaCents: 0.2,
      })),
      4,
    );
  expect(grewAlone([trend(0.8), trend(0, 0.1), trend(0.02, 0.1)])).toEqual([true, false, false]);
  expect(grewAlone([trend(0.8), trend(0.7), trend(0, 0.1)])).toEqual([false, false, false]);
  // The other way is another matter; without neighbours to compare with nothing is said.
  expect(grewAlone([trend(0.8), trend(-0.8)])).toEqual([true, true]);
  expect(grewAlone([trend(0.8), undefined])).toEqual([false, false]);
  const sharp = octaveOf({ openHz: 110, fret12Hz: at(4), harmonic12Hz: 220, inharmonicity: 0, sigmaCents: 0.1 });
  expect(judgeString(sharp, 0.1, 648)).toBe('saddle');
  expect(judgeString(sharp, 0.1, 648, true)).toBe('string');
});
