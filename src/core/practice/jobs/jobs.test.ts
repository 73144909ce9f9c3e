import { actJob, beginJob, jobEnd, jobOver, jobSeen, jobSound, jobSteps, JOBS, type Job, type JobRun } from '.';

const after = (job: Job, seed: number, acts: readonly string[]): JobRun => acts.reduce(actJob, beginJob(job, seed));
const figureOf = (run: JobRun): number =>
  Number(
    jobSeen(run)
      .rows.find((r) => r.inHand)!
      .figure.replace('−', '-'),
  );
const SEEDS = [1, 7, 23, 40, 91, 150];

test.each(JOBS)('%s: the same seed and steps end the same; what is no step is passed over', (job) => {
  const wild = Array.from({ length: 40 }, (_, k) => {
    const steps = jobSteps(beginJob(job, 3));
    return steps[(7 * k + 3) % steps.length]!.id;
  });
  const once = after(job, 3, wild);
  expect(after(job, 3, once.acts)).toEqual(once);
  expect(actJob(once, 'no-such-step')).toBe(once);
  expect(JSON.stringify(jobEnd(once))).not.toMatch(/NaN|null|undefined/);
});

test('beats to a stop: listened for, they stand still; the truth is told', () => {
  for (const seed of SEEDS) {
    let run = beginJob('beats-to-a-stop', seed);
    const beats = (r: JobRun) => {
      const [a, b] = jobSound(r)!.hz;
      return b! - a!;
    };
    while (beats(run) < -0.06) run = actJob(run, beats(run) < -0.6 ? 'up-more' : 'up');
    run = actJob(run, 'done');
    expect([seed, jobOver(run), jobEnd(run).right]).toEqual([seed, true, true]);
  }
});

test('beats are counted: what is heard in three seconds is what was meant', () => {
  let run = beginJob('count-beats', 9);
  while (!jobOver(run)) {
    const { hz, lastsS } = jobSound(run)!;
    run = actJob(run, `said-${Math.round((hz[1]! - hz[0]!) * lastsS)}`);
  }
  expect(jobEnd(run)).toMatchObject({ value: 0, right: true });
});

test('a saddle: moved by what the octave says, it is right after two or three readings', () => {
  for (const seed of SEEDS) {
    let run = actJob(beginJob('saddle', seed), 'read');
    // The stopped half moves by 5.3 cents a millimetre, the open string by half of that.
    for (let k = 0; k < 3 && Math.abs(figureOf(run)) > 0.6; k++) {
      const tenths = Math.round((figureOf(run) / 2.65) * 10);
      for (let i = 0; i < Math.abs(tenths); i++) run = actJob(run, tenths > 0 ? 'up' : 'down');
      run = actJob(run, 'read');
    }
    const end = jobEnd(actJob(run, 'done'));
    expect([seed, end.right, end.words]).toEqual([seed, true, expect.anything()]);
  }
});

test('a floating bridge: zeroing in passes brings it in, in about the passes that are told', () => {
  for (const seed of SEEDS) {
    let run = beginJob('floating-bridge', seed);
    for (let pass = 0; pass < 8; pass++)
      for (let i = 0; i < 6; i++) {
        run = actJob(run, `string-${i}`);
        while (figureOf(run) < -1.2) run = actJob(run, figureOf(run) < -18 ? 'up-more' : 'up');
        while (figureOf(run) > 1.2) run = actJob(run, 'down');
      }
    const end = jobEnd(actJob(run, 'done'));
    expect([seed, end.right]).toEqual([seed, true]);
    const zeroing = Number(/zeroing takes (\d+)/.exec(end.words[2]!)![1]);
    expect(zeroing).toBeGreaterThan(1);
    expect(Math.abs(end.value - zeroing)).toBeLessThan(4);
  }
});

test('tonight: more stretching and checking leaves fewer minutes out than leaving it alone', () => {
  for (const seed of SEEDS) {
    const lazy = jobEnd(after('tonight', seed, ['check', 'wait-show']));
    const careful = jobEnd(
      after('tonight', seed, [
        ...[
          'check',
          'stretch',
          'check',
          'stretch',
          'check',
          'stretch',
          'check',
          'wait-60',
          'check',
          'wait-60',
          'check',
        ],
        ...['wait-60', 'wait-15', 'wait-5', 'wait-5', 'check', 'wait-show'],
      ]),
    );
    expect(careful.value).toBeLessThan(lazy.value);
  }
});

test.each(['chain', 'anchor', 'harmonics', 'octaves', 'fifths'] as const)(
  'by ear, %s: tuned by what is heard, every string stands; badly heard, errors are told',
  (school) => {
    const job: Job = `by-ear-${school}`;
    let run = beginJob(job, 5);
    while (!jobOver(run)) {
      // Each string begins flat: it is brought up until the pair's ratio is that of equal temperament.
      const semitones = (r: JobRun) => {
        const [a, b] = jobSound(r)!.hz;
        return 12 * Math.log2(b! / a!);
      };
      for (let k = 0; k < 40 && 100 * (Math.round(semitones(run)) - semitones(run)) > 3; k++) run = actJob(run, 'up');
      run = actJob(run, 'next');
    }
    const end = jobEnd(run);
    expect(Math.abs(end.value)).toBeLessThan(16);
    const untouched = after(job, 5, Array<string>(12).fill('next'));
    expect(jobEnd(untouched).right).toBe(false);
    expect(jobEnd(untouched).strings.filter((s) => s.cents === 0)).toHaveLength(1);
  },
);
