import { clamp } from '../../src/core/base';

/** A hand on sampled strings: plucks, turns with pauses and reversals, re-plucks, damping; see the rooms' README. */

/** One string of a kit: its clean note, and the reading of it that counts as its zero. */
export interface KitNote {
  name: string;
  targetHz: number;
  samples: Float64Array;
  /** Where the sample itself stands, cents from the target. */
  zeroCents: number;
  /** Peak of the samples. */
  peak: number;
}

const DAMP_S = 0.02;
const REPLUCK_S = 0.06;
const PLUCK_PEAK = 10 ** (-8 / 20);

interface Voice {
  note: KitNote;
  at: number;
  gain: number;
  /** Samples until it starts; the one before is damped meanwhile. */
  wait: number;
  damped: boolean;
}

/** Plays the notes of one instrument into blocks at their samples' rate. */
export class Strings {
  /** Where every string stands now, cents from its sample's own pitch. */
  readonly cents: number[];
  private voices: Voice[] = [];
  private readonly turns: { string: number; from: number; to: number; startS: number; endS: number }[] = [];
  private n = 0;

  constructor(
    private readonly notes: KitNote[],
    private readonly rate: number,
    private readonly room: Float64Array,
    private readonly noiseDb: number,
    private readonly damps: boolean,
    /** Where in the room's noise it begins, samples. */
    private readonly offset: number,
  ) {
    this.cents = notes.map(() => 0);
  }

  get nowS(): number {
    return this.n / this.rate;
  }

  /** Where a string truly stands, cents from its target. */
  standsAt(string: number): number {
    return this.cents[string]! + this.notes[string]!.zeroCents;
  }

  /** @param together with what was plucked before: nothing else is damped */
  pluck(string: number, gainDb = 0, together = false): void {
    for (const v of this.voices) if (!together && (this.damps || v.note === this.notes[string])) v.damped = true;
    this.voices.push({
      note: this.notes[string]!,
      at: 0,
      gain: (PLUCK_PEAK / this.notes[string]!.peak) * 10 ** (gainDb / 20),
      wait: Math.round(REPLUCK_S * this.rate),
      damped: false,
    });
  }

  damp(): void {
    for (const v of this.voices) v.damped = true;
  }

  /** Turns a tuner by so many cents over so many seconds. */
  turn(string: number, byCents: number, seconds: number): void {
    const from = this.cents[string]!;
    this.turns.push({ string, from, to: from + byCents, startS: this.nowS, endS: this.nowS + seconds });
  }

  get turning(): boolean {
    return this.turns.some((t) => t.endS > this.nowS);
  }

  block(frames: number): Float64Array {
    const out = new Float64Array(frames);
    const noise = 10 ** (this.noiseDb / 20);
    for (let i = 0; i < frames; i++) out[i] = noise * this.room[(this.offset + this.n + i) % this.room.length]!;
    const decay = Math.exp(-1 / (DAMP_S * this.rate));
    // Turned a little at a time: the pitch is smooth within a block.
    const STEP = 64;
    for (let from = 0; from < frames; from += STEP) {
      const atS = (this.n + from) / this.rate;
      for (const t of this.turns) {
        if (atS < t.startS || atS > t.endS + STEP / this.rate) continue;
        const share = Math.min(1, (atS - t.startS) / (t.endS - t.startS));
        this.cents[t.string] = t.from + share * (t.to - t.from);
      }
      for (const v of this.voices) {
        const ratio = 2 ** (this.cents[this.notes.indexOf(v.note)]! / 1200);
        const x = v.note.samples;
        for (let i = from; i < Math.min(frames, from + STEP); i++) {
          if (v.wait > 0) {
            v.wait--;
            continue;
          }
          const k = Math.floor(v.at);
          if (k + 2 >= x.length) break;
          const f = v.at - k;
          const a = x[k - 1] ?? 0;
          const b = x[k]!;
          const c = x[k + 1]!;
          const d = x[k + 2]!;
          out[i]! += v.gain * (b + 0.5 * f * (c - a + f * (2 * a - 5 * b + 4 * c - d + f * (3 * (b - c) + d - a))));
          v.at += ratio;
          if (v.damped) v.gain *= decay;
        }
      }
    }
    this.voices = this.voices.filter((v) => v.gain > 1e-5 && v.at + 3 < v.note.samples.length);
    this.n += frames;
    return out.map((v) => clamp(v, -1, 1));
  }
}
