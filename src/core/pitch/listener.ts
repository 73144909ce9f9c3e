import { cents } from '../music';
import { arrival, hasSettled, type Arrival } from './hand';
import { checkClock, checkInput, type ClockCheck, type InputCheck } from './input-check';
import { createTracker, TRACK_RATE, type Tracker, type TrackPoint } from './live';
import { measure } from './measure';
import { whichOtherString, type StringPlace } from './other-string';
import { refuse } from './refusals';
import type { Outcome } from './types';

/** What the listener is to do with the sound. */
export interface Task {
  named: StringPlace;
  others: StringPlace[];
  /** 'found': one reading a pluck. 'left': follow the hand, and read when the string has settled within tolerance. */
  purpose: 'found' | 'left';
  toleranceCents: number;
  /** The user insists that the sound is the named string. */
  insist?: boolean;
}

export type Heard =
  | { kind: 'track'; points: TrackPoint[] }
  | { kind: 'input-check'; check: InputCheck }
  | { kind: 'clock-check'; check: ClockCheck }
  | { kind: 'outcome'; stringId: string; purpose: 'found' | 'left'; outcome: Outcome; arrival: Arrival };

/** Turns blocks of samples into a live trace and readings; the same for microphone, file and simulated string. */
export interface Listener {
  setTask(task: Task): void;
  /** @param lostBefore samples were lost between the last block and this one */
  push(block: ArrayLike<number>, lostBefore: boolean): Heard[];
  /** Reads what sounds at this moment, at the user's word. */
  readNow(): Heard[];
  /** Listens to the room for two seconds from now; with a reference in Hz, to its tone for the sample clock. */
  check(referenceHz?: number): void;
}

const KEEP_S = 4;
const READ_AFTER_S = 1.15;
const SETTLED_S = 1.5;
const CHECK_S = 2;
/** A note this close to where the named string was last is taken as its own at once, cents. */
const HOME_CENTS = 100;
/** Tracks older than this are forgotten. */
const TRACE_S = 30;

