import type { BridgeAdvice } from '../../../core/bridge';
import { signed, plusMinus } from '../../parts/format';

/** Where each string stands: as expected with its doubt in a session, as last read before one. */
export const StringsNow = ({
  notes,
  at,
  offsets,
  read,
  begun,
}: {
  notes: readonly string[];
  at: number | undefined;
  offsets: readonly number[];
  read: BridgeAdvice | undefined;
  begun: boolean;
}) => (
  <ul aria-label="Strings now" className="grid max-w-2xl grid-cols-6 gap-x-3 py-2 max-sm:grid-cols-3">
    {notes.map((note, i) => {
      const cents = read?.expected[i] ?? null;
      return (
        <li
          key={i}
          aria-current={i === at ? 'step' : undefined}
          className="border-t-4 border-line pt-1 aria-[current=step]:border-deep"
        >
          <span className="text-lg font-bold">{note}</span>
          <span className="figure block text-sm">
            {cents !== null
              ? `${signed(cents)} ${plusMinus(read!.expectedSd[i] ?? 0)}`
              : begun
                ? 'not read'
                : signed(offsets[i]!)}
          </span>
        </li>
      );
    })}
  </ul>
);
