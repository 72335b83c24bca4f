import { say } from './text';
/** What is kept under names, each to begin with or to be let go. */
export function KeptNames<T extends { id: number; name: string | null }>({
  label,
  kept,
  about,
  onUse,
  onForget,
}: {
  label: string;
  kept: readonly T[];
  /** What is kept, in words. */
  about?: (one: T) => string;
  onUse: (one: T) => void;
  onForget: (id: number) => void;
}) {
  if (kept.length === 0) return null;
  return (
    <ul className="flex flex-wrap gap-2" aria-label={label}>
      {kept.map((one) => (
        <li key={one.id} className="flex items-center rounded border border-base-300">
          <button
            type="button"
            className="px-2 py-0.5 hover:underline"
            title={about?.(one)}
            onClick={() => {
              onUse(one);
            }}
          >
            {one.name}
          </button>
          <button
            type="button"
            className="border-s border-base-300 px-1.5 quiet hover:text-error"
            aria-label={say`Keep “${one.name ?? ''}” no more`}
            onClick={() => {
              onForget(one.id);
            }}
          >
            ×
          </button>
        </li>
      ))}
    </ul>
  );
}
