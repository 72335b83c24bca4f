import { ownName } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { peopleQuery } from '../people/queries';
import { say } from '../ui/text';

/** Of whom the history is shown: everybody, one person, or what the application did by itself. */
export function WhoFilter({ who, onChoose }: { who: string; onChoose: (who: string) => void }) {
  const people = useQuery(peopleQuery).data?.rows ?? [];
  const names = [...people.map((p) => p.name), ownName];
  return (
    <select
      className="select select-sm w-auto max-w-56"
      aria-label={say`Done by`}
      value={who}
      onChange={(e) => {
        onChoose(e.target.value);
      }}
    >
      <option value="">{say`Done by everybody`}</option>
      {/* A name that an address holds, and nobody has any more. */}
      {who !== '' && !names.includes(who) && <option value={who}>{who}</option>}
      {names.map((name) => (
        <option key={name} value={name}>
          {name}
        </option>
      ))}
    </select>
  );
}
