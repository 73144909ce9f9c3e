import fc from 'fast-check';
import { memoryLog } from '../../../testing/guided';
import type { Draft } from '../log';
import {
  randomFrom,
  energyAt,
  momentAt,
  pitchAt,
  restAngle,
  speakingMm,
  tensionAt,
  type ExactBridge,
} from '../simulate';
import { bridgeReadWords } from './words';
import {
  adviseBridge,
  BEGIN_BRIDGE,
  bridgeAt,
  bridgeSentence,
  fineTunerRooms,
  turnsForChange,
  lockShifts,
  orderOf,
  returnsOf,
  returnVerdict,
  type BridgeEvent,
  type LockedStep,
} from '.';
import { couplingOf, springsHold, lawOf, leanOf, riseWithout, type BridgeLaw } from './index';

const TOLD = {
  springs: 3,
  screwPitchMm: 1.8,
  scaleMm: 648,
  strings: [
    { targetHz: 329.63, gaugeMm: 0.254, wound: false },
    { targetHz: 246.94, gaugeMm: 0.33, wound: false },
    { targetHz: 196, gaugeMm: 0.432, wound: false },
    { targetHz: 146.83, gaugeMm: 0.66, wound: true },
    { targetHz: 110, gaugeMm: 0.914, wound: true },
    { targetHz: 82.41, gaugeMm: 1.168, wound: true },
  ],
};

/** An exact bridge level under the tensions of a law: springs hooked straight below the pivot, strings straight above it. */
function exactOf(law: BridgeLaw): ExactBridge {
  const strings = law.tensionN.map((t, i) => {
    const above = law.leverMm[i]!;
    const whole = 798;
    const slackMm = whole - t / law.stiffNPerMm[i]!;
    const axialN = law.stiffNPerMm[i]! * slackMm;
    return {
      axialN,
      behindMm: 150,
      massKgPerM: t / (2 * 0.648 * TOLD.strings[i]!.targetHz) ** 2,
      nut: { alongMm: -648, aboveMm: above },
      saddle: { alongMm: 0, aboveMm: above },
      slackMm,
    };
  });
  const arm = 33;
  const bridge: ExactBridge = {
    strings,
    springs: {
      count: 3,
      rateNPerMm: 2,
      slackMm: 0,
      hook: { alongMm: 0, aboveMm: -arm },
      claw: { alongMm: -95, aboveMm: -arm },
    },
  };
  const pull = law.tensionN.reduce((s, t, i) => s + t * law.leverMm[i]!, 0) / (3 * arm);
  bridge.springs.slackMm = 95 - pull / 2;
  return bridge;
}

test('the exact bridge rests where its energy is least, and its moment is the strings’ less the springs’', () => {
  const bridge = exactOf(lawOf(TOLD)!);
  expect(Math.abs(restAngle(bridge)!)).toBeLessThan(1e-4);
  const here = energyAt(bridge, 0);
  expect(energyAt(bridge, 0.01)).toBeGreaterThan(here);
  expect(energyAt(bridge, -0.01)).toBeGreaterThan(here);
  const s = bridge.strings[0]!;
  expect(tensionAt(s, 0.02)).toBeLessThan(tensionAt(s, 0));
  expect(speakingMm(s, 0.02)).toBeLessThan(speakingMm(s, 0));
  // Without its springs nothing holds it.
  expect(restAngle({ ...bridge, springs: { ...bridge.springs, count: 0 } })).toBeUndefined();
});

test('the linear law is the exact one’s slope: winding one string moves the others as it says', () => {
  const law = lawOf(TOLD)!;
  const bridge = exactOf(law);
  // The turning stiffness of this very geometry: what is left of it without the strings' stretch.
  const step = 1e-4;
  const whole = -(momentAt(bridge, step) - momentAt(bridge, -step)) / (2 * step);
  const stretch = law.stiffNPerMm.reduce((s, k, i) => s + k * law.leverMm[i]! ** 2, 0);
  const { g, w, lambda } = couplingOf({ ...law, turning: whole - stretch });
  expect(lambda).toBeGreaterThan(0.3);
  expect(lambda).toBeLessThan(1);
  const at = (b: ExactBridge) => b.strings.map((s) => pitchAt(s, restAngle(b)!));
  const before = at(bridge);
  for (const i of [0, 2, 5]) {
    const wound = exactOf(law);
    const s = wound.strings[i]!;
    const b = 0.002;
    s.slackMm *= 1 - ((b * law.tensionN[i]!) / s.axialN) * (s.slackMm / 798);
    const after = at(wound);
    after.forEach((hz, j) => {
      const dy = (hz / before[j]!) ** 2 - 1;
      const says = (j === i ? b : 0) - g[j]! * w[i]! * b;
      expect(Math.abs(dy - says)).toBeLessThan(0.03 * Math.abs(b * g[j]! * w[i]!) + 4e-6);
    });
  }
});

