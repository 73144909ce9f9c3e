import { readFileSync, statSync } from 'node:fs';
import { readWav, type Sound } from '../core/exchange';
import { A4_MAX_HZ, A4_MIN_HZ, DEFAULT_A4_HZ, targetFrequencyHz } from '../core/music';
import { changeBetween, measure, type MeasureOutcome } from '../core/pitch';
import { refused, type Refused } from './lines';

type Target = { ok: true; targetHz: number } | Refused;

/** The reference in force, Hz. */
export function a4Of(a4: unknown): { ok: true; a4Hz: number } | Refused {
  const a4Hz = a4 === undefined || a4 === null ? DEFAULT_A4_HZ : a4;
  return typeof a4Hz === 'number' && a4Hz >= A4_MIN_HZ && a4Hz <= A4_MAX_HZ
    ? { ok: true, a4Hz }
    : refused('bad-reference', `a4 is a number from ${A4_MIN_HZ} to ${A4_MAX_HZ} Hz.`);
}

function targetOf({ target, a4 }: Record<string, unknown>): Target {
  const reference = a4Of(a4);
  if (!reference.ok) return reference;
  const targetHz =
    typeof target === 'string' || typeof target === 'number' ? targetFrequencyHz(target, reference.a4Hz) : undefined;
  return targetHz === undefined
    ? refused('bad-target', 'target is a note such as "A2" or a frequency in Hz.')
    : { ok: true, targetHz };
}

/** The sound of a WAV file. */
export function wavSound(file: unknown): { ok: true; sound: Sound } | Refused {
  if (typeof file !== 'string') return refused('unreadable-file', 'file is the path of a WAV file.');
  let bytes: Uint8Array;
  try {
    if (!statSync(file).isFile()) return refused('unreadable-file', 'This is no file.');
    bytes = readFileSync(file);
  } catch (error) {
    return refused('unreadable-file', `The file could not be opened (${(error as Error).message}).`);
  }
  const wav = readWav(bytes);
  return wav.ok ? wav : refused('unreadable-file', wav.message);
}

function measureFile(file: unknown, targetHz: number): MeasureOutcome | Refused {
  const wav = wavSound(file);
  return wav.ok ? measure(wav.sound.samples, wav.sound.sampleRate, { targetHz }) : wav;
}

/** One line of `measure`: a WAV file and a target in, one reading or its refusal out. */
export function measureLine(item: Record<string, unknown>): object {
  const target = targetOf(item);
  const file = item.file;
  if (!target.ok) return { file, ...target };
  const outcome = measureFile(file, target.targetHz);
  if (!outcome.ok) return { file, ok: false, reason: outcome.reason, message: outcome.message };
  return { file, ...outcome };
}

/** One line of `change`: two WAV files of the same string in, how far it moved out. */
export function changeLine(item: Record<string, unknown>): object {
  const target = targetOf(item);
  if (!target.ok) return target;
  const from = measureFile(item.from, target.targetHz);
  if (!from.ok) return { ...from, message: `from: ${from.message}` };
  const to = measureFile(item.to, target.targetHz);
  if (!to.ok) return { ...to, message: `to: ${to.message}` };
  return { ok: true, ...changeBetween(from, to) };
}
