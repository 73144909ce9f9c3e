import type { Source } from '../../core/log';
import { useMoment, type Moment, type Trace } from './trace';
import { clamp } from '../../core/base';

const FLOOR_DB = -72;
/** How long the meter says that the input was overdriven, s. */
const CLIP_SHOWN_S = 2;

function sourceName(listening: Source | undefined): string {
  if (listening === 'microphone') return 'input';
  if (listening === 'simulated') return 'simulated';
  return listening === 'file' ? 'file' : 'not listening';
}

const newest = (m: Moment) => m.trail[m.trail.length - 1];
const along = (db: number) => clamp((db - FLOOR_DB) / -FLOOR_DB, 0, 1);

/** The level of what comes in, the room's, and whether it was too loud. */
export function Meter({ trace, listening }: { trace: Trace; listening: Source | undefined }) {
  const levelDb = useMoment(trace, (m) => Math.round(newest(m)?.levelDb ?? -Infinity));
  const floorDb = useMoment(trace, (m) => Math.round(newest(m)?.floorDb ?? -Infinity));
  const clipped = useMoment(trace, (m) => m.trail.some((p) => p.clipped && newest(m)!.tS - p.tS < CLIP_SHOWN_S));
  const deaf = useMoment(trace, (m) => m.deaf);
  const hears = listening !== undefined && Number.isFinite(levelDb);
  return (
    <div className="ml-auto flex items-center gap-3 max-sm:hidden">
      <div
        role="meter"
        aria-label="Input level"
        aria-valuemin={FLOOR_DB}
        aria-valuemax={0}
        aria-valuenow={clamp(hears ? levelDb : FLOOR_DB, FLOOR_DB, 0)}
        aria-valuetext={
          deaf ? 'not listening while the app plays a sound' : clipped ? 'too loud for the input' : undefined
        }
        className="relative h-2 w-24 overflow-hidden rounded bg-ink2/50"
      >
        <div className="h-full bg-onbar" style={{ width: `${(100 * (hears ? along(levelDb) : 0)).toFixed(0)}%` }} />
        {hears && (
          <div
            title="The room"
            className="absolute inset-y-0 w-0.5 bg-deep"
            style={{ left: `${(100 * along(floorDb)).toFixed(0)}%` }}
          />
        )}
      </div>
      <span className="figure w-32 text-right text-xs">
        {deaf ? 'the app is playing' : sourceName(listening)}
        {hears && !deaf && (clipped ? ' too loud' : ` ${levelDb < -99 ? '−∞' : `−${Math.abs(levelDb)}`} dB`)}
      </span>
    </div>
  );
}
