import type { Config, Data, Layout, PlotlyHTMLElement } from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';

interface Props {
  data: Data[];
  layout: Partial<Layout>;
  label: string;
  className?: string;
  /** A point was clicked: its id, and those of points that it hides or that hide it. */
  onPoints?: (ids: string[]) => void;
}

/** Points so near to each other are hard to tell apart, pixels. */
const NEAR_PX = 8;
interface Axis {
  d2p(value: unknown): number;
}
interface Point {
  customdata?: unknown;
  x?: unknown;
  y?: unknown;
  xaxis?: unknown;
  yaxis?: unknown;
}
type Line = { x?: unknown; y?: unknown; customdata?: unknown };

/** The id of a clicked point, first, and of those that lie on it. */
export function idsAt(point: Point | undefined, lines: readonly Line[]): string[] {
  if (typeof point?.customdata !== 'string') return [];
  const [xAxis, yAxis] = [point.xaxis, point.yaxis] as [Axis, Axis];
  const away = (x: unknown, y: unknown) =>
    Math.hypot(xAxis.d2p(x) - xAxis.d2p(point.x), yAxis.d2p(y) - yAxis.d2p(point.y));
  const near = lines.flatMap(({ x, y, customdata }) =>
    Array.isArray(x) && Array.isArray(y) && Array.isArray(customdata)
      ? customdata.flatMap((id: unknown, i) => (typeof id === 'string' && away(x[i], y[i]) < NEAR_PX ? [id] : []))
      : [],
  );
  return [...new Set([point.customdata, ...near])];
}

const CONFIG: Partial<Config> = { displayModeBar: false, responsive: true, scrollZoom: false };

/** A token of the day or night chart as it is now. */
export const token = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** A chart by Plotly, which is loaded when the first one is drawn. What it shows is also said in words beside it. */
export function Chart({ data, layout, label, className, onPoints }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const tell = useRef(onPoints);
  useEffect(() => {
    tell.current = onPoints;
  });
  useEffect(() => {
    const div = box.current;
    if (!div) return;
    let gone = false;
    void import('plotly.js-basic-dist-min').then(async ({ default: Plotly }) => {
      if (gone) return;
      const drawn = (await Plotly.react(div, data, layout, CONFIG)) as PlotlyHTMLElement;
      drawn.removeAllListeners?.('plotly_click');
      drawn.on('plotly_click', (event) => {
        const ids = idsAt(event.points[0], data as readonly Line[]);
        if (ids.length > 0) tell.current?.(ids);
      });
    });
    return () => {
      gone = true;
    };
  }, [data, layout]);
  // Its listeners on the window would hold the whole view for ever.
  useEffect(() => {
    const div = box.current!;
    return () => void import('plotly.js-basic-dist-min').then(({ default: Plotly }) => Plotly.purge(div));
  }, []);
  return <div ref={box} role="img" aria-label={label} className={className} />;
}
