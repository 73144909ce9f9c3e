import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { useEffect, useRef, type ReactNode } from 'react';
import { realClock } from '../world/clock';
import { focusWork } from './focus';

const AFTER_MENU_MS = 120;

/** A small sheet over the bench; it starts in its first field, Escape closes it, and the keys are the work's again. */
export function Modal({
  open,
  title,
  onClose,
  children,
}: {
  open: boolean;
  title: string;
  onClose: () => void;
  children: ReactNode;
}) {
  // Closed, or taken away while it is open, it hands the keys back.
  useEffect(() => (open ? focusWork : undefined), [open]);
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!open) return undefined;
    // A menu that opened it takes the focus back while it closes: the first field has it after that.
    return realClock.after(AFTER_MENU_MS, () => {
      if (!panel.current?.contains(document.activeElement))
        panel.current?.querySelector<HTMLElement>('input, select, textarea, button')?.focus();
    });
  }, [open]);
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <DialogBackdrop className="fixed inset-0 bg-bar/50" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel
          ref={panel}
          className="max-h-full w-full max-w-md overflow-y-auto rounded-lg border border-line bg-sheet p-5 text-ink"
        >
          <DialogTitle className="pb-3 text-lg font-bold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
