import { FAMILIES, slackForTurnsMm, traitsOf } from '../strings';
import { bringUpOrder, courseLabels, fittingPlan, REMOVALS, removalWords, turnsFor } from '.';

const strings = (code: string) =>
  FAMILIES.find((f) => f.code === code)!.strings.map((s, i) => ({ ...s, stringId: `s${i + 1}` }));
const planOf = (family: string, only?: number) => fittingPlan(traitsOf({ family }), strings(family).slice(0, only));
const codes = (family: string, only?: number) =>
  planOf(family, only).map((s) => `${s.stringIds.length === 1 ? s.stringIds[0] : '-'} ${s.code}`);
const words = (family: string) =>
  planOf(family)
    .flatMap((s) => [s.title, s.why, ...s.points, s.caution ?? ''])
    .join(' ');

test('outer and inner strings in turn, none lost', () => {
  expect(bringUpOrder([1, 2, 3, 4, 5, 6])).toEqual([1, 6, 2, 5, 3, 4]);
  expect(bringUpOrder([1])).toEqual([1]);
});

test('one string goes from its removal to its rounds, in the order of the work', () => {
  expect(codes('requinto-nylon', 1)).toEqual(
    ['take-off', 'look', 'on', 'raise-under', 'bed', 'raise', 'warm', 'rounds'].map((c) => `s1 ${c}`),
  );
});

test('what is alike for all strings is one step: half as many screens as strings times steps', () => {
  expect(planOf('guitar-nylon').length).toBeLessThan(32);
  expect(
    planOf('guitar-nylon')
      .filter((s) => s.code === 'look')
      .map((s) => s.stringIds.length),
  ).toEqual([6]);
});

test('a set is brought up in steps where nothing hangs on it, string by string where the bridge does', () => {
  const guitar = codes('guitar-nylon');
  expect(guitar.findLastIndex((p) => p.endsWith(' on'))).toBeLessThan(
    guitar.findIndex((p) => p.endsWith('raise-under')),
  );
  const viola = codes('viola');
  expect(viola[0]).toBe('- one-at-a-time');
  expect(viola.indexOf('s1 raise-under')).toBeLessThan(viola.indexOf('s4 take-off'));
});

test('each build is told of what it has, and of nothing else', () => {
  expect(words('electric-floating')).toMatch(/String tree.*locking post/);
  expect(words('guitar-nylon')).toMatch(/[Tt]ie it at the bridge/);
  for (const tied of ['guitar-nylon', 'ukulele', 'requinto-nylon'])
    expect(words(tied)).not.toMatch(/String tree|locking|[Ss]addle groove|pushing in/);
  expect(words('violin')).toMatch(/Peg: look at its two shining rings/);
  for (const pins of ['lyre-7', 'kantele-11']) {
    expect(words(pins)).not.toMatch(/\bnut\b|saddle|\bpeg|\bhead\b|pushing in|post/);
    expect(words(pins)).toMatch(/maker/);
  }
  expect(codes('kantele-11').some((c) => c.endsWith('warm'))).toBe(false);
  for (const family of FAMILIES)
    for (const step of planOf(family.code)) {
      if (step.kind === 'warm') expect(step.caution).toMatch(/maker/);
      if (step.kind === 'remove') expect(step.caution).toMatch(/sharp/);
    }
});

test('one way a family: together where nothing hangs on it, one after another elsewhere, and never both', () => {
  for (const { code } of FAMILIES) {
    const plan = planOf(code);
    const before = plan.filter((s) => s.code === 'one-at-a-time' || s.code === 'order');
    expect(before).toHaveLength(1);
    const offs = plan.filter((s) => s.code === 'take-off').length;
    expect(offs === 1).toBe(before[0]!.code === 'order');
    // A sentence of why stands once.
    const whys = plan.map((s) => s.why).filter(Boolean);
    expect(new Set(whys).size).toBe(whys.length);
  }
});

