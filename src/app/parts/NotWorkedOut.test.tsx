import { render, screen } from '@testing-library/react';
import { NotWorkedOut } from './NotWorkedOut';

test('reckoning is said calmly, a fault as one, and nothing once it is known', () => {
  const { rerender } = render(<NotWorkedOut waiting what="The plan" />);
  expect(screen.getByRole('status')).toHaveTextContent('The plan is being worked out');
  rerender(<NotWorkedOut waiting error={new Error('no store')} what="The plan" kept="Readings are saved." />);
  expect(screen.queryByRole('status')).toBeNull();
  expect(screen.getByRole('alert')).toHaveTextContent(
    'The plan could not be worked out (no store). Readings are saved.',
  );
  rerender(<NotWorkedOut what="The plan" />);
  expect(document.body).toHaveTextContent('');
});
