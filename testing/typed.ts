import type { ReadingRecord } from '../src/core/log';

/** What a typed reading of some string holds beside who, when and what for. */
export const typedReading = (cents: number, more: Partial<ReadingRecord> = {}) => ({
  type: 'reading' as const,
  source: 'typed' as const,
  frequencyHz: 300,
  cents,
  sigmaCents: 0.3,
  targetHz: 300,
  a4Hz: 440,
  partials: [],
  ...more,
});
