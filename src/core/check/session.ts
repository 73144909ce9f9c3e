import {
  createPlayer,
  othersThan,
  reachOf,
  type GuidedStep,
  type GuideView,
  type NamedPlace,
  type PassStep,
  type Procedure,
  type Verdict,
  cameFromAbove,
} from '../guided';
import { cents } from '../music';
import { createListener } from '../pitch';

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
  | { atS: number; kind: 'verdict'; string: number; purpose: PassStep['purpose']; verdict: Verdict }
  | { atS: number; kind: 'say'; text: string };

/** A pass on sound alone, without a log: the player with an ear of its own. */
export interface Session {
  push(block: ArrayLike<number>): SessionEvent[];
  /** The page's clock: what is said now. */
  tick(): { events: SessionEvent[]; view: GuideView };
  deafen(seconds: number): void;
  /** Samples were lost before the next block. */
  lose(): void;
  /** What is asked for now, by the string's index; undefined when the pass is done. */
  todo(): { string: number; purpose: PassStep['purpose'] } | undefined;
}

/** What is still to be sounded, and where the strings were last. */
interface Open {
  steps: readonly PassStep[];
  strings: readonly NamedPlace[];
}

const soundAlone = (kind: SessionKind, toleranceCents: number): Procedure<Open, never, undefined> => ({
  next(_log, { steps: [step], strings }): GuidedStep | undefined {
    const named = strings.find((s) => s.id === step?.stringId);
    if (!step || !named) return undefined;
    return {
      step,
      named,
      others: othersThan(named, strings),
      belongsHz: named.targetHz,
      expectedHz: step.purpose === 'left' ? named.targetHz : (named.lastHz ?? named.targetHz),
      toleranceCents,
      foundCents: named.lastHz === undefined ? null : cents(named.lastHz, named.targetHz),
    };
  },
  heard({ reading, arrival }, _source, _log, { steps: [step, ...rest], strings }) {
    const { stringId, purpose } = step!;
    const { fresh: _fresh, ...own } = strings.find((s) => s.id === stringId)!;
    const read = { ...own, lastHz: reading.frequencyHz };
    const off = kind === 'check' && purpose === 'found' && Math.abs(reading.cents) > toleranceCents;
    const above = purpose === 'left' && cameFromAbove(arrival);
    return {
      state: {
        steps: [
          ...(above ? [{ stringId, purpose, again: true as const }] : []),
          ...rest,
          ...(off ? [{ stringId, purpose: 'left' as const }] : []),
        ],
        strings: strings.map((s) => (s.id === stringId ? read : s)),
      },
    };
  },
  press: (_action, _log, state) => ({ state }),
});

/** A check from a recording or a stream without a screen, block by block; for the door and the benches. */
export function createSession({ sampleRate, strings, kind, only, toleranceCents }: SessionOptions): Session {
  const listener = createListener(sampleRate);
  const asked = strings.filter((_, i) => only === undefined || i === only);
  const purpose = kind === 'as-left' ? 'left' : 'found';
  let total = 0;
  let events: SessionEvent[] = [];
  let said = '';
  let lost = false;
  const indexOf = (id: string) => strings.findIndex((s) => s.id === id);
  const player = createPlayer<Open, never, undefined>(
    soundAlone(kind, toleranceCents),
    { steps: asked.map(({ id }) => ({ stringId: id, purpose })), strings },
    {
      log: () => undefined,
      write: () => undefined,
      say: () => undefined,
      judged: (verdict, { step }) =>
        void events.push({
          atS: total / sampleRate,
          kind: 'verdict',
          string: indexOf(step.stringId),
          purpose: step.purpose,
          verdict,
        }),
      changed: () => aim(),
    },
  );
  const aim = () => {
    const { step } = player;
    if (step) listener.setTask({ named: step.named, others: step.others, reach: reachOf(step) });
  };
  aim();
  const drain = () => {
    const all = events;
    events = [];
    return all;
  };
  return {
    push(block) {
      const heard = listener.push(block, lost);
      lost = false;
      total += block.length;
      for (const h of heard) player.hear(h, 'file');
      return drain();
    },
    tick() {
      const view = player.view(total / sampleRate, true);
      const text = player.step ? view.sentence : 'Pass done';
      const news: SessionEvent[] = text !== said ? [{ atS: total / sampleRate, kind: 'say', text }] : [];
      said = text;
      return { events: news, view };
    },
    deafen: (seconds) => listener.deafen(seconds),
    lose: () => void (lost = true),
    todo: () => player.step && { string: indexOf(player.step.step.stringId), purpose: player.step.step.purpose },
  };
}
