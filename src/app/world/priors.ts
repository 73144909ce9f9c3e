import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { settings } from './settings';
import { useAsked } from './asked';
import { useWorld } from './world';
import type { Priors } from '../../core/status';

/** Nothing learned: the house's estimates. */
const HOUSE: Priors = {};
const KEY = ['learn-from-earlier-sets'];

/** What strings start from: the user's earlier sets where there are any, or the house's estimates by the switch. */
export function usePriors() {
  const { bench } = useWorld();
  const client = useQueryClient();
  const { data: learns = true } = useQuery({
    queryKey: KEY,
    queryFn: async () => (await settings.getItem<boolean>('learn')) ?? true,
  });
  // Sets that come and go teach something new; single readings hardly do.
  const { data: known, error } = useAsked({
    question: 'learn',
    subject: '',
    of: bench.changes,
    ask: {},
    enabled: learns,
  });
  const priorsFor = useCallback(
    (instrumentId: string): Priors => (learns ? known?.[instrumentId]?.priors : undefined) ?? HOUSE,
    [learns, known],
  );
  return {
    learns,
    /** Why nothing could be learned. */
    error,
    setLearns: (next: boolean) => {
      client.setQueryData(KEY, next);
      void settings.setItem('learn', next);
    },
    priorsFor,
    /** How many earlier sets an instrument's forecasts rest on. */
    setsFor: (instrumentId: string) => (learns ? (known?.[instrumentId]?.sets ?? 0) : 0),
  };
}
