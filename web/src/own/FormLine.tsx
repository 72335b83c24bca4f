import type { ReactNode } from 'react';

/** A labelled line of a form, and a box to tick. */
export const Line = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="flex flex-col gap-1">
    <span className="text-xs">{label}</span>
    {children}
  </label>
);
export const Tick = ({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) => (
  <label className="flex items-center gap-2">
    <input
      type="checkbox"
      className="checkbox checkbox-sm"
      checked={on}
      onChange={(e) => {
        onChange(e.target.checked);
      }}
    />
    {label}
  </label>
);
