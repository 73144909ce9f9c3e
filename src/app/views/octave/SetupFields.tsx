import { useState } from 'react';
import { THREADS_MM, type SaddleSetup } from '../../../core/octave';
import { LENGTH_UNITS } from '../../../core/strings';
import { figureIn } from '../../parts/format';
import { Button } from '../../parts/Button';
import { UnitRadios } from '../../parts/UnitRadios';
import { useUnits } from '../../world/units';
const field = 'figure w-16 rounded-md border border-ink2 bg-sheet px-1.5 py-0.5';
const THREADS = Object.entries(THREADS_MM);

/** The owner's limit, the screws' thread, the travel of the saddles, and mm or inches. */
export function SetupFields({
  setup,
  onChange,
  loose,
  onAction,
}: {
  setup: SaddleSetup;
  onChange: (setup: SaddleSetup) => void;
  loose: boolean;
  /** The action was made higher (positive) or lower, mm. */
  onAction: (mm: number) => void;
}) {
  const [units, setUnits] = useUnits();
  const [action, setAction] = useState('');
  const actionMm = figureIn(action);
  const known = THREADS.some(([, mm]) => mm === setup.threadMm);
  return (
    <fieldset className="grid gap-1.5 pt-3 text-sm">
      <legend className="font-semibold">This bridge</legend>
      <label>
        Too far from{' '}
        <input
          className={field}
          defaultValue={setup.limitCents}
          onBlur={(e) => {
            const limitCents = figureIn(e.target.value);
            if (limitCents >= 1 && limitCents <= 30) onChange({ ...setup, limitCents });
            else e.target.value = String(setup.limitCents);
          }}
        />{' '}
        cents
      </label>
      {!loose && (
        <>
          <label>
            Screws{' '}
            <select
              className="rounded-md border border-ink2 bg-sheet px-1.5 py-0.5"
              value={known ? setup.threadMm : 'own'}
              onChange={(e) => e.target.value !== 'own' && onChange({ ...setup, threadMm: Number(e.target.value) })}
            >
              {THREADS.map(([name, mm]) => (
                <option key={name} value={mm}>
                  {name}
                </option>
              ))}
              <option value="own">own</option>
            </select>
          </label>
          <label>
            mm a turn{' '}
            <input
              className={field}
              key={setup.threadMm}
              defaultValue={setup.threadMm}
              onBlur={(e) => {
                const threadMm = figureIn(e.target.value);
                if (threadMm > 0.05 && threadMm <= 3) onChange({ ...setup, threadMm });
                else e.target.value = String(setup.threadMm);
              }}
            />
          </label>
          <label>
            Travel either way, mm{' '}
            <input
              className={field}
              defaultValue={setup.travelMm ?? ''}
              placeholder="?"
              onBlur={(e) => {
                const travelMm = e.target.value.trim() === '' ? null : figureIn(e.target.value);
                if (travelMm === null || (travelMm > 0 && travelMm <= 50)) onChange({ ...setup, travelMm });
                else e.target.value = String(setup.travelMm ?? '');
              }}
            />
          </label>
        </>
      )}
      <span className="flex flex-wrap items-center gap-x-1.5">
        <label>
          Action changed by, mm{' '}
          <input className={field} placeholder="−0.3" value={action} onChange={(e) => setAction(e.target.value)} />
        </label>
        <Button disabled={!(Math.abs(actionMm) >= 0.05 && Math.abs(actionMm) <= 5)} onClick={() => onAction(actionMm)}>
          Note it
        </Button>
      </span>
      <span className="flex items-center gap-2">
        Moves in
        <UnitRadios
          name="move-unit"
          units={LENGTH_UNITS}
          chosen={units.length}
          onChoose={(length) => setUnits({ ...units, length })}
        />
      </span>
    </fieldset>
  );
}
