import { median } from 'simple-statistics';
import { randomFrom, type Random } from '../simulate';
import { doTest, type TestSeen } from './answers';
import { EFFORT_S, priorOf, testsOf, type CauseBuild, type CauseString, type Evidence, type TestResult } from './kinds';
import type { Cause, CauseTest, Told } from '../codes';
import { explains, FEW, sinceLikelihood, testLikelihood } from './likelihood';
import { specimenOf } from './draw';
import { copyOf, crossed, type Specimen } from './specimen';
import { toldLikelihood, type Logged } from './told';
import { muThetaOf } from '../friction';

export interface CauseQuestion {
  build: CauseBuild;
  string: CauseString;
  /** Standard error of one reading, cents. */
  sigmaCents: number;
  /** All tests so far, in order: a string carries its history. */
  evidence: readonly Evidence[];
  /** What the player said, and what else the log tells. */
  told?: (Told & Logged) | undefined;
  /** Tests that were done again already: they are not asked for once more. */
  again?: readonly CauseTest[] | undefined;
  /** Tests that can be done now; all that the instrument allows where it is not said. */
  offered?: readonly CauseTest[] | undefined;
}

export interface CauseAnswer {
  /** All that this instrument can have, the likeliest first; sum 1. */
  causes: { cause: Cause; probability: number }[];
  /** The test that tells most for its effort, also where it is sure enough; undefined where none is left. */
  next: CauseTest | undefined;
  /** Which two causes that test parts best, of those still thought of, the likelier first. */
  parts: [Cause, Cause] | undefined;
  /** Sure enough, or no test that can be done parts the first two causes. */
  stop: boolean;
  /** A test that would part the first two, and that cannot be done here, or was passed over; undefined where none is. */
  wouldPart: CauseTest | undefined;
  /** The last test that was done, where hardly anything that is held possible explains what was read; undefined where it fits. */
  misfit: CauseTest | undefined;
  /** It moved more than the others, and by more than the doubt, and nothing wrong comes first: it is not found yet. */
  unfound: boolean;
  friction:
    | {
        place: 'nut' | 'tree' | 'saddle';
        muTheta: number;
        sd: number;
        /** What it costs between its two limits, cents. */
        cents: number;
      }
    | undefined;
  /** Causes that no test left can part. */
  cannotTell: Cause[];
  /** For each piece of evidence: what it makes likelier, and what less likely, among what was still thought of. */
  speaks: Speaks[];
}
export interface Speaks {
  for: Cause[];
  against: Cause[];
}

/** Specimens of each cause, of one that is hardly thought of any more, and the share of them with a second fault beside it. */
const DRAWS = 600;
const RARE_DRAWS = 120;
const RARE = 0.004;
const TWO_FAULTS = 0.12;
/** Share of a cause's specimens that still tell of it, below which they are drawn again (effective sample size). */
const FEW_LEFT = 0.5;
const SEED = 19;
/** The laws here are not the string's: each piece of evidence counts a little less than it says (calibrated in bench/causes). */
const TRUST = 0.9;
/** Sure enough to stop; a test that tells less than this, bits, is not worth its time. */
const SURE = 0.85;
const LEAST_GAIN = 0.16;
/** A test that tells less than this of which of two causes it is, bits of one at most, parts them not (house estimate). */
const LEAST_PART = 0.12;
/** Causes above this stand close where nothing is sure; friction is told above the other. */
const CLOSE = 0.2;
const FRICTION_FROM = 0.4;
/** Outcomes that are tried for a test, and specimens that they are judged by. */
const OUTCOMES = 24;
const JUDGES = 100;
/** Effort that any test costs, s: cheap ones do not win by being cheap alone. */
const EFFORT_BASE_S = 25;

/** Evidence speaks for or against a cause that it makes so many times likelier or less likely; causes below this are not thought of. */
const SPEAKS = 1.6;
const THOUGHT_OF = 0.03;
const SPOKEN = 2;

