import ICAL from 'ical.js';
import type { PlanItem } from '../plan';
import { planCalendar } from '.';
import { MINUTE } from '../base';

const NOW = Date.UTC(2026, 5, 12, 14, 6);
const item = (uid: string, minute: number, more: Partial<PlanItem> = {}): PlanItem => ({
  uid,
  atMs: NOW + minute * MINUTE,
  minutes: 4,
  what: 'check',
  instrumentId: 'requinto',
  stringIds: ['s1'],
  why: 'it would be 3 cents flat, or so; then more',
  late: false,
  conflict: false,
  ...more,
});
const names = {
  title: (i: PlanItem) => `Check, ${i.instrumentId}`,
  strings: () => 'A4, E4',
  place: 'Lock basin, north; quay',
};
const events = (items: PlanItem[], writtenMs = NOW) =>
  new ICAL.Component(ICAL.parse(planCalendar(items, names, writtenMs)) as unknown[])
    .getAllSubcomponents('vevent')
    .map((e) => new ICAL.Event(e));

test('each item is an event at its instant and of its length, with what is to be said of it', () => {
  const [first, second] = events([item('a', 10), item('b', 95, { minutes: 0 })]);
  expect(first!.startDate.toJSDate().getTime()).toBe(NOW + 10 * MINUTE);
  expect(first!.duration.toSeconds()).toBe(240);
  expect(first!.summary).toBe('Check, requinto');
  // Commas and semicolons come back as they went.
  expect(first!.description).toBe('A4, E4: it would be 3 cents flat, or so; then more');
  expect(first!.location).toBe('Lock basin, north; quay');
  // Nothing takes no time at all.
  expect(second!.duration.toSeconds()).toBe(60);
});

test('each event reminds of itself a little before', () => {
  const [event] = new ICAL.Component(ICAL.parse(planCalendar([item('a', 10)], names, NOW)) as unknown[])
    .getAllSubcomponents('vevent')
    .map((e) => e.getFirstSubcomponent('valarm'));
  expect(event!.getFirstPropertyValue('action')).toBe('DISPLAY');
  expect(String(event!.getFirstPropertyValue('trigger'))).toBe('-PT3M');
});

test('a later export keeps the names and counts on, so that a second import updates', () => {
  const before = events([item('a', 10)])[0]!;
  const after = events([item('a', 25)], NOW + 20 * MINUTE)[0]!;
  expect(after.uid).toBe(before.uid);
  expect(after.sequence).toBeGreaterThan(before.sequence);
  expect(after.startDate.toJSDate().getTime()).toBe(NOW + 25 * MINUTE);
});

test('breaks of any kind are part of a text, and lines are folded at 75 octets, between characters', () => {
  const place = `Quay\r\nBEGIN:VEVENT\rSUMMARY:x\n${'Bücher–♯'.repeat(30)}`;
  const text = planCalendar([item('a', 10)], { ...names, place }, NOW);
  const [event, more] = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
  expect(more).toBeUndefined();
  expect(new ICAL.Event(event!).location).toBe(place.replace(/\r\n?/g, '\n'));
  for (const line of text.split('\r\n')) {
    expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    expect(line).not.toMatch(/[\r\n]/);
  }
});
