import type { Reading } from '../../core/pitch';

/** What of a reading the log keeps. */
export function figuresOf(reading: Reading) {
  const { ok: _ok, fromS: _from, toS: _to, driftCents: _drift, sharpTauS: _tau, ...figures } = reading;
  return figures;
}