interface Particle {
  specimen: Specimen;
  /** Of all that an inquiry still holds possible. */
  weight: number;
}

/** What an inquiry holds possible: specimens that went through all its tests, those of a cause in a row, and the chances before and after each. */
interface Inquiry {
  particles: Particle[];
  chances: Map<Cause, number>[];
  /** Of what is held possible after each piece of evidence, the share that explains it. */
  explained: number[];
}

/** Both times of a test on a specimen, which goes on from there. */
function twice(s: Specimen, test: CauseTest, build: CauseBuild): [TestSeen, TestSeen] {
  return [doTest(s, test, false, build), doTest(s, test, true, build)];
}

/** Specimens of each cause before anything was tested, weighed by the priors and by what was told. */
function drawAll({ build, string, told }: CauseQuestion): Inquiry {
  const prior = priorOf(build, string);
  const possible = [...prior.keys()];
  const faults = possible.filter((c) => c !== 'none');
  const particles = possible.flatMap((cause, ci) =>
    Array.from({ length: DRAWS }, (_, k): Particle => {
      const random = randomFrom(SEED + 7919 * ci + k);
      const second =
        cause !== 'none' && random.uniform() < TWO_FAULTS
          ? faults[Math.floor(random.uniform() * faults.length)]
          : undefined;
      const specimen = specimenOf(cause, build, string, random, second);
      return { specimen, weight: (prior.get(cause)! / DRAWS) * (told ? toldLikelihood(told, specimen, build) : 1) };
    }),
  );
  return inquiryOf(particles, [], []);
}

const weightOf = (some: readonly Particle[]): number => some.reduce((s, p) => s + p.weight, 0);

/** Weights to a sum of one, and the chances they make of the causes. */
function inquiryOf(particles: readonly Particle[], before: Map<Cause, number>[], explained: number[]): Inquiry {
  const sum = weightOf(particles);
  const scaled = particles.map((p) => ({ ...p, weight: p.weight / sum }));
  return { particles: scaled, chances: [...before, chancesOf(scaled)], explained };
}

/**
 * Puts every specimen through one more piece of evidence, and weighs it by how well it foretold that. Where few of a cause's
 * specimens are left that tell of it, those are drawn again by their weight, as many as there were, and go on each by its own
 * chance: else after five tests one lucky string would speak for its cause (sequential Monte Carlo, Del Moral, Doucet and
 * Jasra 2006).
 */
function weigh({ particles, chances, explained }: Inquiry, e: Evidence, question: CauseQuestion): Inquiry {
  const { build, sigmaCents, evidence } = question;
  const judged = particles.map(({ specimen, weight }) => {
    if (e.test === 'since-last') {
      const likelihood = sinceLikelihood(e, specimen, sigmaCents);
      return { specimen, weight: weight * likelihood ** TRUST, explains: true };
    }
    const answers = twice(specimen, e.test, build);
    const likelihood = testLikelihood(e, ...answers, sigmaCents);
    return { specimen, weight: weight * likelihood ** TRUST, explains: explains(e, ...answers, sigmaCents) };
  });
  const total = weightOf(judged);
  const share = weightOf(judged.filter((j) => j.explains)) / total;
  const done = new Set<string>(evidence.slice(0, chances.length).map((x) => x.test));
  const redrawn = [...chances[0]!.keys()].flatMap((cause, ci) => {
    const all = judged.filter((j) => j.specimen.cause === cause);
    const sum = weightOf(all);
    const left = sum > 0 ? 1 / all.reduce((s, p) => s + (p.weight / sum) ** 2, 0) : 0;
    const many = sum < RARE * total ? RARE_DRAWS : DRAWS;
    if (sum === 0 || (left >= FEW_LEFT * many && all.length === many)) return all;
    const seed = SEED + 104729 * chances.length + 7919 * ci;
    return drawn(all, many).map((s, k, list) => ({
      // One that is drawn once goes on as itself.
      specimen: list[k - 1] === s ? crossed(s, all[k % all.length]!.specimen, done, randomFrom(seed + k)) : s,
      weight: sum / many,
    }));
  });
  return inquiryOf(redrawn, chances, [...explained, share]);
}

