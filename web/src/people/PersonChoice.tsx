import { deskName } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { choosePerson, usePersonNow } from '../api/person';
import { say } from '../ui/text';
import { peopleQuery } from './queries';

const others = ' people';

/** Under whose name one works here, and the way to the others. */
export function PersonChoice() {
  const people = useQuery(peopleQuery).data?.rows;
  const now = usePersonNow(),
    navigate = useNavigate();
  if (!people) return null;
  const here = people.filter((p) => p.isHere && p.name !== deskName);
  return (
    <select
      className="select select-ghost select-sm w-auto max-w-36 truncate"
      aria-label={say`Who you are`}
      title={say`What you do is signed with this name.`}
      value={here.some((p) => p.name === now) ? now : ''}
      onChange={(e) => {
        if (e.target.value === others) void navigate('/all/people');
        else choosePerson(e.target.value);
      }}
    >
      <option value="">{deskName}</option>
      {here.map((p) => (
        <option key={p.id} value={p.name}>
          {p.name}
        </option>
      ))}
      <option value={others}>{say`People …`}</option>
    </select>
  );
}
