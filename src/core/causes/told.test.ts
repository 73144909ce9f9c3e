import { answersOf, findCause, type CauseBuild, type CauseQuestion } from '.';
import type { Cause } from '../codes';

const GUITAR: CauseBuild = { bridge: 'fixed', nut: 'plain', tree: false, tuners: 'geared' };
const PEGS: CauseBuild = { bridge: 'tailpiece', nut: 'plain', tree: false, tuners: 'friction', frets: false };
const ask = (build: CauseBuild, more: Partial<CauseQuestion> = {}): CauseQuestion => ({
  build,
  string: { material: 'plain-steel', lengthMm: 648, targetHz: 330 },
  sigmaCents: 0.4,
  evidence: [],
  offered: [],
  ...more,
});
const chance = (q: CauseQuestion, cause: Cause) => findCause(q).causes.find((c) => c.cause === cause)!.probability;

test('an instrument is asked only what it can answer', () => {
  expect(answersOf('when', GUITAR)).not.toContain('bar');
  expect(answersOf('when', PEGS)).not.toContain('fretting');
  expect(answersOf('when', { ...GUITAR, bridge: 'floating' })).toContain('bar');
  expect(answersOf('feel', GUITAR)).toEqual(['creaks', 'play', 'smooth']);
  expect(answersOf('feel', PEGS)).toEqual(['creaks', 'gives', 'smooth']);
});

test.each<[string, CauseBuild, CauseQuestion['told'], Cause, 'up' | 'down']>([
  ['it goes while bending', GUITAR, { when: 'bending' }, 'winding-slip', 'up'],
  ['it goes where it is pressed', GUITAR, { when: 'fretting' }, 'pressing', 'up'],
  ['it goes with the room', GUITAR, { when: 'room' }, 'room', 'up'],
  ['all strings go', GUITAR, { strings: 'all' }, 'room', 'up'],
  ['all strings go', GUITAR, { strings: 'all' }, 'winding-slip', 'down'],
  ['it goes sharp', PEGS, { way: 'sharp' }, 'peg-slip', 'down'],
  ['new strings', GUITAR, { after: 'strung' }, 'fresh-string', 'up'],
  ['it creaks', GUITAR, { feel: 'creaks' }, 'nut-friction', 'up'],
  ['it turns smoothly', GUITAR, { feel: 'smooth' }, 'nut-friction', 'down'],
  ['first nothing happens', GUITAR, { feel: 'play' }, 'gear-backlash', 'up'],
  ['the peg does not hold', PEGS, { feel: 'gives' }, 'peg-slip', 'up'],
  ['sudden drops in the log', PEGS, { slips: 2 }, 'peg-slip', 'up'],
  ['a string that creeps as such strings do', GUITAR, { creepCents: 25 }, 'fresh-string', 'up'],
  ['the room is as it was', GUITAR, { warmerC: 0 }, 'room', 'down'],
])('%s', (_, build, told, cause, way) => {
  const ratio = chance(ask(build, { told }), cause) / chance(ask(build), cause);
  if (way === 'up') expect(ratio).toBeGreaterThan(1.3);
  else expect(ratio).toBeLessThan(0.75);
});

test('each piece of evidence says what it speaks for and against', () => {
  const { speaks } = findCause(
    ask(GUITAR, {
      evidence: [
        { test: 'since-last', own: -9, others: 0.3, othersSd: 0.9 },
        { test: 'press-behind-nut', first: 14, second: 0.2 },
      ],
    }),
  );
  expect(speaks).toHaveLength(2);
  expect(speaks[0]!.against).toContain('wrong-reference');
  expect(speaks[1]!.for[0]).toBe('nut-friction');
});

test('a string brought down to pitch stands sharp: the first bend drops it further', () => {
  const bend = { test: 'big-bend', first: -12, second: -0.3 } as const;
  const since = { test: 'since-last', own: -1, others: 0, othersSd: 0.8 } as const;
  const asked = ask(GUITAR, { evidence: [since, bend] });
  const above = { ...asked, string: { ...asked.string, fromAbove: true } };
  expect(chance(above, 'nut-friction') + chance(above, 'gear-backlash')).toBeGreaterThan(0.3);
});
