import type { UseFormReturn } from 'react-hook-form';
import { Fault } from './Fault';
import type { Fields, Strung } from './fields';

/** When its strings were put on. */
export function StrungFields({ form, words }: { form: UseFormReturn<Fields>; words: [Strung, string][] }) {
  const { register, watch, formState } = form;
  return (
    <fieldset className="text-sm">
      <legend className="font-semibold">Strung</legend>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-1">
        {words.map(([value, say]) => (
          <label key={value} className="flex items-center gap-1.5 py-1">
            <input type="radio" value={value} {...register('strung')} />
            {say}
          </label>
        ))}
        {watch('strung') === 'earlier' && (
          <span>
            <input
              type="datetime-local"
              aria-label="Strung at"
              className="figure rounded-md border border-ink2 bg-sheet px-2 py-1"
              aria-invalid={!!formState.errors.strungAt}
              {...register('strungAt')}
            />
            <Fault>{formState.errors.strungAt?.message}</Fault>
          </span>
        )}
      </div>
    </fieldset>
  );
}
