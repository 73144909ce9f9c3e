import type { Config, Data, Layout, PlotlyHTMLElement } from 'plotly.js-basic-dist-min';
import { useEffect, useRef } from 'react';

interface Props {
  data: Data[];
  layout: Partial<Layout>;
  label: string;
  className?: string;
  onPoint?: (id: string) => void;
}

const CONFIG: Partial<Config> = { displayModeBar: false, responsive: true, scrollZoom: false };

/** A token of the day or night chart as it is now. */
export const token = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** A chart by Plotly, which is loaded when the first one is drawn. What it shows is also said in words beside it. */
export function Chart({ data, layout, label, className, onPoint }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const tell = useRef(onPoint);
  useEffect(() => {
    tell.current = onPoint;
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
        const id = event.points[0]?.customdata;
        if (typeof id === 'string') tell.current?.(id);
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