test('each family is told what it needs', () => {
  for (const bowed of ['violin', 'viola', 'cello', 'double-bass']) {
    expect(words(bowed)).toMatch(/Do not press beyond the bridge/);
    expect(words(bowed)).toMatch(/its back stands upright/);
  }
  expect(words('violin')).toMatch(/sleeve where it crosses the bridge/);
  expect(words('viola')).not.toMatch(/sleeve/);
  expect(words('bass-4')).toMatch(/right angle first, then cut/);
  expect(words('guitar-steel')).toMatch(/bridge pin with its groove/);
  expect(words('guitar-nylon')).not.toMatch(/bridge pin/);
  expect(codes('electric-floating').at(-1)).toBe('- unblock');
  for (const loose of ['bouzouki', 'banjo-5']) {
    expect(words(loose)).not.toMatch(/soundpost/);
    expect(codes(loose).at(-1)).toBe('- bridge-place');
  }
  for (const pins of ['kantele-11', 'lyre-7', 'harp-34'])
    expect(words(pins)).not.toMatch(/fingerboard|[Cc]ut the tail/);
  // What is true of steel is told of steel alone, and where strings run from pins nothing breaks at a nut.
  expect(words('kantele-11')).toMatch(/Hang its loop.*Break the tail off by bending.*The piece is sharp/s);
  expect(words('harp-34')).not.toMatch(/loop|Break the tail|The piece is sharp/);
  const broke = REMOVALS.map((r) => removalWords(r, { tuner: 'pin' })).join(' ');
  expect(broke).not.toMatch(/nut|saddle|peg/);
  expect(REMOVALS.map((r) => removalWords(r, { tuner: 'geared' }))).toContain('It broke at the nut');
  expect(courseLabels(['G4', 'G3', 'E4', 'E4'])).toEqual([
    'G4 (octave of G3)',
    'G3 (with its octave)',
    'E4 (first of two)',
    'E4 (second of two)',
  ]);
  expect(courseLabels(['E4', 'B3'])).toEqual([undefined, undefined]);
});

test('an instrument written by hand is fitted as its owner says that it is built', () => {
  const build = { tuner: 'pin', fineTuners: false, frets: false, bowed: false, holds: 'nothing' } as const;
  const plan = fittingPlan(traitsOf({ family: 'own', build }), strings('lyre-7').slice(0, 2));
  expect(plan.find((s) => s.code === 'look')!.title).toBe('Look at pins and far ends');
  expect(traitsOf({ family: 'own' }).tuner).toBe('geared');
});

test('slack is computed from the post and the turns', () => {
  const { postMm } = traitsOf({ family: 'requinto-nylon' });
  const mm = Math.round(slackForTurnsMm(turnsFor('plain-nylon', 'geared'), postMm, 0.64));
  expect(planOf('requinto-nylon', 1).find((s) => s.code === 'on')!.title).toBe(`Put A4 on: ${mm} mm of slack`);
  expect(mm).toBe(100);
});

test.each(FAMILIES.map((f) => f.code))(
  '%s: every string is taken off, put on, brought up and bedded, once and in order',
  (code) => {
    const set = strings(code);
    const plan = planOf(code);
    for (const { stringId } of set) {
      const own = plan.filter((p) => p.stringIds.includes(stringId)).map((p) => p.code);
      expect(new Set(own).size).toBe(own.length);
      const places = ['take-off', 'on', 'raise-under', 'raise', 'rounds'].map((c) => own.indexOf(c));
      expect(places).toEqual([...places].sort((a, b) => a - b));
      expect(places[0]).toBeGreaterThanOrEqual(0);
    }
    for (const step of plan) {
      expect(step.title).toMatch(/^[A-Z]/);
      expect(step.points.every((p) => p.endsWith('.'))).toBe(true);
    }
  },
);

test.each(FAMILIES.map((f) => f.code))('%s: at most one string is off where strings hold something up', (code) => {
  const plan = planOf(code);
  if (plan[0]!.code !== 'one-at-a-time') return;
  let off = 0;
  for (const { code: step, stringIds } of plan) {
    if (step === 'take-off') off += stringIds.length;
    if (step === 'raise-under') off--;
    expect(off).toBeGreaterThanOrEqual(0);
    expect(off).toBeLessThanOrEqual(1);
  }
});

test('every number of strings is brought up from the outside in', () => {
  for (let n = 1; n <= 24; n++) {
    const order = bringUpOrder(Array.from({ length: n }, (_, i) => i));
    expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
    const depth = order.map((i) => Math.min(i, n - 1 - i));
    expect(depth).toEqual([...depth].sort((a, b) => a - b));
  }
});
