import { cents, inCents } from '../music';
import { SEARCH_LOW_CENTS, type StringPlace } from '../pitch';

/** A named string, and whether it may hang slack. */
export interface NamedPlace extends StringPlace {
  /** Just fitted: it is expected far below its target. */
  fresh?: boolean;
}

export type Which =
  | { is: 'named' }
  /** It stands where this other string stands. */
  | { is: 'other'; other: StringPlace }
  /** Far from the named string, and no other string's place. */
  | { is: 'far' };

/** Strings so near to one another share their pitch, as those of a course do: only others can be mistaken, cents (house). */
const COURSE_CENTS = 50;
/** The strings that the named one can be mistaken for. */
export const othersThan = <P extends StringPlace>(named: StringPlace, places: readonly P[]): P[] =>
  places.filter((p) => p.id !== named.id && Math.abs(cents(p.targetHz, named.targetHz)) > COURSE_CENTS);

/** This far from where it was last (from its target when it was never read) a string is still itself, cents. */
export const HOME_CENTS = 100;
/** What stands so near to another string's last reading, and so much nearer than to the named one's, is that string, cents. */
const NEARER_CENTS = 25;
const UNLIKE_CENTS = 35;

/**
 * Which string a pitch is, by where every string of the instrument was last. A string that was just fitted may stand anywhere
 * below its target; at a neighbour's pitch it is asked about. House rule.
 * @param homeHz where the named string was last known to be
 * @param rising the tuner is in the hand: the named string may stand anywhere between there and its target
 */
export function whichString(
  frequencyHz: number,
  named: NamedPlace,
  others: readonly StringPlace[],
  homeHz: number,
  rising: boolean,
): Which {
  const away = (hz: number) => Math.abs(cents(frequencyHz, hz));
  const own = away(homeHz);
  const fromTarget = cents(frequencyHz, named.targetHz);
  const mayBeSlack = named.fresh === true && fromTarget > SEARCH_LOW_CENTS && fromTarget < HOME_CENTS;
  const nearest = others.reduce<{ other: StringPlace; apart: number } | undefined>((best, other) => {
    const apart = away(other.lastHz ?? other.targetHz);
    return best && best.apart <= apart ? best : { other, apart };
  }, undefined);
  const nearer = nearest?.other.lastHz !== undefined && nearest.apart + NEARER_CENTS < own && own > UNLIKE_CENTS;
  if (own <= HOME_CENTS && !nearer) return { is: 'named' };
  const isElsewhere = nearest && nearest.apart <= NEARER_CENTS && !(rising && nearest.other.lastHz === undefined);
  if (mayBeSlack && !isElsewhere) return { is: 'named' };
  if (nearest && nearest.apart <= HOME_CENTS) return { is: 'other', other: nearest.other };
  const home = cents(homeHz, named.targetHz);
  const onItsWay = fromTarget > Math.min(0, home) - HOME_CENTS && fromTarget < Math.max(0, home) + HOME_CENTS;
  return rising && onItsWay ? { is: 'named' } : { is: 'far' };
}

/** What is known of whose sound it is: where the named string is looked for, and what else was heard. */
export interface Identity {
  /** Where the named string was last known to be, Hz. */
  homeHz: number;
  /** Figures in a row at the place of a string that was just fitted, of which nobody knew where it hangs. */
  followed: number;
  /** What sounds is not surely the string in hand: no instruction to turn is given on it. */
  stray: { which: Exclude<Which, { is: 'named' }>; tS: number } | undefined;
}

/** A string that was just fitted is known again when so many figures in a row went on from one another. */
const FOLLOWED_POINTS = 20;

/** A string that sounds at its own place. */
export const homeOf = (named: NamedPlace): Identity => ({
  homeHz: named.lastHz ?? named.targetHz,
  followed: 0,
  stray: undefined,
});

/** It is the named string: the player says so, it stands there. */
export const knownAt = (frequencyHz: number): Identity => ({
  homeHz: frequencyHz,
  followed: FOLLOWED_POINTS + 1,
  stray: undefined,
});

/** Whose sound is it, by what is known so far? */
export function identify(
  { homeHz, followed }: Identity,
  frequencyHz: number,
  asked: { named: NamedPlace; others: readonly StringPlace[]; insist?: boolean; rising: boolean },
): Which {
  if (asked.insist) return { is: 'named' };
  const { named } = asked;
  const known = followed > FOLLOWED_POINTS ? { ...named, fresh: false } : named;
  return whichString(frequencyHz, known, asked.others, homeHz, asked.rising);
}

/** A slack string on its way up takes its home along. */
export const followedTo = (i: Identity, frequencyHz: number): Identity => ({
  ...i,
  homeHz: frequencyHz,
  followed: Math.abs(cents(frequencyHz, i.homeHz)) < HOME_CENTS ? i.followed + 1 : 0,
});

/** What a figure is of: a string, and where. */
export interface FigurePlace {
  /** 'E4'. */
  name: string;
  /** Where the string belongs, Hz: the zero of every cents figure that a person sees or types. */
  belongsHz: number;
  /** Where it is expected to sound now, Hz: a figure far from there is asked about. */
  expectedHz: number;
  /** It was read there, and nobody has turned it since: not only that it belongs there. */
  known: boolean;
  /** Whatever it says, it is that string: nothing is asked. */
  sure: boolean;
}

/** How far a sound stands from where the string is expected, or belongs where nobody knows more. */
export function awayWords(place: Omit<FigurePlace, 'sure'>, frequencyHz: number): string {
  const { name, belongsHz, expectedHz, known } = place;
  const off = cents(frequencyHz, known ? expectedHz : belongsHz);
  return `That is ${inCents(off)} ${off < 0 ? 'below' : 'above'} ${known ? `where ${name} was expected` : name}`;
}

/** What is asked about a sound that stands elsewhere. @param place the string in hand @param other the string that stands there */
export function questionWords(place: FigurePlace, frequencyHz: number, other: string | undefined): string {
  const { name } = place;
  const gone = frequencyHz < place.expectedHz ? 'gone slack' : 'gone sharp';
  const away = awayWords(place, frequencyHz);
  return other
    ? `${away}: is it ${name} ${gone} (Enter), or ${other}?`
    : `${away}: is it ${name} ${gone} (Enter)? Or pluck again`;
}

/** Another string is told by its own name. */
export const hearingWords = (other: string, named: string) => `You are hearing ${other}: pluck ${named}`;
