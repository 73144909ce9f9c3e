import type { Data, Layout } from 'plotly.js-basic-dist-min';
import { useMemo } from 'react';
import { Chart, token } from '../../parts/Chart';
import { strokeOf } from '../../parts/strokes';
import { DAY } from '../../../core/base';
import type { InstrumentFriction } from '../../../core/friction';

/** Figures by the age of the lubricant, string by string: how long it lasts. @param chart day or night: colours are read from it */
export function Past({ friction, chart }: { friction: InstrumentFriction; chart: string }) {
  const { data, layout } = useMemo(() => {
    const traces = friction.strings.flatMap(({ note, figures, lubricatedMs }, i): Data[] => {
      const points = figures.flatMap(({ atMs, figure }) => {
        const oiled = lubricatedMs.findLast((ms) => ms <= atMs);
        return oiled === undefined ? [] : [{ days: (atMs - oiled) / DAY, figure }];
      });
      if (points.length < 2) return [];
      const stroke = strokeOf(i);
      const color = token(stroke.token);
      return [
        {
          mode: 'text+lines+markers',
          name: note,
          x: points.map((p) => p.days),
          y: points.map((p) => p.figure.cents),
          error_y: { type: 'data', array: points.map((p) => 2 * p.figure.sdCents), color, thickness: 1, width: 2 },
          text: points.map((_, k) => (k === points.length - 1 ? note : '')),
          textposition: 'middle right',
          line: { color, dash: stroke.dash, width: 1.6 },
          marker: { size: 6 },
          hovertemplate: `${note} %{y:.1f} cents<extra></extra>`,
        },
      ];
    });
    const grid = { gridcolor: token('line'), linecolor: token('line'), zeroline: false, fixedrange: true };
    const figures: Partial<Layout> = {
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
      margin: { l: 46, r: 36, t: 6, b: 36 },
      font: { family: 'B612', size: 12, color: token('ink') },
      showlegend: false,
      xaxis: { ...grid, title: { text: 'days since it was lubricated' } },
      yaxis: { ...grid, rangemode: 'tozero', title: { text: 'cents' } },
    };
    return { data: traces, layout: figures };
    // The chart's colours are tokens read from the page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [friction, chart]);
  if (data.length === 0) return null;
  return (
    <Chart data={data} layout={layout} label="Friction by the age of the lubricant" className="h-52 w-full max-w-2xl" />
  );
}
