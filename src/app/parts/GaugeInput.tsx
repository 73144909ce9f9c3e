import { useState } from 'react';
import { gaugeWords, parseGaugeMm } from '../../core/strings';

interface Props {
  /** mm; null when unknown. */
  value: number | null;
  /** null for an empty field, NaN for what is no gauge. */
  onChange: (mm: number | null) => void;
  label: string;
  className?: string;
}

/** A gauge typed as the packet writes it; what was understood stands below before it counts. */
export function GaugeInput({ value, onChange, label, className }: Props) {
  const [text, setText] = useState(value === null ? '' : String(Number(value.toFixed(3))));
  const mm = parseGaugeMm(text);
  const empty = text.trim() === '';
  return (
    <span className="block">
      <input
        value={text}
        aria-label={label}
        aria-invalid={!empty && mm === undefined}
        className={className}
        onChange={(e) => {
          setText(e.target.value);
          onChange(e.target.value.trim() === '' ? null : (parseGaugeMm(e.target.value) ?? NaN));
        }}
      />
      <span className="figure block text-xs leading-tight text-ink2">
        {empty ? 'unknown' : mm === undefined ? '0.25, .010 or 10' : gaugeWords(mm)}
      </span>
    </span>
  );
}
