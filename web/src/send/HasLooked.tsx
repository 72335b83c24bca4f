import { say } from '../ui/text';

/** What is surprising in what would go, and the tick of a person who has looked at it; nothing where nothing is. */
export function HasLooked({
  warnings,
  isSo,
  onChange,
}: {
  warnings: readonly string[];
  isSo: boolean;
  onChange: (isSo: boolean) => void;
}) {
  if (warnings.length === 0) return null;
  return (
    <>
      {warnings.map((w) => (
        <p key={w} className="border-s-4 border-warning ps-3">
          {w}
        </p>
      ))}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={isSo}
          onChange={(e) => {
            onChange(e.target.checked);
          }}
        />
        {say`I have looked, and it is meant`}
      </label>
    </>
  );
}
