/**
 * Readings against two general-purpose detectors, on recordings with known truth. `npm run bench:pitch -- [seeds] [first seed]`
 */
import { quantileSorted } from 'simple-statistics';
import { cents } from '../../src/core/music';
import { changeBetween, measure, type Reading } from '../../src/core/pitch';
import { writeSection } from '../report';
import {
  BAD_GROUPS,
  badRecording,
  changePair,
  FAMILY_NAMES,
  goodRecording,
  type Family,
  type Recording,
} from './cases';
import { DETECTORS, type Detector } from './detectors';
import { renderSampled, SAMPLED, sampledInstrumentsInstalled } from './sampled';

const SEEDS = Number(process.argv[2] ?? 10);
const FIRST = Number(process.argv[3] ?? 9000);
const GROUPS = ['clean', 'noise 30 dB', 'noise 15 dB', 'hum', 'slack', 'rates', 'harmonic', '150 ms', 'clipped'];
/** These go into 'all': the rest has a limit of its own. */
const OWN_LIMIT = new Set(['150 ms', 'clipped']);
const GROSS_CENTS = 50;

interface Tally {
  errors: number[];
  within2Sigma: number;
  missed: number;
  gross: number;
  cpuMs: number;
  soundS: number;
}
const tally = (): Tally => ({ errors: [], within2Sigma: 0, missed: 0, gross: 0, cpuMs: 0, soundS: 0 });
const add = (t: Tally, u: Tally): void => {
  t.errors.push(...u.errors);
  for (const k of ['within2Sigma', 'missed', 'gross', 'cpuMs', 'soundS'] as const) t[k] += u[k];
};
const timed = <T>(t: Tally, seconds: number, run: () => T): T => {
  const before = process.cpuUsage().user;
  const result = run();
  t.cpuMs += (process.cpuUsage().user - before) / 1000;
  t.soundS += seconds;
  return result;
};

function take(t: Tally, hz: number | undefined, sigma: number, truthHz: number): void {
  if (hz === undefined) {
    t.missed++;
    return;
  }
  const e = cents(hz, truthHz);
  if (Math.abs(e) > GROSS_CENTS) t.gross++;
  else t.errors.push(Math.abs(e));
  if (Math.abs(e) < 2 * sigma) t.within2Sigma++;
}

const p = (errors: number[], q: number) =>
  errors.length
    ? quantileSorted(
        [...errors].sort((a, b) => a - b),
        q,
      )
    : NaN;
const rms = (errors: number[]) => Math.sqrt(errors.reduce((s, e) => s + e * e, 0) / errors.length);
const f = (v: number, digits = 3) => (Number.isFinite(v) ? v.toFixed(digits) : '–');
const row = (name: string, t: Tally): string => {
  const read = t.errors.length + t.gross;
  const cells = [
    f(p(t.errors, 0.5)),
    f(rms(t.errors)),
    f(p(t.errors, 0.95)),
    t.gross,
    `${t.missed}/${read + t.missed}`,
  ];
  return `| ${[name, ...cells, f(t.cpuMs / t.soundS, 0)].join(' | ')} |`;
};
const HEAD = ['| | median | RMSE | p95 | gross, octave | missed | ms a second |', '|---|---|---|---|---|---|---|'];

function readOurs(t: Tally, r: Recording, worst: string[], label: string): void {
  const outcome = timed(t, r.samples.length / r.sampleRate, () =>
    measure(r.samples, r.sampleRate, { targetHz: r.targetHz }),
  );
  take(t, outcome.ok ? outcome.frequencyHz : undefined, outcome.ok ? outcome.sigmaCents : 0, r.truthHz!);
  const e = outcome.ok ? cents(outcome.frequencyHz, r.truthHz!) : NaN;
  if (!outcome.ok) worst.push(`${label}: ${outcome.reason}`);
  else if (Math.abs(e) > 0.5) worst.push(`${label}: ${e.toFixed(2)} ±${outcome.sigmaCents.toFixed(2)}`);
}

function readTheirs(d: Detector, t: Tally, r: Recording): void {
  const hz = timed(t, r.samples.length / r.sampleRate, () => d.read(r.samples, r.sampleRate, r.onsetS));
  take(t, hz, 0, r.truthHz!);
}

const lines: string[] = [`Seeds ${FIRST} to ${FIRST + SEEDS - 1}, all ${FAMILY_NAMES.length} families; cents.`, ''];
const worst: string[] = [];

