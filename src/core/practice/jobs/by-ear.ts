import {
  beatWords,
  earRound,
  intervalWords,
  SCHOOL_WORDS,
  soundRatio,
  soundWords,
  type EarStep,
  type EarSound,
} from '../../by-ear';
import type { EarSchool } from '../../codes';
import { capital, DEFAULT_A4_HZ, ratioOfCents, targetFrequencyHz } from '../../music';
import { randomFrom } from '../../simulate';
import { GUITAR, inTuneOf, standWords, TURN_STEPS, stepTurn, type JobRules } from './job';

const VIOLIN = ['E5', 'A4', 'D4', 'G3'];
const FRETS = 19;
const LITTLE_CENTS = 1;
const MORE_CENTS = 8;
const HEARD_S = 2;

interface ByEar {
  /** Where each string stands, cents from its target. */
  cents: number[];
  at: number;
}

/** An instrument is tuned by a school by ear: nothing is shown but what to sound; the net of errors comes afterwards. */
export function byEarJob(school: EarSchool, title: string): JobRules<ByEar> {
  const notes = school === 'fifths' ? VIOLIN : GUITAR;
  const made = earRound(notes, school, school === 'fifths' ? 0 : FRETS, DEFAULT_A4_HZ);
  if (!made.ok) throw new Error(made.message);
  const { steps } = made.round;
  const hz = ({ cents }: ByEar, sound: EarSound) =>
    targetFrequencyHz(notes[sound.string - 1]!, DEFAULT_A4_HZ)! *
    ratioOfCents(cents[sound.string - 1]!) *
    soundRatio(sound);
  /** How far a pair stands from where it should, cents. */
  const left = ({ cents }: ByEar, { tune, against }: EarStep) => cents[tune - 1]! - cents[against.string - 1]!;
  return {
    title,
    unit: 'cents',
    begin(seed) {
      const random = randomFrom(seed);
      const tuned = new Set(steps.map((s) => s.tune - 1));
      return { at: 0, cents: notes.map((_, i) => (tuned.has(i) ? random.between(-25, -8) : 0)) };
    },
    seen({ at }) {
      const step = steps[Math.min(at, steps.length - 1)]!;
      return {
        words: `Tune ${notes[step.tune - 1]!}: ${soundWords(step.sound, notes)} against ${soundWords(step.against, notes)}`,
        note: `${capital(intervalWords(step.interval))}. ${beatWords(step)}`.trim(),
        rows: steps.map((s, i) => ({
          name: `${notes[s.tune - 1]!} by ${notes[s.against.string - 1]!}`,
          figure: i < at ? 'done' : i === at ? 'in hand' : 'to come',
          inHand: i === at,
        })),
      };
    },
    steps: () => [
      ...TURN_STEPS,
      { id: 'hear', words: 'Hear both', key: 'P' },
      { id: 'next', words: 'It stands: next', key: 'Enter' },
    ],
    act(s, id) {
      if (id === 'next') return { ...s, at: s.at + 1 };
      const by = stepTurn(id, LITTLE_CENTS, MORE_CENTS);
      const step = steps[s.at];
      return by === undefined || !step ? s : { ...s, cents: s.cents.map((c, i) => (i === step.tune - 1 ? c + by : c)) };
    },
    sound(s) {
      const step = steps[s.at];
      return step && { hz: [hz(s, step.against), hz(s, step.sound)], lastsS: HEARD_S };
    },
    over: (s) => s.at >= steps.length,
    end(s) {
      const worst = s.cents.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
      const pairs = steps.map((step) => Math.abs(left(s, step)));
      return {
        value: worst,
        right: inTuneOf(s.cents) === notes.length,
        words: [
          standWords(s.cents),
          `The furthest pair was left ${Math.max(...pairs).toFixed(1)} cents beside its place; the furthest string is ${Math.abs(worst).toFixed(1)} cents off.`,
          SCHOOL_WORDS[school].what,
        ],
        strings: notes.map((name, i) => ({ name, cents: s.cents[i]! })),
      };
    },
  };
}
