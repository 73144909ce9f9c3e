import { midiOf, parseNote } from '../music';
import { earRound, type EarRound, type EarSound } from '.';
import { EAR_SCHOOLS, type EarSchool } from '../codes';

const INSTRUMENTS: Record<string, [string[], number]> = {
  guitar: [['E2', 'A2', 'D3', 'G3', 'B3', 'E4'], 22],
  'dropped D': [['D2', 'A2', 'D3', 'G3', 'B3', 'E4'], 22],
  'open G': [['D2', 'G2', 'D3', 'G3', 'B3', 'D4'], 22],
  'D A D G A D': [['D2', 'A2', 'D3', 'G3', 'A3', 'D4'], 22],
  bass: [['E1', 'A1', 'D2', 'G2'], 24],
  'five-string bass': [['B0', 'E1', 'A1', 'D2', 'G2'], 24],
  violin: [['G3', 'D4', 'A4', 'E5'], 0],
  cello: [['C2', 'G2', 'D3', 'A3'], 0],
  mandolin: [['G3', 'G3', 'D4', 'D4', 'A4', 'A4', 'E5', 'E5'], 20],
  ukulele: [['G4', 'C4', 'E4', 'A4'], 18],
  'banjo with a short string': [['G4', 'D3', 'G3', 'B3', 'D4'], 22],
  'tenor banjo': [['C3', 'G3', 'D4', 'A4'], 19],
  'twelve strings': [['E3', 'E2', 'A3', 'A2', 'D4', 'D3', 'G4', 'G3', 'B3', 'B3', 'E4', 'E4'], 20],
  lyre: [['D4', 'E4', 'G4', 'A4', 'B4', 'D5', 'E5'], 0],
  baritone: [['B1', 'E2', 'A2', 'D3', 'F#3', 'B3'], 22],
};
const CANNOT: [string, EarSchool][] = [['cello', 'anchor']];

const round = (name: string, school: EarSchool, anchor?: number[]): EarRound | string => {
  const [notes, frets] = INSTRUMENTS[name]!;
  const answer = earRound(notes, school, frets, 440, anchor);
  return answer.ok ? answer.round : answer.message;
};
/** Semitones of what sounds, by the neck: nothing of the module's own. */
function midiOfSound(notes: string[], sound: EarSound): number {
  const open = midiOf(parseNote(notes[sound.string - 1]!)!);
  if ('harmonic' in sound) return open + 12 * Math.log2(sound.harmonic.partial);
  const short = notes[0] === 'G4' && notes.length === 5 && sound.string === 1;
  return open + (short && sound.fret > 0 ? sound.fret - 5 : sound.fret);
}
const cases = Object.keys(INSTRUMENTS).flatMap((name) =>
  EAR_SCHOOLS.map((school): [string, EarSchool] => [name, school]),
);

test.each(cases)('%s by %s: every step can be sounded, in order, and is what it says', (name, school) => {
  const [notes, frets] = INSTRUMENTS[name]!;
  const answer = round(name, school);
  if (CANNOT.some(([n, s]) => n === name && s === school)) {
    expect(answer).toMatch(/^String \d+ \(.*\) cannot be tuned by/);
    return;
  }
  const { steps, chainSd } = answer as EarRound;
  const anchors = notes.map((_, i) => i + 1).filter((s) => !steps.some((t) => t.tune === s));
  expect(anchors).toHaveLength(1);
  const tuned = new Set(anchors);
  expect(chainSd[anchors[0]!]).toBe(0);
  for (const { tune, sound, against, interval, expectCents, beats } of steps) {
    expect(sound.string).toBe(tune);
    expect(tuned.has(against.string) || against.string === tune).toBe(true);
    expect(against.string).not.toBe(tune);
    const [p, q] = interval;
    const apart = 100 * (midiOfSound(notes, sound) - midiOfSound(notes, against));
    expect(apart - 1200 * Math.log2(p / q)).toBeCloseTo(expectCents, 6);
    expect(Math.abs(expectCents)).toBeLessThan(5);
    for (const s of [sound, against]) {
      if ('fret' in s) expect(s.fret).toBeLessThanOrEqual(Math.min(12, frets));
      else
        expect(Math.abs(s.harmonic.fret - 12 * Math.log2(s.harmonic.partial / (s.harmonic.partial - 1)))).toBeLessThan(
          5.05,
        );
    }
    // Beats of the lowest pair of partials that meets, worked out another way.
    const hz = (m: number, cents = 0) => 440 * 2 ** ((m - 69) / 12 + cents / 1200);
    for (const b of beats)
      expect(b.hz).toBeCloseTo(
        Math.abs(q * hz(midiOfSound(notes, sound), b.cents) - p * hz(midiOfSound(notes, against))),
        6,
      );
    expect(chainSd[tune]!).toBeGreaterThanOrEqual(school === 'anchor' ? 1.4 : chainSd[against.string]!);
    tuned.add(tune);
    if (school === 'octaves') expect(Math.log2(p / q) % 1).toBeCloseTo(0, 9);
    if (school === 'octaves' && p === q) expect(notes[tune - 1]).toBe(notes[against.string - 1]);
    if (school === 'harmonics') expect('harmonic' in sound || 'harmonic' in against).toBe(true);
    if (school === 'fifths') expect((p * q) % 3).toBe(0);
  }
  expect(tuned.size).toBe(notes.length);
  if (school === 'anchor')
    for (const [k, note] of notes.entries()) {
      const own = steps.filter((s) => s.tune === k + 1);
      expect([note, own.length]).toEqual([note, k + 1 === anchors[0] ? 0 : 2]);
      expect(own.every((s) => s.against.string === anchors[0])).toBe(true);
    }
});

test('the usual chain: frets 5, 5, 5, 4, 5, and an error that grows along it', () => {
  const { steps, chainSd } = round('guitar', 'chain', [0]) as EarRound;
  expect(steps.map((s) => ('fret' in s.against ? s.against.fret : -1))).toEqual([5, 5, 5, 4, 5]);
  expect(chainSd[6]).toBeCloseTo(2 * Math.sqrt(5), 9);
  // Ten cents at 110 Hz in unison: 0.64 beats a second.
  expect(steps[0]!.beats.at(-1)!.hz).toBeCloseTo(110 * (2 ** (10 / 1200) - 1), 6);
});

test('any of the anchor’s strings serves', () => {
  const answer = round('D A D G A D', 'octaves', [1, 4]);
  expect(typeof answer).toBe('object');
});
