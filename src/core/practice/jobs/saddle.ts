import { signedCents } from '../../music';
import { octaveCents, randomFrom, type FrettedTruth } from '../../simulate';
import { TURN_STEPS, stepTurn, type JobRules } from './job';

interface Saddle {
  truth: FrettedTruth;
  seed: number;
  /** What the octave was read at, cents, and after how many moves in all; newest last. */
  readings: { cents: number; movedMm: number }[];
  movedMm: number;
  done: boolean;
}

/** The octave is right within this, cents; a reading scatters so, cents; a screw is turned by so much, mm (house). */
const RIGHT_CENTS = 1;
const READ_CENTS = 0.3;
const LITTLE_MM = 0.1;
const MORE_MM = 0.5;
/** One reading to see it, one to prove it. */
const BEST_READINGS = 2;

export const saddleJob: JobRules<Saddle> = {
  title: 'Set a saddle by its octave',
  unit: 'cents',
  begin(seed) {
    const random = randomFrom(seed);
    const truth = {
      scaleMm: random.between(620, 680),
      saddleMm: random.between(-1, 5),
      nutMm: 0,
      inharmonicity: random.between(2e-5, 9e-5),
      height1Mm: 0.5,
      height12Mm: random.between(1.6, 2.4),
      pressMm: 0.05,
      stretch: random.between(70, 140),
      wear: 0,
    };
    return { truth, seed, readings: [], movedMm: 0, done: false };
  },
  seen({ readings, movedMm }) {
    const last = readings.at(-1);
    const since = last ? movedMm - last.movedMm : 0;
    return {
      words: !last ? 'Read the octave (P)' : since === 0 ? 'Move the saddle, or end here' : 'Read it again (P)',
      note: 'Sharp at the 12th fret: the saddle goes away from the nut. Slacken the string before a real saddle moves.',
      rows: [
        { name: '12th fret against the octave', figure: last ? signedCents(last.cents) : 'not read', inHand: true },
        { name: 'Moved since, mm', figure: since.toFixed(1), inHand: false },
        { name: 'Readings', figure: String(readings.length), inHand: false },
      ],
    };
  },
  steps: () => [
    { id: 'read', words: 'Read the octave', key: 'P' },
    { ...TURN_STEPS[0]!, words: 'Away, 0.1 mm' },
    { ...TURN_STEPS[1]!, words: 'Nearer, 0.1 mm' },
    { ...TURN_STEPS[2]!, words: 'Away, 0.5 mm' },
    { ...TURN_STEPS[3]!, words: 'Nearer, 0.5 mm' },
    { id: 'done', words: 'Done', key: 'Enter' },
  ],
  act(s, id) {
    if (id === 'done') return { ...s, done: true };
    if (id === 'read') {
      const noise = READ_CENTS * randomFrom(s.seed + 1 + s.readings.length).normal();
      return { ...s, readings: [...s.readings, { cents: octaveCents(s.truth) + noise, movedMm: s.movedMm }] };
    }
    const mm = stepTurn(id, LITTLE_MM, MORE_MM) ?? 0;
    return { ...s, movedMm: s.movedMm + mm, truth: { ...s.truth, saddleMm: s.truth.saddleMm + mm } };
  },
  over: (s) => s.done,
  end({ truth, readings }) {
    const cents = octaveCents(truth);
    const right = Math.abs(cents) <= RIGHT_CENTS;
    const words = [
      `The octave stands at ${signedCents(cents)} cents.`,
      right ? 'That is as good as a finger is.' : `Within ${RIGHT_CENTS} cent would be right.`,
      `You read it ${readings.length} times; ${BEST_READINGS} are enough: once to see it, once to prove it.`,
    ];
    return { value: cents, right, words, strings: [] };
  },
};
