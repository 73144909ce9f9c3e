import {
  clockTime,
  dueTime,
  hourOfDay,
  HOUR,
  instantOf,
  isZone,
  localIso,
  localText,
  MINUTE,
  nextAt,
  nextWholeHour,
  offsetMin,
  span,
  zoneOf,
} from '.';

const NOON = Date.UTC(2026, 5, 12, 10, 0);

test('times are local, and say the day when it is another', () => {
  expect(clockTime(NOON, 120)).toBe('12:00');
  expect(dueTime(NOON + 20000, NOON, 120)).toBe('now');
  expect(dueTime(NOON + 42 * MINUTE, NOON, 120)).toBe('12:42');
  expect(dueTime(NOON + 13 * HOUR, NOON, 120)).toBe('tomorrow 01:00');
  expect(dueTime(NOON + 80 * HOUR, NOON, 120)).toBe('in 3 days');
  // The same instant is still today further west.
  expect(dueTime(NOON + 13 * HOUR, NOON, -240)).toBe('19:00');
});

test('spans are said as on the bench', () => {
  expect([9, 126, 60 * 72, 60 * 24 * 36].map((m) => span(m * MINUTE))).toEqual([
    '9 min',
    '2 h 06',
    '3 days',
    '5 weeks',
  ]);
});

const at = (text: string) => {
  const ms = nextAt(text, NOON + 2 * HOUR, 120);
  return ms === undefined ? undefined : new Date(ms + 120 * 60000).toISOString().slice(8, 16);
};

test.each([
  ['19:30', '12T19:30'],
  ['19.30', '12T19:30'],
  ['1930', '12T19:30'],
  ['7:30 pm', '12T19:30'],
  ['7pm', '12T19:00'],
  ['12 am', '13T00:00'],
  ['9:05', '13T09:05'],
  ['25:00', undefined],
  ['19', undefined],
  ['13 pm', undefined],
  ['soon', undefined],
])('the time of day %s', (text, expected) => expect(at(text)).toBe(expected));

/** Clocks go forward and back: the show is at half past seven of that day, however many hours off it is. */
describe.each([
  ['Europe/Berlin', '2026-03-28T15:00', '2026-03-29T19:30', 27.5, 60],
  ['Europe/Berlin', '2026-10-24T15:00', '2026-10-25T19:30', 29.5, 120],
  ['America/New_York', '2026-03-07T15:00', '2026-03-08T19:30', 27.5, -300],
  ['America/New_York', '2026-10-31T15:00', '2026-11-01T19:30', 29.5, -240],
  ['Pacific/Auckland', '2026-09-26T15:00', '2026-09-27T19:30', 27.5, 720],
  ['Pacific/Auckland', '2026-04-04T15:00', '2026-04-05T19:30', 29.5, 780],
])('%s, from %s to %s', (zone, from, to, hours, offset) => {
  const now = instantOf(from, zone);
  const show = instantOf(to, zone);
  test('is so many hours, and the wall clock says what was typed', () => {
    expect((show - now) / HOUR).toBe(hours);
    expect([localText(now, zone), localText(show, zone)]).toEqual([from, to]);
    expect([offsetMin(zone, now), hourOfDay(show, zone)]).toEqual([offset, 19.5]);
    expect(dueTime(show, now, zone)).toBe('tomorrow 19:30');
    // A record that was written here before the change is told by the wall clock of here; one from elsewhere by its own.
    expect(clockTime(show, zoneOf({ atMs: now, zoneMin: offset }, zone))).toBe('19:30');
    expect(clockTime(show, zoneOf({ atMs: now, zoneMin: offset }, undefined))).not.toBe('19:30');
    expect(clockTime(show, zoneOf({ atMs: now, zoneMin: offset + 30 }, zone))).not.toBe('19:30');
    expect(localIso(show, zone).slice(0, 16)).toBe(to);
  });
  test('the next half past seven, after today\u2019s, is that one', () => {
    expect(nextAt('19:30', instantOf(from.replace('15:00', '20:00'), zone), zone)).toBe(show);
    expect(localText(nextWholeHour(show, zone), zone).slice(11)).toBe('20:00');
  });
});

test('an hour that is passed over is as much later, one that comes twice is the first; what is no day is none', () => {
  expect(localText(instantOf('2026-03-29T02:30', 'Europe/Berlin'), 'Europe/Berlin')).toBe('2026-03-29T03:30');
  expect(instantOf('2026-10-25T02:30', 'Europe/Berlin')).toBe(Date.UTC(2026, 9, 25, 0, 30));
  for (const none of ['2026-02-30T12:00', '2026-13-01T12:00', '2026-05-01', 'tomorrow', '2026-05-01T24:10'])
    expect(instantOf(none, 'Europe/Berlin')).toBeNaN();
  expect([isZone('Europe/Berlin'), isZone('Middle/Earth')]).toEqual([true, false]);
  expect([localText(NaN, 0), clockTime(Infinity, 'Europe/Berlin')]).toEqual(['', '\u2013']);
});
