import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';
import { useAway } from '../../world/away';
import { BuildFields } from './BuildFields';
import { Fault } from './Fault';
import { buildOf, rowsOf } from './fields';
import { NameField } from './NameField';
import { StringRows } from './StringRows';
import { StrungFields } from './StrungFields';
import { useInstrumentForm } from './useInstrumentForm';

/** The instrument in hand: its name, build and strings. */
export function EditView({ life }: { life: InstrumentLife }) {
  const { record } = life;
  const { form, rows, keep } = useInstrumentForm(
    {
      name: record.name,
      family: record.family,
      build: buildOf(record),
      strung: 'same',
      strungAt: '',
      strings: rowsOf(record),
    },
    record,
  );
  const { register, formState } = form;
  const { putAway } = useAway((message) => form.setError('root', { message }));
  const shown = new Set(rows.fields.map((f) => f.stringId));
  return (
    <form
      noValidate
      onSubmit={(e) => void form.handleSubmit(keep)(e)}
      className="w-full max-w-5xl overflow-y-auto px-4 py-3"
    >
      <div className="grid gap-4">
        <NameField form={form} />
        <StrungFields
          form={form}
          words={[
            ['same', 'no new strings'],
            ['now', 'new strings just now'],
            ['earlier', 'restrung at'],
            ['each', 'string by string'],
          ]}
        />
        <BuildFields register={register} />
      </div>
      <StringRows
        form={form}
        rows={rows}
        readingsOf={(id) => life.strings.find((s) => s.plan.stringId === id)?.readings.length ?? 0}
      />
      <Fault>{formState.errors.root?.message}</Fault>
      <div className="flex flex-wrap gap-2 pt-4">
        <Button strong type="submit">
          Save changes
        </Button>
        <Button onClick={() => form.reset()}>As it was</Button>
        <Button onClick={() => putAway(record)}>Put it away</Button>
        {(life.former ?? [])
          .filter((s) => !shown.has(s.stringId))
          .map((s) => (
            <Button key={s.stringId} onClick={() => rows.append(rowsOf({ ...record, strings: [s] }))}>
              Bring {s.note} back, which it had before
            </Button>
          ))}
      </div>
      <p className="pt-4 text-xs text-ink2">
        Give the gauges that the packet says. Leave unknown ones empty; then no tension is shown.
      </p>
    </form>
  );
}
