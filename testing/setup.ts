import '@testing-library/jest-dom';

// Hands play in the sound's time, several times faster than the room's. A busy machine is slow: nothing here is ended by the time it takes, a hand gives up after so many turns.
jest.setTimeout(1_200_000);

// A fault that only the console tells of is one all the same.
const errors: string[] = [];
beforeAll(() => {
  console.error = (...words: unknown[]) => errors.push(words.map(String).join(' ').slice(0, 500));
});
afterEach(() => {
  expect(errors.splice(0)).toEqual([]);
});
