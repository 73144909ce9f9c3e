import { useState } from 'react';
import { useLocation } from 'react-router';
import { useAway, type Left } from '../world/away';
import { useWorld } from '../world/world';
import { NEWER_IS_OPEN } from '../store/database';

const LINE = 'flex min-h-7 flex-wrap items-center gap-3 bg-land px-5 py-1 text-sm print:hidden';
const WAY = 'underline underline-offset-4';

/** What was just done, with a way back; and what another tab does to this one. */
export function Notices() {
  const { bench, stand } = useWorld();
  const [trouble, say] = useState('');
  const { bringBack } = useAway(say);
  const { putAway } = (useLocation().state ?? {}) as Left;
  const gone = bench.away.find((r) => r.instrumentId === putAway);
  return (
    <>
      {stand === 'newer is open' && (
        <p role="alert" className={`${LINE} font-semibold`}>
          {NEWER_IS_OPEN}
          <button type="button" className={WAY} onClick={() => window.location.reload()}>
            Reload
          </button>
        </p>
      )}
      {stand === 'older is open' && (
        <p role="status" className={LINE}>
          An older version of this app is open in another tab. Reload that one, or close it.
        </p>
      )}
      {gone && (
        <p role="status" className={LINE}>
          {gone.name} was put away, with all that is known of it.
          <button type="button" className={WAY} onClick={() => bringBack(gone)}>
            Bring it back
          </button>
          {trouble}
        </p>
      )}
    </>
  );
}
