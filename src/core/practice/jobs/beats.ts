import { ratioOfCents } from '../../music';
import { randomFrom } from '../../simulate';
import { TURN_STEPS, stepTurn, type JobRules } from './job';

/** Sound lasts so long, s: beats in it are counted. */
const BEATS_S = 3;
const ROUNDS = 8;

interface Count {
  pairs: { hz: number; beats: number }[];
  said: number[];
}
export const countJob: JobRules<Count> = {
  title: 'Count beats',
  unit: 'beats off',
  begin(seed) {
    const random = randomFrom(seed);
    const pairs = Array.from({ length: ROUNDS }, () => ({
      hz: random.between(160, 360),
      beats: Math.round(random.between(0.5, 9.5)),
    }));
    return { pairs, said: [] };
  },
  seen: ({ said }) => ({
    words: `How many beats in ${BEATS_S} seconds?`,
    note: 'Two strings sound together. Count how often they swell, and press that digit.',
    rows: [{ name: 'Answers', figure: `${said.length} of ${ROUNDS}`, inHand: false }],
  }),
  steps: () => [
    { id: 'hear', words: 'Hear both', key: 'P' },
    ...Array.from({ length: 10 }, (_, n) => ({ id: `said-${n}`, words: String(n), key: String(n) })),
  ],
  act: (s, id) => (id.startsWith('said-') ? { ...s, said: [...s.said, Number(id.slice(5))] } : s),
  sound({ pairs, said }) {
    const pair = pairs[said.length];
    return pair && { hz: [pair.hz, pair.hz + pair.beats / BEATS_S], lastsS: BEATS_S };
  },
  over: ({ said }) => said.length >= ROUNDS,
  end({ pairs, said }) {
    const off = said.map((n, k) => Math.abs(n - pairs[k]!.beats));
    const value = off.reduce((a, b) => a + b, 0) / Math.max(1, off.length);
    return {
      value,
      right: value <= 0.5,
      words: [
        `On average you were ${value.toFixed(1)} beats off; ${off.filter((n) => n === 0).length} of ${off.length} were right.`,
        `It was ${pairs.map((p) => p.beats).join(', ')}; you said ${said.join(', ')}.`,
      ],
      strings: [],
    };
  },
};

interface Stop {
  hz: number;
  cents: number;
  done: boolean;
}
/** Beats go with the difference of the pitches: at this pitch a cent is an eighth of a beat a second. */
export const stopJob: JobRules<Stop> = {
  title: 'Beats to a stop',
  unit: 'cents',
  begin(seed) {
    const random = randomFrom(seed);
    return { hz: random.between(190, 230), cents: random.between(-30, -8), done: false };
  },
  seen: () => ({
    words: 'Turn until the beats stop',
    note: 'Two strings sound together at every turn. One of them is in tune; the other one comes from below.',
    rows: [],
  }),
  steps: () => [
    ...TURN_STEPS,
    { id: 'hear', words: 'Hear both', key: 'P' },
    { id: 'done', words: 'They stand still', key: 'Enter' },
  ],
  act: (s, id) => (id === 'done' ? { ...s, done: true } : { ...s, cents: s.cents + (stepTurn(id, 0.5, 4) ?? 0) }),
  sound: ({ hz, cents }) => ({ hz: [hz, hz * ratioOfCents(cents)], lastsS: BEATS_S }),
  over: (s) => s.done,
  end({ hz, cents }) {
    const beats = Math.abs(hz * (ratioOfCents(cents) - 1));
    return {
      value: cents,
      right: Math.abs(cents) <= 1,
      words: [
        `It stands ${cents < 0 ? 'flat' : 'sharp'} by ${Math.abs(cents).toFixed(1)} cents.`,
        beats < 0.02
          ? 'Nothing beats any more.'
          : `It still beats once in ${(1 / beats).toFixed(1)} seconds: wait so long before you say that it stands.`,
      ],
      strings: [],
    };
  },
};
