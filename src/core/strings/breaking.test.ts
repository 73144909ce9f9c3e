import { strayWords } from './guard';
import { breakingWarning, REFUSE_SHARE, WARN_SHARE } from './breaking';

test('near its breaking load a string is warned of, beyond what is safe it is not to be brought up; unknown is not warned of', () => {
  expect([WARN_SHARE, REFUSE_SHARE]).toEqual([0.85, 0.93]);
  const code = (share: number | null | undefined) => breakingWarning('A4', share)?.code;
  expect([null, undefined, 0, 0.85].map(code)).toEqual([undefined, undefined, undefined, undefined]);
  expect([0.851, 0.93, 0.931, 1.2].map(code)).toEqual(['near-limit', 'near-limit', 'over-limit', 'over-limit']);
  expect(breakingWarning('A4', 0.9)!.message).toBe(
    'A4 pulls 90 % of its breaking load: it may break before it settles. Turn little, keep your face out of its plane.',
  );
  expect(breakingWarning('A4', 1)!.message).toMatch(/^A4 would pull 100 % of its breaking load: do not bring it up\./);
});

test('a semitone above a string that nobody turns, another one rings', () => {
  expect(strayWords(100)).toBeUndefined();
  expect(strayWords(-300)).toBeUndefined();
  expect(strayWords(101)).toMatch(/^Another string rings on/);
});
