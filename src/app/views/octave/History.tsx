import type { Data, Layout } from 'plotly.js-basic-dist-min';
import { useMemo } from 'react';
import { Chart, token } from '../../parts/Chart';
import { strokeOf } from '../../parts/strokes';
import type { StringOctave } from '../../../core/octave';
import { DAY } from '../../../core/base';

/** Octave errors of the strings over the months: what grows on one string alone is that string. */
export function History({
  strings,
  nowMs,
  chart,
  limitCents,
}: {
  strings: readonly StringOctave[];
  nowMs: number;
  chart: string;
  /** The owner's limit, either way. */
  limitCents: number;
}) {
  const { data, layout } = useMemo(() => {
    const traces: Data[] = strings.map((s, i) => {
      const stroke = strokeOf(i);
      return {
        x: s.passes.map((p) => (p.atMs - nowMs) / DAY),
        y: s.passes.map((p) => p.errors.errorCents),
        error_y: {
          type: 'data',
          array: s.passes.map((p) => 2 * p.errors.sigmaCents),
          color: token(stroke.token),
          thickness: 1,
          width: 2,
        },
        name: s.note,
        mode: 'lines+markers',
        line: { color: token(stroke.token), dash: stroke.dash, width: 1.6 },
        marker: { size: 6 },
        hovertemplate: `${s.note} %{y:.1f} cents<extra></extra>`,
      };
    });
    const grid = { gridcolor: token('line'), linecolor: token('line'), zeroline: false, fixedrange: true };
    const limits = [limitCents, -limitCents].map((c) => ({
      type: 'line' as const,
      xref: 'paper' as const,
      x0: 0,
      x1: 1,
      y0: c,
      y1: c,
      line: { color: token('rust'), width: 1, dash: 'dot' as const },
    }));
    const figures: Partial<Layout> = {
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
      margin: { l: 46, r: 10, t: 6, b: 36 },
      font: { family: 'B612', size: 12, color: token('ink') },
      legend: { orientation: 'h', y: 1.2 },
      xaxis: { ...grid, title: { text: 'days from now' } },
      yaxis: { ...grid, title: { text: 'cents' } },
      shapes: limits,
    };
    return { data: traces, layout: figures };
    // The chart's colours are tokens read from the page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [strings, nowMs, chart, limitCents]);
  return <Chart data={data} layout={layout} label="Octave errors over the months" className="h-64 w-full" />;
}
