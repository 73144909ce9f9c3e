import type { ReactNode } from 'react';

/** What is wrong with a field, beside it. */
export const Fault = ({ children }: { children: ReactNode }) =>
  children ? (
    <span role="alert" className="block text-xs text-rust">
      {children}
    </span>
  ) : null;
