import { breaksAt, type BreakPlace, type RemovalReason, type StringLife } from '../log';

export interface Removal {
  reason: RemovalReason;
  place?: BreakPlace;
}

/** Why a string goes, one digit each. */
export const REMOVALS: { words: string; removal: Removal | undefined }[] = [
  { words: 'It was worn or old', removal: { reason: 'worn' } },
  { words: 'It broke at the tuner or peg', removal: { reason: 'broke', place: 'tuner' } },
  { words: 'It broke at the nut', removal: { reason: 'broke', place: 'nut' } },
  { words: 'It broke at the bridge or saddle', removal: { reason: 'broke', place: 'bridge' } },
  { words: 'It broke between', removal: { reason: 'broke', place: 'between' } },
  { words: 'Another kind is wanted', removal: { reason: 'changed' } },
  { words: 'There was none', removal: undefined },
];

const LOOK: Record<BreakPlace, string> = {
  tuner: 'look for a rough edge at the post’s hole or peg',
  nut: 'look for a rough or tight nut slot',
  bridge: 'look for a burr in the saddle groove',
  between: 'look for what strikes it: a pick, a fret end, a nail',
};

/** What a second break at one place says; undefined for a first one. */
export function repeatedBreak(
  { past, bare }: Pick<StringLife, 'past' | 'bare'>,
  removal: Removal | undefined,
): string | undefined {
  if (!removal?.place) return undefined;
  // Said again of the string already off, it is the same break.
  const times = (breaksAt(bare ? past.slice(0, -1) : past).get(removal.place) ?? 0) + 1;
  if (times < 2) return undefined;
  const where = removal.place === 'between' ? 'between nut and bridge' : `at the ${removal.place}`;
  return `${times} strings have broken ${where} here: ${LOOK[removal.place]} before the next one goes on, or have a repairer look.`;
}
