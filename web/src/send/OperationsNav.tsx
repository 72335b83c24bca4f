import type { Operation } from '@basileus/core/rulebook';
import type { ReactNode } from 'react';
import { count, say } from '../ui/text';
import { operationNames } from '../ui/terms';
import { operationTitles } from './words';

/** What would go, by operation, and what goes by the clock under it. */
export function OperationsNav({
  operations,
  now,
  onChoose,
  together,
  children,
}: {
  operations: readonly { operation: Operation; count: number; held: number }[];
  now: Operation | undefined;
  onChoose: (operation: Operation) => void;
  /** Whether prices and stock go together, where there are both. */
  together: { isSo: boolean; set: (isSo: boolean) => void } | undefined;
  children: ReactNode;
}) {
  return (
    <nav
      aria-label={say`What would go`}
      className="flex min-h-0 flex-col overflow-auto max-lg:max-h-56 border-e border-base-300 bg-base-100"
    >
      {operations.map((o) => (
        <button
          key={o.operation}
          type="button"
          aria-current={o.operation === now ? 'true' : undefined}
          onClick={() => {
            onChoose(o.operation);
          }}
          className={`flex w-full items-baseline gap-2 border-b border-base-300 border-s-[3px] px-4 py-2.5 text-start ${o.operation === now ? 'border-s-primary bg-base-200' : 'border-s-transparent hover:bg-base-200'}`}
        >
          <span className="flex-1">
            {operationTitles[o.operation]}
            <span className="block text-xs quiet">
              {operationNames[o.operation]}
              {o.held > 0 && say`, ${count(o.held)} held back`}
            </span>
          </span>
          <span className="num font-semibold">{count(o.count)}</span>
        </button>
      ))}
      {together && (
        <label className="flex items-center gap-2 px-4 py-3 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={together.isSo}
            onChange={(e) => {
              together.set(e.target.checked);
            }}
          />
          {say`Send prices and stock together`}
        </label>
      )}
      {children}
    </nav>
  );
}
