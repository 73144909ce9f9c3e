import { readLogFile, readWav } from '../../src/core/exchange';
import { LONGEST_REFUSAL } from '../../src/core/limits';
import { randomFrom } from '../../src/core/simulate';
import { bentLogFile, faultsOf, goodLog } from './records';
import { noNumbers, useLog } from './use';
import { asCodec, bentWav, goodWavs, OTHER_CODECS } from './wavs';
import { MINUTE } from '../../src/core/base';

const NOW = 1_780_000_000_000 + 80 * MINUTE;

test('the good log is good, and the checks see what is not', () => {
  const good = goodLog();
  expect(readLogFile(JSON.stringify({ format: 'slow-anchor-log/1', records: good }))).toMatchObject({ ok: true });
  expect(useLog(good, NOW)).toEqual([]);
  expect(faultsOf({ ...good[0], atMs: -1 })).toContain('atMs is no time');
  expect(noNumbers({ a: [1, NaN] })).toEqual(['.a.1 is NaN']);
});

test('bent logs are refused in a short sentence, or are valid and usable', () => {
  const random = randomFrom(41);
  const good = goodLog();
  let accepted = 0;
  for (let i = 0; i < 120; i++) {
    const read = readLogFile(bentLogFile(good, random));
    if (!read.ok) {
      expect(read.message.length).toBeLessThan(LONGEST_REFUSAL + 40);
      continue;
    }
    accepted++;
    expect(read.records.flatMap((r) => faultsOf(r))).toEqual([]);
    if (i % 3 === 0) expect(useLog(read.records, NOW)).toEqual([]);
  }
  expect(accepted).toBeGreaterThan(15);
});

test('a pair with one side, times before 1970 and frequencies of nothing are refused', () => {
  const good = goodLog();
  const bent = (type: string, change: object) =>
    readLogFile(
      JSON.stringify({
        format: 'slow-anchor-log/1',
        records: good.map((r) => (r.type === type ? { ...r, ...change } : r)),
      }),
    ).ok;
  expect(bent('trial', {})).toBe(true);
  expect(bent('trial', { pairs: [{ treated: { instrumentId: 'x', stringId: 's1' } }] })).toBe(false);
  expect(bent('trial', { pairs: [{}] })).toBe(false);
  expect(bent('fitted', { atMs: Date.UTC(1969, 5) })).toBe(false);
  expect(bent('fitted', { atMs: Date.UTC(2200, 1) })).toBe(false);
  expect(bent('touch', { frequencyHz: 0.5 })).toBe(false);
  expect(bent('reading', { partials: [{ n: 1, frequencyHz: NaN, sigmaHz: 0 }] })).toBe(false);
  expect(bent('instrument', { strings: [null] })).toBe(false);
});

test('bent sound files are refused or read, at once; other codecs are never taken for PCM', () => {
  const random = randomFrom(43);
  const good = goodWavs();
  for (const file of good) expect(readWav(file)).toMatchObject({ ok: true });
  for (let i = 0; i < 120; i++) {
    const startedMs = performance.now();
    const read = readWav(bentWav(good[i % good.length]!, random));
    expect(performance.now() - startedMs).toBeLessThan(2000);
    if (read.ok) expect(read.sound.samples.every(Number.isFinite)).toBe(true);
  }
  for (const file of good)
    for (const code of OTHER_CODECS) expect(readWav(asCodec(file, code))).toMatchObject({ ok: false });
});
