import { WALK_FROM_CENTS, type Walk } from './before';

const figure = (cents: number) => `${cents < 0 ? '−' : '+'}${Math.abs(cents).toFixed(1)}`;
const named = (notes: readonly string[]) =>
  notes.length > 3 ? `${notes.slice(0, 3).join(', ')} and others` : notes.join(', ');

export function walkWords(strings: Walk['strings']): string {
  const settling = strings.filter((s) => s.for === 'settle').map((s) => s.string.note);
  return settling.length > strings.length / 2
    ? `Makes ${named(settling)} settle: what is brought up now has come to rest by the last tuning.`
    : `Tells how ${named(strings.slice(0, 2).map((s) => s.string.note))} will fall in the show. Bring up what is more than ${WALK_FROM_CENTS} off.`;
}

/** @param leads what is left above its target, cents */
export function lastWords(leads: readonly { note: string; leadCents: number }[]): string {
  const up = leads.filter((l) => l.leadCents > 0.05).map((l) => `${l.note} ${figure(l.leadCents)}`);
  const leave = up.length > 0 ? ` Leave ${up.join(', ')}: they pass through pitch in the show.` : '';
  return `Full bends, or the bar down and up, on every string; then retune each from below.${leave}`;
}

export const betweenWords = (saves: number): string =>
  `Between pieces, in this order: it saves about ${Math.max(1, Math.round(saves))} string-minutes out of tolerance.`;
