import { useMemo } from 'react';
import { TEST_GUIDES } from '../../../core/causes';
import type { InstrumentLife } from '../../../core/log';
import { useWorld } from '../../world/world';
import { instrumentFriction, trickReadWords } from '../../../core/friction';

/** What helps without a tuner, at what price, as it was read on this instrument. */
export function Helps({ life }: { life: InstrumentLife }) {
  const { bench } = useWorld();
  const lines = useMemo(
    () =>
      instrumentFriction(life, bench).strings.flatMap(({ note, tricks }) =>
        (['wings-up', 'wings-down'] as const).flatMap((kind) => {
          const read = tricks[kind];
          return read ? [`${note}: ${trickReadWords(TEST_GUIDES[kind].title.toLowerCase(), read)}`] : [];
        }),
      ),
    [life, bench],
  );
  return (
    <details className="text-base text-ink2">
      <summary>No time for the tuner</summary>
      <ul className="list-disc pl-5 pt-1">
        <li>Press the string behind the nut: it comes up a little and falls back within minutes.</li>
        <li>Pull it up gently in the middle: it goes down a little, and what was stuck in the nut comes loose.</li>
        <li>Play around it: another position, another string. Fingers away from the string’s plane.</li>
        {lines.map((l) => (
          <li key={l} className="text-ink">
            {l}
          </li>
        ))}
      </ul>
    </details>
  );
}
