import { addNoise, plainPluck, pluck, randomFrom, type PluckSpec } from '../simulate';
import {
  arrival,
  changeBetween,
  createListener,
  hasSettled,
  measure,
  motion,
  whichOtherString,
  type Heard,
  type Task,
  type TrackPoint,
} from '.';

const RATE = 24000;
const SPEC: PluckSpec = plainPluck(196, { pluckAt: 0.15, rolloff: 1.1, decayS: 2, damping: 0.1 });
const TASK: Task = { named: { id: 'g', name: 'G3', targetHz: 196 }, others: [], purpose: 'found', toleranceCents: 3 };

/** Feeds a string whose offset follows centsAt(s), plucked at the given times, through a listener. */
function play(
  task: Task,
  seconds: number,
  plucksS: number[],
  centsAt: (s: number) => number,
  lostAtS = Infinity,
  then?: { atS: number; task: Task },
): Heard[] {
  const listener = createListener(RATE);
  listener.setTask(task);
  const random = randomFrom(12);
  const heard: Heard[] = [];
  const block = 480;
  let voice = pluck(SPEC, RATE, random);
  let next = 0;
  let started = false;
  for (let n = 0; n * block < seconds * RATE; n++) {
    const s = (n * block) / RATE;
    if (then && Math.abs(s - then.atS) < 0.01) listener.setTask(then.task);
    const out = new Float32Array(block);
    if (next < plucksS.length && s >= plucksS[next]!) {
      voice = pluck(SPEC, RATE, random);
      started = true;
      next++;
    }
    if (started) voice.render(out, 0, block, Math.pow(2, centsAt(s) / 1200));
    addNoise(out, 0.0004, random);
    heard.push(...listener.push(out, Math.abs(s - lostAtS) < 0.01));
  }
  return heard;
}
const outcomes = (heard: Heard[]) => heard.filter((h) => h.kind === 'outcome');
const track = (heard: Heard[]): TrackPoint[] => heard.flatMap((h) => (h.kind === 'track' ? h.points : []));

test('one pluck gives one reading, and twenty points a second or more', () => {
  const heard = play(TASK, 3, [0.5], () => -9);
  const [only, ...more] = outcomes(heard);
  expect(more).toHaveLength(0);
  expect(only!.outcome.ok && Math.abs(only!.outcome.cents + 9)).toBeLessThan(0.5);
  const sounding = track(heard).filter((p) => p.tS > 0.7 && p.tS < 2.7);
  expect(sounding.length).toBeGreaterThan(40);
  expect(sounding.every((p) => p.cents !== null && Math.abs(p.cents + 9) < 3)).toBe(true);
});

test('a note that rang before a reading was asked for is not that reading: the next pluck is', () => {
  const left: Task = { ...TASK, purpose: 'left' };
  const found = outcomes(play(left, 7, [0.5, 5], () => -40, Infinity, { atS: 2.5, task: TASK }));
  expect(found.map((o) => [o.stringId, o.purpose])).toEqual([['g', 'found']]);
  const early = play(left, 4.9, [0.5], () => -40, Infinity, { atS: 2.5, task: TASK });
  expect(outcomes(early)).toHaveLength(0);
});

test('silence gives no points and no reading', () => {
  const heard = play(TASK, 2, [], () => 0);
  expect(outcomes(heard)).toHaveLength(0);
  expect(track(heard).every((p) => p.cents === null)).toBe(true);
});

test('a reading that spans lost samples is refused', () => {
  const [first] = outcomes(play(TASK, 2.5, [0.5], () => 0, 1));
  expect(first!.outcome).toMatchObject({ ok: false, reason: 'gap' });
});

test('the trace follows seven semitones in two seconds and the as-left reading keeps itself, from below', () => {
  const course = (s: number) => Math.min(0, -700 + 350 * Math.max(0, s - 0.6));
  const heard = play({ ...TASK, purpose: 'left' }, 6, [0.3, 1.5, 2.8], course);
  const far = track(heard).filter((p) => p.cents !== null && p.tS > 0.5 && Math.abs(p.cents - course(p.tS)) > 45);
  expect(far.length).toBeLessThan(4);
  const [left] = outcomes(heard);
  expect(left!.arrival).toBe('from below');
  expect(left!.outcome.ok && Math.abs(left!.outcome.cents)).toBeLessThan(0.6);
});

