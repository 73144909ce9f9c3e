import { OctagonX, TriangleAlert } from 'lucide-react';
import type { useGuard } from './useGuard';

/** The pitch guard's sign: not to be overlooked from a metre and a half. */
export function GuardNote({ call }: { call: ReturnType<typeof useGuard> }) {
  return (
    <div role="alert" data-testid="guard" data-level={call?.level}>
      {call && (
        <p
          className={
            call.level === 'stop'
              ? 'flex gap-3 rounded-lg bg-rust p-3 text-lg font-bold leading-snug text-sheet'
              : 'flex gap-3 rounded-lg border-2 border-rust p-3 text-base font-semibold leading-snug text-rust'
          }
        >
          {call.level === 'stop' ? (
            <OctagonX size={28} className="shrink-0" aria-hidden />
          ) : (
            <TriangleAlert size={24} className="shrink-0" aria-hidden />
          )}
          {call.message}
        </p>
      )}
    </div>
  );
}
