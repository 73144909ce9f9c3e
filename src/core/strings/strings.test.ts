import { targetFrequencyHz } from '../music';
import {
  axialStiffnessN,
  centsPerDegree,
  centsPerMm,
  clockMinutes,
  FAMILIES,
  REFUSE_SHARE,
  stringLoad,
  takenUpPerTurnMm,
} from '.';

test('a plain steel .010 in string at E4 over 648 mm pulls 72.6 N at 53 % of breaking (Taylor; ASTM A228)', () => {
  const load = stringLoad({ material: 'plain-steel', gaugeMm: 0.254, lengthMm: 648, frequencyHz: 329.63 })!;
  expect(load.tensionN).toBeCloseTo(72.6, 1);
  expect(load.shareOfBreaking).toBeCloseTo(0.53, 2);
});

test('at 80 % of breaking a string breaks 1.9 semitones up', () => {
  const f = 300;
  const at = (hz: number) => stringLoad({ material: 'plain-nylon', gaugeMm: 0.7, lengthMm: 650, frequencyHz: hz })!;
  const hz = f * Math.sqrt(0.8 / at(f).shareOfBreaking!);
  expect(at(hz).headroomSemitones).toBeCloseTo(1.93, 2);
  expect(at(at(hz).breakingHz!).shareOfBreaking).toBeCloseTo(1, 9);
});

test('a plain nylon string’s share does not depend on its gauge', () => {
  const share = (gaugeMm: number) =>
    stringLoad({ material: 'plain-nylon', gaugeMm, lengthMm: 650, frequencyHz: 247 })!.shareOfBreaking!;
  expect(share(0.6)).toBeCloseTo(share(1), 9);
});

test('unknown stays unknown, and the packet’s unit mass counts', () => {
  expect(stringLoad({ material: 'synthetic-bowed', lengthMm: 375, frequencyHz: 440 })).toBeUndefined();
  const load = stringLoad({ material: 'synthetic-bowed', lengthMm: 375, frequencyHz: 440, unitMassKgPerM: 6e-4 })!;
  expect(load.tensionN).toBeCloseTo(6e-4 * (2 * 0.375 * 440) ** 2, 9);
  expect(load.shareOfBreaking).toBeNull();
});

test.each(FAMILIES.map((f) => [f.name, f] as const))('%s can be brought to pitch', (_, family) => {
  for (const s of family.strings) {
    const frequencyHz = targetFrequencyHz(s.note, 440)!;
    const load = stringLoad({
      material: s.material,
      gaugeMm: s.gaugeMm ?? undefined,
      lengthMm: s.lengthMm,
      frequencyHz,
    });
    if (load?.shareOfBreaking) expect(load.shareOfBreaking).toBeLessThan(REFUSE_SHARE);
    else expect(s.gaugeMm).toBeNull();
  }
});

test('cents per mm taken up agree with the exact law, by finite difference', () => {
  const spec = { material: 'plain-steel' as const, gaugeMm: 0.254, lengthMm: 648, frequencyHz: 329.63 };
  const { tensionN } = stringLoad(spec)!;
  const stiffnessN = axialStiffnessN('plain-steel', 0.254)!;
  const totalMm = 780;
  // Hooke: T = EA (taken up / slack length); f goes with the root of T.
  const f = (upMm: number) => Math.sqrt(tensionN + (stiffnessN * upMm) / totalMm);
  const difference = (1200 * Math.log2(f(0.001) / f(-0.001))) / 0.002;
  expect(centsPerMm(stiffnessN, tensionN, totalMm)).toBeCloseTo(difference, 3);
  const perTurn = centsPerMm(stiffnessN, tensionN, totalMm) * takenUpPerTurnMm(6, 14);
  expect(clockMinutes(perTurn, perTurn)).toBe(60);
  expect(takenUpPerTurnMm(7)).toBeCloseTo(21.99, 2);
});

test('steel falls as it warms; what is not known is not guessed', () => {
  const stiffnessN = axialStiffnessN('plain-steel', 0.254)!;
  expect(centsPerDegree('plain-steel', stiffnessN, 72.6)).toBeCloseTo(-1.39, 2);
  expect(centsPerDegree('plain-nylon', 2000, 70)).toBeUndefined();
  expect(axialStiffnessN('synthetic-bowed', 0.8)).toBeUndefined();
  expect(axialStiffnessN('plain-steel', undefined)).toBeUndefined();
});
