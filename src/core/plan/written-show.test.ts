import { readShow, rolesOf, type WrittenShow } from '.';

const NOW = Date.UTC(2026, 3, 1, 17);
const WRITTEN: WrittenShow = {
  place: ' The barge ',
  curtainMs: NOW + 1,
  minutes: 100,
  intervalMin: 40,
  toleranceCents: 3,
  thereC: null,
  hands: 1,
  school: 'not-same-day',
  leads: true,
  roles: { lead: 'all', second: 'second', first: 'first', spare: 'spare:lead' },
};
const fault = (more: Partial<WrittenShow>) => {
  const read = readShow({ ...WRITTEN, ...more }, NOW);
  return 'fault' in read ? read.fault : undefined;
};

test.each<[keyof WrittenShow, (number | null)[], (number | null)[], RegExp]>([
  ['curtainMs', [NOW + 1, Date.UTC(2200, 0, 1) - 1], [NOW, NaN, Date.UTC(2200, 0, 1)], /must start in the future/],
  ['minutes', [41, 1440], [0, -1, 1441, NaN, null], /length in minutes/],
  ['intervalMin', [null, 0.5, 99.5], [0, 100, -1, NaN], /interval in minutes/],
  ['toleranceCents', [0.5, 50], [0.4, 50.1, NaN, null], /tolerance from 0.5 to 50 cents/],
  ['thereC', [null, -40, 60], [-41, 61, NaN], /temperature there from −40 to 60/],
  ['hands', [1, 9], [0, 10, 1.5, NaN, null], /How many people tune\? 1 to 9/],
])('%s of a show is taken up to its limits, and refused beyond with a sentence', (field, good, bad, words) => {
  for (const value of good) expect(fault({ [field]: value })).toBeUndefined();
  for (const value of bad) expect(fault({ [field]: value })).toMatch(words);
});

test('somebody has to play: who stands by does not', () => {
  expect(fault({ roles: {} })).toMatch(/at least one/);
  expect(fault({ roles: { spare: 'spare:lead' } })).toMatch(/at least one/);
});

test('what is kept is a record, and reads back as the roles that were chosen', () => {
  const read = readShow(WRITTEN, NOW);
  if ('fault' in read) throw new Error(read.fault);
  const [session, curtain] = read.drafts;
  expect(curtain).toEqual({ type: 'curtain', curtainMs: NOW + 1 });
  if (session?.type !== 'session') throw new Error('no session');
  expect(session).toMatchObject({
    place: 'The barge',
    plays: [
      { instrumentId: 'second', fromMin: 40, toMin: 100 },
      { instrumentId: 'first', fromMin: 0, toMin: 40 },
    ],
    spares: [{ instrumentId: 'spare', forId: 'lead' }],
  });
  expect(rolesOf(session)).toEqual(WRITTEN.roles);
  const whole = readShow({ ...WRITTEN, place: ' ', intervalMin: null }, NOW);
  expect('drafts' in whole && whole.drafts[0]).toMatchObject({
    place: 'the show',
    plays: [{ fromMin: 50 }, { toMin: 50 }],
  });
});
