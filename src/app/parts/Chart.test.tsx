import { act, render } from '@testing-library/react';
import Plotly from 'plotly.js-basic-dist-min';
import { Chart, idsAt } from './Chart';

test('a chart that has gone lets go of what it held on to', async () => {
  const purge = jest.spyOn(Plotly, 'purge');
  const { container, unmount } = render(<Chart data={[]} layout={{}} label="Fall" />);
  const box = container.firstElementChild;
  await act(async () => undefined);
  unmount();
  await act(async () => undefined);
  expect(purge).toHaveBeenCalledWith(box);
});

test('points that lie on one another are told together, the clicked one first', () => {
  const axis = { d2p: (v: unknown) => 10 * Number(v) };
  const point = { customdata: 'b', x: 2, y: 1, xaxis: axis, yaxis: axis };
  const lines = [
    { x: [0, 2, 2.9], y: [1, 1.5, 1], customdata: ['a', 'c', 'd'] },
    { x: [2], y: [1], customdata: ['b'] },
    { x: [2], y: [1] },
  ];
  expect(idsAt(point, lines)).toEqual(['b', 'c']);
  expect(idsAt({ ...point, customdata: undefined }, lines)).toEqual([]);
});
