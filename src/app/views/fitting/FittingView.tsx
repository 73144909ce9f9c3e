import { useParams } from 'react-router';
import { useWorld } from '../../store/world';
import { Chooser } from './Chooser';
import { Fitting } from './Fitting';
import { useFitting } from './useFitting';

/** Fits one string or a set, one step a screen. */
export function FittingView() {
  const { instrumentId, stringId } = useParams();
  const { bench, world } = useWorld();
  const life = bench.instruments.find((i) => i.record.instrumentId === instrumentId);
  const one = life?.strings.some((s) => s.plan.stringId === stringId) ? stringId : undefined;
  const fitting = useFitting(
    `${world}/${instrumentId}`,
    one ? { stringIds: [one], school: 'pull', index: 0 } : undefined,
  );
  if (!life) {
    return <h1 className="p-10 text-2xl font-bold">This instrument is not on the bench</h1>;
  }
  const { progress, put, go } = fitting;
  if (!progress) return <Chooser life={life} onStart={(stringIds, school) => put({ stringIds, school, index: 0 })} />;
  return <Fitting life={life} progress={progress} go={go} onEnd={() => put(undefined)} />;
}
