import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { ForceUnit, LengthUnit } from '../../core/strings';
import { settings } from './settings';

export interface Units {
  length: LengthUnit;
  force: ForceUnit;
}

const KEY = ['units'];
const DEFAULT: Units = { length: 'mm', force: 'N' };

/** The units of this device, chosen once. */
export function useUnits(): [Units, (units: Units) => void] {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: async () => (await settings.getItem<Units>('units')) ?? DEFAULT,
  });
  return [
    data ?? DEFAULT,
    (units) => {
      client.setQueryData(KEY, units);
      void settings.setItem('units', units);
    },
  ];
}