/** The last inquiries: a further test of one of them goes on from where its specimens stand. The answers are the same without. */
const inquiries: { about: string; done: string[]; inquiry: Inquiry }[] = [];
const INQUIRIES = 2;

function weighed(question: CauseQuestion): Inquiry {
  const { build, string, told, sigmaCents, evidence } = question;
  const about = JSON.stringify([build, string, told, sigmaCents]);
  const all = evidence.map((e) => JSON.stringify(e));
  const at = inquiries.findIndex((q) => q.about === about && q.done.every((e, k) => e === all[k]));
  const [last] = at >= 0 ? inquiries.splice(at, 1) : [{ about, done: [], inquiry: drawAll(question) }];
  const inquiry = evidence.slice(last!.done.length).reduce((q, e) => weigh(q, e, question), last!.inquiry);
  inquiries.unshift({ about, done: all, inquiry });
  inquiries.length = Math.min(inquiries.length, INQUIRIES);
  return inquiry;
}

function chancesOf(particles: readonly Particle[]): Map<Cause, number> {
  const chances = new Map<Cause, number>();
  for (const { specimen, weight } of particles)
    chances.set(specimen.cause, (chances.get(specimen.cause) ?? 0) + weight);
  return chances;
}

/** What each piece of evidence says, by the chances before and after it. */
function speaksOf(at: readonly Map<Cause, number>[]): Speaks[] {
  return Array.from({ length: at.length - 1 }, (_, k): Speaks => {
    const ratios = [...at[k]!]
      .map(([cause, p]) => ({ cause, ratio: at[k + 1]!.get(cause)! / p, thought: Math.max(p, at[k + 1]!.get(cause)!) }))
      .filter((r) => r.thought >= THOUGHT_OF)
      .sort((a, b) => b.ratio - a.ratio);
    return {
      for: ratios
        .filter((r) => r.ratio > SPEAKS)
        .slice(0, SPOKEN)
        .map((r) => r.cause),
      against: ratios
        .filter((r) => r.ratio < 1 / SPEAKS)
        .slice(-SPOKEN)
        .reverse()
        .map((r) => r.cause),
    };
  });
}

/** Particles drawn by their weight, evenly along the sum (systematic resampling, Kitagawa 1996). */
function drawn(particles: readonly Particle[], count: number): Specimen[] {
  const step = weightOf(particles) / count;
  const chosen: Specimen[] = [];
  let at = 0.5 * step;
  let sum = 0;
  for (const { specimen, weight } of particles) {
    sum += weight;
    for (; at < sum && chosen.length < count; at += step) chosen.push(specimen);
  }
  return chosen;
}

const bits = (chances: readonly number[]): number =>
  chances.reduce((sum, p) => sum - (p > 0 ? p * Math.log2(p) : 0), 0);

/** How much a test is expected to tell, bits: entropy now less the mean entropy after its outcomes. */
function gainOf(
  test: CauseTest,
  judges: readonly Specimen[],
  { build, sigmaCents }: CauseQuestion,
  random: Random,
): number {
  const answers = judges.map((s) => twice(copyOf(s, random), test, build));
  const causes = [...new Set(judges.map((s) => s.cause))];
  const at = judges.map((s) => causes.indexOf(s.cause));
  const share = causes.map((_, c) => at.filter((a) => a === c).length / judges.length);
  let after = 0;
  const step = judges.length / OUTCOMES;
  for (let k = 0; k < OUTCOMES; k++) {
    const by = Math.floor(k * step);
    const [first, second] = answers[by]!;
    const noise = () => Math.SQRT2 * sigmaCents * random.normal();
    const outcome: TestResult = {
      test,
      first: first.own + noise(),
      second: second.own + noise(),
      others: first.others + 0.5 * noise(),
    };
    const chances = causes.map(() => 1e-12);
    answers.forEach((answer, j) => {
      // Nobody judges by itself.
      if (j === by) return;
      chances[at[j]!]! += testLikelihood(outcome, ...answer, sigmaCents, FEW) ** TRUST;
    });
    const sum = chances.reduce((a, b) => a + b, 0);
    after += bits(chances.map((c) => c / sum)) / OUTCOMES;
  }
  return bits(share) - after;
}

