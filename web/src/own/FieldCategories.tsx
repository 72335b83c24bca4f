import { useOwnTree } from './fields';
import { say } from '../ui/text';

/** The own categories that have a field; all where none is named. */
export function FieldCategories({
  chosen,
  onChange,
}: {
  chosen: readonly string[];
  onChange: (names: string[]) => void;
}) {
  const tree = useOwnTree();
  return (
    <div className="flex flex-col gap-1">
      <label className="flex flex-col gap-1">
        <span className="text-xs">{say`Only items of these categories, and of those under them`}</span>
        <select
          className="select select-sm w-full"
          value=""
          onChange={(e) => {
            onChange([...chosen, e.target.value]);
          }}
        >
          <option value="">{chosen.length === 0 ? say`every category` : say`add another one …`}</option>
          {tree
            .filter((c) => !chosen.includes(c.name))
            .map((c) => (
              <option key={c.name} value={c.name}>
                {'\u2003'.repeat(c.path.length - 1)}
                {c.name}
              </option>
            ))}
        </select>
      </label>
      {chosen.length > 0 && (
        <ul className="flex flex-wrap gap-1">
          {chosen.map((name) => (
            <li key={name}>
              <button
                type="button"
                className="btn btn-xs"
                aria-label={say`Not only ${name}`}
                onClick={() => {
                  onChange(chosen.filter((c) => c !== name));
                }}
              >
                {name} <span aria-hidden="true">×</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
