import { pitchGuard, type GuardCall, type StringLoad } from '../../core/strings';

/** What must be called out while a string is brought up: the pitch guard's word. An untouched string raises no alarm. */
export function useGuard(
  liveCents: number | null,
  load: StringLoad | undefined,
  name: string | undefined,
  bringingUp: boolean,
): GuardCall | undefined {
  return liveCents === null || !bringingUp || name === undefined ? undefined : pitchGuard(liveCents, load, name);
}
