import { SETTLING_PRIORS } from '../settling';
import { aged, aShow, NOW } from '../../../testing/aged';
import { MINUTE, DAY, HOUR } from '../base';
import {
  canBeRestrung,
  minutesPerString,
  planChoices,
  planShow,
  readyAgeMin,
  type PlanSession,
  type PlanString,
} from '.';
import { ifRestrung } from './outlook';
const plan = (strings: PlanString[], more: Partial<PlanSession> = {}, nowMs = NOW) =>
  planShow({ strings, session: { ...aShow, ...more }, nowMs, zone: 120, minutesPerString: 0.5 });

const EDGE = 0.76;
const rising = (list: number[]) => [...list].sort((x, y) => x - y);

test('a show: few walks, the last tuning with leads, retunings between pieces; strings that hold are not named', () => {
  const { items, outlook, holds, before, inShow, out } = plan([
    ...['a', 'c', 'd', 'e'].map((id) => aged(id, 'plain-nylon', 120)),
    aged('b', 'plain-steel', 20000),
  ]);
  const of = (what: string) => items.filter((i) => i.what === what);
  expect(items.map((i) => i.atMs)).toEqual(rising(items.map((i) => i.atMs)));
  expect(before).toBeGreaterThanOrEqual(2);
  expect(before).toBeLessThanOrEqual(5);
  expect(of('check')).toHaveLength(before - 1);
  expect(of('check').every((i) => !i.stringIds.includes('b') && /^(settle|learn)$/.test(i.for!))).toBe(true);
  const last = of('last-tuning')[0]!;
  expect(of('last-tuning')).toHaveLength(1);
  expect(last.stringIds).toEqual(['a', 'c', 'd', 'e', 'b']);
  expect(last.atMs + last.minutes * MINUTE).toBeLessThanOrEqual(aShow.curtainMs);
  // Left above by what will go, and inside the tolerance when the music begins.
  const fallBefore = 3;
  expect(last.leaveAtCents!['a']).toBeGreaterThan(1);
  expect(last.leaveAtCents!['a']).toBeLessThan(3 - EDGE + fallBefore);
  expect(last.leaveAtCents!['b']).toBeLessThan(0.6);
  expect(of('between')).toHaveLength(inShow);
  expect(of('between').every((i) => !i.stringIds.includes('b') && i.atMs >= aShow.curtainMs)).toBe(true);
  expect(of('between').every((i) => i.leaveAtCents!['a']! > 0 && i.leaveAtCents!['a']! <= 3 - EDGE + 0.5)).toBe(true);
  expect(out).toBeLessThan(0.1);
  expect(of('same-day')[0]!.stringIds).toEqual(['a', 'c', 'd', 'e']);
  expect(of('too-late')[0]!.why).toMatch(/Too late for a new set: A4 would be \d+ cents flat by the interval/);
  expect(holds['one/a']!).toBeLessThan(0.3);
  expect(holds['one/b']!).toBeGreaterThan(0.9);
  expect(outlook.map((o) => o.chance)).toEqual(outlook.map((o) => holds[`one/${o.stringId}`]));
  expect(new Set(items.map((i) => i.uid)).size).toBe(items.length);
});

test('the price of doing less: once, a few times, whenever told', () => {
  const asked = {
    strings: [...'abc']
      .map((id) => aged(id, 'plain-nylon', 20))
      .concat([...'def'].map((id) => aged(id, 'wound-nylon', 20))),
    session: aShow,
    nowMs: NOW,
    zone: 120,
    minutesPerString: 0.5,
  };
  const { once, few, often } = planChoices(asked);
  expect(once.before).toBe(1);
  // Five hours with new nylon.
  expect(few.before).toBeGreaterThanOrEqual(3);
  expect(few.before).toBeLessThanOrEqual(5);
  expect(once.before + once.inShow).toBeLessThan(few.before + few.inShow);
  expect(few.before + few.inShow).toBeLessThan(often.before + often.inShow);
  expect(often.out).toBeLessThan(few.out);
  expect(few.out).toBeLessThan(once.out);
});

