import { useState } from 'react';
import { STRETCH_SCHOOLS, type StretchSchool } from '../../../core/fitting';
import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';
import { useDigits } from '../../keys/digits';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { useWorld } from '../../world/world';
import { useNavigate } from 'react-router';
import { WORK_ID } from '../../parts/focus';

/** Which strings, and how they will be stretched. */
export function Chooser({
  life,
  onStart,
}: {
  life: InstrumentLife;
  onStart: (stringIds: string[], school: StretchSchool) => void;
}) {
  const [chosen, setChosen] = useState<string[]>(life.strings.map((s) => s.plan.stringId));
  const [school, setSchool] = useState<StretchSchool>('pull');
  const toggle = (id: string) =>
    setChosen((list) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id]));
  const start = () => chosen.length > 0 && onStart(chosen, school);
  const { basePath } = useWorld();
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const digit = useDigits(
    life.strings.length,
    (i) => {
      setTyped('');
      toggle(life.strings[i]!.plan.stringId);
    },
    setTyped,
  );
  usePedal(KEYS.fitting, {
    next: start,
    choose: (_, key) => digit(Number(key)),
    leave: () => void navigate(`${basePath}/bench/${life.record.instrumentId}`),
    back: undefined,
    listen: undefined,
    type: undefined,
    skip: undefined,
    note: undefined,
    warmed: undefined,
    pluck: undefined,
    turn: undefined,
  });
  return (
    <div id={WORK_ID} tabIndex={-1} className="flex w-full max-w-2xl flex-col gap-5 overflow-y-auto p-6">
      <h2 className="text-2xl font-bold">Fit strings</h2>
      <fieldset>
        <legend className="pb-2 font-semibold">Which strings are new</legend>
        <div className="flex flex-wrap gap-2">
          {life.strings.map((s, i) => (
            <Button
              key={s.plan.stringId}
              hint={String(i + 1)}
              strong={chosen.includes(s.plan.stringId)}
              aria-pressed={chosen.includes(s.plan.stringId)}
              onClick={() => toggle(s.plan.stringId)}
            >
              {s.plan.note}
            </Button>
          ))}
          {typed && <span className="figure">{typed} …</span>}
        </div>
      </fieldset>
      <fieldset>
        <legend className="pb-2 font-semibold">How you stretch by hand</legend>
        {STRETCH_SCHOOLS.map((s) => (
          <label key={s.code} className="flex items-start gap-2 py-1">
            <input
              type="radio"
              name="school"
              className="mt-1.5"
              checked={school === s.code}
              onChange={() => setSchool(s.code)}
            />
            <span>
              {s.name}
              <span className="block text-sm text-ink2">{s.how}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <div>
        <Button strong hint="Enter" disabled={chosen.length === 0} onClick={start}>
          Begin
        </Button>
      </div>
    </div>
  );
}
