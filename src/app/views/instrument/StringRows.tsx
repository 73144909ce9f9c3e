import { ArrowDown, ArrowUp, Copy, X } from 'lucide-react';
import { useState } from 'react';
import { Controller, type useFieldArray, type UseFormReturn } from 'react-hook-form';
import { MATERIAL_NAMES, STRING_MATERIALS, traitsOf, tunerPlace } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { GaugeInput } from '../../parts/GaugeInput';
import { Modal } from '../../parts/Modal';
import { Fault } from './Fault';
import { freshRow, type Fields, type StringFields } from './fields';

interface Props {
  form: UseFormReturn<Fields>;
  rows: ReturnType<typeof useFieldArray<Fields, 'strings', 'key'>>;
  /** How many readings a string has: one that has some is not taken away without a question. */
  readingsOf: (stringId: string) => number;
}

const field = 'figure w-full rounded-md border border-ink2 bg-sheet px-2 py-1 text-sm max-sm:min-h-11';
const small = 'rounded-md border border-line p-1.5 disabled:opacity-40 max-sm:p-3';

/** The strings in the instrument's own order, each editable where it stands; moved, doubled, taken away and brought back. */
export function StringRows({ form, rows, readingsOf }: Props) {
  const { register, control, formState, watch } = form;
  const [asks, setAsks] = useState<number | undefined>(undefined);
  const [gone, setGone] = useState<{ index: number; row: StringFields } | undefined>(undefined);
  const each = watch('strung') === 'each';
  const { layout } = traitsOf({ family: watch('family'), build: watch('build') });
  const takeAway = (index: number) => {
    setGone({ index, row: form.getValues(`strings.${index}`) });
    rows.remove(index);
    setAsks(undefined);
  };
  const head = 'max-lg:sr-only';
  const grid = `grid items-start gap-2 lg:grid-cols-[1.6rem_5rem_minmax(8rem,1fr)_7rem_7rem_minmax(9rem,1.2fr)_9.5rem] max-lg:grid-cols-4 max-sm:grid-cols-2`;
  return (
    <fieldset className="pt-5">
      <legend className="pb-1 text-sm font-semibold">Strings, in the instrument’s own order</legend>
      <p aria-hidden="true" className={`${grid} pb-1 text-xs text-ink2 ${head}`}>
        <span />
        <span>Note</span>
        <span>Material</span>
        <span>Gauge, mm or inches</span>
        <span>Speaking length, mm</span>
        <span>Its tuner</span>
      </p>
      <ol>
        {rows.fields.map((row, i) => {
          const e = formState.errors.strings?.[i];
          const label = (what: string) => `String ${i + 1}, ${what}`;
          const { note } = row;
          return (
            <li key={row.key} className={`${grid} border-t border-line py-1.5`}>
              <span className="figure pt-1 text-sm max-lg:hidden">{i + 1}</span>
              <span>
                <input
                  className={field}
                  placeholder="A2"
                  aria-label={label('note')}
                  aria-invalid={!!e?.note}
                  {...register(`strings.${i}.note`, { setValueAs: (v: string) => v.trim() })}
                />
                <Fault>{e?.note?.message}</Fault>
              </span>
              <select className={field} aria-label={label('material')} {...register(`strings.${i}.material`)}>
                {STRING_MATERIALS.map((m) => (
                  <option key={m} value={m}>
                    {MATERIAL_NAMES[m]}
                  </option>
                ))}
              </select>
              <span>
                <Controller
                  control={control}
                  name={`strings.${i}.gaugeMm`}
                  render={({ field: { value, onChange } }) => (
                    <GaugeInput className={field} label={label('gauge')} value={value ?? null} onChange={onChange} />
                  )}
                />
                <Fault>{e?.gaugeMm?.message}</Fault>
              </span>
              <span>
                <input
                  className={field}
                  inputMode="decimal"
                  aria-label={label('speaking length in mm')}
                  aria-invalid={!!e?.lengthMm}
                  {...register(`strings.${i}.lengthMm`, {
                    setValueAs: (v: unknown) => (v === '' ? NaN : Number(String(v).replace(',', '.'))),
                  })}
                />
                <Fault>{e?.lengthMm?.message}</Fault>
              </span>
              <span>
                <input
                  className={`${field} font-sans`}
                  aria-label={label('its tuner')}
                  placeholder={tunerPlace(layout, i, rows.fields.length).words.replace(/:.*/, '')}
                  maxLength={60}
                  {...register(`strings.${i}.tuner`)}
                />
                <Fault>{e?.tuner?.message}</Fault>
                {each && (
                  <>
                    <input
                      type="datetime-local"
                      className={`${field} mt-1`}
                      aria-label={label('strung at; empty for long ago')}
                      {...register(`strings.${i}.strungAt`)}
                    />
                    <Fault>{e?.strungAt?.message}</Fault>
                  </>
                )}
              </span>
              <span className="flex gap-1">
                <button
                  type="button"
                  className={small}
                  disabled={i === 0}
                  aria-label={`Move string ${i + 1} up`}
                  onClick={() => rows.move(i, i - 1)}
                >
                  <ArrowUp size={14} aria-hidden />
                </button>
                <button
                  type="button"
                  className={small}
                  disabled={i === rows.fields.length - 1}
                  aria-label={`Move string ${i + 1} down`}
                  onClick={() => rows.move(i, i + 1)}
                >
                  <ArrowDown size={14} aria-hidden />
                </button>
                <button
                  type="button"
                  className={small}
                  title="Double it: a second string of the course"
                  aria-label={`Double string ${i + 1}`}
                  onClick={() => rows.insert(i + 1, freshRow(form.getValues(`strings.${i}`)))}
                >
                  <Copy size={14} aria-hidden />
                </button>
                <button
                  type="button"
                  className={small}
                  aria-label={`Remove string ${i + 1}`}
                  onClick={() => (readingsOf(row.stringId) > 0 ? setAsks(i) : takeAway(i))}
                >
                  <X size={14} aria-hidden />
                </button>
              </span>
              {asks === i && (
                <Modal open title={`Remove string ${i + 1}, ${note}?`} onClose={() => setAsks(undefined)}>
                  <p className="text-sm">
                    It has {readingsOf(row.stringId)} readings. They stay in the log, and come back with it if you bring
                    it back.
                  </p>
                  <div className="flex gap-2 pt-4">
                    <Button strong onClick={() => takeAway(i)}>
                      Remove it
                    </Button>
                    <Button onClick={() => setAsks(undefined)}>Leave it</Button>
                  </div>
                </Modal>
              )}
            </li>
          );
        })}
      </ol>
      <Fault>
        {formState.errors.strings?.root?.message ??
          (formState.errors.strings as { message?: string } | undefined)?.message}
      </Fault>
      <div className="flex flex-wrap items-center gap-2 pt-2">
        <Button onClick={() => rows.append(freshRow())}>Add a string</Button>
        {gone && (
          <Button
            onClick={() => {
              rows.insert(Math.min(gone.index, rows.fields.length), gone.row);
              setGone(undefined);
            }}
          >
            Bring string {gone.row.note} back
          </Button>
        )}
      </div>
    </fieldset>
  );
}
