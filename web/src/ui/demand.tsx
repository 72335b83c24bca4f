import type { DemandLevel } from '@basileus/core/rulebook';
import { demandNames, levelNames } from './terms';
import { say } from './text';

/** The notch on a column head: two strokes for must, one for should, none for may. Read out as a word. */
export function DemandNotch({ level }: { level: DemandLevel | undefined }) {
  if (level === undefined || level === 'unused') return null;
  return (
    <span className="inline-flex h-4 shrink-0 items-stretch gap-[2px]" title={say`${demandNames[level]} be filled`}>
      {level !== 'may' && <span className="w-[3px] bg-primary" />}
      {level === 'must' && <span className="w-[3px] bg-primary" />}
      <span className="sr-only">{demandNames[level]}: </span>
    </span>
  );
}

const tones = { blocker: 'text-error', caution: 'text-warning', tip: 'text-info' } as const;
export const toneOfLevel = (level: keyof typeof tones): string => tones[level];
const shapes = { blocker: 'M3 3h10v10H3z', caution: 'M8 2l7 12H1z', tip: 'M8 2a6 6 0 100 12A6 6 0 008 2z' } as const;

/** A level of finding: its own shape beside its word. */
export function LevelMark({ level, bare = false }: { level: keyof typeof tones; bare?: boolean }) {
  return (
    <span className={`inline-flex items-center gap-1.5 ${tones[level]}`}>
      <svg viewBox="0 0 16 16" width="11" height="11" aria-hidden="true">
        <path d={shapes[level]} fill="currentColor" />
      </svg>
      {bare ? <span className="sr-only">{levelNames[level]}</span> : levelNames[level]}
    </span>
  );
}
