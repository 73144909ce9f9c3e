import { signed } from '../../parts/format';

/** Less than this left of a fine tuner's way, and the nut is unlocked again, cents (house estimate). */
const LITTLE_CENTS = 30;

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
  const short = rooms ? notes.filter((_, i) => Math.min(rooms[i]!.up, rooms[i]!.down) < LITTLE_CENTS) : [];
  return (
    <section aria-label="Clamps at the nut" className="max-w-2xl py-2 text-sm">
      <h2 className="font-semibold">Clamps at the nut</h2>
      <p data-testid="lock-shifts" className="pt-1">
        {known
          ? `Locking moved them: ${notes.map((n, i) => `${n} ${signed(shifts[i]!.cents)}`).join(', ')}. The stop readings allow for it while the nut is open.`
          : 'Press L after locking and read all strings. The stop readings then allow for it.'}
      </p>
      {rooms && (
        <p data-testid="rooms" className="pt-1">
          Fine tuners, from the middle, can still go up and down:{' '}
          {notes.map((n, i) => `${n} ${rooms[i]!.up.toFixed(0)}/${rooms[i]!.down.toFixed(0)}`).join(', ')} cents
          (reckoned).
          {short.length > 0 && (
            <b className="text-rust">
              {' '}
              {short.join(', ')}: nearly at its end. Unlock, centre it, tune by its machine head.
            </b>
          )}
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
