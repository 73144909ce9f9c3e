import { clockTime, MINUTE } from '../../base';
import { signedCents } from '../../music';
import { plainString, randomFrom, stretchString, trueCents, turnString, type StringTruth } from '../../simulate';
import { GUITAR, inTuneOf, times, type JobRules } from './job';
/** Strung at half past two; the show from half past six, an hour and a half. */
const STRUNG_MIN = 14.5 * 60;
const SHOW_MIN = 240;
const SHOW_LASTS_MIN = 90;
/** What work costs, min (house): all strings stretched once; all checked and brought up. */
const STRETCH_MIN = 3;
const CHECK_MIN = 4;
/** The show is looked at so often, min. */
const LOOKED_MIN = 3;
/** A hand leaves a string this near, cents. */
const HAND_CENTS = 0.7;

interface Tonight {
  seed: number;
  strings: StringTruth[];
  atMin: number;
  found: (number | undefined)[];
  checks: number;
  stretches: number;
}

const STEPS = {
  stretch: { words: `Stretch all strings (${STRETCH_MIN} min)`, minutes: STRETCH_MIN },
  check: { words: `Check and tune all (${CHECK_MIN} min)`, minutes: CHECK_MIN },
  'wait-5': { words: 'Leave it for 5 min', minutes: 5 },
  'wait-15': { words: 'Leave it for 15 min', minutes: 15 },
  'wait-60': { words: 'Leave it for an hour', minutes: 60 },
  'wait-show': { words: 'Leave it until the show', minutes: SHOW_MIN },
};
type StepId = keyof typeof STEPS;

function begin(seed: number): Tonight {
  const random = randomFrom(seed);
  const strings = GUITAR.map((_, i) => {
    const [creepCents, renewal] = [random.between(8, 20), random.between(0.2, 0.5)];
    return { ...plainString(String(i), 100, Math.floor(random.uniform() * 1e6)), creepCents, renewal };
  });
  return { seed, strings, atMin: 0, found: GUITAR.map(() => undefined), checks: 0, stretches: 0 };
}

function act(s: Tonight, id: string): Tonight {
  const step = STEPS[id as StepId];
  const atMin = Math.min(SHOW_MIN, s.atMin + step.minutes);
  const atMs = atMin * MINUTE;
  // What would not be ready before the curtain is not begun.
  if (s.atMin + step.minutes > SHOW_MIN && !id.startsWith('wait')) return { ...s, atMin };
  if (id === 'stretch')
    return { ...s, atMin, stretches: s.stretches + 1, strings: s.strings.map((x) => stretchString(x, atMs)) };
  if (id !== 'check') return { ...s, atMin };
  const found = s.strings.map((x) => trueCents(x, atMs));
  const random = randomFrom(s.seed + 1 + s.checks);
  const strings = s.strings.map((x, i) => turnString(x, atMs, HAND_CENTS * random.normal() - found[i]!));
  return { ...s, atMin, checks: s.checks + 1, strings, found };
}

/** Minutes of the show that a string was out of tune, all strings together. */
function minutesOut({ strings }: Tonight): number {
  let out = 0;
  for (let m = 0; m < SHOW_LASTS_MIN; m += LOOKED_MIN)
    out += LOOKED_MIN * (strings.length - inTuneOf(strings.map((x) => trueCents(x, (SHOW_MIN + m) * MINUTE))));
  return out;
}

/** Habits of this trade, to compare with: stretched so often, then checked after these minutes and last thing before the show. */
const HABITS = [0, 2, 3, 4].flatMap((stretches) =>
  [[], [30], [10, 60], [5, 20, 60, 130]].map((waits) => ({ stretches, waits })),
);
/** The best of them on these very strings; of equals the least work. */
function bestHabit(seed: number): Tonight {
  const all = HABITS.map(({ stretches, waits }) => {
    let s = act(begin(seed), 'check');
    for (let k = 0; k < stretches; k++) s = act(act(s, 'stretch'), 'check');
    for (const m of [...waits, SHOW_MIN - CHECK_MIN]) s = act({ ...s, atMin: Math.max(s.atMin, m) }, 'check');
    return { s, out: minutesOut(s), work: s.checks * CHECK_MIN + s.stretches * STRETCH_MIN };
  });
  return all.sort((a, b) => a.out - b.out || a.work - b.work)[0]!.s;
}
export const tonightJob: JobRules<Tonight> = {
  title: 'Restring, and reach tonight’s show',
  unit: 'minutes out',
  begin,
  act,
  seen({ atMin, found, checks, stretches }) {
    const clock = (min: number) => clockTime((STRUNG_MIN + min) * MINUTE, 0);
    return {
      words: `It is ${clock(atMin)}. The show begins at ${clock(SHOW_MIN)}`,
      note: `New strings since ${clock(0)}. Checked ${times(checks)}, stretched ${times(stretches)}. When do you check, and when do you leave it alone?`,
      rows: GUITAR.map((name, i) => ({
        name,
        figure: found[i] === undefined ? 'not read' : `found at ${signedCents(found[i])}`,
        inHand: false,
      })),
    };
  },
  steps: () => Object.entries(STEPS).map(([id, { words }], i) => ({ id, words, key: String(i + 1) })),
  over: (s) => s.atMin >= SHOW_MIN,
  end(s) {
    const value = minutesOut(s);
    const best = bestHabit(s.seed);
    const bestOut = minutesOut(best);
    const cents = s.strings.map((x) => trueCents(x, (SHOW_MIN + SHOW_LASTS_MIN) * MINUTE));
    return {
      value,
      right: value <= bestOut,
      words: [
        `In the show the strings were out of tune for ${value} of ${SHOW_LASTS_MIN * GUITAR.length} string minutes.`,
        `You checked ${times(s.checks)} and stretched ${times(s.stretches)}.`,
        value <= bestOut
          ? `None of the usual habits does better on these strings: the best leaves ${bestOut}.`
          : `Stretched ${times(best.stretches)} and checked ${times(best.checks)}, it could have been ${bestOut}.`,
      ],
      strings: GUITAR.map((name, i) => ({ name, cents: cents[i]! })),
    };
  },
};
