import { trickReadWords } from '../../../core/friction';
import { Link } from 'react-router';
import { TEST_GUIDES } from '../../../core/causes';
import type { StringFriction } from '../../../core/friction';

/** What the routine took out of each string, and what the wings' tricks did, as they were read. */
export function Tricks({ friction, bench }: { friction: readonly StringFriction[]; bench: string }) {
  const lines = friction.flatMap(({ note, tricks }) =>
    (['routine', 'wings-up', 'wings-down'] as const).flatMap((kind) => {
      const read = tricks[kind];
      return read ? [{ note, kind, read }] : [];
    }),
  );
  if (lines.length === 0) return null;
  return (
    <ul aria-label="Tricks as read" className="border-t border-line py-2 text-sm">
      {lines.map(({ note, kind, read }) => (
        <li key={`${note}${kind}`}>
          <b>{note}</b> {trickReadWords(TEST_GUIDES[kind].title.toLowerCase(), read)}
        </li>
      ))}
      <li>
        <Link className="text-deep underline" to={bench}>
          Bring them up from below
        </Link>
      </li>
    </ul>
  );
}
