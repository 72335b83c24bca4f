// Adding, changing and forgetting business systems.
import type { changeSource, createSource, SourceShape } from '@basileus/contract';
import { findNextTime } from '@basileus/core/change';
import { wordFormulaProblem } from '@basileus/core/formula';
import type { z } from 'zod';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { loadRuns, loadSources, mustLoadSource, readColumns, toShape } from './queries';
import { wakeClock } from './run';
import { prepareFor } from './try';
import { say } from '@basileus/core/text';

const lastOf = async (db: Db, id: number) => (await loadRuns(db, id, 1))[0];
export const loadShape = async (db: Db, id: number): Promise<SourceShape> =>
  toShape(await mustLoadSource(db, id), await lastOf(db, id));
export const loadShapes = async (db: Db): Promise<SourceShape[]> => {
  const shapes: SourceShape[] = [];
  for (const s of await loadSources(db)) shapes.push(toShape(s, await lastOf(db, s.id)));
  return shapes;
};

async function keepKey(tx: Db, id: number, key: string | null | undefined): Promise<void> {
  if (key === undefined) return;
  if (key === null || key === '') await tx.raw('delete from source_keys where source_id = ?', [id]);
  else
    await tx.raw(
      'insert into source_keys (source_id, key) values (?, ?) on conflict (source_id) do update set key = excluded.key',
      [id, key],
    );
}
async function refuseTakenName(tx: Db, name: string, id: number | null): Promise<void> {
  if (await rowOf(tx, 'select 1 as x from sources where name = ? and id is distinct from ?', [name, id]))
    throw new AppError('conflict', say`Another business system is called “${name}”.`, {
      field: 'name',
      remedy: say`Give another name.`,
    });
}

/** Refuses what looks like an address and is none, such as one with a port that there is not. */
function mustBeAddress(address: string): void {
  if (!URL.canParse(address))
    throw new AppError('bad-input', say`“${address}” is no address.`, {
      field: 'address',
      remedy: say`Look at its host and its port.`,
    });
}

export const addSource = (db: Db, said: z.output<typeof createSource.body>, actor: string): Promise<SourceShape> =>
  db.transaction(async (tx) => {
    mustBeAddress(said.address);
    await refuseTakenName(tx, said.name, null);
    const { id } = (await rowOf<{ id: number }>(
      tx,
      'insert into sources (name, way, address, decimal_sign, actor) values (?, ?, ?, ?, ?) returning id',
      [said.name, said.way, said.address, said.decimalSign, actor],
    ))!;
    await keepKey(tx, id, said.key);
    await announce(tx, { topic: 'sources' });
    return loadShape(tx, id);
  });

export const putSource = (db: Db, id: number, said: z.output<typeof changeSource.body>): Promise<SourceShape> =>
  db.transaction(async (tx) => {
    const held = await mustLoadSource(tx, id, 'for update');
    mustBeAddress(said.address);
    await refuseTakenName(tx, said.name, id);
    const columns = readColumns(held);
    if (columns.length > 0) {
      const made = prepareFor(said.rules, columns, await loadFields(tx));
      if (!made.ok)
        throw new AppError('bad-input', wordFormulaProblem(made.fault.problem), {
          field: typeof made.part === 'number' ? `rules.fields.${made.part}` : `rules.${made.part}`,
        });
    }
    const book = await loadFields(tx);
    const twice = said.rules.fields.find((f, i) => said.rules.fields.findIndex((o) => o.field === f.field) < i);
    if (twice)
      throw new AppError('bad-input', say`${book.labelOf(twice.field)} is filled twice.`, {
        field: 'rules',
        remedy: say`Leave one of the two out.`,
      });
    // What is asked elsewhere than before is asked whole, and its key is not shown to another host.
    const isMoved = new URL(held.address).origin !== new URL(said.address).origin;
    await tx.raw(
      `update sources set name = ?, way = ?, address = ?, decimal_sign = ?, since_param = ?, rules = ?::jsonb, mode = ?,
          schedule = ?::jsonb, next_at = ?, hold_percent = ?, asked_at = case when ? then null else asked_at end
        where id = ?`,
      [
        said.name,
        said.way,
        said.address,
        said.decimalSign,
        said.sinceParam,
        columns.length > 0 ? JSON.stringify(said.rules) : null,
        said.mode,
        said.schedule === null ? null : JSON.stringify(said.schedule),
        said.schedule === null ? null : findNextTime(said.schedule, new Date()),
        said.holdPercent,
        isMoved || said.address !== held.address,
        id,
      ],
    );
    await keepKey(tx, id, isMoved && said.key === undefined ? null : said.key);
    if (said.schedule !== null) await wakeClock(tx);
    await announce(tx, { topic: 'sources' });
    return loadShape(tx, id);
  });

export const dropSource = (db: Db, id: number): Promise<void> =>
  db.transaction(async (tx) => {
    await mustLoadSource(tx, id, 'for update');
    await tx.raw('delete from sources where id = ?', [id]);
    await announce(tx, { topic: 'sources' });
  });
