import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { useEffect, useRef, type ReactNode } from 'react';
import { focusWork } from './focus';

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
  const wasOpen = useRef(open);
  useEffect(() => {
    if (wasOpen.current && !open) focusWork();
    wasOpen.current = open;
  }, [open]);
  // A sheet that is taken away while it is open hands the keys back too.
  useEffect(
    () => () => {
      if (wasOpen.current) focusWork();
    },
    [],
  );
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <DialogBackdrop className="fixed inset-0 bg-bar/50" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="max-h-full w-full max-w-md overflow-y-auto rounded-lg border border-line bg-sheet p-5 text-ink">
          <DialogTitle className="pb-3 text-lg font-bold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
