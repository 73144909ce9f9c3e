import { RECORD_KINDS, RECORD_VERSION, samplesOf, type LogRecord, type RecordType } from '../src/core/log';

const AT = Date.UTC(2026, 5, 12, 12);
const base = (serial: number) => ({
  id: `sample-${serial}`,
  version: RECORD_VERSION,
  atMs: AT + serial * 1000,
  zoneMin: 120,
});

/** One valid record of every type, with everything that it may say. */
export const ALL_SAMPLES = RECORD_KINDS.map(({ type, sample }, i) => ({
  ...base(i + 1),
  type,
  ...sample,
})) as LogRecord[];
export const SAMPLES = Object.fromEntries(ALL_SAMPLES.map((r) => [r.type, r])) as {
  [T in RecordType]: Extract<LogRecord, { type: T }>;
};

/** Every record as it was once written, with what it is to become. */
export const OLDER_SAMPLES: [RecordType, number, object, LogRecord][] = RECORD_KINDS.flatMap(({ type }, i) =>
  Object.entries(samplesOf(type).older).map(([version, sample]): [RecordType, number, object, LogRecord] => [
    type,
    Number(version),
    { ...base(i + 1), type, ...sample, version: Number(version) },
    SAMPLES[type],
  ]),
);
