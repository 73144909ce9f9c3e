import clsx from 'clsx';
import { useMemo, useState } from 'react';
import { describedIn, freeName, type InstrumentRecord } from '../../../core/log';
import { FAMILIES } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { useWorld } from '../../world/world';
import { BuildFields } from './BuildFields';
import { FamilyDrawing } from './FamilyDrawing';
import { Fault } from './Fault';
import { PutAwayList } from '../../parts/PutAwayList';
import { useAway } from '../../world/away';
import { buildOf, rowsOf, rowsOfFamily, type Fields } from './fields';
import { NameField } from './NameField';
import { StringRows } from './StringRows';
import { StrungFields } from './StrungFields';
import { useInstrumentForm } from './useInstrumentForm';

const OWN = 'own';
const START: Fields = {
  name: '',
  family: OWN,
  build: buildOf({ family: OWN }),
  strung: 'now',
  strungAt: '',
  strings: [],
};

/** What can be put on the bench: a family's usual set, one like another that is known, one written by hand. */
interface Choice {
  key: string;
  name: string;
  code: string;
  record?: InstrumentRecord;
}

/** Put an instrument on the bench: type or choose its family; details can wait. */
export function AddView() {
  const { bench } = useWorld();
  const { form, rows, keep, taken } = useInstrumentForm(START, undefined);
  const { bringBack } = useAway((message) => form.setError('root', { message }));
  const { register, formState, watch, setValue } = form;
  const written = formState.dirtyFields.strings !== undefined;
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState('');
  const [before, setBefore] = useState<Fields | undefined>(undefined);

  const choices = useMemo((): Choice[] => {
    const known = describedIn(bench);
    const uses = (code: string) => known.filter((r) => r.family === code).length;
    return [
      ...FAMILIES.map(({ code, name }) => ({ key: code, code, name })).sort((a, b) => uses(b.code) - uses(a.code)),
      ...known.map((record) => ({
        key: `like/${record.instrumentId}`,
        code: record.family,
        name: `Like ${record.name}`,
        record,
      })),
      { key: OWN, code: OWN, name: 'Another: write its strings' },
    ];
  }, [bench]);
  const wanted = text.trim().toLowerCase().split(/\s+/);
  const found = choices.filter((c) => wanted.every((w) => c.name.toLowerCase().includes(w)));

  const fieldsFor = (c: Choice): Fields => {
    const f = form.getValues();
    const typed = f.name !== '' && !choices.some((x) => f.name.startsWith(nameOf(x)));
    return {
      ...f,
      name: typed ? f.name : c.key === OWN ? '' : freeName(nameOf(c), taken),
      family: c.code,
      build: buildOf(c.record ?? { family: c.code }),
      strings: c.record ? rowsOf(c.record) : rowsOfFamily(c.code),
    };
  };
  const choose = (c: Choice) => {
    // What was written by hand is not wiped without a way back.
    if (written) setBefore(form.getValues());
    form.reset(fieldsFor(c), { keepDefaultValues: false });
    setChosen(c.key);
  };
  const put = (c: Choice | undefined) => {
    if (!c) return;
    if (c.key === OWN) choose(c);
    else void keep(fieldsFor(c));
  };

  return (
    <form
      noValidate
      onSubmit={(e) => void form.handleSubmit(keep)(e)}
      className="w-full max-w-5xl overflow-y-auto px-5 py-4"
    >
      <h1 className="text-2xl font-bold">Add an instrument</h1>
      <div className="flex flex-wrap items-end gap-x-8 gap-y-3 pt-3">
        <label className="w-[25rem] max-w-full text-sm font-semibold">
          Which one? Enter puts the first that fits on the bench
          <input
            autoFocus
            type="search"
            value={text}
            placeholder="viola, nylon, kantele …"
            className="w-full rounded-md border border-ink2 bg-sheet px-3 py-2 text-base font-normal"
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              e.preventDefault();
              put(found[0]);
            }}
          />
        </label>
        <StrungFields
          form={form}
          words={[
            ['now', 'just now'],
            ['earlier', 'at'],
            ['each', 'some strings are older'],
            ['same', 'long ago'],
          ]}
        />
      </div>
      <ul aria-label="Families" className="flex flex-wrap gap-2 pt-3">
        {found.map((c) => (
          <li key={c.key}>
            <button
              type="button"
              aria-pressed={chosen === c.key}
              className={clsx(
                'flex h-full w-40 items-center gap-2 rounded-lg border p-1.5 text-left text-sm leading-tight max-sm:w-[44vw]',
                chosen === c.key ? 'border-ink bg-sheet font-semibold' : 'border-line',
              )}
              onClick={() => choose(c)}
              onKeyDown={(e) => {
                if (e.key !== 'Enter') return;
                e.preventDefault();
                put(c);
              }}
            >
              <FamilyDrawing
                family={{
                  code: c.code,
                  strings: c.record?.strings ?? FAMILIES.find((f) => f.code === c.code)?.strings ?? [],
                }}
              />
              {c.name}
            </button>
          </li>
        ))}
        {found.length === 0 && (
          <li className="py-2 text-sm">
            None of these has that name.{' '}
            <button
              type="button"
              className="text-deep underline underline-offset-4"
              onClick={() => {
                setText('');
                choose(choices.at(-1)!);
                setValue('name', text.trim());
              }}
            >
              Write its strings yourself
            </button>
          </li>
        )}
      </ul>
      {before && (
        <p role="status" className="flex flex-wrap items-center gap-3 pt-2 text-sm">
          The strings that you wrote were replaced.
          <Button
            onClick={() => {
              form.reset(before, { keepDefaultValues: true });
              setChosen(before.family);
              setBefore(undefined);
            }}
          >
            Bring them back
          </Button>
        </p>
      )}
      {chosen !== '' && (
        <>
          <div className="pt-4">
            <NameField form={form} />
          </div>
          <div className="pt-3">
            <BuildFields register={register} open={watch('family') === OWN} />
          </div>
          <StringRows form={form} rows={rows} readingsOf={() => 0} />
          <Fault>{formState.errors.root?.message}</Fault>
          <div className="flex flex-wrap gap-2 pt-4">
            <Button strong type="submit">
              Add it
            </Button>
          </div>
        </>
      )}
      <PutAwayList away={bench.away} onBringBack={bringBack} />
      <p className="pt-4 text-xs text-ink2">
        The gauges are usual ones: change them to what the packet says. Leave unknown ones empty; then no tension is
        shown.
      </p>
    </form>
  );
}

const nameOf = (c: Choice): string =>
  c.record ? c.record.name : (FAMILIES.find((f) => f.code === c.code)?.name ?? '');
