import type { Refusal, RefusalReason } from './types';

const SENTENCES: Record<RefusalReason, string> = {
  'too-quiet': 'Too quiet. Pluck again, a little closer to the microphone.',
  'too-short': 'Too short. Let the string ring.',
  unsteady: 'The pitch moved while it rang. Pluck once and do not touch it.',
  'two-strings': 'Two strings are sounding. Damp the others.',
  clipped: 'Too loud for the input. Pluck more softly or turn the input down.',
  'other-string': 'This sounds like another string.',
  'no-pitch': 'No string heard, only a noise or a knock.',
  hum: 'Only mains hum. Pluck the string, or move the microphone away from the mains lead.',
  gap: 'Sound was lost in the middle. Pluck again.',
};

/** A refusal with its house sentence, or with one that says more. */
export function refuse(reason: RefusalReason, message?: string): Refusal {
  return { ok: false, reason, message: message ?? SENTENCES[reason] };
}
