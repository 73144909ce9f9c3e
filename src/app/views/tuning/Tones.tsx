import { useEffect, useState } from 'react';
import { octavesUp } from '../../sound/drone';
import { useDrone } from '../../sound/useDrone';
import { Button } from '../../parts/Button';
import { useWorld } from '../../world/world';

const LENGTHS = [1, 2, 5, Infinity];

/** A tone at a string's place: for a second or until it is stopped, at a level, where needed an octave or two up. */
export function Tones({
  note,
  frequencyHz,
  sounding,
  onSounding,
}: {
  note: string;
  frequencyHz: number;
  sounding: boolean;
  onSounding: (sounding: boolean) => void;
}) {
  const { clock } = useWorld();
  const [level, setLevel] = useState(0.6);
  const [seconds, setSeconds] = useState(Infinity);
  const [octaves, setOctaves] = useState<number | undefined>(undefined);
  const up = octaves ?? octavesUp(frequencyHz);
  const hz = frequencyHz * 2 ** up;
  useDrone(sounding ? hz : undefined, level);
  useEffect(() => {
    if (!sounding || !Number.isFinite(seconds)) return undefined;
    return clock.after(1000 * seconds, () => onSounding(false));
  }, [clock, sounding, hz, seconds, onSounding]);
  return (
    <div role="group" aria-label="Tone" className="flex flex-wrap items-center gap-x-4 gap-y-2 py-3 text-sm">
      <Button hint="T" strong={sounding} aria-pressed={sounding} onClick={() => onSounding(!sounding)}>
        {sounding ? `Sounding ${note}` : `Sound ${note}`}
      </Button>
      <label>
        for{' '}
        <select
          className="rounded-md border border-ink2 bg-sheet px-2 py-1"
          value={String(seconds)}
          onChange={(e) => setSeconds(Number(e.target.value))}
        >
          {LENGTHS.map((s) => (
            <option key={s} value={String(s)}>
              {Number.isFinite(s) ? `${s} s` : 'a drone'}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2">
        Level
        <input
          type="range"
          min={0.05}
          max={1}
          step={0.05}
          value={level}
          onChange={(e) => setLevel(e.target.valueAsNumber)}
        />
      </label>
      <label>
        <select
          aria-label="Octave of the tone"
          className="rounded-md border border-ink2 bg-sheet px-2 py-1"
          value={up}
          onChange={(e) => setOctaves(Number(e.target.value))}
        >
          <option value={0}>at its own octave</option>
          <option value={1}>an octave up</option>
          <option value={2}>two octaves up</option>
        </select>
      </label>
      <p className="w-full text-xs text-ink2" data-testid="tone-note">
        <span className="figure">{hz.toFixed(2)} Hz</span>
        {up > 0 && `, ${up === 1 ? 'an octave' : 'two octaves'} above the string, for small loudspeakers`}. It stops by
        itself before anything is read: a reading of one’s own loudspeaker would agree with itself.
      </p>
    </div>
  );
}
