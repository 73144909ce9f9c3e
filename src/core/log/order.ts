/** When and by whom a record was written, beside the time that it tells of. */
export interface Written {
  /** The device and browser that wrote it. */
  by: string;
  /** One more than any record that it knew: what it came after. */
  seq: number;
  /** What the device's clock said, ms since 1970. */
  atMs: number;
}

/** When one writer wrote records, in their order; a long log has hundreds of thousands. */
export interface WriterRun {
  seq: Float64Array;
  atMs: Float64Array;
}

const EMPTY: WriterRun = { seq: new Float64Array(), atMs: new Float64Array() };
const inOrder = (a: WriterRun, i: number, b: WriterRun, j: number): number =>
  a.seq[i]! - b.seq[j]! || a.atMs[i]! - b.atMs[j]!;

/** @param written by one writer, in any order */
export function runOf(written: readonly Written[]): WriterRun {
  const sorted = [...written].sort((a, b) => a.seq - b.seq || a.atMs - b.atMs);
  return { seq: Float64Array.from(sorted, (w) => w.seq), atMs: Float64Array.from(sorted, (w) => w.atMs) };
}

function merged(a: WriterRun, b: WriterRun): WriterRun {
  const [n, m] = [a.seq.length, b.seq.length];
  if (n === 0) return b;
  const run = { seq: new Float64Array(n + m), atMs: new Float64Array(n + m) };
  for (let k = 0, i = 0, j = 0; k < n + m; k++) {
    const first = j === m || (i < n && inOrder(a, i, b, j) <= 0);
    const from = first ? a : b;
    const at = first ? i++ : j++;
    run.seq[k] = from.seq[at]!;
    run.atMs[k] = from.atMs[at]!;
  }
  return run;
}

const mergedAll = (runs: readonly WriterRun[]): WriterRun =>
  runs.length < 2
    ? (runs[0] ?? EMPTY)
    : merged(mergedAll(runs.slice(0, runs.length >> 1)), mergedAll(runs.slice(runs.length >> 1)));

/** Two tabs write this much apart at most: less is no clock set back, ms (house estimate). */
const APART_MS = 2000;
/** A gap of this share of the step back, that ends past where the clock had been, is the clock set right again (house estimate). */
const RESTORED_SHARE = 0.8;

/** A clock that was set back. */
export interface SetBack {
  atMs: number;
  byMs: number;
}

/**
 * One writer's clock, as its records show it. A clock that was set back is believed from then on, and what came before is moved
 * back with it; was it set right again later, the records between are moved forward instead.
 */
export interface WriterClock {
  /** Takes in when its records were written; true where times of earlier ones are now read otherwise. */
  note(runs: readonly WriterRun[]): boolean;
  /** What to add to the times of a record so that they run forward, ms. */
  offsetMs(written: Written): number;
  newest(): Written | undefined;
  /** When the clock was last set back, by its new time, and how far in all; undefined while it is not, or right again. */
  setBack(): SetBack | undefined;
}

/** How far one writer's clock went wrong, by the order in which it wrote. */
export function createWriterClock(by: string): WriterClock {
  let notes: WriterRun = EMPTY;
  let offsets: number[] = [];
  /** Steps back that still hold: before which record, and how far. */
  let back: { at: number; byMs: number }[] = [];
  /** No time was ever read otherwise than it was written. */
  let even = true;
  /** The place of a note. */
  const placeOf = ({ seq, atMs }: Written): number | undefined => {
    const sought = { seq: Float64Array.of(seq), atMs: Float64Array.of(atMs) };
    let [low, high] = [0, notes.seq.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (inOrder(notes, middle, sought, 0) < 0) low = middle + 1;
      else high = middle;
    }
    return low < notes.seq.length && inOrder(notes, low, sought, 0) === 0 ? low : undefined;
  };

  const move = (from: number, to: number, byMs: number) => {
    for (let i = from; i < to; i++) offsets[i]! += byMs;
  };
  /** The record at place k is the newest so far; true where the offset of an earlier one changed. */
  const step = (k: number): boolean => {
    const atMs = notes.atMs[k]!;
    const before = k > 0 ? notes.atMs[k - 1]! : -Infinity;
    offsets[k] = 0;
    if (atMs < before - APART_MS) {
      back.push({ at: k, byMs: before - atMs });
      even = false;
      move(0, k, atMs - before);
      return true;
    }
    let changed = false;
    for (let last = back.at(-1); last; last = back.at(-1)) {
      const gap = atMs - before;
      if (gap < RESTORED_SHARE * last.byMs || atMs < notes.atMs[last.at - 1]!) break;
      move(0, last.at, last.byMs);
      move(last.at, k, Math.min(last.byMs, gap));
      back.pop();
      changed = true;
    }
    return changed;
  };
  return {
    note(runs) {
      const news = mergedAll(runs);
      const from = notes.seq.length;
      const late = from > 0 && inOrder(news, 0, notes, from - 1) < 0;
      notes = merged(notes, news);
      if (late) {
        // Brought in late, from a file: the whole order is gone through again.
        offsets = [];
        back = [];
      }
      let changed = late && !even;
      for (let k = late ? 0 : from; k < notes.seq.length; k++) if (step(k)) changed = true;
      return changed;
    },
    offsetMs: (written) => (even ? 0 : (offsets[placeOf(written) ?? -1] ?? 0)),
    newest() {
      const k = notes.seq.length - 1;
      return k < 0 ? undefined : { by, seq: notes.seq[k]!, atMs: notes.atMs[k]! };
    },
    setBack() {
      const last = back[back.length - 1];
      return last && { atMs: notes.atMs[last.at]!, byMs: back.reduce((sum, b) => sum + b.byMs, 0) };
    },
  };
}
