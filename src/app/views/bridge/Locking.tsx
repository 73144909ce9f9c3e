/** What clamps at the nut ask for, in order. */
export const Locking = () => (
  <details className="max-w-2xl py-2 text-sm">
    <summary className="cursor-pointer font-semibold">Clamps at the nut</summary>
    <ol className="list-decimal pt-1 pl-6 leading-relaxed">
      <li>
        Fine tuners to the middle of their travel first: count the turns from one end to the other and go back by half;
        or set all to one height by eye; or by the thread that shows.
      </li>
      <li>Unlock from the thickest string to the thinnest, a quarter turn at a time, then lift the clamps.</li>
      <li>Tune by the stops here with the machine heads.</li>
      <li>Lock evenly and no harder than the key’s short arm: a stripped screw is a repairer’s.</li>
      <li>Locking moves every string: read them once more (touch-up), and finish with the fine tuners.</li>
      <li>A string that goes on falling behind a closed clamp: see Causes.</li>
    </ol>
  </details>
);
