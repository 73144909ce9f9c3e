import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import Fuse from 'fuse.js';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useWorld } from '../world/world';
import { inHand } from './in-hand';
import { TAB_GROUPS, pathTo, PLACES, VIEWS, viewsOf } from './views';

interface Want {
  words: string;
  /** Where it is found without searching. */
  under: string;
  wants: readonly string[];
  to: string;
}
const MOST = 8;

/** Everything that can be gone to: jobs of the instrument in hand, other instruments, what is about all. */
function useWants(): Want[] {
  const { bench, basePath, world } = useWorld();
  const { instrumentId } = useParams();
  return useMemo(() => {
    const { instruments } = bench;
    const find = (id: string | undefined) => instruments.find((i) => i.record.instrumentId === id);
    const life = find(instrumentId) ?? find(inHand(world) ?? undefined) ?? instruments[0];
    const own = life
      ? viewsOf(life).map((v) => ({
          words: v.title,
          under: `${life.record.name}, ${TAB_GROUPS[v.job]}`,
          wants: v.wants,
          to: pathTo(basePath, v, life),
        }))
      : [];
    const general = VIEWS.flatMap((v) =>
      v.of === 'all' ? [{ words: v.title, under: PLACES[v.place], wants: v.wants, to: `${basePath}/${v.path}` }] : [],
    );
    const others = instruments.map(({ record }) => ({
      words: record.name,
      under: 'Choose this instrument',
      wants: [],
      to: `${basePath}/bench/${record.instrumentId}`,
    }));
    const away = bench.away.map(({ name }) => ({
      words: `Bring ${name} back`,
      under: 'All instruments, put away',
      wants: [`put away ${name}`],
      to: `${basePath}/rack`,
    }));
    return [...own, ...general, ...others, ...away];
  }, [bench, basePath, world, instrumentId]);
}

/** Everything that can be done, searched in words of people. */
export function Wants({ onDone }: { onDone: () => void }) {
  const wants = useWants();
  const navigate = useNavigate();
  const [asked, setAsked] = useState('');
  const fuse = useMemo(
    () =>
      new Fuse(wants, {
        keys: [
          { name: 'words', weight: 2 },
          { name: 'wants', weight: 2 },
          { name: 'under', weight: 0.5 },
        ],
        ignoreLocation: true,
        threshold: 0.35,
      }),
    [wants],
  );
  const found = asked.trim() === '' ? wants.slice(0, MOST) : fuse.search(asked, { limit: MOST }).map((f) => f.item);
  const go = (want: Want | null) => {
    if (!want) return;
    onDone();
    void navigate(want.to);
  };
  return (
    <Combobox onChange={go}>
      <label className="block pb-2 text-lg font-bold" htmlFor="want">
        I want to …
      </label>
      <ComboboxInput
        id="want"
        autoFocus
        autoComplete="off"
        placeholder="stop it going flat when I bend"
        className="w-full rounded-md border border-ink2 bg-paper px-3 py-2"
        onChange={(e) => setAsked(e.target.value)}
      />
      <ComboboxOptions static modal={false} className="max-h-[50vh] overflow-y-auto pt-2">
        {found.map((want) => (
          <ComboboxOption
            key={want.to + want.under}
            value={want}
            className="flex cursor-pointer items-baseline justify-between gap-3 rounded-md px-3 py-2 data-focus:bg-deep data-focus:text-sheet"
          >
            <span className="font-semibold">{want.words}</span>
            <span className="text-sm">{want.under}</span>
          </ComboboxOption>
        ))}
      </ComboboxOptions>
      {found.length === 0 && (
        <p role="status" className="px-3 py-2 text-sm">
          Nothing here is called that. Try fewer words: flat, saddle, new strings, show.
        </p>
      )}
    </Combobox>
  );
}
