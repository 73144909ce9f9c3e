import { fineEndWords, fineWords, lockWords } from '../../../core/bridge';

/** What clamps at the nut ask for, in order; what this nut does to its strings; what the fine tuners have left. */
export function Locking({
  notes,
  shifts,
  rooms,
}: {
  notes: readonly string[];
  shifts: readonly { cents: number; count: number }[];
  rooms: readonly { up: number; down: number }[] | undefined;
}) {
  const known = shifts.some((s) => s.count > 0);
  return (
    <section aria-label="Clamps at the nut" className="max-w-2xl py-2 text-sm">
      <h2 className="font-semibold">Clamps at the nut</h2>
      <p data-testid="lock-shifts" className="pt-1">
        {known
          ? lockWords(notes, shifts)
          : 'Press L after locking and read all strings. The stop readings then allow for it.'}
      </p>
      {rooms && (
        <p data-testid="rooms" className="pt-1">
          {fineWords(notes, rooms)} <b className="text-rust">{fineEndWords(notes, rooms)}</b>
        </p>
      )}
      <details className="pt-1">
        <summary className="cursor-pointer font-semibold">Unlocking and locking, in order</summary>
        <ol className="list-decimal pt-1 pl-6 leading-relaxed">
          <li>
            First set the fine tuners to the middle: count the turns from one end to the other and go back by half; or
            set all to one height by eye; or by the thread that shows.
          </li>
          <li>Unlock from the thickest string to the thinnest, a quarter turn at a time, then lift the clamps.</li>
          <li>Tune by the stops here with the machine heads.</li>
          <li>Lock evenly and no harder than the key’s short arm: a stripped screw is a repairer’s.</li>
          <li>L, and read them once more; finish with the fine tuners.</li>
          <li>A string that goes on falling behind a closed clamp: see Causes.</li>
        </ol>
      </details>
    </section>
  );
}
