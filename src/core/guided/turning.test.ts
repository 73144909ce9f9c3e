import { createTurning, type TunerKnown, type Turning } from './turning';
import { riseOf } from './approach';

const GEARED: TunerKnown = {
  place: 'third tuner from the nut, bass side',
  kind: 'geared',
  perTurn: { tuner: 120, fine: null },
  other: false,
  gain: 1,
  fineLeft: 60,
};

/** A hand that rests at each of these for half a second, gliding between them within a quarter. */
function follow(turning: Turning, stands: number[], fromS = 0): number {
  let tS = fromS;
  let at = stands[0]!;
  for (const to of stands) {
    for (let i = 1; i <= 10; i++, tS += 0.025) turning.see({ cents: at + ((to - at) * i) / 10, spread: 0.2, tS });
    at = to;
    for (let i = 0; i < 20; i++, tS += 0.025) turning.see({ cents: at, spread: 0.2, tS });
  }
  return tS;
}

test('it says which tuner, which way and how far', () => {
  const turning = createTurning(GEARED, 3);
  follow(turning, [-30]);
  expect(turning.advice()).toEqual({
    place: 'third tuner from the nut, bass side',
    way: 'top edge away from you',
    far: 'about a quarter turn',
    up: true,
  });
  expect(turning.learned()).toBeUndefined();
});

test('told up and gone down by more than ten cents it says so at once and takes back the way it told', () => {
  const turning = createTurning(GEARED, 3);
  const tS = follow(turning, [-30, -44]);
  expect(turning.wrong(tS)).toBe('That went down: turn the other way');
  expect(turning.advice()).toMatchObject({ way: '', far: '' });
  expect(turning.learned()).toBeUndefined();
  expect(turning.wrong(tS + 10)).toBeUndefined();
  // Once it goes up the build's own way stands again.
  follow(turning, [-44, -30], tS);
  expect(turning.advice()!.way).toBe('top edge away from you');
  expect(turning.learned()).toBeUndefined();
  // A hand that goes on before it has read the sentence is still on the same wrong way, however far.
  for (const to of [-55, -66, -77]) {
    const long = createTurning(GEARED, 3);
    let t = follow(long, [-30]);
    for (let cents = -30; cents > to; cents -= 1, t += 0.05) long.see({ cents, spread: 0.2, tS: t });
    for (let k = 0; k < 20; k++, t += 0.025) long.see({ cents: to, spread: 0.2, tS: t });
    expect(long.learned()).toBeUndefined();
  }
  // In small steps too.
  const slow = createTurning(GEARED, 3);
  expect(slow.wrong(follow(slow, [-30, -35, -40, -45]))).toBeDefined();
  // A note that falls a little by itself is no turn.
  const still = createTurning(GEARED, 3);
  expect(still.wrong(follow(still, [-30, -37]))).toBeUndefined();
  // Sharp, it is told to go down: that is no wrong way, but going up is.
  const sharp = createTurning(GEARED, 3);
  expect(sharp.wrong(follow(sharp, [15, -5]))).toBeUndefined();
  const higher = createTurning(GEARED, 3);
  expect(higher.wrong(follow(higher, [15, 30]))).toBe('That went up: turn the other way');
});

test('only the third turn that went the wrong way while it was seen turns the told way round', () => {
  const turning = createTurning(GEARED, 3);
  const tS = follow(turning, [-30, -44, -58]);
  expect(turning.learned()).toBeUndefined();
  follow(turning, [-58, -72], tS);
  expect(turning.learned()).toMatchObject({ other: true, gain: 1 });
  expect(turning.advice()!.way).toBe('top edge towards you');
  // What fell between two notes, as a string does that is pulled, teaches nothing.
  const pulled = createTurning(GEARED, 3);
  let t = 0;
  for (const [before, after] of [
    [-4, -40],
    [-5, -35],
    [-4, -30],
    [-3, -25],
  ]) {
    t = follow(pulled, [before!], t);
    pulled.broken();
    t = follow(pulled, [after!], t);
  }
  expect(pulled.learned()?.other ?? false).toBe(false);
});

