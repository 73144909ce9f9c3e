import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Priors } from '../../core/records';
import { settings } from './settings';
import { useWorld } from './world';

const KEY = ['learn-from-earlier-sets'];

/** What strings start from: the user's earlier sets where there are any, or the house's estimates by the switch. */
export function usePriors() {
  const { ask, bench, world } = useWorld();
  const client = useQueryClient();
  const { data: learns = true } = useQuery({
    queryKey: KEY,
    queryFn: async () => (await settings.getItem<boolean>('learn')) ?? true,
  });
  // Sets that come and go teach something new; single readings hardly do.
  const { changes } = bench;
  const { data: known } = useQuery({
    queryKey: ['learned', world, changes],
    queryFn: ({ signal }) => ask('learn', {}, { signal }),
    enabled: learns,
    staleTime: Infinity,
  });
  const priorsFor = useCallback(
    (instrumentId: string): Priors => (learns ? (known?.[instrumentId]?.priors ?? {}) : {}),
    [learns, known],
  );
  return {
    /** Names what the forecasts start from, for what is cached. */
    basis: learns && known ? changes : 'house',
    learns,
    setLearns: (next: boolean) => {
      client.setQueryData(KEY, next);
      void settings.setItem('learn', next);
    },
    priorsFor,
    /** How many earlier sets an instrument's forecasts rest on. */
    setsFor: (instrumentId: string) => (learns ? (known?.[instrumentId]?.sets ?? 0) : 0),
  };
}
