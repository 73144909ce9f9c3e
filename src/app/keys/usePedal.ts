import { useEffect, useLayoutEffect, useRef } from 'react';
import { flushSync } from 'react-dom';
import type { Acts, KeyLines } from './table';

/** A button that was reached by Tab has its own Enter and Space; one that was clicked, or came back when a menu closed, has not. It outlives the view. */
let tabbed = false;
window.addEventListener('pointerdown', () => {
  tabbed = false;
});
window.addEventListener(
  'keydown',
  (event) => {
    if (event.key === 'Tab') tabbed = true;
    else if ((event.target as Element).closest?.('[role="menu"], [role="dialog"]')) tabbed = false;
  },
  true,
);

/** A view's keys, a page-turn pedal's among them. They act only when no field, button or dialog has focus. */
export function usePedal<Lines extends KeyLines>(lines: Lines, acts: Acts<Lines>): void {
  const latest = useRef({ lines, acts });
  // With the commit that shows an instruction, not after it: a key pressed at once must not meet the step before.
  useLayoutEffect(() => {
    latest.current = { lines, acts };
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      // A box that is ticked by Space leaves the other keys to the view.
      if (event.key === ' ' && at.closest('input')) return;
      if (
        at.closest('input:not([type="checkbox"]), textarea, select, [role="dialog"], [role="listbox"], [role="menu"]')
      )
        return;
      const control = at.closest('button, a');
      if ((event.key === 'Enter' || event.key === ' ') && control && tabbed) return;
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const { lines: now, acts: doing } = latest.current;
      const name = Object.keys(now).find((n) => now[n]!.keys.includes(key));
      const act = name === undefined ? undefined : doing[name];
      if (!act) return;
      event.preventDefault();
      // Shown before the next key comes, so that two presses in a row do not meet the same step.
      flushSync(() => act(event.shiftKey, key));
    };
    window.addEventListener('keydown', onKey);
    return () => {
      window.removeEventListener('keydown', onKey);
    };
  }, []);
}
