import { randomFrom } from '../simulate';
import { fitSettling, SETTLING_PRIORS, type SettlingEvent, type SettlingMaterial } from '../settling';
import { ifRestrung, minutesPerString, planShow, readyAgeMin, walksUntil, type PlanSession, type PlanString } from '.';

const MINUTE = 60000;
const NOW = Date.UTC(2026, 5, 12, 12, 0);

/** A string of an age whose readings follow the logarithmic law, last read and brought up just now; and so many minutes ago. */
function aged(
  id: string,
  material: SettlingMaterial,
  ageMin: number,
  more: Partial<PlanString> = {},
  extraMin: number[] = [],
): PlanString {
  const prior = SETTLING_PRIORS[material];
  const random = randomFrom(id.charCodeAt(0) + ageMin);
  const fallen = (t: number) => prior.slopeCents * Math.log1p(t / prior.tauMin);
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  let base = 0;
  const extra = extraMin.map((m) => ageMin - m);
  for (const t of [0.02, 0.06, 0.15, 0.35, 0.6, 0.85, 1]
    .map((s) => s * ageMin)
    .concat(extra)
    .sort((a, b) => a - b)) {
    events.push({ t: Math.max(0, t - 1), kind: 'read', cents: base - fallen(t) + 0.3 * random.normal(), tempC: 20 });
    base = fallen(t);
    events.push({ t: t - 0.1, kind: 'retune' }, { t, kind: 'read', cents: 0.2 * random.normal(), tempC: 20 });
  }
  const fit = fitSettling({ material, events }, ageMin);
  return {
    instrumentId: 'one',
    stringId: id,
    note: 'A4',
    material,
    prior,
    startMs: NOW - ageMin * MINUTE,
    strungMs: NOW - ageMin * MINUTE,
    lastReadMs: NOW,
    lastIntervalMin: 0.15 * ageMin,
    offsetCents: 0,
    fit,
    readFit: fit,
    rounds: 0,
    ...more,
  };
}

const session: PlanSession = {
  curtainMs: NOW + 300 * MINUTE,
  minutes: 90,
  toleranceCents: 3,
  intervalMin: 40,
  school: 'not-same-day',
  thereC: null,
  hereC: 20,
};
const plan = (strings: PlanString[], more: Partial<PlanSession> = {}, nowMs = NOW) =>
  planShow({ strings, session: { ...session, ...more }, nowMs, zoneMin: 120, minutesPerString: 0.5 });

test('young nylon is walked often, ever less often; old steel is taken along or left', () => {
  const nylon = aged('a', 'plain-nylon', 120);
  const steel = aged('b', 'plain-steel', 20000);
  const walks = walksUntil([nylon, steel], NOW, NOW + 280 * MINUTE, 3);
  const gaps = walks.map((w, i) => w.atMs - (walks[i - 1]?.atMs ?? NOW));
  expect(walks.length).toBeGreaterThan(3);
  expect(gaps[gaps.length - 1]!).toBeGreaterThan(1.3 * gaps[0]!);
  expect(walks.every((w) => w.strings.some((s) => s.stringId === 'a'))).toBe(true);
  expect(walks.filter((w) => w.strings.length > 1).length).toBeLessThan(walks.length);
  // Two young strings make no more walks than the younger one alone needs, give or take one.
  const both = walksUntil([nylon, aged('c', 'plain-nylon', 130)], NOW, NOW + 280 * MINUTE, 3);
  expect(both.length).toBeLessThanOrEqual(walks.length + 1);
});

test('a show: walks, air, the last tuning before the curtain, retunings in the show at the interval', () => {
  const { items, outlook } = plan([aged('a', 'plain-nylon', 120), aged('b', 'plain-steel', 20000)]);
  const of = (what: string) => items.filter((i) => i.what === what);
  expect(items.map((i) => i.atMs)).toEqual([...items.map((i) => i.atMs)].sort((a, b) => a - b));
  expect(of('last-tuning')).toHaveLength(1);
  const last = of('last-tuning')[0]!;
  expect(last.stringIds).toEqual(['a', 'b']);
  expect(last.atMs + last.minutes * MINUTE).toBeLessThanOrEqual(session.curtainMs);
  expect(of('acclimatise')[0]!.atMs).toBeLessThanOrEqual(last.atMs - 30 * MINUTE);
  expect(of('check').every((i) => i.atMs < last.atMs)).toBe(true);
  expect(of('between').every((i) => i.stringIds.join() === 'a' && i.atMs >= session.curtainMs)).toBe(true);
  expect(of('between').length).toBeGreaterThan(0);
  expect(of('same-day')[0]!.stringIds).toEqual(['a']);
  expect(of('too-late')[0]!.why).toMatch(/Too late for a new set: A4 would be \d+ cents flat by the interval/);
  const [nylon, steel] = outlook;
  expect(nylon!.chance!).toBeLessThan(0.5);
  expect(steel!.chance!).toBeGreaterThan(0.85);
  expect(new Set(items.map((i) => i.uid)).size).toBe(items.length);
});

