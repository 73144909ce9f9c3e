import { TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';

/** The usual caution at a step that can hurt somebody or something. */
export const Caution = ({ children }: { children: ReactNode }) => (
  <p className="flex gap-2 rounded-lg border border-rust p-2 text-sm text-rust">
    <TriangleAlert size={18} className="shrink-0" aria-label="Caution" />
    {children}
  </p>
);
