import type { Reading, SectionHeard } from '../pitch';
import { clamp } from '../base';
import type { Figure } from './approach';

/** What is known of a hand on the tuner: when the string last moved, and what it does by itself. */
export interface Motion {
  /** When it last moved, s; the stillness before a note counts when it stands where it stood. */
  movedS: number;
  whole: Stood | undefined;
  running: Stood | undefined;
  /** How much lower this string sounds late in a note than at its reading, cents; unknown at first. */
  ownFall: number | undefined;
  /** Figures of the last moments, to see a hand at once. */
  figures: readonly Figure[];
}
interface Stood {
  note: number;
  cents: number;
  sigma: number;
  sharp: number;
  drift: number;
}

export const UNMOVED: Motion = {
  movedS: -Infinity,
  whole: undefined,
  running: undefined,
  ownFall: undefined,
  figures: [],
};

/** The hand is off when nothing has moved for so long, s (house estimate: pauses between two turns are shorter). */
const HAND_OFF_S = 1;
/** A note that has died away sooner is all there is: so much of it must stand still, s (house estimate). */
const SHORT_NOTE_S = 0.55;
/** A note falls by itself by no more than this while it dies; before that is known, the doubt of a late reading, cents (house estimates). */
const MOST_OWN_FALL = 8;
const LATE_SIGMA = 0.45;
/** Between two sections, or within one, more than this is a hand, cents, beside the doubt. */
export const MOVED_CENTS = 1.3;
/** No pluck starts this much sharp without doubt of the hand: it may have been let down while it sounded, cents (house estimate). */
const FALLING_CENTS = 4;
/** The trace shows a hand when the figure goes further than this within so long, cents and s, beside its scatter. */
const TURNED_CENTS = 1.6;
const FALLS_BY_ITSELF = 6;
const LOOK_BACK_S = 0.4;

const within = (x: number, most: number) => clamp(x, -most, most);

/** Did the string move within this section, or since the last one that can be compared with it? */
export function afterSection(m: Motion, s: SectionHeard, reading: Reading): { motion: Motion; drifts: boolean } {
  const { cents, sigmaCents: sigma, driftCents: drift, glideCents: sharp } = reading;
  const doubt = MOVED_CENTS + 0.6 * Math.min(3, sigma);
  // What falls so at every pluck is not being let down.
  const usual = m.whole && m.whole.note !== s.note ? m.whole : undefined;
  const falls = s.part === 'whole' ? clamp(usual?.drift ?? 0, -MOST_OWN_FALL / 2, 0) : 0;
  const drifts = drift > doubt || drift < falls - doubt || sharp > (usual?.sharp ?? 0) + FALLING_CENTS;
  const alike = s.part === 'whole' ? m.whole : s.note === m.running?.note ? m.running : undefined;
  const jumps = alike !== undefined && Math.abs(cents - alike.cents) > doubt + 0.5 * Math.min(3, alike.sigma);
  const here: Stood = { note: s.note, cents, sigma, sharp, drift };
  let motion = m;
  if (s.part === 'whole') {
    // Plucked again it stands where it stood: what it fell meanwhile is the note's own way to die, and no hand's.
    const stands = usual && !jumps && !drifts;
    const ownFall =
      stands && m.running?.note === usual.note ? within(m.running.cents - usual.cents, MOST_OWN_FALL) : m.ownFall;
    // And the hand was off all the time between.
    const movedS = stands ? Math.min(m.movedS, s.fromS - HAND_OFF_S) : m.movedS;
    motion = { ...m, whole: here, ownFall, movedS };
  } else if (s.part === 'running') motion = { ...m, running: here };
  if (drifts) motion = { ...motion, movedS: s.toS };
  else if (jumps && s.part === 'running') motion = { ...motion, movedS: Math.max(motion.movedS, s.fromS) };
  return { motion, drifts };
}

/** One figure more of the trace. @returns also whether a hand moved it */
export function afterFigure(m: Motion, figure: Figure): { motion: Motion; moved: boolean } {
  const figures = [...m.figures.filter((f) => figure.tS - f.tS < LOOK_BACK_S), figure];
  const first = figures[0]!;
  const went = figure.cents - first.cents;
  // Every note falls a little by itself; up goes only the hand.
  const most = (went > 0 ? TURNED_CENTS : FALLS_BY_ITSELF) + 2 * (figure.spread + first.spread);
  const moved = figure.tS - first.tS > 0.5 * LOOK_BACK_S && Math.abs(went) > most;
  return { motion: { ...m, figures, movedS: moved ? figure.tS : m.movedS }, moved };
}

/** Has the hand been off for long enough when the section ends? */
export const isHandOff = (m: Motion, s: SectionHeard): boolean =>
  s.toS - m.movedS >= (s.over ? SHORT_NOTE_S : HAND_OFF_S);

/** Where the string stands by a reading, what it falls late in a note put back; cents. */
export function standsBy(
  m: Motion,
  s: SectionHeard,
  reading: Reading,
): { cents: number; sigmaCents: number; fall: number } {
  const late = s.part === 'running';
  const fall = late ? (m.ownFall ?? 0) : 0;
  // Late in a note, before its own fall is known, a string may sound lower than it stands.
  const doubt = late ? (m.ownFall === undefined ? LATE_SIGMA : 0.3 * fall) : 0;
  return { cents: reading.cents - fall, sigmaCents: Math.hypot(reading.sigmaCents, doubt), fall };
}
