import { useEffect, useMemo, useState } from 'react';
import { minutesPerString, WALKS } from '../../../core/plan';
import { useWakeLock } from '../../guided/useWakeLock';
import { usePlan, useShow } from '../../world/plan';
import { useWorld } from '../../world/world';
import { Wings } from './Wings';

/** Seconds between two pieces, as they can be chosen. */
const PAUSES_S = [30, 60, 90, 120, 180] as const;
/** Going there and taking the instrument in hand, s (house estimate). */
const WALK_S = 15;
const SHOWN_AFTER = 3;

/** The night's colours while this view is open, whatever the chart: nobody lights up a stage. */
function useNight(): void {
  useEffect(() => {
    const { dataset } = document.documentElement;
    dataset['stage'] = 'dark';
    return () => {
      delete dataset['stage'];
    };
  }, []);
}

/** Backstage, at night: one large line at a time, by the pedal alone, in the seconds between two pieces. */
export function WingsView() {
  const { bench } = useWorld();
  const show = useShow();
  const { plan } = usePlan(show);
  const perString = useMemo(() => minutesPerString(bench), [bench]);
  const [pause, setPause] = useState(2);
  const [message, say] = useState('');
  useWakeLock(true);
  useNight();
  const items = (plan?.items ?? []).filter((i) => WALKS.has(i.what) || i.what === 'swap');
  // The instrument in hand stays so until its pass is over.
  const underWay = bench.passes.findLast((p) => p.kind === 'check');
  const [held, setHeld] = useState<string | undefined>(
    underWay?.visit && !underWay.over ? underWay.instrumentId : undefined,
  );
  const inHand = held ?? items[0]?.instrumentId;
  const life = bench.instruments.find((i) => i.record.instrumentId === inHand) ?? bench.instruments[0];
  if (!show || !life)
    return (
      <div className="p-10">
        <h1 className="text-2xl font-bold">No show ahead</h1>
        <p className="pt-2">Set the show in the plan: then this says, one line at a time, what to tune and when.</p>
      </div>
    );
  const pauseS = PAUSES_S[pause]!;
  return (
    <Wings
      key={life.record.instrumentId}
      life={life}
      show={show}
      ready={plan !== undefined}
      next={items[0]}
      after={items.slice(1, 1 + SHOWN_AFTER)}
      nameOf={(id) => bench.instruments.find((i) => i.record.instrumentId === id)?.record.name ?? id}
      pauseS={pauseS}
      afford={Math.max(1, Math.floor((pauseS - WALK_S) / (60 * perString)))}
      onPause={() => setPause((p) => (p + 1) % PAUSES_S.length)}
      onHold={setHeld}
      message={message}
      say={say}
    />
  );
}
