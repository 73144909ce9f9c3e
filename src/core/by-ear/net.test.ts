import { randomFrom } from '../simulate';
import { solveNet, type Observation } from '.';

test('a chain of readings adds up, with its errors', () => {
  const { offsets, sigma, suspect } = solveNet(4, { string: 1, cents: 2 }, [
    { a: 2, b: 1, cents: 3, sigmaCents: 1 },
    { a: 2, b: 3, cents: 1, sigmaCents: 2 },
  ]);
  expect(offsets[3]).toBeNull();
  [2, 5, 4].forEach((at, i) => expect(offsets[i]).toBeCloseTo(at, 4));
  expect(sigma[0]).toBe(0);
  expect(sigma[1]).toBeCloseTo(1, 4);
  expect(sigma[2]).toBeCloseTo(Math.sqrt(5), 4);
  expect(sigma[3]).toBeNull();
  expect(suspect).toEqual([]);
});

test('two readings that only contradict one another are both named; neither is thrown away', () => {
  const { offsets, suspect } = solveNet(2, { string: 1, cents: 0 }, [
    { a: 2, b: 1, cents: 0, sigmaCents: 0.5 },
    { a: 2, b: 1, cents: 10, sigmaCents: 0.5 },
  ]);
  expect(suspect).toEqual([0, 1]);
  expect(offsets[1]).toBeCloseTo(5, 4);
});

test('what is not tied to the pin has no offset, but a reading there that disagrees is still named', () => {
  const loose: Observation[] = [3, 4, 5].flatMap((a) =>
    [3, 4, 5].filter((b) => b > a).map((b) => ({ a, b, cents: 0, sigmaCents: 0.3 })),
  );
  const { offsets, suspect } = solveNet(5, { string: 1, cents: 0 }, [
    { a: 2, b: 1, cents: 1, sigmaCents: 0.3 },
    ...loose,
    { a: 3, b: 4, cents: 8, sigmaCents: 0.3 },
  ]);
  expect(offsets[1]).toBeCloseTo(1, 4);
  expect(offsets.slice(2)).toEqual([null, null, null]);
  expect(suspect).toContain(4);
});

const NETS = 60;

test('sixty random nets: offsets within their errors, a gross reading found and without pull', () => {
  const random = randomFrom(5);
  let within = 0;
  let count = 0;
  let found = 0;
  let falsely = 0;
  let pull = 0;
  for (let net = 0; net < NETS; net++) {
    const strings = 4 + Math.floor(random.uniform() * 5);
    const truth = Array.from({ length: strings }, () => 6 * random.normal());
    const pin = { string: 1 + Math.floor(random.uniform() * strings), cents: 0 };
    pin.cents = truth[pin.string - 1]!;
    const observations: Observation[] = [];
    for (let a = 1; a <= strings; a++)
      for (let b = a + 1; b <= strings; b++) {
        const sigmaCents = random.between(0.3, 1);
        observations.push({ a, b, cents: truth[a - 1]! - truth[b - 1]! + sigmaCents * random.normal(), sigmaCents });
      }
    const gross = Math.floor(random.uniform() * observations.length);
    const spoilt = observations.map((o, k) =>
      k === gross ? { ...o, cents: o.cents + (random.uniform() < 0.5 ? -15 : 15) } : o,
    );
    const without = solveNet(
      strings,
      pin,
      observations.filter((_, k) => k !== gross),
    );
    const after = solveNet(strings, pin, spoilt);
    if (after.suspect.includes(gross)) found++;
    falsely += after.suspect.filter((k) => k !== gross).length;
    truth.forEach((t, i) => {
      pull = Math.max(pull, Math.abs(after.offsets[i]! - without.offsets[i]!));
      if (i + 1 === pin.string) return;
      count++;
      if (Math.abs(after.offsets[i]! - t) < 2 * after.sigma[i]!) within++;
    });
  }
  expect(found).toBe(NETS);
  expect(falsely).toBeLessThan(0.04 * NETS);
  expect(within / count).toBeGreaterThan(0.92);
  expect(pull).toBeLessThan(0.5);
});

test('half of the pairs tell no sign: singles and the rest decide, or it is said that nothing does', () => {
  const random = randomFrom(7);
  let [within, count, right, pairs, undecided] = [0, 0, 0, 0, 0];
  for (let net = 0; net < 40; net++) {
    const strings = 4 + Math.floor(random.uniform() * 4);
    const truth = Array.from({ length: strings }, (_, i) => (i === 0 ? 0 : 5 * random.normal()));
    const observations: Observation[] = truth.flatMap((t, i) =>
      i > 0 && random.uniform() < 0.7 ? [{ string: i + 1, cents: t + random.normal(), sigmaCents: 1 }] : [],
    );
    for (let k = 0; k < strings + 3; k++) {
      const a = 1 + Math.floor(random.uniform() * strings);
      const b = 1 + ((a + Math.floor(random.uniform() * (strings - 1))) % strings);
      const sigmaCents = random.between(0.2, 0.8);
      const cents = truth[a - 1]! - truth[b - 1]! + sigmaCents * random.normal();
      const size = Math.abs(cents);
      observations.push(k % 2 ? { a, b, cents, sigmaCents } : { a, b, cents: size, sigmaCents, orCents: -size });
    }
    const told = solveNet(strings, { string: 1, cents: 0 }, observations);
    truth.forEach((t, i) => {
      if (i === 0 || told.offsets[i] === null) return;
      count++;
      if (Math.abs(told.offsets[i]! - t) < 2 * told.sigma[i]!) within++;
    });
    observations.forEach((o, k) => {
      if (!('orCents' in o)) return;
      pairs++;
      if (told.undecided.includes(k)) undecided++;
      else if (
        (told.residuals[k]! + told.offsets[o.a - 1]! - told.offsets[o.b - 1]!) * (truth[o.a - 1]! - truth[o.b - 1]!) >
        0
      )
        right++;
    });
  }
  expect(within / count).toBeGreaterThan(0.92);
  expect((right + undecided) / pairs).toBeGreaterThan(0.98);
  expect(undecided / pairs).toBeLessThan(0.35);
});

test('a unison alone tells how far, not which way; one string read by itself decides it', () => {
  const unison: Observation = { a: 2, b: 1, cents: 3, sigmaCents: 0.3, orCents: -3 };
  const alone = solveNet(2, { string: 1, cents: 0 }, [unison]);
  expect(alone.undecided).toEqual([0]);
  expect(alone.sigma[1]).toBeGreaterThan(2.5);
  const known = solveNet(2, { string: 1, cents: 0 }, [unison, { string: 2, cents: -2.4, sigmaCents: 1 }]);
  expect(known.undecided).toEqual([]);
  expect(known.offsets[1]).toBeCloseTo(-2.95, 1);
});
