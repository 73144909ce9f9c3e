import type { Refusal, RefusalReason } from './types';

const SENTENCES: Record<RefusalReason, string> = {
  'too-quiet': 'Too quiet: pluck again, a little closer to the microphone.',
  'too-short': 'Too short: let the string ring.',
  unsteady: 'The pitch moved while it sounded: pluck once and leave it alone.',
  'two-strings': 'Two strings are sounding: damp the others.',
  clipped: 'Too loud for the input: pluck more softly or turn the input down.',
  'other-string': 'This sounds like another string.',
  'no-pitch': 'No string heard: only a noise or a knock.',
  hum: 'Only mains hum: pluck the string, or move the microphone from the mains lead.',
  gap: 'Sound was lost in the middle: pluck again.',
};

/** A refusal with its house sentence, or with one that says more. */
export function refuse(reason: RefusalReason, message?: string): Refusal {
  return { ok: false, reason, message: message ?? SENTENCES[reason] };
}
