import { yupResolver } from '@hookform/resolvers/yup';
import { Controller, useFieldArray, useForm } from 'react-hook-form';
import { useNavigate, useParams } from 'react-router';
import { array, mixed, object, string, type InferType } from 'yup';
import { EARLIEST_MS } from '../../../core/limits';
import { gaugeField, instrumentName, lengthField, noteField, type InstrumentRecord } from '../../../core/records';
import { FAMILIES, MATERIAL_NAMES, STRING_MATERIALS, type StringMaterial } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { fromLocalField } from '../../parts/format';
import { GaugeInput } from '../../parts/GaugeInput';
import { heldInMemory } from '../../store/held';
import { useWorld } from '../../store/world';

const STRUNG = ['now', 'earlier', 'long ago'] as const;

const schema = object({
  name: instrumentName(),
  family: string().required(),
  strung: mixed<(typeof STRUNG)[number]>().oneOf(STRUNG).required(),
  strungAt: string()
    .when('strung', { is: 'earlier', then: (s) => s.required('Say when it was strung.') })
    .default(''),
  strings: array()
    .of(
      object({
        stringId: string().required(),
        note: noteField(),
        material: mixed<StringMaterial>().oneOf(STRING_MATERIALS).required(),
        gaugeMm: gaugeField().default(null),
        lengthMm: lengthField(),
      }),
    )
    .min(1, 'An instrument has at least one string.')
    .required(),
});
type Fields = InferType<typeof schema>;

const stringsOf = (code: string) =>
  (FAMILIES.find((f) => f.code === code)?.strings ?? []).map((s, i) => ({ ...s, stringId: `s${i + 1}` }));

const field = 'figure w-full rounded-md border border-ink2 bg-sheet px-2 py-1 text-sm';

