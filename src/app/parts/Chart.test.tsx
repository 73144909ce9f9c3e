import { act, render } from '@testing-library/react';
import Plotly from 'plotly.js-basic-dist-min';
import { Chart } from './Chart';

test('a chart that has gone lets go of what it held on to', async () => {
  const purge = jest.spyOn(Plotly, 'purge');
  const { container, unmount } = render(<Chart data={[]} layout={{}} label="Fall" />);
  const box = container.firstElementChild;
  await act(async () => undefined);
  unmount();
  await act(async () => undefined);
  expect(purge).toHaveBeenCalledWith(box);
});
