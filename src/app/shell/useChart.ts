import { useEffect, useState } from 'react';
import { settings } from '../world/settings';

type Chart = 'day' | 'night';

/** Day or night chart: the system's setting until one is chosen by hand. */
export function useChart(): [Chart, () => void] {
  const [chart, setChart] = useState<Chart>(() =>
    matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day',
  );
  useEffect(() => {
    void settings.getItem<Chart>('chart').then((chosen) => chosen && setChart(chosen));
  }, []);
  useEffect(() => {
    document.documentElement.dataset.chart = chart;
  }, [chart]);
  return [
    chart,
    () => {
      const next = chart === 'night' ? 'day' : 'night';
      setChart(next);
      void settings.setItem('chart', next);
    },
  ];
}
