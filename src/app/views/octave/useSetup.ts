import { useQuery, useQueryClient } from '@tanstack/react-query';
import { THREADS_MM } from '../../../core/octave';
import { settings } from '../../world/settings';

/** What the owner says of an instrument's bridge. */
export interface BridgeSetup {
  /** Octave errors beyond this are too far, cents. */
  limitCents: number;
  /** Pitch of the saddle screws' thread, mm a turn. */
  threadMm: number;
  /** How far a saddle can still go either way from where it stood first, mm; null where nobody said. */
  travelMm: number | null;
}

const USUAL: BridgeSetup = { limitCents: 4, threadMm: THREADS_MM.M3, travelMm: null };

/** The bridge's setup, kept on this device. */
export function useSetup(instrumentId: string): [BridgeSetup, (setup: BridgeSetup) => void] {
  const client = useQueryClient();
  const key = ['bridge-setup', instrumentId];
  const { data } = useQuery({
    queryKey: key,
    queryFn: async () => (await settings.getItem<BridgeSetup>(key.join('/'))) ?? USUAL,
  });
  return [
    data ?? USUAL,
    (setup) => {
      client.setQueryData(key, setup);
      void settings.setItem(key.join('/'), setup);
    },
  ];
}
