/** Stands where a figure or a sentence is still being worked out: a calm bar, from a moment on. */
export function Pending() {
  return (
    <span
      role="img"
      aria-label="is being worked out"
      className="working-out inline-block h-[0.55em] w-14 rounded-full bg-line align-baseline"
    />
  );
}
