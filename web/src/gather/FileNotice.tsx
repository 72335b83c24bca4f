import type { ReactNode } from 'react';

const tones = {
  primary: 'border-primary',
  secondary: 'border-secondary',
  info: 'border-info',
  warning: 'border-warning',
  error: 'border-error',
} as const;

/** A bar over a file: what is to be known of all of it, with what can be done about that beside it. */
export function FileNotice({ tone, children }: { tone: keyof typeof tones; children: ReactNode }) {
  return (
    <div
      role={tone === 'warning' || tone === 'error' ? 'alert' : undefined}
      className={`mx-5 mb-3 flex flex-wrap items-center gap-3 border-s-4 bg-base-100 px-4 py-2 ${tones[tone]}`}
    >
      {children}
    </div>
  );
}
