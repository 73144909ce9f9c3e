import { counted } from '../base';
import type { Heard, Reading } from '../pitch';
import type { Draft, Source } from '../log';
import { createGatherer, type Follow, type Followed } from '../two-strings';
import { createGuide } from './guide';
import type { GuidedLog, Outcome, Procedure } from './procedure';
import { figurePlaceOf, lineCentsOf, type GuidedStep, type GuideView, type Verdict } from './step';
import { readTyped } from './typed';

/** What a player needs of where it runs. */
export interface PlayerMeans<Log = GuidedLog> {
  log: () => Log;
  /**
   * Writes records. @returns nothing where they stand at once; else a promise of what went wrong: '' nothing, else a sentence, and
   * whether the records stand all the same
   */
  write: (records: Draft[]) => Promise<{ stand: boolean; trouble: string }> | undefined;
  say: (words: string) => void;
  /** How to go on without what is asked for, where there is a way; said when nothing sounds. */
  without?: () => string | undefined;
  /** What the rules said of what was heard for a step, before anything came of it. */
  judged?: (verdict: Verdict, step: GuidedStep) => void;
  /** What is asked for, or the state, is another. */
  changed?: () => void;
}

/** What hears for a view: one step after another, what is made of what is heard, what is said of it. */
export interface Hearer {
  readonly step: GuidedStep | undefined;
  /** What is followed besides; the same object while it is the same. */
  readonly follow: Follow | undefined;
  hear(heard: Heard, source: Source): void;
  followed(heard: Followed, source: Source): void;
  /** What was decided stands: nothing is being written. */
  settled(): Promise<void>;
  /** Enter. @returns 'read' when the listener is to read what sounds now */
  take(source: Source): 'read' | undefined;
  /**
   * A figure from another device, as it was typed: as good as a reading of what is asked for.
   * @param sure it was asked about, and is so
   * @param a4Hz the reference in use, Hz
   * @returns what is wrong with it, or is to be said again; undefined where it was taken
   */
  type(text: string, sure: boolean, a4Hz: number): string | undefined;
  view(nowS: number, listening: boolean): GuideView;
  /** A file has been played to its end: what was kept of it is said. */
  ended(): void;
}

/** The one machine: what is heard goes through the rules of guided readings to a procedure, and what that decides into the log. */
export interface Player<State, Action, Log = GuidedLog> extends Hearer {
  readonly state: State;
  /** The log as it is now. */
  log(): Log;
  press(action: Action): void;
  /** Another thing is in hand: what was chosen before is over. */
  reset(state: State): void;
  /** The log is another: what is to be sounded is looked up anew. */
  refresh(): void;
}

/** Runs a procedure on what is heard, typed and pressed, and writes what that decides. */
export function createPlayer<State, Action, Log = GuidedLog>(
  procedure: Procedure<State, Action, Log>,
  begin: State,
  means: PlayerMeans<Log>,
): Player<State, Action, Log> {
  return new Playing(procedure, begin, means);
}

/** The same by what it says: both are plain data. */
const isAlike = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

class Playing<State, Action, Log> implements Player<State, Action, Log> {
  step: GuidedStep | undefined;
  follow: Follow | undefined;
  private gather = createGatherer();
  private readonly guide = createGuide();
  /** What is pressed while something is being written waits for it. */
  private writing: Promise<void> | undefined;
  /** What was kept of the file that is playing, in words. */
  private kept: string[] = [];
  /** How many readings of it were taken without being kept, yet. */
  private taken = 0;

  constructor(
    private readonly procedure: Procedure<State, Action, Log>,
    public state: State,
    private readonly means: PlayerMeans<Log>,
  ) {
    this.aim();
  }

  log(): Log {
    return this.means.log();
  }

  /** Looks up what is to be sounded and followed; what is the same stays the same object. @returns whether either is another */
  private aim(): boolean {
    const step = this.procedure.next(this.means.log(), this.state);
    const follow = this.procedure.follow?.(this.means.log(), this.state);
    const sameStep = isAlike(step, this.step);
    const sameFollow = isAlike(follow, this.follow);
    if (!sameStep) {
      this.step = step;
      this.guide.setStep(step);
    }
    if (!sameFollow) {
      this.follow = follow;
      this.gather = createGatherer();
    }
    return !sameStep || !sameFollow;
  }