test('told up, gone past the line and brought below again, nothing was turned the wrong way', () => {
  const turning = createTurning(GEARED, 3);
  let tS = follow(turning, [-8]);
  for (const to of [6, -20]) for (let k = 0; k < 8; k++, tS += 0.025) turning.see({ cents: to, spread: 0.2, tS });
  expect(turning.wrong(tS)).toBeUndefined();
});

test('beyond the line nothing more of what was told is said', () => {
  const turning = createTurning(GEARED, 3);
  let tS = follow(turning, [-100]);
  expect(turning.advice()!.far).toBe('about three quarters of a turn');
  for (let k = 0; k < 3; k++, tS += 0.025) turning.see({ cents: 11.4, spread: 0.2, tS });
  expect(turning.advice()).toMatchObject({ way: '', far: '', up: false });
});

test('a string that moves further than was reckoned is told smaller turns from the third that agree, and that is kept', () => {
  const turning = createTurning(GEARED, 3);
  const tS = follow(turning, [-60, 60]);
  // It overshot: half of what remains.
  follow(turning, [60, -40], tS);
  expect(turning.advice()!.far).toBe('about an eighth of a turn');
  expect(turning.learned()).toBeUndefined();
  const steady = createTurning(GEARED, 3);
  follow(steady, [-108, -36, -12, -4]);
  expect(steady.learned()!.gain).toBeCloseTo(2 / 3, 1);
  // Several turns are made in several goes: a part of them is no whole one.
  const parts = createTurning(GEARED, 3);
  follow(parts, [-900, -630, -441, -309]);
  expect(parts.learned()).toBeUndefined();
  expect(parts.advice()!.far).toMatch(/turns?, pluck all the while$/);
  // Nothing teaches more than twice, or half, of what the build gives.
  const weak = createTurning(GEARED, 3);
  follow(weak, [-110, -60.5, -33.3, -18.3]);
  expect(weak.learned()!.gain).toBe(1 / 2);
});

test('after two misses it says less; on a peg it counts minutes; nothing is said of an unknown string', () => {
  const turning = createTurning(GEARED, 3);
  follow(turning, [-118, -112, -106, -100, -94]);
  expect(turning.advice()).toMatchObject({ far: '', way: 'top edge away from you' });
  const peg = createTurning({ ...GEARED, kind: 'friction-peg', perTurn: { tuner: 1200, fine: 15 } }, 3);
  follow(peg, [-100]);
  expect(peg.advice()).toMatchObject({
    far: 'about 5 minutes on the clock face',
    way: 'top away from you, pushing in',
  });
  expect(peg.advice()!.place).toMatch(/^too far for the fine tuner: peg first/);
  follow(peg, [-100, -8]);
  expect(peg.advice()).toMatchObject({
    place: 'fine tuner, 60 cents of travel left',
    way: 'clockwise, seen from above',
  });
  expect(peg.advice()!.far).toMatch(/of the fine tuner$/);
  const spent = createTurning({ ...GEARED, perTurn: { tuner: 1200, fine: 15 }, fineLeft: 4 }, 3);
  follow(spent, [-20]);
  expect(spent.advice()!.place).toMatch(/^fine tuner at its end: peg first/);
  const unknown = createTurning({ ...GEARED, perTurn: undefined }, 3);
  follow(unknown, [-30]);
  expect(unknown.advice()!.far).toBe('');
});

test('a hand that turns is told from another string: it rises without a gap or a jump', () => {
  const trace = (cents: (number | null)[]) => cents.map((c, i) => ({ tS: i * 0.03, cents: c }) as never);
  const ramp = Array.from({ length: 30 }, (_, i) => 3 * i);
  expect(riseOf(trace(ramp))).toBeCloseTo(87);
  expect(riseOf(trace([0, 0, 1, 0, 300, 301, 300]))).toBeLessThan(2);
  expect(riseOf(trace([0, 0, null, null, null, null, null, 40, 40]))).toBeLessThan(2);
  expect(riseOf(trace(ramp.toReversed()))).toBe(0);
  expect(riseOf([])).toBe(0);
});
