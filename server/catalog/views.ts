// Views of the catalog that are kept under names.
import { type TableLayout, tableLayout, type ViewShape } from '@basileus/contract';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';
import { announce } from '../events';

interface Row {
  id: number;
  name: string;
  layout: unknown;
  address: string;
  actor: string;
}
const fromRow = (r: Row): ViewShape => ({ ...r, layout: parseColumn('views.layout', tableLayout, r.layout) });
const selected = 'id, name, layout, address, actor';

export const loadViews = async (db: Db): Promise<ViewShape[]> =>
  (await rowsOf<Row>(db, `select ${selected} from views order by lower(name)`)).map(fromRow);

/** Keeps a view under its name; one of that name is replaced. */
export async function putView(
  db: Db,
  view: { name: string; layout: TableLayout; address: string },
  actor: string,
): Promise<ViewShape> {
  const row = (await rowOf<Row>(
    db,
    `insert into views (name, layout, address, actor) values (?, ?::jsonb, ?, ?)
      on conflict (name) do update set layout = excluded.layout, address = excluded.address, actor = excluded.actor, at = now()
      returning ${selected}`,
    [view.name, JSON.stringify(view.layout), view.address, actor],
  ))!;
  await announce(db, { topic: 'views' });
  return fromRow(row);
}

export async function dropView(db: Db, id: number): Promise<void> {
  await db.raw('delete from views where id = ?', [id]);
  await announce(db, { topic: 'views' });
}
