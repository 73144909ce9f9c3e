import { array, boolean, number, object, string } from 'yup';
import { MOST_CENTS } from '../core/limits';
import { ratioOfCents, targetFrequencyHz } from '../core/music';
import { createSession, type SessionEvent } from '../core/check';
import type { NamedPlace } from '../core/guided';
import { checked } from './lines';
import { a4Of, wavSound } from './measure';

/** As the audio thread hands the sound on, and the page's clock. */
const BLOCK = 1024;
const CLOCK_S = 0.05;
/** Silence after the end of the recording, so that its last note is read too, s. */
const AFTER_S = 1.5;

const schema = object({
  file: string().required('file is the path of a WAV file.'),
  strings: array(
    object({
      note: string().required('Every string has a note such as "E4".'),
      lastCents: number().min(-MOST_CENTS).max(MOST_CENTS),
      fresh: boolean(),
    }).required(),
  )
    .min(1, 'strings names at least one string.')
    .max(100, 'strings names at most 100 strings.')
    .required('strings is a list such as [{"note":"E4"}].'),
  pass: string()
    .oneOf(['as-found', 'as-left'] as const, 'pass is "as-found" or "as-left".')
    .required('pass is "as-found" or "as-left".'),
  string: number().integer().min(1),
  toleranceCents: number().min(0.1).max(100),
}).required();

/** An event as the door tells it; strings are counted from 1. */
function told(event: SessionEvent): object {
  const atS = Math.round(1000 * event.atS) / 1000;
  if (event.kind === 'say') return { atS, kind: 'say', text: event.text };
  const { verdict, purpose } = event;
  const string = event.string + 1;
  if (verdict.kind === 'keep') {
    const { cents, sigmaCents } = verdict.reading;
    const { arrival } = verdict;
    return {
      atS,
      kind: 'reading',
      string,
      purpose: purpose === 'found' ? 'as-found' : 'as-left',
      cents,
      sigmaCents,
      ...(arrival ? { arrival } : {}),
    };
  }
  const hearing = verdict.hearingId === undefined ? {} : { hearing: Number(verdict.hearingId) + 1 };
  return verdict.kind === 'ask'
    ? { atS, kind: 'question', string, cents: verdict.cents, ...hearing }
    : { atS, kind: 'refusal', string, reason: verdict.reason, ...hearing };
}

/** One line of `listen`: a recording through the listener and the rules of the pass, as the page does it; what happened out. */
export function listenLine(item: Record<string, unknown>): object {
  const { file } = item;
  const asked = checked(schema, item, 'bad-item');
  if (!asked.ok) return { file, ...asked };
  const { strings, pass, string: only, toleranceCents = 3 } = asked.value;
  const reference = a4Of(item.a4);
  if (!reference.ok) return { file, ...reference };
  if (only !== undefined && only > strings.length)
    return { file, ok: false, reason: 'bad-item', message: `string counts from 1 to ${strings.length}.` };
  const places: NamedPlace[] = [];
  for (const [i, { note, lastCents, fresh }] of strings.entries()) {
    const targetHz = targetFrequencyHz(note, reference.a4Hz);
    if (targetHz === undefined)
      return { file, ok: false, reason: 'bad-target', message: `"${note}" is no note such as "E4".` };
    places.push({
      id: String(i),
      name: note,
      targetHz,
      ...(lastCents === undefined ? {} : { lastHz: targetHz * ratioOfCents(lastCents) }),
      ...(fresh ? { fresh } : {}),
    });
  }
  const sound = wavSound(file);
  if (!sound.ok) return { file, ...sound };
  const { samples, sampleRate } = sound.sound;
  const session = createSession({
    sampleRate,
    strings: places,
    kind: pass,
    only: only === undefined ? undefined : only - 1,
    toleranceCents,
  });
  const events: SessionEvent[] = [];
  const clock = Math.round(CLOCK_S * sampleRate);
  let ticked = 0;
  for (let at = 0; at < samples.length + AFTER_S * sampleRate; at += BLOCK) {
    const block = new Float64Array(BLOCK);
    block.set(samples.subarray(at, at + BLOCK));
    events.push(...session.push(block));
    for (; ticked <= at + BLOCK; ticked += clock) events.push(...session.tick().events);
  }
  return { file, ok: true, events: events.map(told) };
}