/** A cause is compared by so many specimens at least. */
const ENOUGH = 6;

/** The likeliest cause of what the judges hold possible, and the one that a test tells from it best, by how far their answers lie apart. */
function partedBy(
  test: CauseTest,
  judges: readonly Specimen[],
  build: CauseBuild,
  random: Random,
): [Cause, Cause] | undefined {
  const answers = new Map<Cause, number[]>();
  for (const s of judges) {
    const { own } = doTest(copyOf(s, random), test, false, build);
    answers.set(s.cause, [...(answers.get(s.cause) ?? []), symlog(own)]);
  }
  const [first, ...others] = [...answers]
    .filter(([, all]) => all.length >= ENOUGH)
    .sort((a, b) => b[1].length - a[1].length);
  if (!first || others.length === 0) return undefined;
  const apart = (all: number[]) => Math.abs(median(all) - median(first[1]));
  const [furthest] = [...others].sort((a, b) => apart(b[1]) - apart(a[1]));
  return [first[0], furthest![0]];
}
/** Cents, large ones in logarithms. */
const symlog = (cents: number): number => Math.sign(cents) * Math.log1p(Math.abs(cents));

/** Where less than this of what is held possible explains a test, it is done again (house, by thirty cases of the worlds of bench/causes). */
const MISFIT = 0.05;
function misfitOf({ evidence, again }: CauseQuestion, explained: readonly number[]): CauseTest | undefined {
  const last = evidence.at(-1);
  return last && last.test !== 'since-last' && !again?.includes(last.test) && explained.at(-1)! < MISFIT
    ? last.test
    : undefined;
}

/** It fell further than the others by more than this many standard deviations of that, and cents (house). */
const ALONE = { sd: 2, cents: 2 };
/** A hand moves a sound string by less than this, cents (house). */
const BY_HAND = 6;
const ACTS: ReadonlySet<CauseTest> = new Set<CauseTest>([
  'from-below-above',
  'big-bend',
  'press-behind-nut',
  'press-behind-tree',
  'press-behind-saddle',
  'dive',
  'pull-up',
  'side-stretch',
]);
/** Did the string move more than its neighbours, by more than the doubt, by itself or by a hand? */
const movedAlone = ({ evidence, sigmaCents }: CauseQuestion): boolean =>
  evidence.some((e) => {
    const doubt = ALONE.sd * Math.SQRT2 * sigmaCents;
    if (e.test === 'since-last')
      return e.others - e.own > Math.max(ALONE.cents, Math.hypot(ALONE.sd * e.othersSd, doubt));
    return ACTS.has(e.test) && Math.abs(e.first - (e.others ?? 0)) > BY_HAND + doubt;
  });

/** The others went too, cents: one string alone is no question of the reference. */
const OTHERS_WENT = 2;
const severalGo = ({ evidence, told }: CauseQuestion): boolean =>
  (told?.strings !== undefined && told.strings !== 'one') ||
  evidence.every((e) => e.test !== 'since-last' || Math.abs(e.others) > OTHERS_WENT);

const PLACES = { 'nut-friction': 'nut', 'tree-friction': 'tree', 'saddle-friction': 'saddle' } as const;