test('how the pitch arrived', () => {
  const points = (cents: number[]): TrackPoint[] =>
    cents.map((c, i) => ({
      tS: i * 0.025,
      cents: c,
      frequencyHz: 1,
      confidence: 1,
      levelDb: -20,
      floorDb: -70,
      clipped: false,
    }));
  const ramp = (from: number, to: number) => Array.from({ length: 40 }, (_, i) => from + ((to - from) * i) / 39);
  expect(arrival(points(ramp(-40, -1)), 3)).toBe('from below');
  expect(arrival(points(ramp(30, 1)), 3)).toBe('from above');
  expect(arrival(points([...ramp(-40, 12), ...ramp(12, 1)]), 3)).toBe('overshot');
  expect(arrival(points(ramp(1, 0)), 3)).toBe('untouched');
  expect(motion(points(ramp(-40, 0)))).toBe('rising');
  expect(motion(points(ramp(40, 0)))).toBe('falling');
  expect(motion(points(ramp(1, 1)))).toBe('steady');
  expect(hasSettled(points(Array<number>(80).fill(-1)), 3, 1.5)).toBe(true);
  expect(hasSettled(points([...Array<number>(40).fill(-9), ...Array<number>(40).fill(-1)]), 3, 1.5)).toBe(false);
});

test('another string is told by memory, and a slack string passing a neighbour is still itself', () => {
  const d = { id: 'd', name: 'D3', targetHz: 146.83, lastHz: 146.5 };
  const g = { id: 'g', name: 'G3', targetHz: 196, lastHz: 195.5 };
  expect(whichOtherString(146.6, g, [d])?.name).toBe('D3');
  expect(whichOtherString(195, g, [d])).toBeUndefined();
  // Read slack a moment ago, at a pitch near D: it is the G string on its way up.
  expect(whichOtherString(146.6, { ...g, lastHz: 144.5 }, [d])).toBeUndefined();
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

test('a string that rings on is not shown or read as the one named next', () => {
  const listener = createListener(RATE);
  const high = { id: 'c', name: 'C4', targetHz: 261.63 };
  listener.setTask({ ...TASK, others: [high] });
  const random = randomFrom(3);
  const voice = pluck(SPEC, RATE, random);
  const feed = (seconds: number): Heard[] => {
    const out = new Float32Array(seconds * RATE);
    voice.render(out, 0, out.length, 1);
    addNoise(out, 0.0004, random);
    return listener.push(out, false);
  };
  listener.push(new Float32Array(RATE / 2), false);
  expect(outcomes(feed(1.5))).toHaveLength(1);
  listener.setTask({ ...TASK, named: high, others: [TASK.named] });
  const after = feed(3);
  expect(outcomes(after)).toHaveLength(0);
  expect(track(after).every((p) => p.cents === null)).toBe(true);
});

test('the sharp start of a hard pluck is no overshoot', () => {
  const plucked = Array.from({ length: 80 }, (_, i) => ({
    tS: i * 0.025,
    cents: i < 20 ? -20 : -1 + 9 * Math.exp(-(i - 20) / 4),
    frequencyHz: 1,
    confidence: 1,
    levelDb: i < 20 ? -45 : -20,
    floorDb: -70,
    clipped: false,
  }));
  expect(arrival(plucked, 3)).toBe('from below');
  // A string that still rings rises less when it is plucked again.
  const again = plucked.map((p, i) => ({
    ...p,
    cents: i < 20 ? -20 : i === 39 ? 13 : 0,
    levelDb: i < 39 ? -24 : i < 41 ? -22 : -19,
  }));
  expect(arrival(again, 3)).toBe('from below');
});

test('a note that was read is not read again when its string is named once more', () => {
  const listener = createListener(RATE);
  const other = { id: 'c', name: 'C4', targetHz: 261.63 };
  listener.setTask({ ...TASK, others: [other] });
  const random = randomFrom(3);
  const voice = pluck({ ...SPEC, decayS: 6 }, RATE, random);
  const feed = (seconds: number): Heard[] => {
    const out = new Float32Array(seconds * RATE);
    voice.render(out, 0, out.length, 1);
    addNoise(out, 0.0004, random);
    return listener.push(out, false);
  };
  listener.push(new Float32Array(RATE / 2), false);
  expect(outcomes(feed(1.5))).toHaveLength(1);
  listener.setTask({ ...TASK, named: other, others: [TASK.named] });
  feed(0.5);
  listener.setTask({ ...TASK, others: [other] });
  expect(outcomes(feed(3))).toHaveLength(0);
});
