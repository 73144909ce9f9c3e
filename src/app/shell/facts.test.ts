import { temperatureC } from './facts';

test.each([
  ['19.5', 19.5],
  ['19,5 °C', 19.5],
  ['−3', -3],
  ['68 F', 20],
  ['68 °f', 20],
  ['warm', NaN],
  ['', NaN],
])('the temperature %s', (text, expected) => expect(Math.round(1e6 * temperatureC(text)) / 1e6).toBe(expected));
