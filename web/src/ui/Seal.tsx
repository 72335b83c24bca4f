// The state of a listing as a small seal: a disc with a mark cut out, one silhouette a state, always beside its word.
const marks: Record<string, string> = {
  draft: 'M6 12h12',
  blocked: 'M7 7l10 10',
  ready: 'M12 6v12M6 12h12',
  sent: 'M7 15l5-6 5 6',
  'in review': 'M8 9h8M8 15h8',
  live: 'M7 12.5l3.5 3.5L17 8.5',
  refused: 'M8 8l8 8M16 8l-8 8',
  withdrawn: 'M12 7v10M8 13l4 4 4-4',
};
const tones: Record<string, string> = {
  draft: 'text-info',
  blocked: 'text-error',
  ready: 'text-secondary',
  sent: 'text-info',
  'in review': 'text-info',
  live: 'text-success',
  refused: 'text-error',
  withdrawn: 'text-neutral',
};

export function Seal({ state, bare = false }: { state: string; bare?: boolean }) {
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg viewBox="0 0 24 24" width="15" height="15" className={tones[state] ?? ''} aria-hidden="true">
        <circle cx="12" cy="12" r="11" fill="currentColor" />
        <path
          d={marks[state] ?? ''}
          stroke="var(--color-base-100)"
          strokeWidth="2.6"
          fill="none"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
      {bare ? <span className="sr-only">{state}</span> : state}
    </span>
  );
}