  reset(state: State): void {
    this.state = state;
    this.aim();
    this.means.changed?.();
  }

  refresh(): void {
    if (this.aim()) this.means.changed?.();
  }

  private settle({ state, records = [], say }: Outcome<State>): void {
    const stand = () => {
      const same = this.state === state;
      this.state = state;
      if (this.aim() || !same) this.means.changed?.();
    };
    const written = records.length > 0 ? this.means.write(records) : undefined;
    if (!written) {
      stand();
      if (say !== undefined) this.means.say(say);
      return;
    }
    this.writing = written.then(({ stand: stands, trouble }) => {
      this.writing = undefined;
      if (stands) stand();
      const words = trouble || say;
      if (words !== undefined) this.means.say(words);
    });
  }

  private judge(verdict: Verdict, source: Source): void {
    if (this.step?.watched) return;
    if (this.step) this.means.judged?.(verdict, this.step);
    if (verdict.kind !== 'keep') {
      const without = verdict.kind === 'refuse' && verdict.reason === 'nothing' ? this.means.without?.() : undefined;
      this.means.say(without ? `${verdict.message} ${without}` : verdict.message);
      return;
    }
    const outcome = this.procedure.heard(verdict, source, this.means.log(), this.state);
    this.count(outcome, source);
    this.settle(outcome);
  }

  private count({ records, say, state }: Outcome<State>, source: Source): void {
    if (source !== 'file') return;
    if (records?.length && say) this.kept.push(say);
    else if (state !== this.state) this.taken++;
  }

  hear(heard: Heard, source: Source): void {
    // What was asked for before the step moved on is no answer to what is asked now.
    for (const verdict of this.guide.hear(heard)) if (this.step) this.judge(verdict, source);
  }

  followed(heard: Followed, source: Source): void {
    if (!this.follow || this.writing) return;
    const reading = this.gather(heard);
    const outcome = reading && this.procedure.followed?.(reading, this.means.log(), this.state);
    if (!outcome) return;
    this.count(outcome, source);
    this.settle(outcome);
  }

  async settled(): Promise<void> {
    while (this.writing) await this.writing;
  }

  take(source: Source): 'read' | undefined {
    const answer = this.guide.take();
    if (answer === 'read') return 'read';
    this.judge(answer, source);
    return undefined;
  }

  type(text: string, sure: boolean, a4Hz: number): string | undefined {
    if (!this.step) return undefined;
    const typed = readTyped(text, figurePlaceOf(this.step), a4Hz);
    if (typed.is === 'refused' || (typed.is === 'question' && !sure)) return typed.message;
    const { frequencyHz, sigmaCents } = typed;
    const reading: Reading = {
      ok: true,
      frequencyHz,
      cents: typed.cents - lineCentsOf(this.step),
      sigmaCents,
      partials: [],
      inharmonicity: null,
      snrDb: 0,
      fromS: 0,
      toS: 0,
      glideCents: 0,
      sharpTauS: 0,
      driftCents: 0,
    };
    this.judge({ kind: 'keep', reading, arrival: undefined }, 'typed');
    return undefined;
  }

  press(action: Action): void {
    if (this.writing) {
      void this.writing.then(() => this.press(action));
      return;
    }
    this.settle(this.procedure.press(action, this.means.log(), this.state));
  }

  view(nowS: number, listening: boolean): GuideView {
    return this.guide.view(nowS, listening);
  }

  ended(): void {
    const kept = this.kept.splice(0);
    const taken = this.taken;
    this.taken = 0;
    const told = `${counted(taken, 'reading was', 'readings were')} taken from it.`;
    const nothing = 'Nothing was saved from it.';
    this.means.say(`End of the file. ${kept.length > 0 ? kept.join(' ') : taken > 0 ? told : nothing}`);
  }
}
