import { useEffect, useRef } from 'react';
import type { SaddleSetup } from '../../../core/octave';
import type { Bench } from '../../../core/log';
import { settings } from '../../world/settings';

/** What was said of saddles on this device before it was kept in the log goes there, once. */
export function useEarlierSetup(instrumentId: string, { saddles }: Bench, keep: (setup: SaddleSetup) => void): void {
  const known = saddles.some((s) => s.instrumentId === instrumentId);
  const held = useRef(keep);
  useEffect(() => {
    held.current = keep;
  });
  useEffect(() => {
    if (known) return;
    const key = `bridge-setup/${instrumentId}`;
    void settings.getItem<SaddleSetup>(key).then((setup) => {
      if (setup) void settings.setItem(key, null).then(() => held.current(setup));
    });
  }, [instrumentId, known]);
}