test('with the lowest string off the others stand tens of cents sharp, as the exact bridge has it', () => {
  const law = lawOf(TOLD)!;
  const bridge = exactOf(law);
  const step = 1e-4;
  const whole = -(momentAt(bridge, step) - momentAt(bridge, -step)) / (2 * step);
  const stretch = law.stiffNPerMm.reduce((s, k, i) => s + k * law.leverMm[i]! ** 2, 0);
  const rise = riseWithout(couplingOf({ ...law, turning: whole - stretch }), 5);
  expect(rise[5]).toBeNull();
  const off = { ...bridge, strings: bridge.strings.slice(0, 5) };
  const angle = restAngle(off)!;
  off.strings.forEach((s, j) => {
    const exact = 1200 * Math.log2(pitchAt(s, angle) / pitchAt(s, 0));
    expect(exact).toBeGreaterThan(15);
    expect(Math.abs(rise[j]! - exact)).toBeLessThan(0.12 * exact);
  });
});

test('orders as they are asked for', () => {
  expect(orderOf('centre-out', 6).map((i) => i + 1)).toEqual([3, 4, 2, 5, 1, 6]);
  expect(orderOf('outside-in', 6).map((i) => i + 1)).toEqual([6, 1, 2, 5, 3, 4]);
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 12 }), (n) => {
      for (const order of ['centre-out', 'outside-in'] as const)
        expect([...orderOf(order, n)].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
    }),
  );
});

test('too few springs do not hold such strings', () => {
  expect(springsHold(lawOf(TOLD)!, 3)).toBe(true);
  expect(springsHold(lawOf({ ...TOLD, springs: 1 })!, 1)).toBe(false);
});

/** A linear bridge of other constants than the estimator's: read, stop, turn the claw. */
function imagined(seed: number, offsets: number[]) {
  const random = randomFrom(seed);
  const law = lawOf(TOLD)!;
  const { g, w } = couplingOf({
    ...law,
    turning: law.turning * random.between(0.65, 1.3),
    leverMm: law.leverMm.map((h) => h * random.between(0.9, 1.15)),
    stiffNPerMm: law.stiffNPerMm.map((k) => k * random.between(0.88, 1.12)),
  });
  const y = offsets.map((c) => 2 ** (c / 600));
  const cents = () => y.map((v) => 600 * Math.log2(v));
  return {
    law,
    cents,
    read: (i: number) => cents()[i]! + 0.4 * random.normal(),
    /** A hand that leaves what is near enough as it stands. @returns what it then reads */
    set(i: number, to: number, withinCents: number) {
      const stands = cents()[i]!;
      if (Math.abs(stands - to) + 0.6 < withinCents) return stands;
      const b = (2 ** ((to + random.between(-0.6, 0.6)) / 600) - y[i]!) / (1 - g[i]! * w[i]!);
      y.forEach((_, j) => (y[j]! += (j === i ? b : 0) - g[j]! * w[i]! * b));
      return to;
    },
  };
}
function tune(world: ReturnType<typeof imagined>, spoil?: (event: BridgeEvent, count: number) => BridgeEvent) {
  const events: BridgeEvent[] = [];
  const job = { law: world.law, task: 'fresh', toleranceCents: 2, order: 'least-tilt', memory: null } as const;
  for (let k = 0; k < 80; k++) {
    const a = adviseBridge({ ...job, events });
    if (a.do === 'done') return { events, passes: a.pass, memory: a.memory };
    let event: BridgeEvent =
      a.do === 'set'
        ? { kind: 'set', string: a.string!, cents: world.set(a.string! - 1, a.stopAtCents!, a.withinCents!) }
        : { kind: 'read', string: a.string!, cents: world.read(a.string! - 1) };
    if (spoil) event = spoil(event, events.length);
    events.push(event);
  }
  throw new Error('never done');
}

