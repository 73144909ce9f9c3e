import { Link } from 'react-router';
import type { InstrumentLife } from '../../../core/log';
import { useWorld } from '../../world/world';

/** A comparison under way on this instrument: which strings are treated, and which are to be left alone. */
export function TrialNote({ life }: { life: InstrumentLife }) {
  const { bench, basePath } = useWorld();
  const { instrumentId } = life.record;
  const noteOf = (stringId: string) => life.strings.find((s) => s.plan.stringId === stringId)?.plan.note;
  const own = (side: 'treated' | 'control', pairs: (typeof bench.trials)[number]['pairs']) =>
    pairs.flatMap((p) => (p[side].instrumentId === instrumentId ? (noteOf(p[side].stringId) ?? []) : [])).join(', ');
  const trial = bench.trials.findLast(
    (t) => !t.over && t.pairs.some((p) => [p.treated, p.control].some((r) => r.instrumentId === instrumentId)),
  );
  if (!trial) return null;
  const [treated, control] = [own('treated', trial.pairs), own('control', trial.pairs)];
  return (
    <p data-testid="trial" className="pb-1.5 text-sm">
      <Link to={`${basePath}/trial`} className="text-deep underline underline-offset-4">
        {trial.what}
      </Link>
      {treated && (
        <>
          : treated <b>{treated}</b>
        </>
      )}
      {control && `${treated ? '; ' : ': '}left alone ${control}`}
    </p>
  );
}
