import clsx from 'clsx';
import type { Figure } from '../../../core/pass';
import type { TrackPoint } from '../../../core/pitch';
import type { StringPlan } from '../../../core/records';
import { GuardNote } from '../../pass/GuardNote';
import type { useGuard } from '../../pass/useGuard';
import { Button } from '../../parts/Button';
import { signed } from '../../parts/format';
import { NoteName } from '../../parts/NoteName';
import { Waterline } from '../../parts/Waterline';
import { Drops } from './Drops';
import type { useRounds } from './useRounds';

interface Props {
  plan: StringPlan;
  instruction: string;
  message: string;
  liveCents: number | null;
  faded: Figure | null;
  targetWords: string;
  trail: TrackPoint[];
  tolerance: number;
  guard: ReturnType<typeof useGuard>;
  rounds: ReturnType<typeof useRounds> | undefined;
  simulated: { pluck: (hardness: number) => void; turn: (cents: number) => void; broken: boolean } | undefined;
}

/** The sounding part of a step: the string, where it stands, what to do with the tuner; in rounds, the drops. */
export function SoundPanel(p: Props) {
  const { plan, rounds, simulated } = p;
  const shown = p.liveCents ?? p.faded?.cents ?? null;
  return (
    <div className="flex w-[340px] max-w-full flex-col gap-3 rounded-lg border border-line bg-sheet p-4">
      <div className="flex items-center justify-between">
        <NoteName note={plan.note} className="text-[64px] font-bold leading-none" />
        <span data-testid="live-cents" className="text-right">
          <span
            className={clsx(
              'figure block text-[44px] font-bold leading-none',
              p.liveCents === null && 'opacity-80',
              shown === null
                ? 'text-ink2'
                : shown < -p.tolerance
                  ? 'text-deep'
                  : shown > p.tolerance
                    ? 'text-sand'
                    : 'text-ink',
            )}
          >
            {shown === null ? '–' : signed(shown, Math.abs(shown) < 100 ? 1 : 0)}
          </span>
          <span className="text-xs text-ink2">{p.targetWords}</span>
        </span>
      </div>
      <p role="status" data-testid="instruction" className="min-h-7 text-xl font-semibold">
        {p.instruction}
      </p>
      <GuardNote call={p.guard} />
      {rounds && <Drops drops={rounds.drops} next={rounds.advice.next} />}
      {!(rounds && rounds.phase === 'stretch') && (
        <Waterline
          trail={p.trail}
          faded={p.faded?.cents ?? null}
          toleranceCents={p.tolerance}
          label={`Live pitch of ${plan.note} against its target`}
        />
      )}
      {rounds && (
        <p className="text-sm text-ink2">
          Round {rounds.drops.length + (rounds.phase === 'up' ? 0 : 1)}.{' '}
          {p.message.includes(rounds.advice.advice) ? '' : rounds.advice.advice}
        </p>
      )}
      <p role="status" data-testid="message" className="min-h-10 text-sm leading-snug">
        {p.message}
      </p>
      {simulated && (
        <fieldset className="rounded-lg border border-dashed border-line p-2">
          <legend className="px-1 text-xs text-ink2">Simulated instrument</legend>
          {simulated.broken && (
            <p className="pb-2 text-sm font-semibold text-rust">It broke. Page Up leads back to taking it off.</p>
          )}
          <div className="flex flex-wrap gap-1.5">
            <Button hint="P" onClick={() => simulated.pluck(0.4)}>
              Pluck
            </Button>
            <Button hint="↑" aria-label="Turn the tuner up" onClick={() => simulated.turn(2)}>
              Up
            </Button>
            <Button hint="↓" aria-label="Turn the tuner down" onClick={() => simulated.turn(-2)}>
              Down
            </Button>
          </div>
        </fieldset>
      )}
    </div>
  );
}
