import type { InstrumentRecord } from '../../core/log';
import { Button } from './Button';

/** Instruments that were put away, each with a way back. */
export function PutAwayList({
  away,
  onBringBack,
}: {
  away: readonly InstrumentRecord[];
  onBringBack: (record: InstrumentRecord) => void;
}) {
  if (away.length === 0) return null;
  return (
    <section aria-label="Put away" className="py-3 text-sm">
      <h2 className="font-semibold">Put away</h2>
      <ul className="flex max-h-28 flex-wrap gap-2 overflow-y-auto pt-2">
        {away.map((record) => (
          <li key={record.instrumentId}>
            <Button onClick={() => onBringBack(record)}>Bring {record.name} back</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
