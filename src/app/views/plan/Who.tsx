import type { SessionRecord } from '../../../core/log';

/** What an instrument does in a show: plays all through, only before or after the interval, or stands by for another one. */
export type Role = 'all' | 'first' | 'second' | `spare:${string}`;
export type Roles = Record<string, Role>;

interface Named {
  instrumentId: string;
  name: string;
}

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

/** Who plays, when, and who stands by. */
export function Who({ all, roles, onRoles }: { all: readonly Named[]; roles: Roles; onRoles: (roles: Roles) => void }) {
  const set = (id: string, role: Role | undefined) => {
    const { [id]: _gone, ...others } = roles;
    onRoles(role ? { ...others, [id]: role } : others);
  };
  return (
    <fieldset>
      <legend className="font-semibold">Who plays</legend>
      {all.map(({ instrumentId, name }) => {
        const role = roles[instrumentId];
        return (
          <div key={instrumentId} className="flex flex-wrap items-center justify-between gap-2 py-0.5">
            <label className="inline-flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={role !== undefined}
                onChange={() => set(instrumentId, role === undefined ? 'all' : undefined)}
              />
              {name}
            </label>
            {role !== undefined && (
              <select
                aria-label={`When ${name} plays`}
                className="rounded-md border border-ink2 bg-sheet px-1 py-0.5"
                value={role}
                onChange={(e) => set(instrumentId, e.target.value as Role)}
              >
                <option value="all">all through</option>
                <option value="first">until the interval</option>
                <option value="second">after the interval</option>
                {all
                  .filter((o) => o.instrumentId !== instrumentId && roles[o.instrumentId] !== undefined)
                  .map((o) => (
                    <option key={o.instrumentId} value={`spare:${o.instrumentId}`}>
                      spare for {o.name}
                    </option>
                  ))}
              </select>
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
