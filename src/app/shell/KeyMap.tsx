import { Keyboard } from 'lucide-react';
import { useEffect, useState } from 'react';
import { KEYS, type KeyLine } from '../keys/table';
import { Modal } from '../parts/Modal';
import type { ViewLine } from './views';

/** The keys of this view, and those that work in all; opened with '?'. */
export function KeyMap({ view, simulated }: { view: ViewLine; simulated: boolean }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === '?' && !(e.target as HTMLElement).closest('input, textarea, select, [role="dialog"]'))
        setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const { map, want, ...inInstrument } = KEYS.general;
  const general: KeyLine[] = [map, want, ...(view.of === 'instrument' ? Object.values(inInstrument) : [])];
  const own = Object.values(view.keys).filter((k) => simulated || !k.simulated);
  const list = (title: string, lines: readonly KeyLine[]) =>
    lines.length > 0 && (
      <>
        <h3 className="pt-2 pb-1 text-sm font-semibold text-ink2">{title}</h3>
        <dl className="grid grid-cols-[8.5rem_1fr] gap-y-1.5 text-sm">
          {lines.map(({ shown, words }) => (
            <div key={words} className="contents">
              <dt className="figure font-bold">{shown}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </>
    );
  return (
    <>
      <button
        type="button"
        aria-label="Keys"
        className="rounded-md border border-line p-2 max-sm:p-1.5"
        onClick={() => setOpen(true)}
      >
        <Keyboard size={16} aria-hidden />
      </button>
      <Modal open={open} title="Keys, and the pedal’s" onClose={() => setOpen(false)}>
        {list(view.title, own)}
        {list('Everywhere', general)}
        <p className="pt-3 text-xs text-ink2">
          A page-turn pedal sends Page Down, which does what Enter does, and Page Up. After a figure, ± is what nine of
          ten readings stay within.
        </p>
      </Modal>
    </>
  );
}
