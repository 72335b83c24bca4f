import type { ReactNode } from 'react';

/** A button that lets a person choose a file of theirs; the same one can be chosen again after it was changed. */
export const FileButton = ({
  label,
  accept,
  multiple = false,
  disabled = false,
  className = 'btn btn-sm',
  onFiles,
  children,
}: {
  /** What the file is, read out. */
  label: string;
  /** Kinds of files that are offered; all where none is named. */
  accept?: string;
  multiple?: boolean;
  disabled?: boolean;
  className?: string;
  onFiles: (first: File, all: readonly File[]) => void;
  children: ReactNode;
}) => (
  <label className={className}>
    {children}
    <input
      type="file"
      className="sr-only"
      aria-label={label}
      accept={accept}
      multiple={multiple}
      disabled={disabled}
      onChange={(e) => {
        const all = [...(e.target.files ?? [])];
        e.target.value = '';
        if (all[0]) onFiles(all[0], all);
      }}
    />
  </label>
);
