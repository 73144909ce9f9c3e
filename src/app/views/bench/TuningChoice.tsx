import type { InstrumentLife } from '../../../core/log';
import { useTakingTuning } from '../../world/tunings';
import { keptTunings } from '../../../core/log';
import { useWorld } from '../../world/world';

const OWN = 'its own notes';

/** What the strings are tuned to: one choice among the tunings that this instrument has had. Nothing where it has had none. */
export function TuningChoice({ life, say }: { life: InstrumentLife; say: (sentence: string) => void }) {
  const { bench } = useWorld();
  const { take } = useTakingTuning(life, say);
  const { instrumentId, strings } = life.record;
  const kept = keptTunings(bench, instrumentId);
  if (kept.length === 0) return null;
  const choose = (name: string) => {
    const own = { name, strings: strings.map(({ stringId, note }) => ({ stringId, note, offsetCents: 0 })) };
    take(kept.find((t) => t.name === name) ?? own);
  };
  const names = [...new Set([OWN, ...kept.map((t) => t.name)])];
  return (
    <label className="ml-auto flex items-center gap-2">
      Tuned as
      <select
        className="max-w-64 rounded-md border border-ink2 bg-sheet px-2 py-0.5 text-ink"
        value={life.tuning?.name ?? OWN}
        onChange={(e) => choose(e.target.value)}
      >
        {names.map((n) => (
          <option key={n}>{n}</option>
        ))}
      </select>
    </label>
  );
}
