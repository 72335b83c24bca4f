// Choices that are remembered: addresses name them by number, people by a name.
import { createHash } from 'node:crypto';
import type { ChoiceShape } from '@basileus/contract';
import { type Which, whichSchema } from '@basileus/core/choose';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { countWhich, toWhichSql } from './which';
import { say } from '@basileus/core/text';

interface Row {
  id: number;
  which: unknown;
  name: string | null;
}
const fromRow = ({ id, which, name }: Row): ChoiceShape => ({ id, which: whichSchema.parse(which), name });

/** What nobody has asked for so long, and nobody has named, is forgotten: each condition that is tried while one writes is a choice. */
const forgottenAfter = `interval '180 days'`;

/** Remembers a choice; the same one has the same number. Refuses one that cannot be asked. */
export async function keepChoice(db: Db, which: Which, actor: string): Promise<ChoiceShape> {
  await toWhichSql(db, which, await loadFields(db));
  const text = JSON.stringify(which);
  const digest = createHash('sha256').update(text).digest('hex');
  await db.raw(`delete from choices where name is null and at < now() - ${forgottenAfter}`);
  return fromRow(
    (await rowOf<Row>(
      db,
      `insert into choices (digest, which, actor) values (?, ?::jsonb, ?)
        on conflict (digest) do update set at = now() returning id, which, name`,
      [digest, text, actor],
    ))!,
  );
}

/** A choice by its number. Throws where there is none. */
export async function loadChoice(db: Db, id: number): Promise<ChoiceShape> {
  const row = await rowOf<Row>(db, 'select id, which, name from choices where id = ?', [id]);
  if (!row)
    throw new AppError('not-found', say`There is no choice ${id}.`, {
      remedy: say`Choose the items anew in the catalog.`,
    });
  return fromRow(row);
}

/** A choice with how many it means now. */
export const readChoiceNow = async (db: Db, id: number) => {
  const choice = await loadChoice(db, id);
  return { ...choice, ...(await countWhich(db, choice.which, await loadFields(db))) };
};

export const loadNamedChoices = async (db: Db): Promise<ChoiceShape[]> =>
  (await rowsOf<Row>(db, 'select id, which, name from choices where name is not null order by lower(name)')).map(
    fromRow,
  );

/** Keeps a choice under a name that no other has, or keeps it no more. */
export async function nameChoiceAs(db: Db, id: number, name: string | null): Promise<ChoiceShape> {
  return db.transaction(async (tx) => {
    const { which } = await loadChoice(tx, id);
    if (name !== null && (await rowOf(tx, 'select 1 as x from choices where name = ? and id <> ?', [name, id])))
      throw new AppError('conflict', say`Another choice is called “${name}”.`, {
        field: 'name',
        remedy: say`Give another name, or take the name from the other first.`,
      });
    await tx.raw('update choices set name = ? where id = ?', [name, id]);
    await announce(tx, { topic: 'choices' });
    return { id, which, name };
  });
}