/** Makes a listener for a stream at one sample rate. Holds the last 4 s of sound and nothing else. */
export function createListener(sampleRate: number): Listener {
  const ring = new Float64Array(Math.ceil(KEEP_S * sampleRate));
  const hop = Math.round(sampleRate / TRACK_RATE);
  let total = 0;
  let untilHop = hop;
  let task: Task | undefined;
  let tracker: Tracker | undefined;
  let points: TrackPoint[] = [];
  let levels: number[] = [];
  let pluckAt: number | undefined;
  let soundingSince: number | undefined;
  let lostAt = -Infinity;
  let doneUntil = 0;
  let checking: { from: number; referenceHz: number | undefined } | undefined;
  /** The note that sounds was read already: only a new pluck, or a note after silence, is another. */
  let spent = false;
  /** The note that sounds began while another string was named: it is not shown as this one's pitch. */
  let carried = false;
  /** Level when that note was read or the string changed, dB. */
  let oldLevel = 0;

  const latest = (from: number): Float64Array => {
    const start = Math.max(0, total - ring.length, from);
    const out = new Float64Array(total - start);
    for (let i = 0; i < out.length; i++) out[i] = ring[(start + i) % ring.length]!;
    return out;
  };

  const isAtHome = (hz: number): boolean => {
    const { targetHz, lastHz } = task!.named;
    return Math.abs(cents(hz, lastHz ?? targetHz)) < HOME_CENTS;
  };

  const judgeSound = (from: number, sustained: boolean): Outcome => {
    if (lostAt >= from) return refuse('gap');
    const sound = latest(from);
    const { named, others, insist } = task!;
    const outcome = measure(sound, sampleRate, { targetHz: named.targetHz, ...(sustained ? { sustained } : {}) });
    if (insist) return outcome;
    const place = (hz: number) => whichOtherString(hz, named, others);
    if (outcome.ok) {
      const other = place(outcome.frequencyHz);
      return other ? refuse('other-string', `You are hearing ${other.name}. Pluck ${named.name}, or insist.`) : outcome;
    }
    if (outcome.reason !== 'no-pitch') return outcome;
    // Out of the named string's range it may still be one of the others.
    for (const o of others) {
      const r = measure(sound, sampleRate, { targetHz: o.targetHz });
      if (r.ok && Math.abs(r.cents) < 60)
        return refuse('other-string', `You are hearing ${o.name}. Pluck ${named.name}.`);
    }
    return outcome;
  };

  const said = (from: number, sustained: boolean, arrived: Arrival): Heard => ({
    kind: 'outcome',
    stringId: task!.named.id,
    purpose: task!.purpose,
    outcome: judgeSound(from, sustained),
    arrival: arrived,
  });

  const hopDone = (heard: Heard[]): void => {
    if (checking && total - checking.from >= CHECK_S * sampleRate) {
      const { from, referenceHz } = checking;
      checking = undefined;
      heard.push(
        referenceHz === undefined
          ? { kind: 'input-check', check: checkInput(latest(from), sampleRate) }
          : { kind: 'clock-check', check: checkClock(latest(from), sampleRate, referenceHz) },
      );
    }
    if (!task || !tracker) return;
    const needed = Math.ceil(tracker.windowS * sampleRate);
    if (total < needed) return;
    const recent = latest(total - needed);
    const heardPoint = tracker.point(recent, total / sampleRate);

    // Plucks: the level of this hop alone against a moment before.
    let power = 0;
    for (let i = recent.length - hop; i < recent.length; i++) power += recent[i]! ** 2;
    levels.push(10 * Math.log10(power / hop + 1e-12));
    levels = levels.slice(-6);
    const now = levels[levels.length - 1]!;
    const before = Math.min(...levels.slice(0, -1));
    const isPluck = levels.length > 3 && now > before + 8 && now > -66;
    if (isPluck || (heardPoint.cents === null && now < oldLevel - 12)) spent = carried = false;
    if (heardPoint.frequencyHz !== null && isAtHome(heardPoint.frequencyHz)) carried = false;
    const point = carried ? { ...heardPoint, cents: null, frequencyHz: null, confidence: 0 } : heardPoint;
    points.push(point);
    if (points.length > TRACE_S * TRACK_RATE) points = points.slice(-TRACE_S * TRACK_RATE);
    heard.push({ kind: 'track', points: [point] });
    if (isPluck || point.cents === null) soundingSince = undefined;
    else soundingSince ??= total;

    if (task.purpose === 'left') {
      if (isPluck) pluckAt = total;
      if (total - doneUntil > SETTLED_S * sampleRate && hasSettled(points, task.toleranceCents, SETTLED_S)) {
        const from = Math.max(total - Math.round(1.2 * sampleRate), (pluckAt ?? 0) + Math.round(0.15 * sampleRate));
        if (total - from < 0.5 * sampleRate) return;
        doneUntil = total;
        heard.push(said(from, true, arrival(points, task.toleranceCents)));
      }
      return;
    }
    const readNow = (from: number): void => {
      pluckAt = undefined;
      doneUntil = total;
      spent = true;
      oldLevel = now;
      heard.push(said(from, false, 'untouched'));
    };
    if (pluckAt !== undefined) {
      const age = (total - pluckAt) / sampleRate;
      const lead = pluckAt - Math.round(0.12 * sampleRate);
      const gone = age > 0.25 && (now < -72 || now < Math.max(...levels) - 40);
      if (age >= READ_AFTER_S || gone) readNow(lead);
      else if (isPluck && age > 0.3) pluckAt = total;
    } else if (isPluck && total - doneUntil > 0.1 * sampleRate) {
      pluckAt = total;
    } else if (!spent && soundingSince !== undefined && total - Math.max(soundingSince, doneUntil) > 1.4 * sampleRate) {
      // A bowed note, or one that was ringing when listening began: no pluck to start from.
      readNow(total - Math.round(1.3 * sampleRate));
    }
  };

  return {
    setTask(next) {
      const sameString = task?.named.id === next.named.id && task.named.targetHz === next.named.targetHz;
      if (!sameString) {
        tracker = createTracker(sampleRate, next.named.targetHz);
        spent = carried = carried || (points[points.length - 1]?.cents ?? null) !== null;
        oldLevel = levels[levels.length - 1] ?? 0;
        points = [];
        soundingSince = undefined;
        pluckAt = undefined;
      } else if (task?.purpose !== next.purpose) {
        points = points.slice(-2 * TRACK_RATE);
        if (next.purpose === 'found') {
          // What rings was plucked before this reading was asked for.
          spent = true;
          oldLevel = levels[levels.length - 1] ?? 0;
          pluckAt = undefined;
        }
      }
      if (!sameString || task?.purpose !== next.purpose) doneUntil = total;
      task = next;
    },
    readNow() {
      if (!task) return [];
      const from = Math.max(total - Math.round(1.2 * sampleRate), (pluckAt ?? 0) + Math.round(0.1 * sampleRate));
      doneUntil = total;
      pluckAt = undefined;
      return [said(Math.max(0, from), true, arrival(points, task.toleranceCents))];
    },
    check(referenceHz) {
      checking = { from: total, referenceHz };
    },
    push(block, lostBefore) {
      const heard: Heard[] = [];
      if (lostBefore) lostAt = total;
      for (let i = 0; i < block.length; i++) {
        ring[total % ring.length] = block[i]!;
        total++;
        if (--untilHop === 0) {
          untilHop = hop;
          hopDone(heard);
        }
      }
      return heard;
    },
  };
}
