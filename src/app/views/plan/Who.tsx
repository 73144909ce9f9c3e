import type { Role, Roles } from '../../../core/plan';

interface Named {
  instrumentId: string;
  name: string;
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
