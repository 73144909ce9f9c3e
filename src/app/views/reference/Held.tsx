import { LIMITED_BY, heldWords } from '../../../core/reference';
import { cents } from '../../../core/music';
import { useMoment, type Trace } from '../../guided/trace';

/** The tone while it is held: its frequency, how sure and why not surer, and how far from what is in force. */
export function HeldTone({ trace, fromHz }: { trace: Trace; fromHz: number }) {
  const steady = useMoment(trace, (m) => m.steady);
  if (steady === null || typeof steady === 'string')
    return <p className="text-sm text-ink2">Its frequency is shown while it sounds.</p>;
  return (
    <p data-testid="held">
      <span className="figure block text-[44px] leading-none font-bold">{steady.frequencyHz.toFixed(2)}</span>
      <span className="text-sm text-ink2">
        {heldWords(steady.sigmaCents, steady.lastsS, LIMITED_BY[steady.limit], cents(steady.frequencyHz, fromHz))}
      </span>
    </p>
  );
}