test.each([1, 2, 3, 4])(
  'new strings sixty cents off are right in a few passes on bridge %i, by stops that are not zero',
  (seed) => {
    const random = randomFrom(seed + 50);
    const world = imagined(
      seed,
      Array.from({ length: 6 }, () => -60 + 20 * random.normal()),
    );
    const { events, passes } = tune(world);
    expect(Math.max(...world.cents().map(Math.abs))).toBeLessThan(3);
    expect(passes).toBeLessThanOrEqual(3);
    const first = events.find((e) => e.kind === 'set')!;
    expect(first.kind === 'set' && first.cents).toBeGreaterThan(4);
  },
);

test('strings a little off are right in few stops by a hand that leaves what is near enough', () => {
  const stops = [1, 2, 3, 4, 5, 6].map((seed) => {
    const world = imagined(seed, [2.6, -2.4, 1.8, -3.2, 2.2, -1.6]);
    const { events } = tune(world);
    expect(Math.max(...world.cents().map(Math.abs))).toBeLessThan(3);
    return events.filter((e) => e.kind === 'set').length;
  });
  expect(Math.max(...stops)).toBeLessThanOrEqual(12);
});

test('a pluck that was read wrong does not spoil what is known', () => {
  const world = imagined(9, [-50, -40, -60, -55, -45, -70]);
  const { passes } = tune(world, (e, count) => (e.kind === 'read' && count === 9 ? { ...e, cents: e.cents + 70 } : e));
  expect(Math.max(...world.cents().map(Math.abs))).toBeLessThan(3);
  expect(passes).toBeLessThanOrEqual(4);
});

test('what was learned makes the next time surer', () => {
  const world = imagined(5, [-50, -40, -60, -55, -45, -70]);
  const { memory } = tune(world);
  const law = world.law;
  const read = world.cents().map((cents, i): BridgeEvent => ({ kind: 'read', string: i + 1, cents }));
  const set: BridgeEvent = { kind: 'set', string: 3, cents: 60 };
  const sdOf = (m: typeof memory | null) =>
    adviseBridge({ law, task: 'touch-up', toleranceCents: 2, order: 'centre-out', memory: m, events: [...read, set] })
      .expectedSd[5]!;
  expect(sdOf(memory)).toBeLessThan(0.6 * sdOf(null));
});

test('a new tuning asks for the claw first', () => {
  const law = lawOf(TOLD)!;
  const events = [1, 2, 3, 4, 5, 6].map((string): BridgeEvent => ({ kind: 'read', string, cents: 100 }));
  const a = adviseBridge({ law, task: 'new-tuning', toleranceCents: 2, order: 'centre-out', memory: null, events });
  expect(a.do).toBe('claw');
  // Less pull: the springs are let out.
  expect(a.turns).toBeLessThan(-0.2);
});

