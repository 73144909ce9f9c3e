import type { ReactNode } from 'react';
import { Button } from '../parts/Button';
import type { DemoControls } from '../world/demonstration/controls';
import { MINUTE } from '../../core/base';

interface Hands {
  onPluck: (hardness: number) => void;
  onTurn: (cents: number) => void;
  /** It was taken beyond its limit: what to do. */
  broken: string | undefined;
  children?: ReactNode;
}

/** The simulated hands: pluck the named string, turn its tuner. */
export function HandControls({ onPluck, onTurn, broken, children }: Hands) {
  return (
    <fieldset className="rounded-lg border border-dashed border-line p-2">
      <legend className="px-1 text-xs text-ink2">Simulated instrument</legend>
      {broken && <p className="pb-2 text-sm font-semibold text-rust">{broken}</p>}
      <div className="flex flex-wrap gap-1.5">
        <Button hint="P" onClick={() => onPluck(0.4)}>
          Pluck
        </Button>
        <Button hint="↑" aria-label="Turn the tuner up" onClick={() => onTurn(2)}>
          Up
        </Button>
        <Button hint="↓" aria-label="Turn the tuner down" onClick={() => onTurn(-2)}>
          Down
        </Button>
        {children}
      </div>
    </fieldset>
  );
}

interface Props {
  demo: DemoControls;
  nowMs: () => number;
  curtainMs: number | null;
  onPluck: (hardness: number) => void;
  onTurn: (cents: number) => void;
  broken: boolean;
}

/** The hands of the demonstration, and its clock. */
export function SimulatorControls({ demo, nowMs, curtainMs, onPluck, onTurn, broken }: Props) {
  const skip = (minutes: number) => demo.moveClock(nowMs() + minutes * MINUTE);
  return (
    <HandControls
      onPluck={onPluck}
      onTurn={onTurn}
      broken={broken ? 'It broke. Put on a new string: press F.' : undefined}
    >
      <Button onClick={() => skip(10)}>+10 min</Button>
      <Button onClick={() => skip(60)}>+1 h</Button>
      <Button
        disabled={curtainMs === null || curtainMs <= nowMs()}
        onClick={() => curtainMs !== null && demo.moveClock(curtainMs)}
      >
        To the show
      </Button>
    </HandControls>
  );
}
