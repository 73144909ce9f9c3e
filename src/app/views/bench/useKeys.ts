import { useEffect, useRef } from 'react';

export interface KeyActions {
  listenOrPause: () => void;
  keepOrNext: () => void;
  back: () => void;
  choose: (index: number) => void;
  takeBack: () => void;
  tone: () => void;
  insist: () => void;
  pluck: (hardness: number) => void;
  turn: (cents: number) => void;
}

/** The bench's keys, a page-turn pedal's among them. They act only when no field, button or dialog has focus. */
export function useKeys(actions: KeyActions, simulated: boolean): void {
  const latest = useRef(actions);
  useEffect(() => {
    latest.current = actions;
  });
  useEffect(() => {
    // A button that was clicked keeps the focus but not the pedal's presses; one reached by Tab has its own.
    let clicked: Element | null = null;
    const onPointer = (event: PointerEvent) => {
      clicked = (event.target as Element).closest('button, a');
    };
    const onKey = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (at.closest('input, textarea, select, [role="dialog"], [role="listbox"], [role="menu"]')) return;
      if (event.key === 'Tab') clicked = null;
      const control = at.closest('button, a');
      if ((event.key === 'Enter' || event.key === ' ') && control && control !== clicked) return;
      const a = latest.current;
      const step = event.shiftKey ? 15 : 2;
      const table: Record<string, (() => void) | undefined> = {
        ' ': a.listenOrPause,
        Enter: a.keepOrNext,
        PageDown: a.keepOrNext,
        PageUp: a.back,
        z: a.takeBack,
        t: a.tone,
        i: a.insist,
        ...(simulated
          ? {
              p: () => a.pluck(event.shiftKey ? 1 : 0.4),
              ArrowUp: () => a.turn(step),
              ArrowDown: () => a.turn(-step),
            }
          : {}),
      };
      const digit = /^[0-9]$/.test(event.key) ? (Number(event.key) + 9) % 10 : undefined;
      const act =
        digit === undefined
          ? table[event.key.length === 1 ? event.key.toLowerCase() : event.key]
          : () => a.choose(digit);
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('pointerdown', onPointer);
    window.addEventListener('keydown', onKey);
    return () => {
      window.removeEventListener('pointerdown', onPointer);
      window.removeEventListener('keydown', onKey);
    };
  }, [simulated]);
}
