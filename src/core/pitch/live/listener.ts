import { cents } from '../../music';
import { hypothesisPitch } from './hypotheses';
import { checkClock, checkInput, type ClockCheck, type InputCheck } from '../recording/input-check';
import { createTracker, TRACK_RATE, type Tracker, type TrackPoint } from './live';
import { measure, READ_UNTIL_S } from '../reading/measure';
import { fading, type OldTone } from '../second-string/old-tones';
import { refuse } from '../reading/refusals';
import { sharpAfter, type Sharp } from '../partials/sharp-start';
import type { MeasureOutcome, StringPlace } from '../reading/types';

/** What the listener is to listen for. */
export interface ListenTask {
  named: StringPlace;
  /** The other strings of the instrument: what is heard may be one of them. */
  others: StringPlace[];
  /** Where the named string may stand, cents about its target. */
  reach: { lowCents: number; highCents: number };
  /** The user insists that the sound is the named string. */
  insist?: boolean;
}

/** A stretch of sound that was read. Times are seconds since listening began. */
export interface SectionHeard {
  kind: 'section';
  stringId: string;
  /** Counts the notes that began; what goes on from the same pluck has the same number. */
  note: number;
  /** Where the note began; null where that was not heard. */
  onsetS: number | null;
  fromS: number;
  toS: number;
  /** The whole of what is read of a pluck, or as much as tells it; a provisional figure comes before, running ones after. */
  part: 'provisional' | 'whole' | 'running' | 'asked';
  /** The note has died away: nothing more is to come of it. */
  over: boolean;
  /** `cents` are from the named string's target, whichever string it is. */
  outcome: MeasureOutcome;
}

export type Heard =
  | { kind: 'track'; points: TrackPoint[] }
  | { kind: 'onset'; note: number; atS: number }
  | { kind: 'input-check'; check: InputCheck }
  | { kind: 'clock-check'; check: ClockCheck }
  | SectionHeard;

/** Turns blocks of samples into a live trace and read sections; the same for microphone, file and simulated string. */
export interface Listener {
  setTask(task: ListenTask): void;
  /** @param lostBefore samples were lost between the last block and this one */
  push(block: ArrayLike<number>, lostBefore: boolean): Heard[];
  /** Reads what sounds at this moment, at the user's word. */
  readNow(): Heard[];
  /** Listens to the room for two seconds from now; with a reference in Hz, to its tone for the sample clock. */
  check(referenceHz?: number): void;
  /** Hears nothing for so long from now: the app's own sound is in the air. */
  deafen(seconds: number): void;
}

const KEEP_S = 4;
const CHECK_S = 2;
/** Sound before the onset that tells what was there already, s. */
const LEAD_S = 0.25;
/** A pluck is read at these ages; from the second on, when the figure no longer moves by more than so much, cents. */
const LOOKS_S = [0.45, 0.8, READ_UNTIL_S + 0.02];
const STILL_CENTS = 0.15;
/** A pluck that went further than this beside its sharp start was turned, cents (house estimate). */
const TURNED_CENTS = 1.5;
/** Running sections: how long, how often, and the least that is worth reading, s. */
const RUNNING_S = 0.8;
const RUNNING_EVERY_S = 0.25;
const LEAST_RUNNING_S = 0.6;
/** The start of a note that running sections leave out, s. */
const ATTACK_S = 0.15;
/** A rise of the level by this much within 0.15 s is a pluck, dB; below the second number nothing is. */
const PLUCK_DB = 8;
const FAINT_DB = -66;
/** So much of the tones' power new in two points together is a pluck too, in a room too loud for the level to tell. */
const NEW_SHARE = 0.6;
/** Two plucks are further apart than this, s. */
const LEAST_APART_S = 0.3;
/** What stands no further apart is one string, or one that starts as sharp, cents (house estimate). */
const SAME_STRING_CENTS = 150;
/** A string unheard for so long has gone, s. */
const GONE_S = 0.2;

interface Note {
  id: number;
  /** First sample; null where the note was ringing when listening began. */
  onset: number | null;
  since: number;
  /** Loudest level since it began, mean square. */
  power: number;
  /** Its sharp start as it was read, and from when it counts, s since listening began. */
  sharp?: Sharp & { fromS: number };
  /** How many of its looks were taken. */
  looks: number;
  lastCents: number;
}

