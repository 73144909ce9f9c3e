/** The product's own simulator, which is no proof: absolute readings, changes, and what must be refused. */
import { quantileSorted } from 'simple-statistics';
import { cents } from '../../src/core/music';
import { changeBetween, measure, type Reading } from '../../src/core/pitch';
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

const GROUPS = ['clean', 'noise 30 dB', 'noise 15 dB', 'hum', 'slack', 'rates', 'harmonic', 'clipped'];
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

/** The figures, in lines of Markdown, of so many seeds from one on. */
export function ownSimulator(seeds: number, first: number): string[] {
  const lines: string[] = [`Seeds ${first} to ${first + seeds - 1}, all ${FAMILY_NAMES.length} families; cents.`, ''];
  const worst: string[] = [];

  // Every estimator runs a while before any is timed: what Node compiles on first use is nobody's cost.
  for (const family of FAMILY_NAMES) {
    const r = goodRecording('clean', family, first + 900 + 100000 * FAMILY_NAMES.indexOf(family));
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
      for (let s = 0; s < seeds; s++) {
        // A bow does not sound a slack string.
        const seed = first + s + 1000 * GROUPS.indexOf(group) + 100000 * FAMILY_NAMES.indexOf(family);
        if (family === 'bowed' && group === 'slack') continue;
        const r = goodRecording(group, family, seed);
        const t = tally();
        readOurs(t, r, worst, `${group} ${family} ${seed}`);
        add(perGroup.get(group)!, t);
        if (group === 'clipped') continue;
        add(all, t);
        add(perFamily.get(family)!, t);
        if (group !== 'clean') continue;
        if (r.stiff) add(stiffOurs, t);
        DETECTORS.forEach((d, i) => {
          readTheirs(d, theirs[i]!, r);
          if (r.stiff) readTheirs(d, stiffTheirs[i]!, r);
        });
      }
  lines.push('**Absolute, synthetic strings**', '', ...HEAD, row('all (without clipped)', all));
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

  // 2 Change between two plucks.
  lines.push('', '**Change between two different plucks of one string**', '');
  lines.push(
    '| | RMSE by partials | p95 | RMSE of two pitches | within 2 sigma | missed |',
    '|---|---|---|---|---|---|',
  );
  const wound: Family[] = ['wound', 'bass'];
  const changeRow = (name: string, families: readonly Family[]): void => {
    const byPartials: number[] = [];
    const byPitch: number[] = [];
    let honest = 0;
    let missed = 0;
    for (const family of families)
      for (let s = 0; s < 2 * seeds; s++) {
        const { from, to, changeCents } = changePair(family, first + s + 100000 * FAMILY_NAMES.indexOf(family));
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

  // 3 What must be refused.
  lines.push('', '**Wrongly accepted**', '', '| | this estimator | its reasons |', '|---|---|---|');
  for (const group of BAD_GROUPS) {
    let accepted = 0;
    const reasons = new Map<string, number>();
    for (let s = 0; s < 3 * seeds; s++) {
      const r = badRecording(group, first + 500 + s);
      const outcome = measure(r.samples, r.sampleRate, { targetHz: r.targetHz });
      if (outcome.ok && !(r.gapS !== undefined && (outcome.toS <= r.gapS + 0.01 || outcome.fromS >= r.gapS))) {
        accepted++;
        worst.push(
          `${group} ${first + 500 + s}: accepted ${outcome.cents.toFixed(1)} ±${outcome.sigmaCents.toFixed(2)}`,
        );
      } else {
        const told = outcome.ok ? 'read beside it' : outcome.reason;
        reasons.set(told, (reasons.get(told) ?? 0) + 1);
      }
    }
    const told = [...reasons].sort((a, b) => b[1] - a[1]).map(([name, n]) => `${name} ${n}`);
    lines.push(`| ${group} | ${accepted}/${3 * seeds} | ${told.join(', ')} |`);
  }
  if (process.env.WORST) process.stderr.write(worst.join('\n') + '\n');
  return lines;
}
