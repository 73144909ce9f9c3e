import {
  createSession,
  type Session,
  type SessionEvent,
  type SessionKind,
  TOLERANCE_CENTS,
} from '../../src/core/check';
import type { NamedPlace } from '../../src/core/guided';
import type { Random } from '../../src/core/simulate';
import { Strings } from './hand';
import { ROOM_RATE, type Kit } from './kits';

/** The page's clock. */
const TICK_S = 0.05;
/** As the audio thread hands it on. */
const BLOCK = 1024;

export interface RoomTrial {
  kit: Kit;
  strings: Strings;
  session: Session;
  events: SessionEvent[];
}

/** Where the strings were last read: all of them, or none, beside what is given for one. */
export function placesOf(kit: Kit, lastCents?: (i: number) => number | undefined): NamedPlace[] {
  return kit.notes.map((n, i) => {
    const last = lastCents?.(i);
    return {
      id: String(i),
      name: n.name,
      targetHz: n.targetHz,
      ...(last === undefined ? {} : { lastHz: n.targetHz * 2 ** (last / 1200) }),
    };
  });
}

export function beginTrial(
  kit: Kit,
  kind: SessionKind,
  only: number | undefined,
  noiseDb: number,
  room: Float64Array,
  random: Random,
  places = placesOf(kit),
): RoomTrial {
  const offset = Math.floor(random.uniform() * room.length);
  return {
    kit,
    strings: new Strings(kit.notes, ROOM_RATE, room, noiseDb, kit.damps, offset),
    session: createSession({ sampleRate: ROOM_RATE, strings: places, kind, only, toleranceCents: TOLERANCE_CENTS }),
    events: [],
  };
}

/** Lets time pass; `every` is called at the page's clock. Ends early when it says so. */
export function run(trial: RoomTrial, seconds: number, every?: (nowS: number) => boolean | undefined): void {
  const end = trial.strings.nowS + seconds;
  let tickAt = Math.ceil(trial.strings.nowS / TICK_S) * TICK_S;
  while (trial.strings.nowS < end) {
    const events = trial.session.push(trial.strings.block(BLOCK));
    trial.events.push(...events);
    if (trial.strings.nowS < tickAt) continue;
    tickAt += TICK_S;
    trial.events.push(...trial.session.tick().events);
    if (every?.(trial.strings.nowS)) return;
  }
}

export const verdicts = (trial: RoomTrial) => trial.events.flatMap((e) => (e.kind === 'verdict' ? [e] : []));
export const kept = (trial: RoomTrial) =>
  verdicts(trial).flatMap((e) => (e.verdict.kind === 'keep' ? [{ ...e, keep: e.verdict }] : []));
