import { A4_MAX_HZ, A4_MIN_HZ } from '../../../core/music';
import { FORCE_UNITS, forceWords, LENGTH_UNITS, lengthIn, parseLengthMm, type SetLoad } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { UnitRadios } from '../../parts/UnitRadios';
import type { Units } from '../../world/units';

/** What is imagined of the set. */
export interface SetChange {
  /** Semitones. */
  shift: number;
  /** Another reference, Hz; null for the one in use. */
  a4Hz: number | null;
  /** Factor on every speaking length. */
  scale: number;
  /** Other gauges by string, mm. */
  gauges: Record<string, number | null>;
}

interface Props {
  change: SetChange;
  a4Hz: number;
  lengthMm: number;
  units: Units;
  reckoned: SetLoad;
  onChange: (change: SetChange) => void;
  onUnits: (units: Units) => void;
}

const SHIFTS = [-4, -3, -2, -1, 0, 1, 2];
const field = 'figure w-24 rounded-md border border-ink2 bg-sheet px-2 py-1 text-sm';

/** The controls of 'what if', the set's sum, and what to be warned of. */
export function WhatIf({ change, a4Hz, lengthMm, units, reckoned, onChange, onUnits }: Props) {
  const { loads, known, sumN, warnings } = reckoned;
  return (
    <div className="flex flex-col gap-4">
      <h2 className="text-lg font-bold">What if</h2>
      <fieldset>
        <legend className="pb-1 text-[13px] text-ink2">Tuned by semitones, or a capo’s worth</legend>
        <div className="flex flex-wrap gap-1">
          {SHIFTS.map((s) => (
            <Button
              key={s}
              className="figure px-2"
              strong={change.shift === s}
              aria-pressed={change.shift === s}
              onClick={() => onChange({ ...change, shift: s })}
            >
              {s === 0 ? 'as is' : s < 0 ? `−${-s}` : `+${s}`}
            </Button>
          ))}
        </div>
      </fieldset>
      <label className="flex items-center justify-between text-[13px] text-ink2">
        Reference A4, Hz
        <input
          type="number"
          min={A4_MIN_HZ}
          max={A4_MAX_HZ}
          step="any"
          className={field}
          defaultValue={change.a4Hz ?? a4Hz}
          onChange={(e) => {
            const hz = e.target.valueAsNumber;
            if (hz >= A4_MIN_HZ && hz <= A4_MAX_HZ) onChange({ ...change, a4Hz: hz });
          }}
        />
      </label>
      <label className="flex items-center justify-between text-[13px] text-ink2">
        First string’s length, {units.length}
        <input
          className={field}
          inputMode="decimal"
          key={units.length}
          defaultValue={Number(lengthIn(lengthMm * change.scale, units.length).toFixed(2))}
          onChange={(e) => {
            const mm = parseLengthMm(e.target.value, units.length);
            if (mm !== undefined && mm >= 80 && mm <= 2500) onChange({ ...change, scale: mm / lengthMm });
          }}
        />
      </label>
      <p className="text-[13px] text-ink2">Gauges: type another beside its string, as the packet writes it.</p>
      <p className="border-t border-line pt-3">
        <span className="figure text-3xl font-bold">{known > 0 ? forceWords(sumN, units.force) : 'unknown'}</span>
        <span className="block text-[13px] text-ink2">
          {known === loads.length ? 'pull of all strings' : `pull of the ${known} strings whose mass is known`}
        </span>
      </p>
      <ul aria-label="Warnings" className="flex flex-col gap-2">
        {warnings.map((w) => (
          <li key={w.message} className="rounded-md border border-rust p-2 text-sm text-rust">
            {w.message}
          </li>
        ))}
        {warnings.length === 0 && known > 0 && <li className="text-sm">Nothing to be warned of.</li>}
      </ul>
      <fieldset className="flex flex-wrap items-center gap-3 border-t border-line pt-3 text-[13px]">
        <legend className="sr-only">Units</legend>
        <UnitRadios
          name="length"
          units={LENGTH_UNITS}
          chosen={units.length}
          onChoose={(u) => onUnits({ ...units, length: u })}
        />
        <span className="text-line">|</span>
        <UnitRadios
          name="force"
          units={FORCE_UNITS}
          chosen={units.force}
          onChoose={(u) => onUnits({ ...units, force: u })}
        />
      </fieldset>
    </div>
  );
}
