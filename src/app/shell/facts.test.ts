import { nextAt, temperatureC } from './facts';

const NOON = Date.UTC(2026, 5, 12, 12);
const at = (text: string) => {
  const ms = nextAt(text, NOON, 120);
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

test.each([
  ['19.5', 19.5],
  ['19,5 °C', 19.5],
  ['−3', -3],
  ['68 F', 20],
  ['68 °f', 20],
  ['warm', NaN],
  ['', NaN],
])('the temperature %s', (text, expected) => expect(Math.round(1e6 * temperatureC(text)) / 1e6).toBe(expected));