/** Friction at the place that holds the string back most likely, from the specimens that are like it. */
function frictionOf(particles: readonly Particle[]): CauseAnswer['friction'] {
  const found = (Object.keys(PLACES) as (keyof typeof PLACES)[])
    .map((cause) => ({ cause, all: particles.filter((p) => p.specimen.cause === cause) }))
    .map(({ cause, all }) => ({ cause, all, sum: weightOf(all) }))
    .sort((a, b) => b.sum - a.sum)[0];
  if (!found || found.sum < FRICTION_FROM) return undefined;
  const place = PLACES[found.cause];
  const values = found.all.map(({ specimen: { at, run }, weight }) => {
    const aside =
      place === 'saddle'
        ? run.lengths[run.speaking + 1]!
        : place === 'tree'
          ? run.lengths[0]!
          : run.lengths[run.speaking - 1]!;
    return { mu: muThetaOf(at[place], aside), cents: at[place], weight: weight / found.sum };
  });
  const muTheta = values.reduce((s, v) => s + v.weight * v.mu, 0);
  const variance = values.reduce((s, v) => s + v.weight * (v.mu - muTheta) ** 2, 0);
  const cents = values.reduce((s, v) => s + v.weight * v.cents, 0);
  return { place, muTheta, sd: Math.sqrt(variance), cents };
}

/**
 * Why does it not stay? Bayes over the causes, each by many simulated strings that were put through the same tests in the same
 * order (approximate Bayesian computation with a soft likelihood); then the next best test by expected information.
 */
export function findCause(question: CauseQuestion): CauseAnswer {
  const { build, evidence } = question;
  const { particles, chances, explained } = weighed(question);
  const causes = [...chances.at(-1)!]
    .map(([cause, probability]) => ({ cause, probability }))
    .sort((a, b) => b.probability - a.probability);
  const done = new Set<string>(evidence.map((e) => e.test));
  const left = testsOf(build).filter(
    (t) => !done.has(t) && (question.offered?.includes(t) ?? true) && (t !== 'reference' || severalGo(question)),
  );
  const random = randomFrom(SEED);
  const judges = drawn(particles, JUDGES);
  /** Tests by what they are expected to tell, for what they cost. */
  const worthOf = (tests: readonly CauseTest[], of: readonly Specimen[]) =>
    tests
      .map((test) => {
        const gain = gainOf(test, of, question, random);
        return { test, gain, rate: gain / (EFFORT_S[test] + EFFORT_BASE_S) };
      })
      .sort((a, b) => b.rate - a.rate);
  const sure = causes[0]!.probability >= SURE;
  const worth = worthOf(left, judges);
  const tells = worth.some((w) => w.gain >= LEAST_GAIN);
  // Nothing tells much of all causes together: does anything tell of the first two?
  const moved = movedAlone(question);
  // What moved alone has something: nothing wrong is not one of two that are left.
  const faults = moved ? causes.filter((c) => c.cause !== 'none') : causes;
  const pair = faults.slice(0, 2).map((c) => c.cause);
  const parting = (tests: readonly CauseTest[]) => {
    const two = particles.filter((p) => pair.includes(p.specimen.cause));
    return worthOf(tests, drawn(two, JUDGES)).filter((w) => w.gain >= LEAST_PART);
  };
  const apart = sure || tells ? [] : parting(left);
  const next = apart[0]?.test ?? worth[0]?.test;
  const over = sure || (!tells && apart.length === 0);
  const close = faults.filter((c) => c.probability > CLOSE).map((c) => c.cause);
  const others = testsOf(build).filter((t) => !done.has(t) && !left.includes(t) && t !== 'reference');
  return {
    causes,
    next,
    parts: next && partedBy(next, judges, build, random),
    stop: over,
    wouldPart: over && !sure ? parting(others)[0]?.test : undefined,
    misfit: misfitOf(question, explained),
    unfound: causes[0]!.cause === 'none' && moved,
    friction: frictionOf(particles),
    cannotTell: sure || !over ? [] : close.length > 1 ? close : pair,
    speaks: speaksOf(chances),
  };
}
