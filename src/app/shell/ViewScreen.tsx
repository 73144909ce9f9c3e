import { lazy, Suspense, useEffect, type ComponentType } from 'react';
import { useLocation } from 'react-router';
import type { InstrumentLife } from '../../core/log';
import { focusWork, VIEW_ID } from '../parts/focus';
import { useWorld } from '../world/world';
import { Boundary } from './Boundary';
import { VIEWS, type ViewLine } from './views';

/** Each view is loaded when it is wanted first. */
const SCREENS = new Map<string, ComponentType<{ life: InstrumentLife }>>(
  VIEWS.map((v) => [v.path, lazy(v.load as () => Promise<{ default: ComponentType<{ life: InstrumentLife }> }>)]),
);

/** A view in its frame: loaded when wanted, its faults caught, the keys handed to its work. */
export function ViewScreen({ view, life }: { view: ViewLine; life?: InstrumentLife }) {
  const { world, allRecords } = useWorld();
  const { pathname } = useLocation();
  const Screen = SCREENS.get(view.path)!;
  return (
    <Boundary world={world} place={pathname} known={allRecords}>
      <Suspense fallback={<p className="p-8 text-ink2">Opening …</p>}>
        <div id={VIEW_ID} tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
          <Screen key={view.of === 'instrument' && view.goesOn ? view.path : pathname} life={life!} />
          <Arrived at={pathname} />
        </div>
      </Suspense>
    </Boundary>
  );
}

/** A view that has come takes the keys. */
function Arrived({ at }: { at: string }) {
  useEffect(() => {
    // On a phone the page itself scrolls: a new view begins at its top.
    window.scrollTo(0, 0);
    focusWork();
  }, [at]);
  return null;
}
