/** That something could not be reckoned, where it would stand; nothing while there is no error. */
export const NotWorkedOut = ({
  error,
  what = 'This',
  kept = '',
}: {
  error: Error | null | undefined;
  what?: string;
  /** What is safe all the same. */
  kept?: string;
}) =>
  error ? (
    <p role="alert" className="py-2 text-sm text-rust">
      {what} could not be worked out ({error.message}). {kept}
    </p>
  ) : null;
