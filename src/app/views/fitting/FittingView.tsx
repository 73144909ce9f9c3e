import { useParams } from 'react-router';
import type { InstrumentLife } from '../../../core/log';
import { useWorld } from '../../world/world';
import { Chooser } from './Chooser';
import { Fitting } from './Fitting';
import { useFitting } from './useFitting';

/** Fits one string or a set, one step a screen. */
export function FittingView({ life }: { life: InstrumentLife }) {
  const { stringId } = useParams();
  const { world, nowMs } = useWorld();
  const one = life.strings.some((s) => s.plan.stringId === stringId) ? stringId : undefined;
  const begin = { school: 'pull' as const, index: 0, startedMs: Math.floor(nowMs()) };
  const { progress, put } = useFitting(
    `${world}/${life.record.instrumentId}`,
    one ? { ...begin, stringIds: [one] } : undefined,
  );
  if (!progress) return <Chooser life={life} onStart={(stringIds, school) => put({ ...begin, stringIds, school })} />;
  return <Fitting life={life} progress={progress} onProgress={put} onEnd={() => put(undefined)} />;
}
