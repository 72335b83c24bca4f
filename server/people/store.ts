// People by their names, and what was done last under each.
import { deskName, ownName, type Person } from '@basileus/contract';
import { say } from '@basileus/core/text';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';

interface Row {
  id: number;
  name: string;
  isHere: boolean;
  last: Date | null;
}
const selected = `p.id, p.name, p.left_at is null as "isHere", greatest(h.at, s.at) as last
  from people p
  left join lateral (select at from history where actor = p.name order by id desc limit 1) h on true
  left join lateral (select at from change_sets where actor = p.name order by id desc limit 1) s on true`;
const fromRow = ({ last, ...r }: Row): Person => ({ ...r, last: last?.toISOString() ?? null });

/** Those who are here, then those who have left, each by name. */
export const loadPeople = async (db: Db): Promise<Person[]> =>
  (await rowsOf<Row>(db, `select ${selected} order by p.left_at is not null, lower(p.name)`)).map(fromRow);

/** Adds a person, or has one who left here again. A name that is taken is refused, however it is spelled. */
export const addPersonNamed = (db: Db, name: string, actor: string): Promise<Person> =>
  db.transaction(async (tx) => {
    if (name.toLowerCase() === ownName.toLowerCase())
      throw new AppError('conflict', say`“${name}” signs what the application does by itself.`, {
        field: 'name',
        remedy: say`Give another name.`,
      });
    const row = await rowOf<{ id: number }>(
      tx,
      `insert into people (name) values (?)
        on conflict (lower(name)) do update set left_at = null where people.left_at is not null returning id`,
      [name],
    );
    if (!row)
      throw new AppError('conflict', say`“${name}” is here already.`, {
        field: 'name',
        remedy: say`Choose the name, or give another.`,
      });
    const person = fromRow((await rowOf<Row>(tx, `select ${selected} where p.id = ?`, [row.id]))!);
    await recordHistory(tx, actor, { is: 'person-said', name: person.name, how: 'came' });
    await announce(tx, { topic: 'people' });
    return person;
  });

/** A person is no name to choose any more; one under whose name nothing was done is forgotten. */
export const removePersonOf = (db: Db, id: number, actor: string): Promise<void> =>
  db.transaction(async (tx) => {
    const person = await rowOf<{ name: string }>(
      tx,
      'select name from people where id = ? and left_at is null for update',
      [id],
    );
    if (!person) throw new AppError('not-found', say`There is no person ${id}.`);
    if (person.name === deskName)
      throw new AppError('conflict', say`“${deskName}” signs for whoever has chosen no name.`, {
        remedy: say`Leave it; it needs nobody.`,
      });
    await tx.raw(
      `with done as (
          select exists (select 1 from history where actor = p.name) or exists (select 1 from change_sets where actor = p.name) as is
            from people p where p.id = ?),
        gone as (delete from people p using done where p.id = ? and not done.is)
        update people p set left_at = now() from done where p.id = ? and done.is`,
      [id, id, id],
    );
    await recordHistory(tx, actor, { is: 'person-said', name: person.name, how: 'left' });
    await announce(tx, { topic: 'people' });
  });
