import { earRound } from '.';
import { beatWords, intervalWords, soundWords } from './words';

test('a step in words: what to sound, what to hear, how it beats', () => {
  const notes = ['E2', 'A2', 'D3'];
  const answer = earRound(notes, 'harmonics', 19, 440);
  expect(answer.ok).toBe(true);
  if (!answer.ok) return;
  const [first] = answer.round.steps;
  expect(`${soundWords(first!.sound, notes)} / ${soundWords(first!.against, notes)}`).toBe(
    'E2, harmonic at fret 5 / A2, harmonic at fret 7',
  );
  expect(intervalWords(first!.interval)).toBe('unison');
  expect(beatWords(first!)).toMatch(
    /^(From below the beats get faster. )?In tune it still beats: the target is 2 cents from pure/,
  );
  expect(intervalWords([1, 2])).toBe('octave');
  expect(soundWords({ string: 2, fret: 0 }, notes)).toBe('A2 open');
});