test('an instrument named as a property that every object has is planned like any other', () => {
  const of = (instrumentId: string) => plan([{ ...aged('a', 'plain-nylon', 120), instrumentId }], { effort: 'once' });
  expect(of('toString').outlook[0]!.chance).toBe(of('one').outlook[0]!.chance);
});

test('without leads everything is left at pitch', () => {
  const { items, out } = plan([aged('a', 'plain-nylon', 240)], { leads: false, effort: 'once' });
  expect(items.flatMap((i) => Object.values(i.leaveAtCents ?? {})).every((l) => l === 0)).toBe(true);
  expect(out).toBeGreaterThan(plan([aged('a', 'plain-nylon', 240)], { effort: 'once' }).out);
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

test('asked again without a new reading nothing moves: what was missed is late, the last tuning too', () => {
  const strings = [aged('a', 'plain-nylon', 240), aged('b', 'wound-nylon', 240)];
  const work = (nowMs: number) =>
    plan(strings, {}, nowMs).items.filter((i) => /check|last-tuning|between/.test(i.what));
  const first = work(NOW);
  const check = first.find((i) => i.what === 'check')!;
  for (const min of [1, 10, 60, 240, 280, 299]) {
    const nowMs = NOW + min * MINUTE;
    const again = work(nowMs);
    for (const item of first.filter((i) => i.atMs > nowMs && i.what !== 'between'))
      expect(again.find((i) => i.uid === item.uid)).toMatchObject({ atMs: item.atMs, late: false });
  }
  const missed = work(check.atMs + 20 * MINUTE)[0]!;
  expect(missed).toMatchObject({ what: 'check', late: true, atMs: check.atMs + 20 * MINUTE });
  const tuning = work(aShow.curtainMs - 2 * MINUTE);
  expect(tuning[0]).toMatchObject({ what: 'last-tuning', late: true });
  // When the curtain has risen on strings that were never tuned, they are retuned at once.
  const begun = plan(strings, {}, aShow.curtainMs + 5 * MINUTE).items;
  expect(begun[0]).toMatchObject({ what: 'between', late: true, atMs: aShow.curtainMs + 5 * MINUTE });
  expect(begun.every((i) => i.what === 'between')).toBe(true);
});

test('a skipped visit is not asked for again, and the rest is planned anew', () => {
  const strings = [aged('a', 'plain-nylon', 240)];
  const check = plan(strings).items.find((i) => i.what === 'check')!;
  const nowMs = check.atMs + MINUTE;
  const { items } = plan(strings, { skippedMs: nowMs }, nowMs);
  expect(items.some((i) => i.uid === check.uid || i.late)).toBe(false);
  expect(items.some((i) => i.what === 'last-tuning')).toBe(true);
});

test('after the last tuning a plan knows what has gone since', () => {
  const tunedMs = aShow.curtainMs - 10 * MINUTE;
  const tuned = (offsetCents: number) => {
    const s = aged('a', 'plain-steel', 20000);
    const at = (tunedMs - s.startMs!) / MINUTE;
    const components = s.fit!.components.map((c) => {
      const mean = Float64Array.from(s.fit!.components[0]!.mean);
      // Where it stands is its offset and its wander.
      mean[0] = offsetCents - mean[3]!;
      return { ...c, mean };
    });
    return { ...s, fit: { ...s.fit!, nowMin: at, components }, lastReadMs: tunedMs };
  };
  const at = (offsetCents: number) => plan([tuned(offsetCents)], {}, tunedMs + 2 * MINUTE);
  expect(at(0).items.filter((i) => i.what === 'last-tuning')).toEqual([]);
  expect(at(0).holds['one/a']!).toBeGreaterThan(0.9);
  expect(at(-2.9).holds['one/a']!).toBeLessThan(0.6);
});

test('a string out of tolerance in a walk is brought up; one never read is due at once', () => {
  const first = (s: PlanString) => plan([s]).items.find((i) => i.what === 'check')!;
  expect(first(aged('a', 'plain-nylon', 240)).bringUpFromCents).toBe(1.5);
  const unread = aged('a', 'wound-nylon', 600, { fit: undefined, lastReadMs: null });
  expect(first(unread).why).toContain('Not read yet');
  expect(first(unread).atMs).toBe(NOW);
  expect(plan([unread]).outlook[0]!.chance).toBeNull();
});

test('an instrument that plays only at the end counts only there; a spare that holds takes over at the interval', () => {
  const young = ['a', 'b', 'c'].map((id) => aged(id, 'plain-nylon', 180));
  const spare = aged('s', 'plain-steel', 20000, { instrumentId: 'two' });
  const all = plan(young);
  const late = plan(young, { plays: { one: { fromMin: 60, toMin: 90 } } });
  const retuned = (p: typeof all) =>
    p.items.filter((i) => i.what === 'between').map((i) => (i.atMs - aShow.curtainMs) / MINUTE);
  expect(Math.min(...retuned(all))).toBeLessThan(50);
  expect(Math.min(...retuned(late))).toBeGreaterThanOrEqual(50);
  const swapped = plan([...young, spare], { spares: [{ instrumentId: 'two', forId: 'one' }] });
  const swap = swapped.items.find((i) => i.what === 'swap')!;
  expect(swap).toMatchObject({ instrumentId: 'one', spareId: 'two', atMs: aShow.curtainMs + 40 * MINUTE });
  expect(swap.why).toMatch(/likely to hold \(\d+ %\) to the end/);
  expect(swapped.items.some((i) => i.what === 'between' && i.atMs > swap.atMs)).toBe(false);
  // A spare as young as the other is no help.
  const worse = aged('s', 'plain-nylon', 100, { instrumentId: 'two' });
  const kept = plan([spare, { ...worse, instrumentId: 'three' }], {
    spares: [{ instrumentId: 'three', forId: 'two' }],
  });
  expect(kept.items.some((i) => i.what === 'swap')).toBe(false);
});

test('two technicians tune two instruments at once', () => {
  const strings = [aged('a', 'plain-nylon', 240), aged('b', 'plain-nylon', 240, { instrumentId: 'two' })];
  const times = (hands: number) =>
    plan(strings, { hands })
      .items.filter((i) => i.what === 'last-tuning')
      .map((i) => i.atMs);
  expect(new Set(times(1)).size).toBe(2);
  expect(new Set(times(2)).size).toBe(1);
});

test('the latest restringing comes before the curtain by what the material needs; treatment brings it nearer', () => {
  const steel = aged('b', 'plain-steel', 20000);
  const late = { curtainMs: NOW + 4 * DAY };
  const restring = plan([steel], late).items.find((i) => i.what === 'restring')!;
  expect(restring.atMs).toBeLessThanOrEqual(late.curtainMs - DAY);
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
  expect(air(-5)).toContain('Leave the cases shut');
});

test('minutes a string are learned from the walks on record', () => {
  const readings = (start: number, gap: number, id: string) => ({
    readings: [0, 1, 2].map((k) => ({ atMs: start + k * HOUR + gap, stringId: id })),
  });
  const bench = { instruments: [{ strings: [readings(NOW, 0, 'a'), readings(NOW, 90000, 'b')] }] };
  expect(minutesPerString(bench as never)).toBeCloseTo(1.5, 6);
  expect(minutesPerString({ instruments: [] })).toBeCloseTo(0.7, 6);
  // Single checks every eight minutes are no slow walk.
  const single = {
    instruments: [
      { strings: [{ readings: [0, 1, 2].map((k) => ({ atMs: NOW + k * 480000, stringId: 'ab'[k % 2] })) }] },
    ],
  };
  expect(minutesPerString(single as never)).toBeCloseTo(0.7, 6);
});

test('new strings want five minutes before the last tuning, and a time at all', () => {
  const possible = (min: number) => canBeRestrung(NOW - min * MINUTE, NOW);
  expect([4.9, 5, 5.1, NaN].map(possible)).toEqual([false, false, true, false]);
});
