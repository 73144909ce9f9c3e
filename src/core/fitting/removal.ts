import type { FamilyTraits } from '../strings';
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
  { words: 'It broke between its ends', removal: { reason: 'broke', place: 'between' } },
  { words: 'Another kind is wanted', removal: { reason: 'changed' } },
  { words: 'There was none', removal: undefined },
];

type Held = Pick<FamilyTraits, 'tuner'>;
const AT_PINS: Partial<Record<BreakPlace, string>> = {
  tuner: 'at the tuning pin',
  nut: 'where it leaves the pin',
  bridge: 'at the far end',
};
const PLACES: Record<BreakPlace, string> = {
  tuner: 'at the tuner or peg',
  nut: 'at the nut',
  bridge: 'at the bridge or saddle',
  between: 'between its ends',
};
/** Where a string broke, in words; where strings run from pins there is no nut. */
const placeWords = (place: BreakPlace, { tuner }: Held): string =>
  (tuner === 'pin' ? AT_PINS[place] : undefined) ?? PLACES[place];
/** Why a string goes, as one says it of an instrument. */
export const removalWords = ({ words, removal }: (typeof REMOVALS)[number], traits: Held): string =>
  removal?.place ? `It broke ${placeWords(removal.place, traits)}` : words;

const LOOK_AT_PINS: Partial<Record<BreakPlace, string>> = {
  tuner: 'look for a rough edge at the pin’s hole',
  nut: 'look for a burr where it leaves the pin',
  bridge: 'look for a burr at the far edge',
};
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
  traits: Held,
): string | undefined {
  if (!removal?.place) return undefined;
  // Said again of the string already off, it is the same break.
  const times = (breaksAt(bare ? past.slice(0, -1) : past).get(removal.place) ?? 0) + 1;
  if (times < 2) return undefined;
  const look = (traits.tuner === 'pin' ? LOOK_AT_PINS[removal.place] : undefined) ?? LOOK[removal.place];
  return `${times} strings have broken ${placeWords(removal.place, traits)} here: ${look} before the next one goes on, or have a repairer look.`;
}
