import { useMemo } from 'react';
import { whoseSound, type StringPlace, type TrackPoint } from '../../core/pitch';
import { pitchGuard, type GuardCall, type StringLoad } from '../../core/strings';

/** What must be called out while a tuner is turned: the pitch guard's word, or that another string sounds. */
export function useGuard(
  liveCents: number | null,
  trail: TrackPoint[],
  load: StringLoad | undefined,
  named: StringPlace | undefined,
  others: StringPlace[] | undefined,
): GuardCall | { level: 'other'; message: string } | undefined {
  const other = useMemo(() => (named && others ? whoseSound(trail, named, others) : undefined), [trail, named, others]);
  if (!named) return undefined;
  if (other)
    return {
      level: 'other',
      message: `You are hearing ${other.name}: is the tuner in your hand the one of ${named.name}?`,
    };
  return liveCents === null ? undefined : pitchGuard(liveCents, load, named.name);
}
