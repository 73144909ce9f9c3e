/** A figure in the middle of a sentence: words, a narrow field, its unit. */
export const FigureField = ({
  words,
  unit,
  value,
  onChange,
  placeholder,
}: {
  words: string;
  unit: string;
  value: string;
  onChange: (text: string) => void;
  placeholder?: string;
}) => (
  <label>
    {words}{' '}
    <input
      inputMode="decimal"
      value={value}
      placeholder={placeholder}
      onChange={(e) => onChange(e.target.value)}
      className="figure w-20 rounded-md border border-ink2 bg-sheet px-2 py-1"
    />{' '}
    {unit}
  </label>
);
