import { localIso, type Zone, MINUTE, HOUR } from '../../../core/base';
import type { Data, Layout } from 'plotly.js-basic-dist-min';
import { useMemo } from 'react';
import { Chart, token } from '../../parts/Chart';
import { strokeOf } from '../../parts/strokes';
import type { InstrumentStory, StoryPoint, StringStory } from '../../../core/status';

const SYMBOLS: Record<StoryPoint['kind'], string> = {
  found: 'circle',
  left: 'triangle-up',
  stretched: 'square',
  slipped: 'x',
};

interface Props {
  story: InstrumentStory;
  shown: (stringId: string) => boolean;
  /** Age on a logarithmic axis, or the clock. */
  byAge: boolean;
  curtainMs: number | null;
  zone: Zone;
  /** Which chart is in use: its colours are read afresh. */
  chart: string;
  onPoints: (readingIds: string[]) => void;
}

/** With more readings than this on the chart only the newest of each string, and the rare ones, have a mark of their own. */
const MARKED = 200;
const NEWEST = 12;

/** Total fall of every string, downward like water under the line, with what is to come in bands. */
export function FallChart({ story, shown, byAge, curtainMs, zone, chart, onPoints }: Props) {
  const { data, layout } = useMemo(() => {
    const clock = (ms: number) => localIso(ms, zone).slice(0, 19);
    const x: Place = (p) => (byAge ? p.ageMin / 60 : clock(p.atMs));
    const drawn = story.strings.flatMap((s, i): Drawn[] => {
      const { token: colour, dash } = strokeOf(i);
      return shown(s.stringId) ? [{ s, color: token(colour), dash }] : [];
    });
    const traces: Data[] = drawn.flatMap((d) => tracesOf(d, x));
    if (!byAge && story.common.length > 1)
      traces.push({
        x: story.common.map((c) => clock(c.atMs)),
        y: story.common.map((c) => -c.cents),
        name: 'all alike',
        mode: 'lines',
        line: { color: token('ink2'), width: 4, shape: 'spline' },
        opacity: 0.45,
        hovertemplate: 'all strings together %{y:.1f} cents<extra></extra>',
      });
    traces.push(marksOf(drawn, x), namesOf(drawn, x));
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
    const { ends, deepest, highest } = extent(drawn.map(({ s }) => s));
    const pad = 0.05 * Math.max(4, deepest - highest);
    const figures: Partial<Layout> = {
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: token('water') + '55',
      margin: { l: 54, r: 36, t: 8, b: 42 },
      showlegend: false,
      hovermode: 'closest',
      font: { family: 'B612', size: 12, color: token('ink') },
      yaxis: { ...grid, range: [deepest + pad, highest - pad], title: { text: 'fallen, cents' } },
      xaxis: byAge
        ? { ...grid, type: 'log', title: { text: 'age, hours' }, dtick: 1 }
        : { ...grid, type: 'date', title: { text: '' } },
      shapes: byAge
        ? []
        : [upright(story.nowMs, 'ink2', 'solid'), ...(curtainMs === null ? [] : [upright(curtainMs, 'rust', 'dash')])],
    };
    if (ends && byAge) figures.xaxis!.range = ends.map((p) => Math.log10(Math.max(MINUTE / HOUR, p.ageMin / 60)));
    else if (ends) figures.xaxis!.range = ends.map((p) => clock(p.atMs));
    return { data: traces, layout: figures };
    // The chart's colours are tokens read from the page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [story, shown, byAge, curtainMs, zone, chart]);
  return (
    <Chart
      data={data}
      layout={layout}
      label="Total fall of the strings by time, with the forecast"
      className="h-full min-h-64 w-full"
      onPoints={onPoints}
    />
  );
}

interface Moment {
  atMs: number;
  ageMin: number;
}
type Place = (p: Moment) => number | string;
interface Drawn {
  s: StringStory;
  color: string;
  dash: ReturnType<typeof strokeOf>['dash'];
}

/** First and last moment of what is drawn, and its least and greatest fall. */
function extent(strings: readonly StringStory[]) {
  const moments = strings.flatMap((s): Moment[] => [...s.points.slice(0, 1), ...s.ahead.slice(-1)]);
  const least = (key: keyof Moment) => Math.min(...moments.map((p) => p[key]));
  const most = (key: keyof Moment) => Math.max(...moments.map((p) => p[key]));
  const falls = strings.flatMap((s) => [
    ...s.points.map((p) => p.fallCents),
    ...s.ahead.slice(-1).flatMap((p) => [p.q05, p.q95]),
  ]);
  const ends: [Moment, Moment] | undefined =
    moments.length === 0
      ? undefined
      : [
          { atMs: least('atMs'), ageMin: 0.85 * least('ageMin') },
          { atMs: most('atMs') + 0.01 * (most('atMs') - least('atMs')), ageMin: 1.1 * most('ageMin') },
        ];
  return { ends, deepest: Math.max(0, ...falls), highest: Math.min(0, ...falls) };
}

function tracesOf({ s, color, dash }: Drawn, x: Place): Data[] {
  const there = s.ahead.map(x);
  const band = (low: 'q05' | 'q25', high: 'q95' | 'q75', opacity: number): Data => ({
    x: [...there, ...there.toReversed()],
    y: [...s.ahead.map((p) => p[low]), ...s.ahead.map((p) => p[high]).toReversed()],
    mode: 'lines',
    line: { width: 0 },
    fill: 'toself',
    fillcolor: color + opacityHex(opacity),
    hoverinfo: 'skip',
  });
  return [
    band('q05', 'q95', 0.12),
    band('q25', 'q75', 0.18),
    {
      x: s.points.map(x),
      y: s.points.map((p) => p.fallCents),
      customdata: s.points.map((p) => p.id),
      name: s.note,
      mode: 'lines',
      line: { color, width: 1.8, dash },
      hovertemplate: `${s.note} %{y:.1f} cents<extra></extra>`,
    },
    {
      x: there,
      y: s.ahead.map((p) => p.q50),
      mode: 'lines',
      line: { color, width: 1.2, dash: 'dot' },
      hoverinfo: 'skip',
    },
    // Faintly, what would have come had no hand pulled, warmed or played it.
    {
      x: s.without.map(x),
      y: s.without.map((p) => p.fallCents),
      mode: 'lines',
      line: { color, width: 1, dash: 'dashdot' },
      opacity: 0.4,
      hovertemplate: `${s.note} untouched by hands %{y:.0f} cents<extra></extra>`,
    },
  ];
}

/** Marks of readings and treatments of all strings: one trace, for Plotly's time goes by traces and marks. */
function marksOf(drawn: readonly Drawn[], x: Place): Data {
  const many = drawn.reduce((n, { s }) => n + s.points.length, 0) > MARKED;
  const marks = drawn.flatMap(({ s, color }) => [
    ...s.points
      .filter((p, k) => !many || p.kind === 'slipped' || p.kind === 'stretched' || k >= s.points.length - NEWEST)
      .map((p) => ({
        x: x(p),
        y: p.fallCents,
        id: p.id,
        symbol: SYMBOLS[p.kind],
        size: 6,
        color,
        words: `${s.note} ${p.fallCents.toFixed(1)} cents`,
      })),
    ...s.treatments.map(({ atMs, treatment }) => {
      const ageMin = s.points[0] ? s.points[0].ageMin + (atMs - s.points[0].atMs) / MINUTE : 0;
      return {
        x: x({ atMs, ageMin }),
        y: 0,
        id: '',
        symbol: 'star-diamond-open',
        size: 12,
        color,
        words: `${s.note} ${treatment}`,
      };
    }),
  ]);
  return {
    x: marks.map((m) => m.x),
    y: marks.map((m) => m.y),
    customdata: marks.map((m) => m.id),
    text: marks.map((m) => m.words),
    mode: 'markers',
    marker: {
      color: marks.map((m) => m.color),
      size: marks.map((m) => m.size),
      symbol: marks.map((m) => m.symbol),
    },
    hovertemplate: '%{text}<extra></extra>',
  };
}

/** Each string's name at the end of its forecast. */
function namesOf(drawn: readonly Drawn[], x: Place): Data {
  const ends = drawn.flatMap(({ s, color }) =>
    s.ahead.slice(-1).map((p) => ({ x: x(p), y: p.q50, note: s.note, color })),
  );
  return {
    x: ends.map((e) => e.x),
    y: ends.map((e) => e.y),
    text: ends.map((e) => e.note),
    mode: 'text',
    textposition: 'middle right',
    textfont: { color: ends.map((e) => e.color), size: 12 },
    cliponaxis: false,
    hoverinfo: 'skip',
  };
}

const opacityHex = (share: number) =>
  Math.round(255 * share)
    .toString(16)
    .padStart(2, '0');
