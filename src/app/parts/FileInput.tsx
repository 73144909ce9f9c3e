import type { Ref } from 'react';

/** A field for one file behind a button of the view's own; the same file can be chosen twice. */
export const FileInput = ({
  ref,
  accept,
  label,
  onFile,
}: {
  ref: Ref<HTMLInputElement>;
  accept: string;
  label: string;
  onFile: (file: File) => void;
}) => (
  <input
    ref={ref}
    type="file"
    accept={accept}
    className="hidden"
    aria-label={label}
    tabIndex={-1}
    onChange={(e) => {
      const file = e.target.files?.[0];
      if (file) onFile(file);
      e.target.value = '';
    }}
  />
);
