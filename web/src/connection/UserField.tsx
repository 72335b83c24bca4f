import { say } from '../ui/text';
/** The name that a market knows us by, where it knows sellers by name and key. */
export function UserField({ user, onChange }: { user: string; onChange: (user: string) => void }) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-sm">{say`Name that the market knows us by`}</span>
      <input
        className="input input-sm num w-full"
        value={user}
        autoComplete="off"
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
    </label>
  );
}
