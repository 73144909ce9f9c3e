import type { UseFormRegister } from 'react-hook-form';
import type { Fields } from './fields';

const field = 'rounded-md border border-ink2 bg-sheet px-2 py-1 max-sm:min-h-11';

/** How the instrument is built, to be opened: which steps, which words and which tuner are told rests on it. */
export function BuildFields({ register, open = false }: { register: UseFormRegister<Fields>; open?: boolean }) {
  return (
    <details open={open}>
      <summary className="cursor-pointer text-sm font-semibold">Its build</summary>
      <div className="flex flex-wrap items-end gap-x-5 gap-y-3 pt-2 text-sm">
        <label className="grid gap-1">
          Tuners
          <select className={field} {...register('build.tuner')}>
            <option value="geared">geared tuners</option>
            <option value="friction-peg">friction pegs</option>
            <option value="pin">pins, by a key</option>
          </select>
        </label>
        <label className="grid gap-1">
          What the strings hold in place
          <select className={field} {...register('build.holds')}>
            <option value="nothing">nothing: the bridge is fast</option>
            <option value="loose-bridge">a loose bridge</option>
            <option value="bridge-and-soundpost">bridge and soundpost</option>
            <option value="springs">a floating bridge, against springs</option>
          </select>
        </label>
        {(
          [
            ['fineTuners', 'fine tuners'],
            ['frets', 'frets'],
            ['bowed', 'bowed'],
            ['tree', 'string guides on the head'],
            ['locking', 'clamps at the nut'],
          ] as const
        ).map(([name, words]) => (
          <label key={name} className="flex items-center gap-1.5 py-1">
            <input type="checkbox" {...register(`build.${name}`)} />
            {words}
          </label>
        ))}
      </div>
    </details>
  );
}
