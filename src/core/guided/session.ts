import { createListener, type Listener } from '../pitch';
import { createGuide } from './guide';
import type { GuidedStep, GuideView, Verdict } from './step';
import { reachOf } from './reach';
import type { NamedPlace } from './identify';

export type SessionKind = 'as-found' | 'as-left' | 'check';

export interface SessionOptions {
  sampleRate: number;
  strings: NamedPlace[];
  /** Every string as found, every one as left, or the whole check: all as found, then those out of tolerance as left. */
  kind: SessionKind;
  /** Index of the one string that is asked for, instead of all in order. */
  only?: number | undefined;
  toleranceCents: number;
}

/** `string` is an index; times are seconds since the session began. */
export type SessionEvent =
  | { atS: number; kind: 'verdict'; string: number; purpose: 'found' | 'left'; verdict: Verdict }
  | { atS: number; kind: 'say'; text: string };

interface Todo {
  string: number;
  purpose: 'found' | 'left';
  again?: true;
}

/** A pass on sound alone, without a log: the listener and the rules of the pass as the page puts them together. */
export interface Session {
  push(block: ArrayLike<number>): SessionEvent[];
  /** The page's clock: what is said now. */
  tick(): { events: SessionEvent[]; view: GuideView };
  /** The player presses Enter. */
  enter(): SessionEvent[];
  deafen(seconds: number): void;
  /** Samples were lost before the next block. */
  lose(): void;
  /** What is asked for now; undefined when the pass is done. */
  todo(): Todo | undefined;
}

export function createSession({ sampleRate, strings: given, kind, only, toleranceCents }: SessionOptions): Session {
  const strings = given.map((s) => ({ ...s }));
  const found: (number | null)[] = strings.map((s) =>
    s.lastHz === undefined ? null : 1200 * Math.log2(s.lastHz / s.targetHz),
  );
  const listener: Listener = createListener(sampleRate);
  const guide = createGuide();
  const asked = strings.map((_, i) => i).filter((i) => only === undefined || i === only);
  let todo: Todo[] = asked.map((string) => ({ string, purpose: kind === 'as-left' ? 'left' : 'found' }));
  let total = 0;
  let said = '';
  let lost = false;

  const aim = (): void => {
    const next = todo[0];
    if (!next) {
      guide.setStep(undefined);
      return;
    }
    const named = strings[next.string]!;
    const step: GuidedStep = {
      step: { stringId: named.id, purpose: next.purpose, ...(next.again ? { again: true } : {}) },
      named,
      others: strings.filter((s) => s.id !== named.id && Math.abs(1200 * Math.log2(s.targetHz / named.targetHz)) > 50),
      toleranceCents,
      foundCents: found[next.string]!,
    };
    guide.setStep(step);
    listener.setTask({ named, others: step.others, reach: reachOf(step) });
  };
  aim();

  const settle = (verdict: Verdict): SessionEvent => {
    const { string, purpose } = todo[0]!;
    if (verdict.kind === 'keep') {
      const { frequencyHz, cents } = verdict.reading;
      const own = strings[string]!;
      own.lastHz = frequencyHz;
      delete own.fresh;
      found[string] = cents;
      todo = todo.slice(1);
      const above = verdict.arrival === 'from above' || verdict.arrival === 'overshot';
      if (kind === 'check' && purpose === 'found' && Math.abs(cents) > toleranceCents)
        todo = [...todo, { string, purpose: 'left' }];
      if (purpose === 'left' && above) todo = [{ string, purpose: 'left', again: true }, ...todo];
      aim();
    }
    return { atS: total / sampleRate, kind: 'verdict', string, purpose, verdict };
  };

  return {
    push(block) {
      const events: SessionEvent[] = [];
      const heard = listener.push(block, lost);
      lost = false;
      total += block.length;
      for (const h of heard) {
        if (todo.length === 0) break;
        // What was asked for before the step moved on is no answer to what is asked now.
        for (const verdict of guide.hear(h)) if (todo.length > 0) events.push(settle(verdict));
      }
      return events;
    },
    tick() {
      const view = guide.view(total / sampleRate, true);
      const text = todo.length > 0 ? view.sentence : 'Pass done';
      const events: SessionEvent[] = text !== said ? [{ atS: total / sampleRate, kind: 'say', text }] : [];
      said = text;
      return { events, view };
    },
    enter() {
      if (todo.length === 0) return [];
      const answer = guide.take();
      if (answer !== 'read') return [settle(answer)];
      return listener.readNow().flatMap((h) => guide.hear(h).map(settle));
    },
    deafen: (seconds) => listener.deafen(seconds),
    lose: () => void (lost = true),
    todo: () => todo[0],
  };
}
