import { Dialog, DialogBackdrop, DialogPanel } from '@headlessui/react';
import { Search } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { KEYS } from '../keys/table';
import { usePedal } from '../keys/usePedal';

const Wants = lazy(() => import('./Wants').then((m) => ({ default: m.Wants })));

/** 'I want to …': a search over everything that can be done, in words of people. */
export function WantTo() {
  const [open, setOpen] = useState(false);
  usePedal({ want: KEYS.general.want }, { want: () => setOpen(true) });
  return (
    <>
      <button
        type="button"
        aria-label="I want to …"
        title="I want to … (/)"
        className="flex items-center gap-1.5 rounded-md border border-line p-2 text-sm whitespace-nowrap text-ink2"
        onClick={() => setOpen(true)}
      >
        <Search size={16} aria-hidden />
        <span className="max-xl:sr-only">I want to …</span>
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} className="relative z-30">
        <DialogBackdrop className="fixed inset-0 bg-bar/50" />
        <div className="fixed inset-0 flex justify-center p-4 pt-[12vh]">
          <DialogPanel className="h-fit w-full max-w-lg rounded-lg border border-line bg-sheet p-4 text-ink">
            <Suspense fallback={<p>Opening …</p>}>
              <Wants onDone={() => setOpen(false)} />
            </Suspense>
          </DialogPanel>
        </div>
      </Dialog>
    </>
  );
}
