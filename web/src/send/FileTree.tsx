import type { FilePreview } from './queries';
import { say } from '../ui/text';

type Tree = Extract<FilePreview['looks'], { as: 'tree' }>;
type Branch = Tree['records'][number]['branches'][number];

function BranchValue({ cell }: Pick<Branch, 'cell'>) {
  if (cell === undefined) return null;
  if (cell === null) return <span className="quiet italic">{say`emptied`}</span>;
  if (typeof cell === 'string')
    return (
      <span dir="auto" className="block break-words">
        {cell}
      </span>
    );
  return (
    <span className="flex flex-col">
      {cell.map((entry, i) => (
        <span key={i} dir="auto" className="break-words">
          {entry}
        </span>
      ))}
    </span>
  );
}

/** Records of a nested file, each as its branches, what changed lit. */
export function FileTree({ records }: Pick<Tree, 'records'>) {
  return (
    <div className="space-y-3">
      {records.map((r, i) => (
        <section key={i} aria-label={r.sku} className="rounded-box border border-base-300">
          <h3 className="num border-b border-base-300 bg-base-200 px-3 py-1 text-xs font-semibold">{r.sku}</h3>
          <dl className="px-3 py-2 text-xs">
            {r.branches.map((b, k) => (
              <div
                key={k}
                className={`flex gap-3 py-px ${b.isChanged ? 'bg-warning/15 font-semibold' : ''}`}
                style={{ paddingInlineStart: `${b.depth * 1.25}rem` }}
              >
                <dt className="num w-36 shrink-0 text-base-content/70">{b.name}</dt>
                <dd className="num min-w-0 flex-1">
                  <BranchValue cell={b.cell} />
                  {b.isChanged && <span className="sr-only">{say` (changed)`}</span>}
                </dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
}
