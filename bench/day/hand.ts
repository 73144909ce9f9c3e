import {
  createPlayer,
  reachOf,
  type GuidedLog,
  type GuideView,
  type Player,
  type Procedure,
} from '../../src/core/guided';
import { createListener } from '../../src/core/pitch';
import type { ReadingRecord } from '../../src/core/log';
import { turnString, type Random, type StringTruth } from '../../src/core/simulate';
import { A4, DAY_RATE, RingingStrings, type DayWorld } from './world';
import { clamp } from '../../src/core/base';

/** How somebody plays: all else is the same hand. */
export const STYLES = {
  obedient: { waitS: 0.5, amount: [0.75, 1.02], early: 0, noise: 0.0004 },
  hasty: { waitS: 0.15, amount: [0.6, 1.3], early: 0, noise: 0.0004 },
  'own amounts': { waitS: 0.5, amount: [0.3, 1.7], early: 0, noise: 0.0004 },
  'the next string too early': { waitS: 0.4, amount: [0.75, 1.1], early: 0.25, noise: 0.0004 },
  'a loud room': { waitS: 0.5, amount: [0.75, 1.05], early: 0, noise: 0.004 },
} as const;
export type Style = keyof typeof STYLES;

const BLOCK = 1024;
/** A pluck is waited out before the next one, s; a step that long in coming is given up, s. */
const REPLUCK_S = 2.4;
const GIVE_UP_S = 150;

/** What a hand needs of a job: which string it is to sound, and how; undefined where none is. */
export interface HandJob<State, Action> {
  procedure: Procedure<State, Action>;
  begin: State;
  /** The string that the step in hand sounds, by id; and as what. */
  sounds(log: GuidedLog, state: State): { stringId: string; as: (s: StringTruth) => StringTruth } | undefined;
  /** What is done without sound. @returns whether something was done */
  act?(player: Player<State, Action>): boolean;
  /** Done: ends the job. */
  over(log: GuidedLog, state: State): boolean;
}

/** One job played through: the player hears what the hand does, and the hand does what the player says. @returns seconds it took */
export function play<State, Action>(
  world: DayWorld,
  job: HandJob<State, Action>,
  style: Style,
  random: Random,
  onRead: (reading: ReadingRecord) => void,
): { seconds: number; done: boolean } {
  const how = STYLES[style];
  const sound = new RingingStrings(world, how.noise, random);
  const listener = createListener(DAY_RATE);
  const log = (): GuidedLog => ({
    life: world.life(),
    bench: world.bench(),
    statuses: [],
    a4Hz: A4,
    nowMs: world.nowMs,
    newId: () => world.newId(),
  });
  const player = createPlayer(job.procedure, job.begin, {
    log,
    write: (records) => {
      for (const r of world.write(records)) if (r.type === 'reading') onRead(r);
      return undefined;
    },
    say: () => undefined,
    changed: () => aim(),
  });
  const aim = () => {
    const { step } = player;
    if (step) listener.setTask({ named: step.named, others: step.others, reach: reachOf(step) });
  };
  aim();
  const hand = {
    said: '',
    saidS: 0,
    plucked: '',
    pluckedS: -9,
    turnedS: -9,
    steps: [] as { atS: number; cents: number }[],
  };
  let n = 0;
  let sinceS = 0;
  let key = '';
  while (!job.over(log(), player.state)) {
    const nowS = n / DAY_RATE;
    const step = player.step;
    const stepKey = `${step?.named.id}/${step?.step.purpose}`;
    if (stepKey !== key) [key, sinceS] = [stepKey, nowS];
    if (nowS - sinceS > GIVE_UP_S) return { seconds: nowS, done: false };
    if (!step && job.act?.(player)) continue;
    const target = job.sounds(log(), player.state);
    const ids = [...world.strings.keys()];
    const view = player.view(nowS, true);
    if (target) move(view, target, nowS, ids);
    for (const h of listener.push(sound.block(BLOCK), false)) player.hear(h, 'simulated');
    n += BLOCK;
    world.nowMs += (1000 * BLOCK) / DAY_RATE;
  }
  return { seconds: n / DAY_RATE, done: true };

  function move(
    view: GuideView,
    target: NonNullable<ReturnType<HandJob<State, Action>['sounds']>>,
    nowS: number,
    ids: readonly string[],
  ): void {
    if (view.sentence !== hand.said) [hand.said, hand.saidS] = [view.sentence, nowS];
    const { stringId, as } = target;
    // The turn under way.
    const due = hand.steps.filter((s) => s.atS <= nowS);
    hand.steps = hand.steps.filter((s) => s.atS > nowS);
    for (const s of due) world.strings.set(stringId, turnString(world.strings.get(stringId)!, world.nowMs, s.cents));
    if (hand.steps.length > 0) return;
    const ready = nowS - hand.saidS > how.waitS && nowS - hand.turnedS > how.waitS + 0.3;
    if (!ready) return;
    // Nobody says yes to a string that was not plucked.
    if (/\(Enter\)/.test(hand.said) && hand.plucked === stringId && nowS - hand.pluckedS > 1) {
      player.take('simulated');
      return;
    }
    const wants = /luck|Hold still/.test(hand.said);
    if (
      nowS - hand.pluckedS > (wants ? 1.5 : REPLUCK_S) ||
      (hand.turnedS > hand.pluckedS && nowS - hand.turnedS > 0.9)
    ) {
      const other = random.uniform() < how.early ? ids[(ids.indexOf(stringId) + 1) % ids.length]! : stringId;
      sound.pluck(() => as(world.strings.get(other)!), random.between(0.25, 0.6));
      [hand.plucked, hand.pluckedS] = [other, nowS];
      return;
    }
    // After a turn it is heard again, or something new is said, before the next.
    if (nowS - hand.pluckedS < 0.6 || hand.turnedS > Math.max(hand.saidS, hand.pluckedS)) return;
    const up = /^Bring it up (\d+)/.exec(hand.said);
    const down = /below, then up/.test(hand.said);
    if (!up && !down) return;
    const cents = up ? Number(up[1]) * random.between(how.amount[0], how.amount[1]) : -random.between(10, 18);
    turn(cents, nowS);
  }

  /** A turn in small steps, as a hand makes it. */
  function turn(cents: number, nowS: number): void {
    const count = Math.max(4, Math.ceil(Math.abs(cents) / 2));
    const seconds = clamp(Math.abs(cents) / 60, 0.3, 1.2);
    hand.steps = Array.from({ length: count }, (_, k) => ({
      atS: nowS + (seconds * (k + 1)) / count,
      cents: cents / count,
    }));
    hand.turnedS = nowS + seconds;
  }
}
