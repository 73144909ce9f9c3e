import {
  doTest,
  priorOf,
  specimenOf,
  testsOf,
  type CauseAnswer,
  type CauseBuild,
  type CauseQuestion,
  type CauseString,
  type Evidence,
  type Specimen,
} from '../causes';
import type { Cause, CauseTest } from '../codes';
import { randomFrom, type Random } from '../simulate';

/** A string with a hidden fault, to be found by tests. */
export interface Hunt {
  seed: number;
  build: CauseBuild;
  string: CauseString;
  /** What is known before any test. */
  since: Extract<Evidence, { test: 'since-last' }>;
}

const BUILDS: [CauseBuild, CauseString][] = [
  [
    { bridge: 'fixed', nut: 'plain', tree: true, tuners: 'geared', frets: true },
    { material: 'plain-steel', lengthMm: 648, headMm: 60, targetHz: 247, ageDays: 40 },
  ],
  [
    { bridge: 'tailpiece', nut: 'plain', tree: false, tuners: 'friction', frets: false },
    { material: 'synthetic-bowed', lengthMm: 375, headMm: 55, targetHz: 294, ageDays: 60 },
  ],
  [
    { bridge: 'floating', nut: 'plain', tree: false, tuners: 'geared', frets: true },
    { material: 'plain-steel', lengthMm: 648, headMm: 90, targetHz: 196, ageDays: 20 },
  ],
];
const SIGMA = 0.4;

/** One by its chance: a fault that is seldom there is seldom the one to find. */
function oneBy(chances: ReadonlyMap<Cause, number>, random: Random): Cause {
  let left = random.uniform();
  for (const [cause, chance] of chances) if ((left -= chance) < 0) return cause;
  return [...chances.keys()].at(-1)!;
}

const drawn = (seed: number): { hunt: Hunt; specimen: Specimen; truth: Cause } => {
  const random = randomFrom(seed);
  const [build, string] = BUILDS[Math.floor(random.uniform() * BUILDS.length)]!;
  const truth = oneBy(priorOf(build, string), random);
  const specimen = specimenOf(truth, build, string, random);
  const { own, others, spread } = specimen.since;
  return {
    hunt: { seed, build, string, since: { test: 'since-last', own, others, othersSd: spread } },
    specimen,
    truth,
  };
};

/** A hunt by its seed, without its truth. */
export const beginHunt = (seed: number): Hunt => drawn(seed).hunt;
/** The tests that can be done on its instrument. */
export const huntTests = ({ build }: Hunt): CauseTest[] => testsOf(build);

/** What tests show, in the order in which they are done: a string carries its history. */
export function huntEvidence({ seed, build, since }: Hunt, done: readonly CauseTest[]): Evidence[] {
  const { specimen } = drawn(seed);
  const noise = randomFrom(seed + 31);
  return [
    since,
    ...done.map((test): Evidence => {
      const [first, second] = [false, true].map((again) => doTest(specimen, test, again, build));
      const read = (x: number) => x + Math.SQRT2 * SIGMA * noise.normal();
      return { test, first: read(first!.own), second: read(second!.own), others: read(first!.others) };
    }),
  ];
}

/** How a hunt ended: what it was, what was said, and what the finder would have said of the same tests. */
export interface HuntEnd {
  truth: Cause;
  said: Cause;
  right: boolean;
  tests: number;
  finder: Cause;
  finderChance: number;
}

/** What the finder is asked of the same tests: it is asked beside the page. */
export const huntQuestion = (hunt: Hunt, done: readonly CauseTest[]): CauseQuestion => ({
  build: hunt.build,
  string: hunt.string,
  sigmaCents: SIGMA,
  evidence: huntEvidence(hunt, done),
});

/** @param answer the finder's, to that question */
export function endHunt(hunt: Hunt, done: readonly CauseTest[], said: Cause, answer: CauseAnswer): HuntEnd {
  const { truth } = drawn(hunt.seed);
  const [first] = answer.causes;
  return {
    truth,
    said,
    right: said === truth,
    tests: done.length,
    finder: first!.cause,
    finderChance: first!.probability,
  };
}
