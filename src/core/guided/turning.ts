import { capital } from '../music';
import { median } from 'simple-statistics';
import { farWords, turnOf, wayWords, type TunerKind, type Turn } from '../strings';
import { clamp } from '../base';
import type { Figure } from './approach';

/** What is known of the tuner of the string in hand. */
export interface TunerKnown {
  /** 'third tuner from the nut, bass side'. */
  place: string;
  kind: TunerKind;
  /** Cents for a turn of the tuner, and of the fine tuner; undefined where nothing is known of the string. */
  perTurn: { tuner: number; fine: number | null } | undefined;
  /** It goes the other way than usual. */
  other: boolean;
  /** How much more a turn moves it than is reckoned, by its own bring-ups. */
  gain: number;
  /** What the fine tuner has left, cents. */
  fineLeft: number;
}

/** Which tuner, which way, how far: said while the string is brought up. */
export interface TunerAdvice {
  place: string;
  way: string;
  /** '' where it is better not said. */
  far: string;
  /** Up or down. */
  up: boolean;
}

/** What a bring-up taught of a string's tuner. */
export interface TunerLearned {
  other: boolean;
  gain: number;
}

/** Told to go one way, a string that goes the other by more than this is being turned the wrong way, cents (the user's rule). */
const WRONG_CENTS = 10;
/** The figures of the last so long agree within this where the hand rests, s and cents (house estimates). */
const REST_S = 0.35;
const REST_CENTS = 2;
/** Less than this is no turn, cents. */
const LEAST_TURN = 4;
/** So small a part of a turn cannot be judged by the hand: nothing is learned from it, cents. */
const LEARNS_FROM = 8;
/** What is learned lies within this factor of what the build gives (the user's rule). */
export const MOST_GAIN = 2;
/** More than this is turned in several goes, a part at a time: a pause between two teaches nothing, turns. */
const AT_ONCE_TURNS = 1;
/** So many turns as they were asked for teach what a turn moves, if they agree within this factor; so many the wrong way teach the way (the user's rule). */
const TEACHES = 3;
const ALIKE = 1.6;
/** A move off by more than this share of what was told missed; after so many it says less. */
const MISS_SHARE = 0.6;
const MISSES = 2;
const OVERSHOT_SHARE = 1.15;
/** Clearly below is so many tolerances. */
const BELOW_TOLERANCES = 4;
/** Said so long that the other way is meant, s. */
const WRONG_TOLD_S = 2.5;
/** Nearer than this nothing is said of how far, cents. */
const FAR_FROM = 2;

/** Follows a hand on a tuner: what it is told, what it does, what that teaches. Pure; fed with figures of one string. */
export interface Turning {
  see(figure: Figure): void;
  /** Another note begins: what happened between two notes was not seen, and teaches nothing. */
  broken(): void;
  /** The sentence about the wrong way, while it stands. */
  wrong(nowS: number): string | undefined;
  advice(): TunerAdvice | undefined;
  learned(): TunerLearned | undefined;
}

