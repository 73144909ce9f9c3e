import type { SessionRecord } from '../log';

/** What an instrument does in a show: plays all through, only before or after the interval, or stands by for another one. */
export type Role = 'all' | 'first' | 'second' | `spare:${string}`;
export type Roles = Record<string, Role>;

/** Roles as a show was written down; what does not play is not in them. */
export function rolesOf({
  instrumentIds,
  plays = [],
  spares = [],
}: Pick<SessionRecord, 'instrumentIds' | 'plays' | 'spares'>): Roles {
  return Object.fromEntries(
    instrumentIds.map((id): [string, Role] => {
      const spare = spares.find((s) => s.instrumentId === id);
      const part = plays.find((p) => p.instrumentId === id);
      return [id, spare ? `spare:${spare.forId}` : !part ? 'all' : part.fromMin === 0 ? 'first' : 'second'];
    }),
  );
}

/** What is written down of the roles. @param turnMin when the first part ends, min after the curtain */
export function asPlayed(
  roles: Roles,
  turnMin: number,
  minutes: number,
): Pick<SessionRecord, 'instrumentIds' | 'plays' | 'spares'> {
  const ids = Object.keys(roles);
  return {
    instrumentIds: ids,
    plays: ids.flatMap((instrumentId) =>
      roles[instrumentId] === 'first'
        ? { instrumentId, fromMin: 0, toMin: turnMin }
        : roles[instrumentId] === 'second'
          ? { instrumentId, fromMin: turnMin, toMin: minutes }
          : [],
    ),
    spares: ids.flatMap((instrumentId) => {
      const role = roles[instrumentId]!;
      return role.startsWith('spare:') ? { instrumentId, forId: role.slice('spare:'.length) } : [];
    }),
  };
}

/** Whether anybody plays at all: who stands by does not. */
export const somebodyPlays = (roles: Roles): boolean => Object.values(roles).some((r) => !r.startsWith('spare:'));
