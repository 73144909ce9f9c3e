/** A note name with its octave set low: E₄. Read out as 'E4'. */
export function NoteName({ note, className }: { note: string; className?: string }) {
  const octave = /-?\d$/.exec(note)?.[0] ?? '';
  const letter = note
    .slice(0, note.length - octave.length)
    .replace('#', '♯')
    .replace('b', '♭');
  return (
    <span className={className}>
      <span className="sr-only">{note}</span>
      <span aria-hidden="true">
        {letter}
        <sub className="text-[0.5em] font-semibold">{octave}</sub>
      </span>
    </span>
  );
}