/** Makes a listener for a stream at one sample rate. Holds the last 4 s of sound and nothing else. */
export function createListener(sampleRate: number): Listener {
  const ring = new Float64Array(Math.ceil(KEEP_S * sampleRate));
  const hop = Math.round(sampleRate / TRACK_RATE);
  const samples = (seconds: number) => Math.round(seconds * sampleRate);
  let total = 0;
  let untilHop = hop;
  let task: ListenTask | undefined;
  let tracker: Tracker | undefined;
  let levels: number[] = [];
  let newBefore = false;
  let lostAt = -Infinity;
  let deafUntil = -1;
  let checking: { from: number; referenceHz: number | undefined } | undefined;
  let notes = 0;
  let note: Note | undefined;
  /** What rang when the string was named, or the app's own tone: it is not the named string. */
  let old: OldTone[] = [];
  let tones: OldTone[] = [];
  let heardAt = -Infinity;
  let heardHops = 0;
  let lastRead = 0;
  /** What each string's sharp start was, by the power of its notes: sums of a fit through the origin, and where it sounded, Hz. */
  const learned: { hz: number; sharpPower: number; powers: number; tauS: number }[] = [];
  /** Of this string, by whatever name and to whatever pitch it is asked for. */
  const learnedOf = (hz: number) => learned.find((l) => Math.abs(cents(l.hz, hz)) < SAME_STRING_CENTS);

  const latest = (from: number): Float64Array => {
    const start = Math.max(0, total - ring.length, from);
    const out = new Float64Array(total - start);
    for (let i = 0; i < out.length; i++) out[i] = ring[(start + i) % ring.length]!;
    return out;
  };

  /** What is left of the sharp start at a moment: as this note was read, or as this string's notes so loud usually are. */
  const sharpAt = (from: number): Sharp | undefined => {
    if (!note) return undefined;
    const known = learnedOf(task!.named.targetHz);
    const usual = known && { cents: (known.sharpPower / known.powers) * note.power, tauS: known.tauS };
    if (note.sharp) return sharpAfter(note.sharp, from / sampleRate - note.sharp.fromS);
    return usual && sharpAfter(usual, Math.max(0, (from - note.since) / sampleRate - ATTACK_S));
  };
  /** @param before where the look before this one saw the string at rest, cents */
  const learn = (n: Note & { onset: number }, outcome: MeasureOutcome, before: number): void => {
    if (!outcome.ok || n.looks < LOOKS_S.length) return;
    const { glideCents: cents, sharpTauS: tauS, fromS, driftCents, sigmaCents } = outcome;
    // While a hand turns, what looks like a sharp start is the hand's: then no two looks see the string rest at one place.
    if (Math.abs(driftCents) > TURNED_CENTS || !(Math.abs(outcome.cents - before) < TURNED_CENTS + sigmaCents)) return;
    const begins = Math.max(0, n.onset - samples(LEAD_S), total - ring.length);
    n.sharp = { cents, tauS, fromS: begins / sampleRate + fromS };
    let known = learnedOf(outcome.frequencyHz);
    if (!known) learned.push((known = { hz: 0, sharpPower: 0, powers: 0, tauS }));
    known.hz = outcome.frequencyHz;
    known.sharpPower += cents * n.power;
    known.powers += n.power ** 2;
    known.tauS = 0.5 * (known.tauS + tauS);
  };

  /** Reads [from, now); with an onset, the note that begins there. */
  const read = (from: number, onset: number | null): MeasureOutcome => {
    const { named, others, reach, insist } = task!;
    if (lostAt >= from) return refuse('gap');
    const first = onset === null ? from : Math.max(0, onset - samples(LEAD_S));
    const sound = latest(first);
    const begins = Math.max(first, total - ring.length);
    const body = sound.subarray(onset === null ? 0 : Math.min(sound.length >> 1, onset + samples(0.05) - begins));
    const hz = hypothesisPitch(body, sampleRate, named, insist ? [] : others, reach, old);
    const near = hz === undefined || Math.abs(cents(hz, named.targetHz)) < 110;
    const targetHz = near ? named.targetHz : hz;
    const sharp = onset === null ? sharpAt(from) : undefined;
    const outcome = measure(sound, sampleRate, {
      targetHz,
      old,
      ...(hz === undefined
        ? { lowCents: reach.lowCents, highCents: reach.highCents }
        : { lowCents: cents(hz, targetHz) - 60, highCents: cents(hz, targetHz) + 60 }),
      ...(onset === null
        ? { sustained: true, ...(sharp ? { sharp } : {}) }
        : { onsetS: (onset - begins) / sampleRate }),
    });
    return outcome.ok ? { ...outcome, cents: cents(outcome.frequencyHz, named.targetHz) } : outcome;
  };

  const section = (part: SectionHeard['part'], from: number, onset: number | null): SectionHeard => ({
    kind: 'section',
    stringId: task!.named.id,
    note: note?.id ?? notes,
    onsetS: typeof note?.onset === 'number' ? note.onset / sampleRate : null,
    fromS: from / sampleRate,
    toS: total / sampleRate,
    part,
    over: false,
    outcome: read(from, onset),
  });

  /** The pluck in the air, read when its time has come. */
  const readPluck = (n: Note & { onset: number }, gone: boolean): SectionHeard | undefined => {
    const age = (total - n.onset) / sampleRate;
    const dueS = LOOKS_S[n.looks];
    if (dueS === undefined || (age < dueS && !(gone && age > 0.25))) return undefined;
    const heard = section('provisional', n.onset, n.onset);
    const { outcome } = heard;
    const last = gone || n.looks === LOOKS_S.length - 1;
    const still = n.looks > 0 && outcome.ok && Math.abs(outcome.cents - n.lastCents) < STILL_CENTS;
    n.looks = last ? LOOKS_S.length : n.looks + 1;
    learn(n, outcome, n.lastCents);
    n.lastCents = outcome.ok ? outcome.cents : NaN;
    lastRead = total;
    if (last || still) return { ...heard, part: 'whole', over: gone };
    // A provisional figure that cannot be read yet says nothing.
    return outcome.ok ? heard : undefined;
  };

  const hopDone = (heard: Heard[]): void => {
    if (checking && total - checking.from >= samples(CHECK_S)) {
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
    // The trace follows wherever the hand may take the string: the guard listens to it.
    const seen = tracker.glimpse(recent, total / sampleRate, old);
    tones = seen.tones;
    old = fading(old, tones);
    let power = 0;
    for (let i = recent.length - hop; i < recent.length; i++) power += recent[i]! ** 2;
    levels = [...levels, 10 * Math.log10(power / hop + 1e-12)].slice(-6);
    if (total < deafUntil) {
      // What the app sounds itself is no string, now or as it rings on.
      old = tones;
      note = undefined;
      heard.push({ kind: 'track', points: [{ ...seen.point, cents: null, frequencyHz: null, confidence: 0 }] });
      return;
    }
    heard.push({ kind: 'track', points: [seen.point] });
    if (seen.point.cents !== null) {
      heardAt = total;
      heardHops++;
    } else heardHops = 0;

    const now = levels[levels.length - 1]!;
    const jump = levels.length > 3 && now > Math.min(...levels.slice(0, -1)) + PLUCK_DB && now > FAINT_DB;
    const isNew = seen.newShare > NEW_SHARE && seen.point.cents !== null;
    const apart = typeof note?.onset !== 'number' ? Infinity : (total - note.onset) / sampleRate;
    if ((jump || (isNew && newBefore)) && apart > LEAST_APART_S) {
      const onset = jump ? total - (hop >> 1) : total - hop - samples(0.4 * tracker.windowS);
      note = { id: ++notes, onset, since: onset, power: 0, looks: 0, lastCents: NaN };
      newBefore = false;
      heard.push({ kind: 'onset', note: note.id, atS: onset / sampleRate });
      return;
    }
    newBefore = isNew;

    if (note) note.power = Math.max(note.power, power / hop);
    const gone = total - heardAt > samples(GONE_S);
    if (note && gone && (note.onset === null || note.looks === LOOKS_S.length)) note = undefined;
    if (!note && heardHops >= 8)
      note = { id: ++notes, onset: null, since: total, power: 0, looks: LOOKS_S.length, lastCents: NaN };
    if (!note) return;
    if (note.onset !== null && note.looks < LOOKS_S.length) {
      const faded = now < FAINT_DB - 6 || (gone && (total - note.onset) / sampleRate > LOOKS_S[0]!);
      const pluck = readPluck(note as Note & { onset: number }, faded);
      if (pluck) heard.push(pluck);
      return;
    }
    const from = Math.max(total - samples(RUNNING_S), note.since + samples(ATTACK_S));
    const due = total - lastRead >= samples(RUNNING_EVERY_S) && total - from >= samples(LEAST_RUNNING_S);
    if (!due || total !== heardAt) return;
    lastRead = total;
    heard.push(section('running', from, null));
  };

  return {
    setTask(next) {
      const sameString = task?.named.id === next.named.id && task.named.targetHz === next.named.targetHz;
      if (!sameString) {
        tracker = createTracker(sampleRate, next.named.targetHz);
        if (task) old = tones;
        note = undefined;
        heardHops = 0;
      }
      task = next;
    },
    readNow() {
      if (!task) return [];
      const age = typeof note?.onset !== 'number' ? Infinity : (total - note.onset) / sampleRate;
      lastRead = total;
      if (typeof note?.onset === 'number' && age <= LOOKS_S[2]!) return [section('asked', note.onset, note.onset)];
      return [section('asked', Math.max(0, total - sampleRate, (note?.since ?? 0) + samples(ATTACK_S)), null)];
    },
    check(referenceHz) {
      checking = { from: total, referenceHz };
    },
    deafen(seconds) {
      deafUntil = total + samples(seconds);
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
