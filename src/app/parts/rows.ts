import { observeElementRect, useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import type { RefObject } from 'react';

/** Rows drawn beyond what is seen. */
const BEYOND = 10;
/** Where nothing is laid out, as on paper, so much is drawn, pixels. */
const UNSEEN = { width: 1000, height: 800 };
type Observe = (
  instance: Virtualizer<HTMLDivElement, Element>,
  tell: (rect: typeof UNSEEN) => void,
) => (() => void) | undefined;
const observe: Observe = (instance, tell) =>
  observeElementRect(instance, (rect) => tell(rect.height > 0 ? rect : UNSEEN)) ?? undefined;

/** The rows of a long list that are seen, and a few more. @param rowPx how high one is, about */
export const useRows = (scroller: RefObject<HTMLDivElement | null>, count: number, rowPx: number) =>
  useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: BEYOND,
    initialRect: UNSEEN,
    observeElementRect: observe,
    measureElement: (element) => element.getBoundingClientRect().height || rowPx,
  });