describe('what holds a bridge, and what comes back', () => {
  const law = lawOf(TOLD);
  it('does not couple its strings while it is blocked: one stop each, at their targets', () => {
    const held = lawOf({ ...TOLD, held: true })!;
    expect(couplingOf(held).lambda).toBeLessThan(1e-5);
    const events: BridgeEvent[] = TOLD.strings.map((_, i) => ({ kind: 'read', string: i + 1, cents: 12 * i - 30 }));
    const job = { law: held, task: 'fresh', toleranceCents: 2, order: [5, 0, 1, 2, 3, 4], memory: null } as const;
    const first = adviseBridge({ ...job, events });
    // The order is the player's own.
    expect(first).toMatchObject({ do: 'set', string: 6 });
    expect(first.stopAtCents).toBeCloseTo(0, 1);
    // No later stop makes up for this one.
    expect(first.withinCents).toBeLessThan(2);
  });
  it('turns no claw while it is blocked, and asks before it turns more than the change gives once it is let go', () => {
    const given = { task: 'new-tuning', toleranceCents: 2, order: 'centre-out', memory: null } as const;
    const reads = (cents: number) =>
      TOLD.strings.map((_, i): BridgeEvent => ({ kind: 'read', string: i + 1, cents: cents - i }));
    const blocked = adviseBridge({ ...given, law: lawOf({ ...TOLD, held: true })!, events: reads(200) });
    expect(blocked.do).toBe('set');
    const wasCents = TOLD.strings.map(() => 200);
    const released = (degrees: number) =>
      adviseBridge({
        ...given,
        law: law!,
        events: [...reads(0), { kind: 'tilt', degrees }],
        blockedFromCents: wasCents,
      });
    const change = turnsForChange(law!, wasCents);
    expect(change).toBeLessThan(-0.3);
    // What the law gives is told; as much the other way is asked about.
    const perDegree = ((couplingOf(law!).claw * 180) / Math.PI) ** -1 * (1 - couplingOf(law!).lambda);
    const fit = released(change / perDegree);
    expect(fit).toMatchObject({ do: 'claw' });
    expect(fit.turns).toBeCloseTo(change, 0);
    expect(fit.lawTurns).toBeUndefined();
    const far = released(-change / perDegree);
    expect(far.do).toBe('claw');
    expect(far.lawTurns).toBeCloseTo(change, 6);
  });
  it('tells from released strings how far it leans', () => {
    const c = couplingOf(law!);
    const cents = c.g.map((g) => 600 * Math.log2(1 + g * 0.004));
    expect(leanOf(c, cents)).toBeCloseTo(-0.004, 5);
  });
  it('parts what the bridge does from what one string does', () => {
    const before = [0, 1, 2, 3, 4, 5];
    const moved = (by: (i: number) => number) => before.map((c, i) => c + by(i));
    const own = returnsOf([before, moved((i) => (i === 2 ? 6 : 0.3)), moved((i) => (i === 2 ? 6.2 : 0.3))]);
    expect(returnVerdict(own)).toMatchObject({ bridge: false, strings: [2] });
    expect(own[2]!.second).toBeCloseTo(0.2, 6);
    // Half of the strings bind, each its own way: the bridge, which moves them all, came back.
    const half = returnsOf([before, moved((i) => [0.2, 3.7, -0.1, 4.6, 10.5, 0.1][i]!), moved(() => 0)]);
    expect(returnVerdict(half)).toMatchObject({ bridge: false, strings: [1, 3, 4] });
    const all = returnsOf([before, moved(() => -4), moved(() => -4)]);
    expect(returnVerdict(all)).toMatchObject({ bridge: true, bridgeCents: -4, strings: [] });
  });
  it('learns what locking does, and what the fine tuners have left', () => {
    const steps: LockedStep[] = [
      { kind: 'left', string: 0, cents: 0.5 },
      { kind: 'wound', cents: [100] },
      { kind: 'lock' },
      { kind: 'read', string: 0, cents: 3.5 },
      { kind: 'read', string: 0, cents: 0 },
      { kind: 'wound', cents: [-20] },
      { kind: 'left', string: 0, cents: 0 },
      { kind: 'lock' },
      { kind: 'read', string: 0, cents: 2 },
    ];
    expect(lockShifts(steps, 2)).toEqual([
      { cents: 2.5, count: 2 },
      { cents: 0, count: 0 },
    ]);
    // Locking again is a new beginning; before it, twenty cents were let down.
    const [now] = fineTunerRooms(law!, steps);
    const [before] = fineTunerRooms(law!, steps.slice(0, 7));
    expect(now!.up).toBeCloseTo(now!.down, 6);
    expect(before!.up - now!.up).toBeCloseTo(20, 6);
  });
});

