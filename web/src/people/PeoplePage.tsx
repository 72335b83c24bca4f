import { addPerson, deskName, mostNameLetters, type Person, removePerson } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { choosePerson, personNow, usePersonNow } from '../api/person';
import { Loading, PageHead, Refused } from '../ui/faces';
import { say, when } from '../ui/text';
import { peopleQuery } from './queries';

/** Who works here: names to sign with, what was done last under each, and who has left. */
export function PeoplePage() {
  const people = useQuery(peopleQuery);
  if (people.isLoading) return <Loading />;
  if (people.error || !people.data) return <Refused error={people.error} again={() => void people.refetch()} />;
  const { rows } = people.data;
  return (
    <>
      <PageHead title={say`People`} />
      <div className="flex min-h-0 flex-1 flex-col gap-5 overflow-auto p-5">
        <p className="max-w-prose quiet">
          {say`Each change, file and decision is signed with the name that is chosen at the top right of this browser, so that colleagues know whom to ask. A name locks nothing.`}
        </p>
        <AddPerson />
        <Names title={say`Here`} rows={rows.filter((p) => p.isHere)} />
        {rows.some((p) => !p.isHere) && <Names title={say`Have left`} rows={rows.filter((p) => !p.isHere)} />}
      </div>
    </>
  );
}

function AddPerson() {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const add = useMutation({
    mutationFn: (asked: string) => call(addPerson, { body: { name: asked } }),
    onSuccess: (person) => {
      setName('');
      // Who has chosen no name yet mostly adds his own.
      if (personNow() === '') choosePerson(person.name);
      void client.invalidateQueries({ queryKey: peopleQuery.queryKey });
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (name.trim() !== '') add.mutate(name);
  };
  return (
    <form className="flex flex-wrap items-end gap-2" onSubmit={submit}>
      <label className="flex flex-col gap-1">
        <span>{say`Name`}</span>
        <input
          className="input input-sm w-64"
          value={name}
          maxLength={mostNameLetters}
          autoComplete="off"
          aria-invalid={add.error !== null}
          onChange={(e) => {
            setName(e.target.value);
            add.reset();
          }}
        />
      </label>
      <button type="submit" className="btn btn-sm" disabled={name.trim() === '' || add.isPending}>
        {say`Add`}
      </button>
      {add.error && (
        <span role="alert" className="text-error">
          {add.error.message}
        </span>
      )}
    </form>
  );
}

function Names({ title, rows }: { title: string; rows: readonly Person[] }) {
  const client = useQueryClient();
  const now = usePersonNow();
  const again = () => void client.invalidateQueries({ queryKey: peopleQuery.queryKey });
  const leave = useMutation({
    mutationFn: (id: number) => call(removePerson, { params: { id } }),
    onSuccess: again,
  });
  const back = useMutation({
    mutationFn: (name: string) => call(addPerson, { body: { name } }),
    onSuccess: again,
  });
  const error = leave.error ?? back.error;
  return (
    <section aria-label={title} className="flex flex-col gap-2">
      <h2 className="text-lg">{title}</h2>
      {error && (
        <p role="alert" className="text-error">
          {error.message}
        </p>
      )}
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>{say`Name`}</th>
            <th>{say`Last did something`}</th>
            <th />
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((p) => {
            const isYou = p.name === now || (now === '' && p.name === deskName);
            return (
              <tr key={p.id}>
                <td>
                  <bdi>{p.name}</bdi>
                  {p.name === deskName && <span className="quiet"> · {say`signs for whoever has chosen no name`}</span>}
                  {isYou && <span className="quiet"> · {say`you`}</span>}
                </td>
                <td className="whitespace-nowrap">
                  {p.last === null ? <span className="quiet">{say`nothing yet`}</span> : when(p.last)}
                </td>
                <td>
                  {p.last !== null && (
                    <Link className="link" to={`/all/history?view=log&who=${encodeURIComponent(p.name)}`}>
                      {say`What ${p.name} did`}
                    </Link>
                  )}
                </td>
                <td className="whitespace-nowrap text-end">
                  {p.isHere && !isYou && (
                    <button
                      type="button"
                      className="btn btn-xs"
                      onClick={() => {
                        choosePerson(p.name === deskName ? '' : p.name);
                      }}
                    >
                      {say`This is me`}
                    </button>
                  )}{' '}
                  {p.isHere && p.name !== deskName && (
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={say`${p.name} has left`}
                      disabled={leave.isPending}
                      onClick={() => {
                        if (isYou) choosePerson('');
                        leave.mutate(p.id);
                      }}
                    >
                      {say`Has left`}
                    </button>
                  )}
                  {!p.isHere && (
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={say`${p.name} is here again`}
                      disabled={back.isPending}
                      onClick={() => {
                        back.mutate(p.name);
                      }}
                    >
                      {say`Is here again`}
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
