import clsx from 'clsx';
import { Link } from 'react-router';

/** The instruments of the bench as links of one view. */
export function InstrumentLinks({
  instruments,
  to,
  current,
}: {
  instruments: { id: string; name: string }[];
  /** The path before the instrument's id. */
  to: string;
  current: string;
}) {
  return (
    <nav aria-label="Instruments" className="flex flex-wrap gap-x-4 gap-y-1 pb-1 text-sm">
      {instruments.map(({ id, name }) => (
        <Link
          key={id}
          to={`${to}/${id}`}
          aria-current={id === current ? 'page' : undefined}
          className={clsx(
            'border-b-2 pb-0.5',
            id === current ? 'border-ink font-semibold' : 'border-transparent text-ink2',
          )}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
