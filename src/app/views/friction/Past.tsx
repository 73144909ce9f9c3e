import type { Data, Layout } from 'plotly.js-basic-dist-min';
import { useMemo } from 'react';
import type { InstrumentFriction } from '../../../core/story';
import { Chart, token } from '../../parts/Chart';

const DAY = 86400000;

/** Figures by the age of the lubricant, all strings together: how long it lasts. */
export function Past({ friction }: { friction: InstrumentFriction }) {
  const { data, layout } = useMemo(() => {
    const traces = friction.strings.flatMap(({ note, figures, lubricatedMs }): Data[] => {
      const points = figures.flatMap(({ atMs, figure }) => {
        const oiled = lubricatedMs.findLast((ms) => ms <= atMs);
        return oiled === undefined ? [] : [{ days: (atMs - oiled) / DAY, figure }];
      });
      if (points.length < 2) return [];
      return [
        {
          type: 'scatter',
          mode: 'text+lines+markers',
          name: note,
          x: points.map((p) => p.days),
          y: points.map((p) => p.figure.cents),
          error_y: { type: 'data', array: points.map((p) => p.figure.sdCents), color: token('ink2'), thickness: 1 },
          text: points.map((_, i) => (i === points.length - 1 ? note : '')),
          textposition: 'middle right',
          line: { color: token('deep'), width: 1.5 },
          marker: { size: 7, color: token('deep') },
        },
      ];
    });
    const axis = {
      gridcolor: token('line'),
      zerolinecolor: token('line'),
      color: token('ink'),
      rangemode: 'tozero' as const,
    };
    const layout: Partial<Layout> = {
      margin: { l: 48, r: 40, t: 8, b: 40 },
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
      font: { color: token('ink'), size: 12 },
      showlegend: false,
      xaxis: { ...axis, title: { text: 'days since lubricated' } },
      yaxis: { ...axis, title: { text: 'cents between the limits' } },
    };
    return { data: traces, layout };
  }, [friction]);
  if (data.length === 0) return null;
  return (
    <Chart data={data} layout={layout} label="Friction by the age of the lubricant" className="h-52 w-full max-w-2xl" />
  );
}