// Every estimator runs a while before any is timed: what Node compiles on first use is nobody's cost.
for (const family of FAMILY_NAMES) {
  const r = goodRecording('clean', family, FIRST + 900 + 100000 * FAMILY_NAMES.indexOf(family));
  measure(r.samples, r.sampleRate, { targetHz: r.targetHz });
  for (const d of DETECTORS) d.read(r.samples, r.sampleRate, r.onsetS);
}

// 1 Absolute, synthetic strings.
const all = tally();
const perGroup = new Map(GROUPS.map((g) => [g, tally()]));
const perFamily = new Map(FAMILY_NAMES.map((n) => [n, tally()]));
const theirs = DETECTORS.map(tally);
const stiffOurs = tally();
const stiffTheirs = DETECTORS.map(tally);
for (const group of GROUPS)
  for (const family of FAMILY_NAMES)
    for (let s = 0; s < SEEDS; s++) {
      // A bowed or a banjo note does not end after 150 ms, and a bow does not sound a slack string.
      const seed = FIRST + s + 1000 * GROUPS.indexOf(group) + 100000 * FAMILY_NAMES.indexOf(family);
      if (family === 'bowed' && (group === '150 ms' || group === 'slack')) continue;
      const r = goodRecording(group, family, seed);
      const t = tally();
      readOurs(t, r, worst, `${group} ${family} ${seed}`);
      add(perGroup.get(group)!, t);
      if (OWN_LIMIT.has(group)) continue;
      add(all, t);
      add(perFamily.get(family)!, t);
      if (group !== 'clean') continue;
      if (r.stiff) add(stiffOurs, t);
      DETECTORS.forEach((d, i) => {
        readTheirs(d, theirs[i]!, r);
        if (r.stiff) readTheirs(d, stiffTheirs[i]!, r);
      });
    }
lines.push('**Absolute, synthetic strings**', '', ...HEAD, row('all (without 150 ms, clipped)', all));
for (const [name, t] of perGroup) lines.push(row(name, t));
for (const [name, t] of perFamily) lines.push(row(name, t));
lines.push(
  '',
  '**The same clean recordings, side by side**',
  '',
  ...HEAD,
  row('this estimator', perGroup.get('clean')!),
);
DETECTORS.forEach((d, i) => lines.push(row(d.name, theirs[i]!)));
lines.push(row('this estimator, stiff strings', stiffOurs));
DETECTORS.forEach((d, i) => lines.push(row(`${d.name}, stiff strings`, stiffTheirs[i]!)));
const reads = all.errors.length + all.gross;
lines.push('', `Truth within 2 sigma: ${((100 * all.within2Sigma) / reads).toFixed(1)} % of ${reads}.`);

// 2 How soon: the same notes cut off after the onset.
for (const [afterS, withinCents] of [
  [0.3, 1],
  [0.4, 0.3],
] as const) {
  let within = 0;
  let count = 0;
  for (const family of FAMILY_NAMES)
    for (let s = 0; s < 2 * SEEDS; s++) {
      if (family === 'bowed') continue;
      const r = goodRecording('clean', family, FIRST + 700 + s + 100000 * FAMILY_NAMES.indexOf(family));
      const cut = r.samples.subarray(0, Math.round((r.onsetS + afterS) * r.sampleRate));
      const outcome = measure(cut, r.sampleRate, { targetHz: r.targetHz });
      count++;
      if (outcome.ok && Math.abs(cents(outcome.frequencyHz, r.truthHz!)) < withinCents) within++;
    }
  lines.push(
    `Within ${withinCents} cent ${afterS.toFixed(2)} s after the onset: ${((100 * within) / count).toFixed(1)} % of ${count}.`,
  );
}

