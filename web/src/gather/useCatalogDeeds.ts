import { makeChoice, type Product, sumRows, uploadImport } from '@basileus/contract';
import type { ChangeStep } from '@basileus/core/change';
import { everyItem, isEveryItem, type Which } from '@basileus/core/choose';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { writeSteps } from '../bulk/operation';
import { useScope } from '../frame/scope';
import type { GridColumn } from '../table/columns';
import { toClipboard } from '../table/model';
import type { AskSums } from '../table/RangeSums';
import { toast } from '../ui/messages';
import { say } from '../ui/text';

interface Pages {
  total: number;
  rowAt: (index: number) => Product | undefined;
  loadRows: (first: number, last: number) => Promise<unknown>;
}

/** What is done with the rows of the catalog that are marked or shown: handed on as a choice, changed in bulk, added up. */
export function useCatalogDeeds({
  pages,
  range,
  columns,
  query,
  shownWhich,
}: {
  pages: Pages;
  /** The marked rows. */
  range: { top: number; bottom: number };
  columns: readonly GridColumn[];
  /** What the table asks for. */
  query: Omit<z.input<typeof sumRows.body>, 'offset' | 'limit' | 'fields'>;
  /** All that is shown, as a choice. */
  shownWhich: () => Which;
}) {
  const { scope } = useScope();
  const navigate = useNavigate();
  /** Pasted rows beyond the last one become an import, which shows what they would add before anything is written. */
  const addRows = (rows: string[][], left: number) => {
    const text = toClipboard([columns.slice(left).map((c) => c.title), ...rows]);
    const form = new FormData();
    form.append('file', new File([text], 'pasted-rows.tsv', { type: 'text/tab-separated-values' }));
    call(uploadImport, { form }).then(
      (i) => navigate(`/${scope}/gather/imports/${i.id}`),
      (e: unknown) => toast.error(e instanceof Error ? e.message : say`The rows could not be brought in.`),
    );
  };
  /** Ids of the marked rows, fetched where they are not here. */
  const loadMarked = async (rows = range): Promise<number[]> => {
    await pages.loadRows(rows.top, rows.bottom);
    const ids: number[] = [];
    for (let r = rows.top; r <= rows.bottom; r++) {
      const row = pages.rowAt(r);
      if (row) ids.push(row.id);
    }
    return ids;
  };
  /** The marked rows as a choice; all that is shown where all of it is marked. */
  const markedWhich = async (): Promise<Which> =>
    range.bottom - range.top + 1 === pages.total && pages.total > 1
      ? shownWhich()
      : { ...everyItem, ids: await loadMarked() };
  /** A change of all that is shown, or of the rows that are marked. */
  const changeInBulk = async (isMarked: boolean, steps: readonly ChangeStep[], rows: typeof range) => {
    const which = isMarked ? { ...everyItem, ids: await loadMarked(rows) } : shownWhich();
    const id = isEveryItem(which) ? 0 : (await call(makeChoice, { body: { which } })).id;
    const said = new URLSearchParams({
      ...(id > 0 ? { choice: String(id) } : {}),
      ...(steps.length > 0 ? { steps: writeSteps(steps) } : {}),
    });
    await navigate(`/${scope}/gather/bulk?${said.toString()}`);
  };
  const tryChange = (isMarked: boolean, steps: readonly ChangeStep[] = [], rows = range) => {
    changeInBulk(isMarked, steps, rows).catch((e: unknown) => {
      toast.error(e instanceof Error ? e.message : say`The rows could not be taken over.`);
    });
  };
  const askSums: AskSums = {
    key: ['products', 'sums', query],
    ask: async (r, keys) => {
      const { fields: sums } = await call(sumRows, {
        body: { ...query, offset: r.top, limit: r.bottom - r.top + 1, fields: [...keys] },
      });
      return new Map(sums.map((s) => [s.field, { ...s, unit: '' }]));
    },
  };
  return { addRows, loadMarked, markedWhich, tryChange, askSums };
}
