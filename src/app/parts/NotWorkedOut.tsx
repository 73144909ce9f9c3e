/** What is not known where it would stand: it could not be reckoned, or is being reckoned still; nothing once it is. */
export function NotWorkedOut({
  error,
  waiting = false,
  what = 'This',
  kept = '',
}: {
  error?: Error | null | undefined;
  /** It was asked for, and there is no answer yet. */
  waiting?: boolean;
  what?: string;
  /** What is safe all the same. */
  kept?: string;
}) {
  if (error)
    return (
      <p role="alert" className="py-2 text-sm text-rust">
        {what} could not be worked out ({error.message}). {kept}
      </p>
    );
  if (!waiting) return null;
  return (
    <p role="status" className="working-out py-2 text-sm text-ink2">
      {what} is being worked out
    </p>
  );
}
