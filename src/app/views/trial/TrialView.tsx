import { FirstStep, PairSketch } from '../../parts/FirstStep';
import { useWorld } from '../../world/world';
import { TrialResult } from './TrialResult';
import { TrialSetup } from './TrialSetup';

/** Treated strings against untreated ones: what is compared, how it stands, and when it can be told. */
export function TrialView() {
  const { bench } = useWorld();
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_360px] overflow-y-auto max-lg:grid-cols-[minmax(0,1fr)]">
      <section className="px-5 py-3">
        <h1 className="pb-3 text-2xl font-bold">Compare treatments</h1>
        {bench.trials.length === 0 && (
          <FirstStep drawing={<PairSketch />}>
            Does stretching, warming or another brand of string help? Treat half of the strings, drawn by lot, leave the
            others alone, and read all of them as usual.
          </FirstStep>
        )}
        {[...bench.trials].reverse().map((t) => (
          <TrialResult key={t.trialId} trial={t} instruments={bench.instruments} />
        ))}
      </section>
      <aside aria-label="Set up" className="border-l border-line bg-sheet px-4 py-4 max-lg:border-l-0">
        <TrialSetup instruments={bench.instruments} />
      </aside>
    </div>
  );
}
