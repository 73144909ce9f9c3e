import { pitchGuard, type GuardCall, type StringLoad } from '../../core/strings';

/** What must be called out while a tuner is turned: the pitch guard's word. */
export function useGuard(
  liveCents: number | null,
  load: StringLoad | undefined,
  name: string | undefined,
): GuardCall | undefined {
  return liveCents === null || name === undefined ? undefined : pitchGuard(liveCents, load, name);
}
