import { useQuery, useQueryClient } from '@tanstack/react-query';
import { USUAL_SETUP, type BridgeSetup } from '../../../core/octave';
import { settings } from '../../world/settings';

/** The bridge's setup, kept on this device. */
export function useSetup(instrumentId: string): [BridgeSetup, (setup: BridgeSetup) => void] {
  const client = useQueryClient();
  const key = ['bridge-setup', instrumentId];
  const { data } = useQuery({
    queryKey: key,
    queryFn: async () => (await settings.getItem<BridgeSetup>(key.join('/'))) ?? USUAL_SETUP,
  });
  return [
    data ?? USUAL_SETUP,
    (setup) => {
      client.setQueryData(key, setup);
      void settings.setItem(key.join('/'), setup);
    },
  ];
}