// 3 Change between two plucks.
lines.push('', '**Change between two different plucks of one string**', '');
lines.push('| | RMSE by partials | p95 | RMSE of two pitches | within 2 sigma | missed |', '|---|---|---|---|---|---|');
const wound: Family[] = ['wound', 'bass'];
const changeRow = (name: string, families: readonly Family[]): void => {
  const byPartials: number[] = [];
  const byPitch: number[] = [];
  let honest = 0;
  let missed = 0;
  for (const family of families)
    for (let s = 0; s < 2 * SEEDS; s++) {
      const { from, to, changeCents } = changePair(family, FIRST + s + 100000 * FAMILY_NAMES.indexOf(family));
      const [a, b] = [from, to].map((r) => measure(r.samples, r.sampleRate, { targetHz: r.targetHz }));
      if (!a!.ok || !b!.ok) {
        missed++;
        continue;
      }
      const change = changeBetween(a as Reading, b as Reading);
      const e = change.cents - changeCents;
      byPartials.push(Math.abs(e));
      byPitch.push(Math.abs(cents((b as Reading).frequencyHz, (a as Reading).frequencyHz) - changeCents));
      if (Math.abs(e) < 2 * change.sigmaCents) honest++;
    }
  const share = `${((100 * honest) / byPartials.length).toFixed(0)} %`;
  lines.push(`| ${[name, f(rms(byPartials)), f(p(byPartials, 0.95)), f(rms(byPitch)), share, missed].join(' | ')} |`);
};
changeRow('all', FAMILY_NAMES);
changeRow('wound and bass', wound);
for (const family of FAMILY_NAMES) changeRow(family, [family]);

// 4 Sampled instruments: the same note moved by a known amount, at another strength.
lines.push('');
if (sampledInstrumentsInstalled()) {
  const ours = tally();
  const others = DETECTORS.map(tally);
  SAMPLED.forEach(({ name, program, midi }) =>
    midi.forEach((note, k) => {
      const truth = [3.37, -6.81, 11.24, -2.19, 7.77, -14.6][k % 6]!;
      const targetHz = 440 * Math.pow(2, (note - 69) / 12);
      const pair = [renderSampled(program, note, 100, 0), renderSampled(program, note, 78, truth)];
      const seconds = (pair[0]!.length + pair[1]!.length) / 44100;
      const read = timed(ours, seconds, () => pair.map((x) => measure(x, 44100, { targetHz })));
      const [a, b] = read;
      if (!a!.ok || !b!.ok) {
        ours.missed++;
        worst.push(`sampled ${name} ${note}: ${read.map((o) => (o.ok ? 'read' : o.reason)).join(', ')}`);
      } else {
        const e = cents(b!.frequencyHz, a!.frequencyHz) - truth;
        ours.errors.push(Math.abs(e));
        if (Math.abs(e) > 0.2) worst.push(`sampled ${name} ${note}: ${e.toFixed(2)}`);
      }
      DETECTORS.forEach((d, i) => {
        const t = others[i]!;
        const [u, v] = timed(t, seconds, () => pair.map((x) => d.read(x, 44100, 0.5)));
        if (u === undefined || v === undefined) t.missed++;
        else if (Math.abs(cents(v, u) - truth) > GROSS_CENTS) t.gross++;
        else t.errors.push(Math.abs(cents(v, u) - truth));
      });
    }),
  );
  lines.push('**Relative, sampled instruments**', '', ...HEAD, row('this estimator', ours));
  DETECTORS.forEach((d, i) => lines.push(row(d.name, others[i]!)));
} else lines.push('Sampled instruments left out: fluidsynth and fluid-soundfont-gm are not installed.');

// 5 What must be refused.
lines.push('', '**Wrongly accepted**', '', '| | this estimator | its reasons |', '|---|---|---|');
for (const group of BAD_GROUPS) {
  let accepted = 0;
  const reasons = new Map<string, number>();
  for (let s = 0; s < 3 * SEEDS; s++) {
    const r = badRecording(group, FIRST + 500 + s);
    const outcome = measure(r.samples, r.sampleRate, { targetHz: r.targetHz });
    if (outcome.ok && !(r.gapS !== undefined && (outcome.toS <= r.gapS + 0.01 || outcome.fromS >= r.gapS))) {
      accepted++;
      worst.push(`${group} ${FIRST + 500 + s}: accepted ${outcome.cents.toFixed(1)} ±${outcome.sigmaCents.toFixed(2)}`);
    } else {
      const told = outcome.ok ? 'read beside it' : outcome.reason;
      reasons.set(told, (reasons.get(told) ?? 0) + 1);
    }
  }
  const told = [...reasons].sort((a, b) => b[1] - a[1]).map(([name, n]) => `${name} ${n}`);
  lines.push(`| ${group} | ${accepted}/${3 * SEEDS} | ${told.join(', ')} |`);
}
if (process.env.WORST) process.stderr.write(worst.join('\n') + '\n');
writeSection('Pitch', lines, process.cpuUsage().user / 1e6);
