import { useMemo } from 'react';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../core/check';
import type { InstrumentLife } from '../../core/log';
import type { Statement, StatementKind } from '../../core/says';
import { useAsked, useAskedEach, type Asked } from './asked';
import { useAllWalks } from './plan';
import { usePriors } from './priors';
import { useWorld } from './world';

/** So often it is asked anew, ms. */
const STEP_MS = 15000;

/** What is said of an instrument and its strings. */
export interface SaidOf {
  /** The one statement of this kind; of a string where one is named. Undefined where that is not said, or not yet. */
  of: (kind: StatementKind, stringId?: string) => Statement | undefined;
  each: (kind: StatementKind) => Statement[];
  /** Nothing is known yet. */
  waiting: boolean;
  error: Error | undefined;
}

interface Wish {
  toleranceCents: number;
  holdMin: number;
}
const USUAL: Wish = { toleranceCents: TOLERANCE_CENTS, holdMin: HOLD_MIN };

/** How it is asked of one instrument. */
function useAsking(nowMs: number, { toleranceCents, holdMin }: Wish) {
  const { a4Hz, zone } = useWorld();
  const { priorsFor } = usePriors();
  const walksOf = useAllWalks();
  const stepMs = Math.ceil(nowMs / STEP_MS) * STEP_MS;
  return (life: InstrumentLife): Asked<'said'> => {
    const { instrumentId } = life.record;
    const [priors, walks] = [priorsFor(instrumentId), walksOf(instrumentId)];
    const ask = { instrumentId, toleranceCents, holdMin, nowMs: stepMs, zone, a4Hz, priors, walks };
    return { question: 'said', subject: instrumentId, of: life, ask };
  };
}

/** All that is said of an instrument, worked out beside the page: what a view shows of it is one of these. */
export function useSaid(life: InstrumentLife, nowMs: number, wish: Wish = USUAL): SaidOf {
  const { data, error } = useAsked(useAsking(nowMs, wish)(life));
  return useMemo(() => saidIn(data, error ?? undefined), [data, error]);
}

/** All that is said of several. */
export function useSaidEach(lives: readonly InstrumentLife[], nowMs: number) {
  const { data, error } = useAskedEach(lives.map(useAsking(nowMs, USUAL)));
  return { all: data.flatMap((said) => said ?? []), error };
}

/** Statements as views look for them. */
export function saidIn(data: readonly Statement[] | undefined, error?: Error): SaidOf {
  const all = data ?? [];
  return {
    of: (kind, stringId) => all.find((s) => s.kind === kind && s.string === stringId),
    each: (kind) => all.filter((s) => s.kind === kind),
    waiting: data === undefined && !error,
    error,
  };
}
