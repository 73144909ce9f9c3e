import '@testing-library/jest-dom';

// Hands play in the sound's time, which is several times faster than the room's.
jest.setTimeout(240_000);

// A fault that only the console tells of is one all the same.
const errors: string[] = [];
beforeAll(() => {
  console.error = (...words: unknown[]) => errors.push(words.map(String).join(' ').slice(0, 500));
});
afterEach(() => {
  expect(errors.splice(0)).toEqual([]);
});
