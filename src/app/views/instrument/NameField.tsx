import type { UseFormReturn } from 'react-hook-form';
import { Fault } from './Fault';
import type { Fields } from './fields';

/** What the instrument is called. */
export const NameField = ({ form: { register, formState } }: { form: UseFormReturn<Fields> }) => (
  <div className="max-w-md">
    <label className="text-sm font-semibold">
      Name
      <input
        className="w-full rounded-md border border-ink2 bg-sheet px-2 py-1 font-normal"
        aria-invalid={!!formState.errors.name}
        {...register('name', { setValueAs: (v: string) => v.trim() })}
      />
    </label>
    <Fault>{formState.errors.name?.message}</Fault>
  </div>
);