/** @param below it is to go clearly below the line first, wherever it stands */
export function createTurning(known: TunerKnown, toleranceCents: number, below = false): Turning {
  let { other, gain } = known;
  let recent: Figure[] = [];
  /** Where it rested when it was told, and what it was told, cents; whether all since then was seen; whether it has been beyond the line. */
  let told:
    | {
        at: number;
        turn: number;
        by: Turn['by'];
        turns: number;
        spent: boolean;
        far: string;
        seen: boolean;
        passed: boolean;
      }
    | undefined;
  let wrong: { sentence: string; sinceS: number } | undefined;
  /** The movement that was called wrong has not ended. */
  let goesOn = false;
  /** The way that was said has just been wrong: it is not said again until the string goes as it should. */
  let withdrawn = false;
  let misses = 0;
  let careful = false;
  /** What turns moved of what was asked, and how many went the way that was asked, or the other. */
  let shares: number[] = [];
  let along = 0;
  let against = 0;
  let taught = false;

  /** From here to the line, or clearly below it where it stands above. */
  const wanted = (cents: number) =>
    -cents - (cents > (below ? -toleranceCents : toleranceCents) ? BELOW_TOLERANCES * toleranceCents : 0);

  const tell = (cents: number) => {
    const all = wanted(cents);
    const turn = careful && all > 0 ? all / 2 : all;
    const { perTurn, kind, fineLeft } = known;
    const wished = perTurn && turnOf(turn, perTurn, kind, gain);
    // A fine tuner at its end leaves it to the peg.
    const spent = wished?.by === 'fine-tuner' && turn > fineLeft;
    const meant = spent ? turnOf(turn, { ...perTurn!, fine: null }, kind, gain) : wished;
    const far = !meant || misses >= MISSES || Math.abs(turn) < FAR_FROM ? '' : farWords(meant);
    const turns = Math.abs(meant?.turns ?? 0);
    told = { at: cents, turn, by: meant?.by ?? kind, turns, spent, far, seen: true, passed: false };
  };

  /** The hand has rested: what did it do? */
  const judge = (cents: number) => {
    const { at, turn, turns, far, seen } = told!;
    const moved = cents - at;
    // A turn the wrong way in small steps is counted from where it was told.
    if (Math.abs(moved) < LEAST_TURN || (moved * turn < 0 && Math.abs(turn) > FAR_FROM)) {
      // On another note: what comes from here on is seen again.
      if (!seen) tell(cents);
      return;
    }
    const share = moved / turn;
    if (share > 0 && Math.abs(turn) >= LEARNS_FROM) {
      along++;
      withdrawn = false;
      if (turn > 0) careful = share > OVERSHOT_SHARE && cents > toleranceCents;
      if (far !== '' && turns <= AT_ONCE_TURNS) {
        misses = Math.abs(share - 1) > MISS_SHARE ? misses + 1 : 0;
        if (seen) learn(share);
      }
    }
    tell(cents);
  };
  const learn = (share: number) => {
    shares = [...shares, share].slice(-TEACHES);
    if (shares.length < TEACHES || Math.max(...shares) > ALIKE * Math.min(...shares)) return;
    gain = clamp(gain * median(shares), 1 / MOST_GAIN, MOST_GAIN);
    taught = true;
    shares = [];
  };
  const wentWrong = (tS: number) => {
    const { turn, seen } = told!;
    wrong = { sentence: `That went ${turn > 0 ? 'down' : 'up'}: turn the other way`, sinceS: tS };
    goesOn = true;
    withdrawn = true;
    if (!seen || ++against < TEACHES || against < TEACHES * along) return;
    other = !other;
    taught = true;
    withdrawn = false;
    along = against = 0;
  };

  return {
    see(figure) {
      recent = [...recent.filter((f) => figure.tS - f.tS < REST_S), figure];
      const { cents, tS } = figure;
      const spread = Math.max(...recent.map((f) => Math.abs(f.cents - cents)));
      const rests = tS - recent[0]!.tS > 0.7 * REST_S && spread < REST_CENTS + figure.spread;
      if (!told) {
        if (rests) tell(cents);
        return;
      }
      const back = (told.at - cents) * Math.sign(told.turn);
      // What has passed the line is to come back.
      if (wanted(cents) * told.turn < 0 && Math.abs(wanted(cents)) > FAR_FROM && back < 0) told.passed = true;
      const meant = Math.abs(told.turn) > FAR_FROM && !told.passed;
      if (goesOn && back > 0) tell(cents);
      else if (meant && back > WRONG_CENTS + 2 * figure.spread && spread < WRONG_CENTS) {
        wentWrong(tS);
        tell(cents);
      } else if (rests) judge(cents);
      if (rests || back < -LEAST_TURN) goesOn = false;
      if (wrong && (told.at - cents) * Math.sign(told.turn) < -LEAST_TURN) wrong = undefined;
    },
    broken() {
      recent = [];
      if (told) told.seen = false;
    },
    wrong: (nowS) => (wrong && nowS - wrong.sinceS < WRONG_TOLD_S ? wrong.sentence : undefined),
    advice() {
      const { place, perTurn, fineLeft } = known;
      if (!told) return { place, way: '', far: '', up: true };
      const { by, turn, spent, passed } = told;
      // It is beyond the line: what was told before is done, and more of it would be wrong.
      const said = !withdrawn && !passed;
      const where =
        by === 'fine-tuner'
          ? `fine tuner, ${Math.max(0, Math.round(fineLeft))} cents of travel left`
          : perTurn?.fine
            ? `${spent ? 'fine tuner at its end' : 'too far for the fine tuner'}: peg first. ${capital(place)}`
            : place;
      return {
        place: where,
        way: said ? wayWords({ by, turns: turn }, other) : '',
        far: said ? told.far : '',
        up: passed ? turn < 0 : turn > 0,
      };
    },
    learned: () => (taught ? { other, gain } : undefined),
  };
}
