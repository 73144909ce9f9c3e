import fc from 'fast-check';
import { aged, aShow, NOW } from '../../../testing/aged';
import { MINUTE } from '../base';
import { TAKES_HANDS } from './items';
import { EFFORTS, planShow, READY_SCHOOLS, type PlanItem, type PlanSession } from '.';

const POOL = [
  aged('a', 'plain-nylon', 30),
  aged('b', 'wound-nylon', 120),
  aged('c', 'plain-steel', 20000, { instrumentId: 'two' }),
  aged('d', 'gut', 600, { instrumentId: 'two', leftThere: false }),
  aged('e', 'synthetic-bowed', 3000, { instrumentId: 'three', mostLeadCents: 3 }),
  aged('f', 'fluorocarbon', 200, { instrumentId: 'three', fit: undefined, lastReadMs: null }),
];
const minute = (most: number) => fc.integer({ min: 0, max: most });
const sessions = fc
  .record({
    untilMin: fc.integer({ min: -150, max: 900 }),
    minutes: fc.integer({ min: 5, max: 240 }),
    toleranceCents: fc.double({ min: 0.5, max: 10, noNaN: true }),
    interval: fc.option(fc.double({ min: 0.1, max: 0.9, noNaN: true })),
    school: fc.constantFrom(...READY_SCHOOLS),
    thereC: fc.option(fc.integer({ min: -10, max: 35 })),
    effort: fc.constantFrom(...EFFORTS),
    leads: fc.boolean(),
    hands: fc.integer({ min: 1, max: 3 }),
    window: fc.option(fc.tuple(minute(100), fc.integer({ min: 1, max: 140 }))),
    spare: fc.boolean(),
    skippedMin: fc.option(minute(60)),
  })
  .map(({ untilMin, interval, window, spare, skippedMin, ...drawn }): PlanSession => ({
    ...aShow,
    ...drawn,
    curtainMs: NOW + untilMin * MINUTE,
    intervalMin: interval === null ? null : Math.round(interval * drawn.minutes),
    plays: window ? { one: { fromMin: window[0], toMin: window[0] + window[1] } } : {},
    spares: spare ? [{ instrumentId: 'two', forId: 'one' }] : [],
    skippedMs: skippedMin === null ? null : NOW - skippedMin * MINUTE,
  }));
const strings = fc.subarray(POOL, { minLength: 1 });
const plan = (list: typeof POOL, show: PlanSession) =>
  planShow({ strings: list, session: show, nowMs: NOW, zone: 60, minutesPerString: 0.5 });

/** The most things that hands do at one moment, of those that are not marked as too many. */
const atOnce = (items: readonly PlanItem[]): number => {
  const done = items.filter((i) => TAKES_HANDS.has(i.what) && !i.conflict);
  return Math.max(
    0,
    ...done.map(({ atMs }) => done.filter((i) => i.atMs <= atMs && atMs < i.atMs + (i.minutes - 0.5) * MINUTE).length),
  );
};

test('whatever the show, a plan can be carried out', () => {
  fc.assert(
    fc.property(strings, sessions, (list, show) => {
      const { curtainMs, minutes, hands, leads } = show;
      const { items, outlook, holds, out, before, inShow } = plan(list, show);
      expect(items.map((i) => i.atMs)).toEqual(items.map((i) => i.atMs).sort((a, b) => a - b));
      expect(new Set(items.map((i) => i.uid)).size).toBe(items.length);
      for (const i of items) {
        expect(Number.isFinite(i.minutes) && i.minutes >= 0).toBe(true);
        if (i.what !== 'restring' && i.what !== 'too-late') expect(i.atMs).toBeGreaterThanOrEqual(NOW);
        if (i.what === 'between' || i.what === 'swap') expect(i.atMs).toBeLessThan(curtainMs + minutes * MINUTE);
        const own = list.filter((s) => s.instrumentId === i.instrumentId);
        expect(own.length).toBeGreaterThan(0);
        for (const id of i.stringIds) expect(own.map((s) => s.stringId)).toContain(id);
        for (const [id, lead] of Object.entries(i.leaveAtCents ?? {})) {
          expect(lead).toBeGreaterThanOrEqual(0);
          expect(lead).toBeLessThanOrEqual(own.find((s) => s.stringId === id)!.mostLeadCents);
          if (!leads) expect(lead).toBe(0);
        }
        expect(i.why).toMatch(/\S.*[.!]$/);
      }
      expect(atOnce(items)).toBeLessThanOrEqual(hands);
      expect(outlook.map((o) => o.stringId)).toEqual(list.map((s) => s.stringId));
      for (const { chance, fall } of outlook) {
        if (chance !== null) expect(chance >= 0 && chance <= 1).toBe(true);
        if (fall) expect(fall.q05 <= fall.q50 && fall.q50 <= fall.q95).toBe(true);
      }
      expect(Object.keys(holds)).toHaveLength(list.filter((s) => s.fit).length);
      expect(out >= 0 && out <= 1).toBe(true);
      expect(Number.isInteger(before) && Number.isInteger(inShow)).toBe(true);
    }),
    { numRuns: 25, seed: 7 },
  );
}, 120_000);

test('more willing to come, the music is no longer out of tune for it', () => {
  fc.assert(
    fc.property(strings, sessions, (list, show) => {
      const [once, , often] = EFFORTS.map((effort) => plan(list, { ...show, effort }));
      expect(often!.out).toBeLessThanOrEqual(once!.out + 0.01);
    }),
    { numRuns: 8, seed: 8 },
  );
}, 120_000);
