import { addNoise, plainPluck, pluck, randomFrom, type PluckSpec } from '../../simulate';
import {
  changeBetween,
  createListener,
  measure,
  type Heard,
  type SectionHeard,
  type ListenTask,
  type TrackPoint,
} from '..';

const RATE = 24000;
const SPEC: PluckSpec = plainPluck(196, { pluckAt: 0.15, rolloff: 1.1, decayS: 2, damping: 0.1 });
const REACH = { lowCents: -1250, highCents: 560 };
const G = { id: 'g', name: 'G3', targetHz: 196 };
const D = { id: 'd', name: 'D3', targetHz: 146.83 };
const C = { id: 'c', name: 'C4', targetHz: 261.63 };
const TASK: ListenTask = { named: G, others: [D, C], reach: REACH };

/** A bench of one listener and voices that are plucked into it. */
function bench(task: ListenTask, noise = 0.0004) {
  const listener = createListener(RATE);
  listener.setTask(task);
  const random = randomFrom(12);
  const voices: { voice: ReturnType<typeof pluck>; centsAt: (s: number) => number }[] = [];
  let n = 0;
  const BLOCK = 480;
  const run = (seconds: number, lost = false): Heard[] => {
    const heard: Heard[] = [];
    for (const end = n + seconds * RATE; n < end; n += BLOCK) {
      const out = new Float32Array(BLOCK);
      for (const { voice, centsAt } of voices) voice.render(out, 0, BLOCK, 2 ** (centsAt(n / RATE) / 1200));
      addNoise(out, noise, random);
      heard.push(...listener.push(out, lost && heard.length === 0));
    }
    return heard;
  };
  const strike = (hz = 196, centsAt: (s: number) => number = () => 0, more: Partial<PluckSpec> = {}) => {
    for (const v of voices) if (v.centsAt === centsAt) v.voice.damp();
    voices.push({ voice: pluck({ ...SPEC, frequencyHz: hz, ...more }, RATE, random), centsAt });
  };
  return { listener, run, strike };
}
const sections = (heard: Heard[]): SectionHeard[] => heard.filter((h) => h.kind === 'section');
const whole = (heard: Heard[]) => sections(heard).filter((s) => s.part === 'whole');
const track = (heard: Heard[]): TrackPoint[] => heard.flatMap((h) => (h.kind === 'track' ? h.points : []));
const centsOf = (s: SectionHeard | undefined) => (s?.outcome.ok ? s.outcome.cents : NaN);

test('a pluck gives a provisional figure at half a second, the whole by 1.2 s, and twenty points a second or more', () => {
  const b = bench(TASK);
  b.run(0.5);
  b.strike(196, () => -9);
  const heard = b.run(2.5);
  const [first] = sections(heard);
  expect(first!.part).toBe('provisional');
  expect(first!.toS - first!.onsetS!).toBeLessThan(0.6);
  const all = whole(heard);
  expect(all[0]!.toS - all[0]!.onsetS!).toBeLessThan(1.2);
  for (const s of sections(heard)) expect(Math.abs(centsOf(s) + 9)).toBeLessThan(1.2);
  expect(Math.abs(centsOf(all[0]) + 9)).toBeLessThan(0.6);
  const sounding = track(heard).filter((p) => p.tS > 0.8 && p.tS < 2.5);
  expect(sounding.length).toBeGreaterThan(34);
  expect(sounding.every((p) => p.cents !== null && Math.abs(p.cents + 9) < 3)).toBe(true);
});

test('a pluck is heard in a room too loud for its level to tell', () => {
  const b = bench(TASK, 0.05);
  b.run(1);
  b.strike(196, () => -9);
  const heard = b.run(1.6);
  expect(heard.filter((h) => h.kind === 'onset')).toHaveLength(1);
  expect(Math.abs(centsOf(whole(heard)[0]) + 9)).toBeLessThan(1.5);
});

test('silence gives no points and no reading; a reading that spans lost samples is refused', () => {
  const b = bench(TASK);
  const quiet = b.run(2);
  expect(sections(quiet)).toHaveLength(0);
  expect(track(quiet).every((p) => p.cents === null)).toBe(true);
  b.strike();
  b.run(0.4);
  expect(whole(b.run(1, true))[0]!.outcome).toMatchObject({ ok: false, reason: 'gap' });
});

test('the trace follows seven semitones in two seconds', () => {
  const course = (s: number) => Math.min(0, -700 + 350 * Math.max(0, s - 0.6));
  const b = bench(TASK);
  b.strike(196, course);
  const points = track(b.run(3.5));
  const far = points.filter((p) => p.cents !== null && p.tS > 0.5 && Math.abs(p.cents - course(p.tS)) > 45);
  expect(far.length).toBeLessThan(4);
  expect(points.filter((p) => p.cents === null).length).toBeLessThan(30);
});

