/** When and by whom a record was written, beside the time that it tells of. */
export interface Written {
  /** The device and browser that wrote it. */
  by: string;
  /** One more than any record that it knew: what it came after. */
  seq: number;
  /** What the device's clock said, ms since 1970. */
  atMs: number;
}

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
  /** Takes records in; true where times of earlier records are now read otherwise. */
  note(written: readonly Written[]): boolean;
  /** What to add to the times of a record so that they run forward, ms. */
  offsetMs(written: Written): number;
  newest(): Written | undefined;
  /** When the clock was last set back, by its new time, and how far in all; undefined while it is not, or right again. */
  setBack(): SetBack | undefined;
}

export function createWriterClock(): WriterClock {
  const notes: Written[] = [];
  let offsets: number[] = [];
  /** Steps back that still hold: before which record, and how far. */
  let back: { at: number; byMs: number }[] = [];
  const places = new Map<string, number>();
  const inOrder = (a: Written, b: Written) => a.seq - b.seq || a.atMs - b.atMs;
  const keyOf = ({ seq, atMs }: Written) => `${seq}/${atMs}`;

  const move = (from: number, to: number, byMs: number) => {
    for (let i = from; i < to; i++) offsets[i]! += byMs;
  };
  /** The record at place k is the newest so far; true where the offset of an earlier one changed. */
  const step = (k: number): boolean => {
    const { atMs } = notes[k]!;
    const before = k > 0 ? notes[k - 1]!.atMs : -Infinity;
    offsets[k] = 0;
    if (atMs < before - APART_MS) {
      back.push({ at: k, byMs: before - atMs });
      move(0, k, atMs - before);
      return true;
    }
    let changed = false;
    for (let last = back.at(-1); last; last = back.at(-1)) {
      const gap = atMs - before;
      if (gap < RESTORED_SHARE * last.byMs || atMs < notes[last.at - 1]!.atMs) break;
      move(0, last.at, last.byMs);
      move(last.at, k, Math.min(last.byMs, gap));
      back.pop();
      changed = true;
    }
    return changed;
  };
  return {
    note(written) {
      const news = [...written].sort(inOrder);
      const last = notes[notes.length - 1];
      const late = last !== undefined && inOrder(news[0]!, last) < 0;
      const from = late ? 0 : notes.length;
      notes.push(...news);
      if (late) {
        // Brought in late, from a file: the whole order is gone through again.
        notes.sort(inOrder);
        offsets = [];
        back = [];
        places.clear();
      }
      let changed = late && notes.length > news.length;
      for (let k = from; k < notes.length; k++) {
        places.set(keyOf(notes[k]!), k);
        if (step(k)) changed = true;
      }
      return changed;
    },
    offsetMs: (written) => offsets[places.get(keyOf(written)) ?? -1] ?? 0,
    newest: () => notes[notes.length - 1],
    setBack() {
      const newest = back[back.length - 1];
      return newest && { atMs: notes[newest.at]!.atMs, byMs: back.reduce((sum, b) => sum + b.byMs, 0) };
    },
  };
}
