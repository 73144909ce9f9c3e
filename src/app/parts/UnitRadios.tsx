/** One choice of unit, each by its own sign. */
export function UnitRadios<Unit extends string>({
  name,
  units,
  chosen,
  onChoose,
}: {
  name: string;
  units: readonly Unit[];
  chosen: Unit;
  onChoose: (unit: Unit) => void;
}) {
  return units.map((u) => (
    <label key={u} className="flex items-center gap-1">
      <input type="radio" name={name} checked={chosen === u} onChange={() => onChoose(u)} />
      {u}
    </label>
  ));
}
