// Mending a cell of a row before it is written, as if the file had said so; kept beside the file, which stays as it came.
import { foldSku } from '@basileus/core/identifiers';
import { lessUnread, listUnread, type Problem, readSku } from '@basileus/core/sheet';
import { type Db, rowOf, rowsOf, toJson } from '../database';
import { announce } from '../events';
import { loadImportFields } from './listed';
import { AppError } from '../http';
import { createNamer, isMistyped, loadBaseline, planRows, toCoreReading, toRecord, toRowShape } from './plan-rows';
import { withMends } from './plan';
import { loadImport, loadMends } from './queries';
import { say } from '@basileus/core/text';

/** Mends one cell and plans its row anew. Refused once the import is being written, and for rows without remarks. */
export async function mendRow(
  db: Db,
  id: number,
  row: number,
  { column, text }: { column: number; text: string },
): Promise<void> {
  await db.transaction(async (tx) => {
    const state = (await rowOf<{ state: string }>(tx, 'select state from imports where id = ? for update', [id]))
      ?.state;
    const found = await loadImport(tx, id);
    if (!found || state === undefined) throw new AppError('not-found', say`There is no import ${id}.`);
    if (state !== 'planned')
      throw new AppError('not-now', say`Cells are mended while an import waits for your decision.`, {
        remedy: say`Mend it in the catalog, or drop the file again.`,
      });
    const held = await rowOf<{
      sku: string;
      action: keyof typeof found.counts;
      cells: string[] | null;
      problems: Problem[];
    }>(tx, 'select sku, action, cells, problems from import_rows where import_id = ? and "row" = ?', [id, row]);
    if (!held?.cells) throw new AppError('not-found', say`Row ${row} of this import has nothing to mend.`);
    await tx.raw(
      `insert into import_mends (import_id, "row", col, text) values (?, ?, ?, ?)
        on conflict (import_id, "row", col) do update set text = excluded.text`,
      [id, row, column, text],
    );
    const cells = withMends(held.cells, (await loadMends(tx, id)).get(row));
    const fields = await loadImportFields(tx, found.reading),
      reading = toCoreReading(found.reading),
      shape = toRowShape(found);
    const plan = async (seen: Map<string, number>, spelled: Map<string, string>) =>
      (
        await planRows(tx, [{ row, cells }], {
          ...{ reading, shape, seen, spelled, fields, baseline },
          nameOf: createNamer(found.reading),
        })
      )[0]!;
    const baseline = await loadBaseline(tx, found);
    const sku =
      reading.knownBy === 'sku' ? readSku(cells[shape.skuAt] ?? '') : (await plan(new Map(), new Map())).planned.sku;
    const before = await rowsOf<{ sku: string; row: number }>(
      tx,
      'select sku, "row" from import_rows where import_id = ? and sku = ? and "row" < ? order by "row" limit 1',
      [id, sku, row],
    );
    const seen = new Map(before.map((b) => [b.sku, b.row]));
    const fold = foldSku(sku);
    const added = await rowsOf<{ sku: string }>(
      tx,
      `select sku from import_rows where import_id = ? and action = 'create' and "row" < ?`,
      [id, row],
    );
    const planned = await plan(seen, new Map(added.flatMap((a) => (foldSku(a.sku) === fold ? [[fold, a.sku]] : []))));
    const record = toRecord(planned);
    await tx.raw(
      `update import_rows set sku = ?, action = ?, changes = ?, compared_with = ?, problems = ?, cells = ?
        where import_id = ? and "row" = ?`,
      [
        record.sku,
        record.action,
        JSON.stringify(record.changes),
        record.comparedWith,
        JSON.stringify(record.problems),
        // A mended row keeps its cells, so that it can be mended once more.
        JSON.stringify(record.cells ?? cells),
        id,
        row,
      ],
    );
    const wasDamaged = isDamaged(held.problems),
      isDamagedNow = isDamaged(record.problems);
    const counts = { ...found.counts };
    counts[held.action] = (counts[held.action] ?? 0) - 1;
    counts[record.action] = (counts[record.action] ?? 0) + 1;
    counts.damaged = (counts.damaged ?? 0) + Number(isDamagedNow) - Number(wasDamaged);
    counts.mistyped = (counts.mistyped ?? 0) + Number(isMistyped(record.problems)) - Number(isMistyped(held.problems));
    const unread = lessUnread(
      found.unread,
      listUnread(held.cells, held.problems, reading, fields),
      listUnread(cells, planned!.planned.problems, reading, fields),
    );
    await tx.raw('update imports set counts = ?, unread = ? where id = ?', [
      JSON.stringify(counts),
      toJson(unread),
      id,
    ]);
    await announce(tx, { topic: 'imports', id: String(id) });
  });
}

const isDamaged = (problems: readonly { kind?: string }[]): boolean => problems.some((p) => p.kind === 'damage');
