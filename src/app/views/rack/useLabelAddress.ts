import { useQuery, useQueryClient } from '@tanstack/react-query';
import { string } from 'yup';
import { settings } from '../../world/settings';

const KEY = 'label-address';
const address = string()
  .trim()
  .max(200, 'An address has 200 characters at most.')
  .matches(/^https?:\/\/[^\s/?#]+(\/[^\s?#]*)?$/, 'Write it as https://anchor.example.org.');

/** Names under which a device means itself. */
const isHere = (host: string): boolean => /^(localhost|127\.\d+\.\d+\.\d+|\[::1\])$/.test(host);

/** Where labels lead: where this page is, or where its owner says that others find it. */
export function useLabelAddress() {
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: [KEY], queryFn: () => settings.getItem<string>(KEY) });
  const own = data || window.location.origin;
  return {
    own,
    /** It opens on this device alone. */
    isHere: isHere(new URL(own).hostname),
    /** @returns what is wrong with it; '' where it was taken. Nothing: where this page is */
    choose: async (given: string): Promise<string> => {
      const trimmed = given.trim().replace(/\/+$/, '');
      try {
        if (trimmed !== '') address.validateSync(trimmed);
      } catch (error) {
        return (error as Error).message;
      }
      await settings.setItem(KEY, trimmed);
      await client.invalidateQueries({ queryKey: [KEY] });
      return '';
    },
  };
}
