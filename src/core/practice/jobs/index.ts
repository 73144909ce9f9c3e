import { MOST_ACTS } from '../../limits';
import { SCHOOL_WORDS } from '../../by-ear';
import { countJob, stopJob } from './beats';
import { bridgeJob } from './bridge';
import { byEarJob } from './by-ear';
import type { JobEnd, JobRules, JobSeen, JobSound, JobStep } from './job';
import { saddleJob } from './saddle';
import { tonightJob } from './tonight';

export type { JobEnd } from './job';

export const JOBS = [
  'beats-to-a-stop',
  'count-beats',
  'saddle',
  'floating-bridge',
  'tonight',
  'by-ear-chain',
  'by-ear-anchor',
  'by-ear-harmonics',
  'by-ear-octaves',
  'by-ear-fifths',
] as const;
export type Job = (typeof JOBS)[number];
/** Jobs of the ear alone; and those of a whole instrument. */
export const BEAT_JOBS: readonly Job[] = ['beats-to-a-stop', 'count-beats'];
export const WHOLE_JOBS: readonly Job[] = JOBS.filter((j) => !BEAT_JOBS.includes(j));

// Every job has a state of its own, that only its own rules look into.
const own = <S>(rules: JobRules<S>) => rules as unknown as JobRules<unknown>;
const byEar = (school: keyof typeof SCHOOL_WORDS) => own(byEarJob(school, `By ear: ${SCHOOL_WORDS[school].name}`));
const RULES: Record<Job, JobRules<unknown>> = {
  'beats-to-a-stop': own(stopJob),
  'count-beats': own(countJob),
  saddle: own(saddleJob),
  'floating-bridge': own(bridgeJob),
  tonight: own(tonightJob),
  'by-ear-chain': byEar('chain'),
  'by-ear-anchor': byEar('anchor'),
  'by-ear-harmonics': byEar('harmonics'),
  'by-ear-octaves': byEar('octaves'),
  'by-ear-fifths': byEar('fifths'),
};

/** A job under way: what was done since its seed gives everything else. */
export interface JobRun {
  job: Job;
  state: unknown;
  acts: readonly string[];
}

/** How it is called. */
export const jobTitle = (job: Job): string => RULES[job].title;
/** The unit of its figure. */
export const jobUnit = (job: Job): string => RULES[job].unit;
/** A job at its beginning. */
export const beginJob = (job: Job, seed: number): JobRun => ({ job, state: RULES[job].begin(seed), acts: [] });
/** What is seen of it now. */
export const jobSeen = ({ job, state }: JobRun): JobSeen => RULES[job].seen(state);
/** What can be done now. */
export const jobSteps = ({ job, state }: JobRun): readonly JobStep[] => RULES[job].steps(state);
/** What is heard of it now; undefined where nothing sounds. */
export const jobSound = ({ job, state }: JobRun): JobSound | undefined => RULES[job].sound?.(state);
/** Ended by its own rules, or by the most steps that are kept. */
export const jobOver = ({ job, state, acts }: JobRun): boolean => RULES[job].over(state) || acts.length >= MOST_ACTS;
/** How it ended. */
export const jobEnd = ({ job, state }: JobRun): JobEnd => RULES[job].end(state);
/** @param id of one of its steps; anything else is passed over */
export function actJob(run: JobRun, id: string): JobRun {
  if (jobOver(run) || !jobSteps(run).some((s) => s.id === id)) return run;
  return { ...run, state: RULES[run.job].act(run.state, id), acts: [...run.acts, id] };
}
