// Which of the new rows of a file are families, only the whole file tells: those that others name as theirs. Once all rows are
// planned, what belongs to their variants is left out of them.
import type { FieldChange } from '@basileus/core/change';
import { leaveOutOfFamily } from '@basileus/core/sheet';
import type { FieldBook } from '@basileus/core/product';
import { rowsOf, type Write } from '../database';

const rowsAtOnce = 500;

/** Goes over the planned new families of an import in steps, each in a transaction of its own. */
export async function trimNewFamilies(write: Write, importId: number, fields: FieldBook): Promise<void> {
  let after = 0;
  const step = (): Promise<number> =>
    write(async (tx) => {
      const rows = await rowsOf<{ row: number; changes: FieldChange[] }>(
        tx,
        // Who is named is gathered once a step: asked row by row, a file that was never analysed is gone through for each.
        `with named as materialized (
            select distinct parent_sku as sku from import_rows
            where import_id = ? and parent_sku is not null and action = 'create')
          select r."row", r.changes from import_rows r
          where r.import_id = ? and r.action = 'create' and r.parent_sku is null and r."row" > ? and r.sku in (select sku from named)
          order by r."row" limit ?`,
        [importId, importId, after, rowsAtOnce],
      );
      after = rows.at(-1)?.row ?? after;
      const trimmed = rows
        .map((r) => ({ row: r.row, ...leaveOutOfFamily(r.changes, fields) }))
        .filter((r) => r.problems.length > 0);
      if (trimmed.length)
        await tx.raw(
          `update import_rows i set changes = r.changes, problems = i.problems || r.problems
            from jsonb_to_recordset(?::jsonb) as r("row" int, changes jsonb, problems jsonb)
            where i.import_id = ? and i."row" = r."row"`,
          [JSON.stringify(trimmed), importId],
        );
      return rows.length;
    });
  while ((await step()) === rowsAtOnce);
}