describe('a claw that is turned', () => {
  const law = lawOf(TOLD)!;
  const job = { law, task: 'new-tuning', toleranceCents: 2, order: 'centre-out', memory: null } as const;
  const reads = (cents: number) =>
    TOLD.strings.map((_, i): BridgeEvent => ({ kind: 'read', string: i + 1, cents: cents + 0.1 * i }));

  it('with its strings let down leaves nothing known of where they stand: each is read again before anything is told', () => {
    const turned: BridgeEvent[] = [...reads(100), { kind: 'claw', turns: -1 }, { kind: 'slackened' }];
    const taut = adviseBridge({ ...job, events: turned.filter((e) => e.kind !== 'slackened') });
    expect(taut.expected).not.toContain(null);
    const after = adviseBridge({ ...job, events: turned });
    expect(after).toMatchObject({ do: 'read', string: 1 });
    expect(after.expected).toEqual(TOLD.strings.map(() => null));
    const back = adviseBridge({ ...job, events: [...turned, ...reads(-30)] });
    back.expected.forEach((c, i) => expect(Math.abs(c! - (-30 + 0.1 * i))).toBeLessThan(1));
    // How the bridge stands now nobody has seen: no other turn is told before somebody looks.
    expect(back.do).not.toBe('claw');
  });

  it('is not turned by what nobody sees', () => {
    const leaning = (degrees: number, of = law) =>
      adviseBridge({ ...job, law: of, task: 'fresh', events: [...reads(0), { kind: 'tilt', degrees }] }).do;
    for (const degrees of [0.05, 0.07, 0.08, 0.09]) expect(leaning(degrees)).not.toBe('claw');
    // A fine thread takes a sixteenth of a turn for less than that.
    const fine = lawOf({ ...TOLD, screwPitchMm: 0.4 })!;
    for (const degrees of [0.04, 0.06, 0.08]) expect(leaning(degrees, fine)).not.toBe('claw');
    expect(leaning(0.3, fine)).toBe('claw');
    for (const degrees of [0.15, 0.3, 1.5]) expect(leaning(degrees)).toBe('claw');
  });

  it('never asks for a stop further than 400 cents from the target, whatever was written', () => {
    const random = randomFrom(7);
    for (let k = 0; k < 40; k++) {
      const wild = Array.from({ length: 6 + Math.floor(8 * random.uniform()) }, (_, n): BridgeEvent => {
        const cents = random.between(-1300, 1300);
        const string = n < 6 ? n + 1 : 1 + Math.floor(6 * random.uniform());
        if (n > 6 && random.uniform() < 0.3) return { kind: 'claw', turns: random.between(-3, 3) };
        return { kind: n > 6 && random.uniform() < 0.5 ? 'set' : 'read', string, cents };
      });
      const { stopAtCents = 0 } = adviseBridge({ ...job, task: 'fresh', events: wild });
      expect(Math.abs(stopAtCents)).toBeLessThanOrEqual(400);
    }
  });
});

describe('a bridge in the log', () => {
  const NOTES = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];
  const ids = NOTES.map((_, i) => `s${i + 1}`);
  /** Tuned blocked, let go, and read: its strings were put on before that, or have long been there. */
  function letGo(isFresh: boolean) {
    const memory = memoryLog('electric-floating', NOTES);
    const own = { instrumentId: 'x' } as const;
    if (isFresh) memory.write(ids.map((stringId) => ({ type: 'fitted', ...own, stringId })));
    const step = (passId: string, fields: object) =>
      memory.write([
        { type: 'bridge-step', ...own, passId, task: 'new-tuning', order: 'centre-out', ...fields } as Draft,
      ]);
    step('p1', { step: 'begin', held: 'block' });
    for (const stringId of ids) step('p1', { step: 'read', held: 'block', stringId, cents: -300, frequencyHz: 200 });
    step('p1', { step: 'end', held: 'block' });
    step('p2', { step: 'begin' });
    for (const stringId of ids) step('p2', { step: 'read', stringId, cents: 40, frequencyHz: 200 });
    step('p2', { step: 'tilt', degrees: -1.5 });
    return bridgeAt(memory.log(), BEGIN_BRIDGE);
  }
  it('takes how new strings first hung for no level: a turn is not doubted by that', () => {
    expect(letGo(true).advice?.do).toBe('claw');
    expect(letGo(true).doubtful).toBe(false);
    expect(letGo(false).doubtful).toBe(true);
  });

  it('says where level was not looked at, and that a string far sharp is to be let down', () => {
    const claw = { turns: 0, lawTurns: undefined, doubtful: false };
    expect(bridgeSentence('done', '', claw, false)).toContain('Level was not measured');
    expect(bridgeSentence('done', '', claw, true)).not.toContain('Level');
    expect(bridgeReadWords('D2', 584, 'read')).toContain('let it down now');
    expect(bridgeReadWords('D2', 99, 'read')).not.toContain('let it down');
  });
});