/** Put an instrument on the bench, or edit one: choose a family, or write the strings by hand. */
export function InstrumentView() {
  const { instrumentId } = useParams();
  const { bench, append, basePath, nowMs, zoneMin } = useWorld();
  const navigate = useNavigate();
  const existing = bench.instruments.find((i) => i.record.instrumentId === instrumentId)?.record;
  const form = useForm<Fields>({
    resolver: yupResolver(schema),
    defaultValues: existing
      ? { name: existing.name, family: existing.family, strung: 'long ago', strungAt: '', strings: existing.strings }
      : { name: '', family: 'own', strung: 'now', strungAt: '', strings: [] },
  });
  const { register, control, handleSubmit, setValue, watch, formState, setError } = form;
  const { errors } = formState;
  const rows = useFieldArray({ control, name: 'strings', keyName: 'key' });

  const save = handleSubmit(async (values) => {
    const id = existing?.instrumentId ?? crypto.randomUUID();
    const strungMs =
      values.strung === 'now'
        ? nowMs()
        : values.strung === 'earlier'
          ? fromLocalField(values.strungAt, zoneMin)
          : undefined;
    if (strungMs !== undefined && !(strungMs <= nowMs() + 60000)) {
      setError('strungAt', { message: 'That time has not come yet.' });
      return;
    }
    if (strungMs !== undefined && strungMs < EARLIEST_MS) {
      setError('strungAt', { message: 'Strings are dated from 1970 on.' });
      return;
    }
    const plans = values.strings.map((s) => {
      const before = existing?.strings.find((e) => e.stringId === s.stringId);
      return {
        ...(before?.unitMassKgPerM ? { unitMassKgPerM: before.unitMassKgPerM } : {}),
        ...s,
        gaugeMm: s.gaugeMm ?? null,
      };
    });
    try {
      await append([
        {
          type: 'instrument',
          instrumentId: id,
          name: values.name,
          family: values.family,
          strings: plans,
        },
        ...(strungMs === undefined
          ? []
          : plans.map((s) => ({ type: 'fitted' as const, instrumentId: id, stringId: s.stringId, atMs: strungMs }))),
      ]);
    } catch (error) {
      setError('root', { message: heldInMemory(error as Error) });
      return;
    }
    await navigate(`${basePath}/bench/${id}`);
  });

  /** Off the bench or back on it, with all that is known of it. */
  const move = async ({ type, instrumentId: id, name, family, strings }: InstrumentRecord, away: boolean) => {
    try {
      await append([{ type, instrumentId: id, name, family, strings, ...(away ? { away } : {}) }]);
    } catch (error) {
      setError('root', { message: heldInMemory(error as Error) });
      return;
    }
    await navigate(`${basePath}/bench/${away ? '' : id}`);
  };

  const fault = (message: string | undefined, id: string) =>
    message && (
      <span id={id} role="alert" className="block text-xs text-rust">
        {message}
      </span>
    );

  return (
    <form onSubmit={(e) => void save(e)} noValidate className="mx-auto w-full max-w-4xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">{existing ? `Edit ${existing.name}` : 'Add an instrument'}</h1>
      {!existing && (
        <fieldset className="pt-4">
          <legend className="text-sm font-semibold">Choose its family, or write the strings by hand below</legend>
          <div className="flex flex-wrap gap-2 pt-2">
            {FAMILIES.map((f) => (
              <Button
                key={f.code}
                strong={watch('family') === f.code}
                aria-pressed={watch('family') === f.code}
                onClick={() => {
                  setValue('family', f.code);
                  if (watch('name') === '' || FAMILIES.some((g) => g.name === watch('name'))) setValue('name', f.name);
                  rows.replace(stringsOf(f.code));
                }}
              >
                {f.name}
              </Button>
            ))}
          </div>
        </fieldset>
      )}
      <div className="grid max-w-xl gap-3 pt-5">
        <label className="text-sm font-semibold">
          Name
          <input
            className={field}
            {...register('name', { setValueAs: (v: string) => v.trim() })}
            aria-invalid={!!errors.name}
          />
          {fault(errors.name?.message, 'name-fault')}
        </label>
        <fieldset className="text-sm">
          <legend className="font-semibold">{existing ? 'New strings?' : 'When was it strung?'}</legend>
          <div className="flex flex-wrap items-center gap-4 pt-1">
            {STRUNG.map((s) => (
              <label key={s} className="flex items-center gap-1.5">
                <input type="radio" value={s} {...register('strung')} />
                {existing
                  ? { now: 'restrung just now', earlier: 'restrung at', 'long ago': 'no, the same' }[s]
                  : { now: 'just now', earlier: 'at', 'long ago': 'long ago' }[s]}
              </label>
            ))}
            {watch('strung') === 'earlier' && (
              <label>
                <span className="sr-only">Strung at</span>
                <input
                  type="datetime-local"
                  className={field}
                  {...register('strungAt')}
                  aria-invalid={!!errors.strungAt}
                />
                {fault(errors.strungAt?.message, 'strung-fault')}
              </label>
            )}
          </div>
        </fieldset>
      </div>
      <table className="mt-5 w-full text-left text-sm">
        <caption className="pb-1 text-left font-semibold">Strings, in the instrument’s own order</caption>
        <thead>
          <tr className="text-xs text-ink2">
            <th scope="col">No.</th>
            <th scope="col">Note</th>
            <th scope="col">Material</th>
            <th scope="col">Gauge, mm or inches</th>
            <th scope="col">Speaking length, mm</th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.fields.map((row, i) => {
            const e = errors.strings?.[i];
            const label = (what: string) => `String ${i + 1}, ${what}`;
            return (
              <tr key={row.key} className="align-top">
                <td className="figure py-1 pr-2">{i + 1}</td>
                <td className="w-24 py-1 pr-2">
                  <input
                    className={field}
                    aria-label={label('note')}
                    aria-invalid={!!e?.note}
                    {...register(`strings.${i}.note`)}
                  />
                  {fault(e?.note?.message, `note-${i}`)}
                </td>
                <td className="py-1 pr-2">
                  <select className={field} aria-label={label('material')} {...register(`strings.${i}.material`)}>
                    {STRING_MATERIALS.map((m) => (
                      <option key={m} value={m}>
                        {MATERIAL_NAMES[m]}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="w-32 py-1 pr-2">
                  <Controller
                    control={control}
                    name={`strings.${i}.gaugeMm`}
                    render={({ field: { value, onChange } }) => (
                      <GaugeInput className={field} label={label('gauge')} value={value ?? null} onChange={onChange} />
                    )}
                  />
                  {fault(e?.gaugeMm?.message, `gauge-${i}`)}
                </td>
                <td className="w-36 py-1 pr-2">
                  <input
                    className={field}
                    inputMode="decimal"
                    aria-label={label('speaking length in mm')}
                    aria-invalid={!!e?.lengthMm}
                    {...register(`strings.${i}.lengthMm`, {
                      setValueAs: (v: unknown) => (v === '' ? NaN : Number(String(v).replace(',', '.'))),
                    })}
                  />
                  {fault(e?.lengthMm?.message, `length-${i}`)}
                </td>
                <td className="py-1">
                  <Button onClick={() => rows.remove(i)} aria-label={`Remove string ${i + 1}`}>
                    Remove
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {fault(
        errors.strings?.root?.message ?? (errors.strings as { message?: string } | undefined)?.message,
        'strings-fault',
      )}
      {fault(errors.root?.message, 'form-fault')}
      <div className="flex gap-2 pt-4">
        <Button
          onClick={() =>
            rows.append({
              stringId: `s${Date.now().toString(36)}`,
              note: '',
              material: 'unknown',
              gaugeMm: null,
              lengthMm: 650,
            })
          }
        >
          Add a string
        </Button>
        <Button strong type="submit">
          {existing ? 'Keep the changes' : 'Put it on the bench'}
        </Button>
        <Button onClick={() => void navigate(`${basePath}/bench`)}>Leave it</Button>
        {existing && <Button onClick={() => void move(existing, true)}>Put it away</Button>}
      </div>
      {!existing && bench.away.length > 0 && (
        <section className="pt-6 text-sm">
          <h2 className="font-semibold">Put away</h2>
          <ul className="flex flex-wrap gap-2 pt-2">
            {bench.away.map((record) => (
              <li key={record.instrumentId}>
                <Button onClick={() => void move(record, false)}>Bring {record.name} back</Button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="pt-4 text-xs text-ink2">
        Gauges of a family are usual ones; the packet’s word counts. Unknown stays empty: no tension is shown then.
      </p>
    </form>
  );
}