test.each([
  ['an octave above', 392],
  ['three times as high', 588],
  ['an octave below', 98],
])('a string that sounds %s is read there, not as the named one', (_, hz) => {
  const b = bench({
    named: G,
    others: [{ id: 'x', name: 'X', targetHz: hz }],
    reach: { lowCents: -110, highCents: 110 },
  });
  b.run(0.4);
  b.strike(hz);
  const [first] = whole(b.run(1.5));
  expect(first!.outcome.ok && Math.abs(1200 * Math.log2(first!.outcome.frequencyHz / hz))).toBeLessThan(3);
});

test('a string that rings on is not shown or read as the one named next, and does not refuse it', () => {
  const b = bench(TASK);
  b.run(0.4);
  b.strike(196, () => 0, { decayS: 5 });
  expect(whole(b.run(1.4)).length).toBeGreaterThan(0);
  b.listener.setTask({ named: C, others: [G, D], reach: REACH });
  const after = b.run(2);
  expect(sections(after)).toHaveLength(0);
  expect(track(after).every((p) => p.cents === null)).toBe(true);
  b.strike(261.63, () => -6);
  expect(Math.abs(centsOf(whole(b.run(1.5))[0]) + 6)).toBeLessThan(1);
});

test('a string that is let down from soon after its pluck is no sharp start: where it rests later is read', () => {
  const b = bench({ ...TASK, named: { id: 'e', name: 'E2', targetHz: 82.41 } });
  b.run(0.5);
  const low: Partial<PluckSpec> = { decayS: 3, glideCents: 2 };
  b.strike(82.41, (s) => Math.max(-16, -20 * Math.max(0, s - 1.2)), low);
  const late = sections(b.run(4)).filter((s) => s.part === 'running' && s.fromS > 2.2);
  expect(late.length).toBeGreaterThan(4);
  for (const s of late) expect(Math.abs(centsOf(s) + 16)).toBeLessThan(0.8);
});

test('how sharp a string starts is learned by whatever name it is read', () => {
  const low: Partial<PluckSpec> = { decayS: 3, glideCents: 6 };
  const turned = (s: number) => (s > 5.7 ? -10 : 0);
  const lateErrors = (first: number) => {
    const b = bench({ ...TASK, named: { id: 'first', name: 'E2', targetHz: first } });
    b.run(0.5);
    b.strike(first, () => 0, low);
    b.run(4.5);
    b.listener.setTask({ ...TASK, named: { id: 'then', name: 'E2', targetHz: 81.9 } });
    b.strike(82.41, turned, low);
    return sections(b.run(2.2))
      .filter((s) => s.part === 'running' && s.fromS > 5.8)
      .map((s) => Math.abs(centsOf(s) - 1200 * Math.log2(82.41 / 81.9) + 10));
  };
  const [known, strange] = [lateErrors(82.41), lateErrors(110)];
  expect(known.length).toBeGreaterThan(2);
  expect(Math.max(...strange)).toBeGreaterThan(1);
  // Of another string nothing is known of this one.
  expect(Math.max(...known)).toBeLessThan(0.5 * Math.max(...strange));
});

test('while the app sounds itself nothing is heard, nor what rings on of it', () => {
  const b = bench(TASK);
  b.run(0.4);
  b.listener.deafen(1.3);
  b.strike(196, () => 0, { decayS: 5 });
  const heard = b.run(4);
  expect(sections(heard)).toHaveLength(0);
  b.strike(196, () => -5, { level: 0.8 });
  expect(Math.abs(centsOf(whole(b.run(1.5))[0]) + 5)).toBeLessThan(1.5);
});

test('a change is read partial by partial, better than from two pitches', () => {
  const at = (cents: number, seed: number) => {
    const random = randomFrom(seed);
    const out = new Float32Array(1.6 * RATE);
    // Body-coupled partials and another plucking place each time: two pitches disagree, the same partials do not.
    const bodyCents = [4, -6, 2, 9, -5, 3, -8, 2];
    pluck(
      { ...SPEC, bodyCents, pluckAt: random.between(0.08, 0.3), frequencyHz: 196 * Math.pow(2, cents / 1200) },
      RATE,
      random,
    ).render(out, 4000, out.length, 1);
    addNoise(out, 0.0003, random);
    const r = measure(out, RATE, { targetHz: 196 });
    if (!r.ok) throw new Error(r.message);
    return r;
  };
  for (let seed = 1; seed < 6; seed++) {
    const change = changeBetween(at(0, seed), at(-5, seed + 50));
    expect(change.partials).toBeGreaterThan(3);
    expect(Math.abs(change.cents + 5)).toBeLessThan(0.3);
  }
});
