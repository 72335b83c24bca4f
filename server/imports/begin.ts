// The jobs of an import, each begun in the transaction that makes it necessary.
import { type Db, rowOf } from '../database';
import { enqueue } from '../jobs';

/** Reads the file and plans its rows. A newer plan makes this one end. */
export const startPlan = (db: Db, id: number, plan: number, name: string): Promise<string> =>
  enqueue(db, {
    kind: 'plan-import',
    title: `Reading ${name}`,
    payload: { import: id, plan },
    once: `plan-${id}-${plan}`,
    link: `/all/gather/imports/${id}`,
    cancellable: true,
  });

/** Writes the planned rows of an import, as a job. */
export const startApply = (db: Db, id: number, name: string, actor: string): Promise<string> =>
  enqueue(db, {
    kind: 'apply-import',
    title: `Importing ${name}`,
    payload: { import: id, actor },
    once: `apply-${id}`,
    link: `/all/gather/imports/${id}`,
    cancellable: true,
  });

/** Begins to write a planned import, which waits for no time any more; undefined where it is not planned. */
export async function claimWriting(tx: Db, id: number, name: string, actor: string): Promise<string | undefined> {
  const claimed = await rowOf(
    tx,
    `update imports set state = 'applying', due_at = null, due_by = null, next_at = null
      where id = ? and state = 'planned' returning id`,
    [id],
  );
  return claimed === undefined ? undefined : startApply(tx, id, name, actor);
}
