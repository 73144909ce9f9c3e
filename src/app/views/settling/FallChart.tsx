import type { Data, Layout } from 'plotly.js-basic-dist-min';
import { useMemo } from 'react';
import type { InstrumentStory, StoryPoint, StringStory } from '../../../core/story';
import { Chart, token } from '../../parts/Chart';
import { strokeOf } from '../../parts/strokes';

const SYMBOLS: Record<StoryPoint['kind'], string> = {
  found: 'circle',
  left: 'triangle-up',
  stretched: 'square',
  slipped: 'x',
};
const MINUTE = 60000;

interface Props {
  story: InstrumentStory;
  shown: (stringId: string) => boolean;
  /** Age on a logarithmic axis, or the clock. */
  byAge: boolean;
  curtainMs: number | null;
  nowMs: number;
  zoneMin: number;
  /** Which chart is in use: its colours are read afresh. */
  chart: string;
  onPoint: (readingId: string) => void;
}

/** Total fall of every string, downward like water under the line, with what is to come in bands. */
export function FallChart({ story, shown, byAge, curtainMs, nowMs, zoneMin, chart, onPoint }: Props) {
  const { data, layout } = useMemo(() => {
    const clock = (ms: number) => new Date(ms + zoneMin * MINUTE).toISOString().slice(0, 19);
    const x = (p: { atMs: number; ageMin: number }) => (byAge ? p.ageMin / 60 : clock(p.atMs));
    const traces: Data[] = [];
    story.strings.forEach((s, i) => {
      if (shown(s.stringId)) traces.push(...tracesOf(s, i, x));
    });
    if (!byAge && story.common.length > 1)
      traces.push({
        x: story.common.map((c) => clock(c.atMs)),
        y: story.common.map((c) => -c.cents),
        name: 'all alike',
        mode: 'lines',
        line: { color: token('ink2'), width: 4, shape: 'spline' },
        opacity: 0.45,
        hovertemplate: 'all strings alike %{y:.1f} cents<extra></extra>',
      });
    const upright = (ms: number, color: string, dash: 'dash' | 'solid') => ({
      type: 'line' as const,
      yref: 'paper' as const,
      y0: 0,
      y1: 1,
      x0: clock(ms),
      x1: clock(ms),
      line: { color: token(color), width: 1.5, dash },
    });
    const grid = { gridcolor: token('line'), linecolor: token('line'), zeroline: false, fixedrange: true };
    const figures: Partial<Layout> = {
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: token('water') + '55',
      margin: { l: 54, r: 36, t: 8, b: 42 },
      showlegend: false,
      hovermode: 'closest',
      font: { family: 'B612', size: 12, color: token('ink') },
      yaxis: { ...grid, autorange: 'reversed', title: { text: 'fallen, cents' } },
      xaxis: byAge
        ? { ...grid, type: 'log', title: { text: 'age, hours' }, dtick: 1 }
        : { ...grid, type: 'date', title: { text: '' } },
      shapes: byAge
        ? []
        : [upright(nowMs, 'ink2', 'solid'), ...(curtainMs === null ? [] : [upright(curtainMs, 'rust', 'dash')])],
    };
    return { data: traces, layout: figures };
    // The chart's colours are tokens read from the page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [story, shown, byAge, curtainMs, nowMs, zoneMin, chart]);
  return (
    <Chart
      data={data}
      layout={layout}
      label="Total fall of the strings by time, with the forecast"
      className="h-full min-h-64 w-full"
      onPoint={onPoint}
    />
  );
}

function tracesOf(s: StringStory, index: number, x: (p: { atMs: number; ageMin: number }) => number | string): Data[] {
  const stroke = strokeOf(index);
  const color = token(stroke.token);
  const band = (low: 'q05' | 'q25', high: 'q95' | 'q75', opacity: number): Data[] => [
    { x: s.ahead.map(x), y: s.ahead.map((p) => p[low]), mode: 'lines', line: { width: 0 }, hoverinfo: 'skip' },
    {
      x: s.ahead.map(x),
      y: s.ahead.map((p) => p[high]),
      mode: 'lines',
      line: { width: 0 },
      fill: 'tonexty',
      fillcolor: color + opacityHex(opacity),
      hoverinfo: 'skip',
    },
  ];
  return [
    ...band('q05', 'q95', 0.12),
    ...band('q25', 'q75', 0.18),
    {
      x: s.points.map(x),
      y: s.points.map((p) => p.fallCents),
      customdata: s.points.map((p) => p.id),
      name: s.note,
      mode: 'lines+markers',
      line: { color, width: 1.8, dash: stroke.dash },
      marker: { color, size: 6, symbol: s.points.map((p) => SYMBOLS[p.kind]) },
      hovertemplate: `${s.note} %{y:.1f} cents<extra></extra>`,
    },
    {
      x: s.ahead.map(x),
      y: s.ahead.map((p) => p.q50),
      mode: 'lines',
      line: { color, width: 1.2, dash: 'dot' },
      hoverinfo: 'skip',
    },
    {
      x: s.ahead.slice(-1).map(x),
      y: s.ahead.slice(-1).map((p) => p.q50),
      mode: 'text',
      text: [s.note],
      textposition: 'middle right',
      textfont: { color, size: 12 },
      cliponaxis: false,
      hoverinfo: 'skip',
    },
    {
      x: s.treatments.map((t) =>
        x({ atMs: t.atMs, ageMin: s.points[0]!.ageMin + (t.atMs - s.points[0]!.atMs) / MINUTE }),
      ),
      y: s.treatments.map(() => 0),
      mode: 'markers',
      marker: { color, size: 11, symbol: 'star-diamond-open' },
      hovertemplate: s.treatments.map((t) => `${s.note} ${t.treatment}<extra></extra>`),
    },
  ];
}

const opacityHex = (share: number) =>
  Math.round(255 * share)
    .toString(16)
    .padStart(2, '0');
