import type { StringTruth } from '../../core/simulate';
import type { Listening } from './useListening';
import type { DemoControls } from '../world/demonstration/controls';

/** The simulated hands on one string: they pluck it as it then stands, and turn its tuner. @param truth undefined where none is in hand */
export const simulatedHands = (
  demo: DemoControls | undefined,
  instrumentId: string,
  truth: StringTruth | undefined,
  sound: Listening,
) => ({
  pluck: (hardness: number) =>
    truth && sound.pluck(() => demo?.stringOf(instrumentId, truth.stringId) ?? truth, hardness),
  turn: (cents: number) => truth && demo?.turn(instrumentId, truth.stringId, cents),
});