test('one reading more narrows the outlook', () => {
  const widths = (extraMin: number[]) =>
    ['a', 'b', 'c', 'd', 'e', 'f'].reduce((sum, id) => {
      const string = aged(id, 'plain-nylon', 240, {}, extraMin);
      const { fall } = plan([string]).outlook[0]!;
      return sum + fall!.q95 - fall!.q05;
    }, 0);
  expect(widths([20])).toBeLessThan(widths([]));
  expect(widths([40, 20, 10])).toBeLessThan(widths([20]));
});

test('the same plan again has the same names; a string out of tolerance or unread is due at once', () => {
  const strings = [aged('a', 'wound-nylon', 600)];
  expect(plan(strings).items.map((i) => i.uid)).toEqual(plan(strings).items.map((i) => i.uid));
  const first = (s: PlanString) => plan([s]).items.find((i) => i.what === 'check')!;
  expect(first(aged('a', 'wound-nylon', 600, { offsetCents: -7 }))).toMatchObject({ atMs: NOW });
  expect(first(aged('a', 'wound-nylon', 600, { offsetCents: -7 })).why).toContain('Out of tolerance');
  const unread = aged('a', 'wound-nylon', 600, {
    fit: undefined,
    readFit: undefined,
    offsetCents: null,
    lastReadMs: null,
  });
  expect(first(unread).why).toContain('Not read yet');
  expect(plan([unread]).outlook[0]!.chance).toBeNull();
});

test('the latest restringing comes before the curtain by what the material needs; treatment brings it nearer', () => {
  const steel = aged('b', 'plain-steel', 20000);
  const late = { curtainMs: NOW + 4 * 1440 * MINUTE };
  const restring = plan([steel], late).items.find((i) => i.what === 'restring')!;
  expect(restring.atMs).toBeLessThanOrEqual(late.curtainMs - 1440 * MINUTE);
  const nylon = { material: 'plain-nylon' as const, prior: SETTLING_PRIORS['plain-nylon'] };
  const plainly = readyAgeMin(nylon, 100, 3, false)!;
  expect(plainly).toBeGreaterThan(1440);
  expect(readyAgeMin(nylon, 100, 3, true)!).toBeLessThan(plainly);
  expect(readyAgeMin(steel, 100, 3, false)!).toBeLessThan(plainly);
});

test('what if it is restrung at a moment: later is worse', () => {
  const nylon = { material: 'wound-nylon' as const, prior: SETTLING_PRIORS['wound-nylon'] };
  const at = (min: number) =>
    ifRestrung(nylon, NOW + min * MINUTE, NOW + 280 * MINUTE, NOW + 340 * MINUTE, NOW + 390 * MINUTE, 3, false);
  expect(at(200).fall.q50).toBeGreaterThan(at(0).fall.q50);
  expect(at(200).chance).toBeLessThan(at(0).chance);
  expect(at(0).fall.q05).toBeLessThan(at(0).fall.q50);
});

test('colder air there is told with what it does; frost keeps the cases shut', () => {
  const strings = [aged('b', 'plain-steel', 20000)];
  const air = (thereC: number) => plan(strings, { thereC }).items.find((i) => i.what === 'acclimatise')!.why;
  expect(air(14)).toContain('−6 °C');
  expect(air(-5)).toContain('leave the cases shut');
});

test('when the curtain has risen only what can still be done is planned', () => {
  const strings = [aged('a', 'plain-nylon', 120)];
  const { items } = plan(strings, { curtainMs: NOW - 20 * MINUTE });
  expect(new Set(items.map((i) => i.what))).toEqual(new Set(['between']));
  expect(items.every((i) => i.atMs >= NOW)).toBe(true);
});

test('minutes a string are learned from the walks on record', () => {
  const readings = (start: number, gap: number, id: string) => ({
    readings: [0, 1, 2].map((k) => ({ atMs: start + k * 3600000 + gap, stringId: id })),
  });
  const bench = { instruments: [{ strings: [readings(NOW, 0, 'a'), readings(NOW, 90000, 'b')] }] };
  expect(minutesPerString(bench as never)).toBeCloseTo(1.5, 6);
  expect(minutesPerString({ instruments: [] })).toBeCloseTo(0.7, 6);
});

test('asked again later without a new reading, a check does not move: missed, it is late', () => {
  const nylon = aged('a', 'wound-nylon', 240);
  const first = (nowMs: number) => plan([nylon], {}, nowMs).items.find((i) => i.what === 'check')!;
  const due = first(NOW).atMs;
  expect(due).toBeGreaterThan(NOW);
  expect(first(NOW + 0.5 * (due - NOW)).atMs).toBe(due);
  const missed = first(due + 20 * MINUTE);
  expect(missed.late).toBe(true);
  expect(missed.atMs).toBe(due + 20 * MINUTE);
});
