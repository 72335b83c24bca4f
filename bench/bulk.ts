// Changes in bulk, formulas and files that go out, each beside the same work done barely; written as a section of
// docs/measurements.md.
import { cpus } from 'node:os';
import { Writable } from 'node:stream';
import { prepareChange, type ChangeStep } from '@basileus/core/change';
import { whichSchema } from '@basileus/core/choose';
import { compileFormula } from '@basileus/core/formula';
import { compileFields, firstFields } from '@basileus/core/product';
import { Exact } from '@basileus/core/quantity';
import { createExportWriter, toCell } from '@basileus/core/sheet';
import type { Values } from '@basileus/core/listing';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import { bulkChangeJob, countBulkNow, beginBulk } from '../server/bulk';
import { type Db, rowsOf } from '../server/database';
import { deflatePiece } from '../server/files';
import { openQueues } from '../server/jobs';
import { makeItem, openItemHouse, size } from './item-house';
import { median } from './measure';
import { writeSection } from './section';

const root = process.env['BASILEUS_ROOT']!;
const book = compileFields(firstFields);
const lines: string[] = [];
const say = (name: string, ours: number, referenceName: string, reference: number, aim: string): void => {
  lines.push(
    `| ${name} | ${ours.toFixed(2)} s | ${referenceName}: ${reference.toFixed(2)} s | ${(ours / reference).toFixed(1)} | ${aim} |`,
  );
  console.log(lines.at(-1));
};
const time = async (work: () => unknown): Promise<number> => {
  globalThis.gc?.();
  const started = performance.now();
  await work();
  return (performance.now() - started) / 1000;
};
/** Medians of both, run in turn. */
async function pair(ours: () => unknown, reference: () => unknown, times = 5): Promise<[number, number]> {
  const a: number[] = [],
    b: number[] = [];
  for (let i = 0; i < times; i++) {
    b.push(await time(reference));
    a.push(await time(ours));
  }
  return [median(a), median(b)];
}

// Formulas beside the same arithmetic by hand.
{
  const made = compileFormula('ending([Price] * 85%, .99)', book);
  if (!made.ok) throw new Error('The formula is wrong.');
  const prices = Array.from({ length: 1000 }, (_, i) => `${20 + (i % 60)}.${String(i % 100).padStart(2, '0')}`);
  const rows = prices.map((price) => ({ values: { price }, today: '2026-11-26' }));
  const [ours, byHand] = await pair(
    () => {
      for (let n = 0; n < 100; n++) for (const row of rows) made.formula.run(row);
    },
    () => {
      for (let n = 0; n < 100; n++)
        for (const price of prices)
          new Exact(price)
            .times(new Exact(85).dividedBy(100))
            .minus('0.99')
            .toDecimalPlaces(0, Exact.ROUND_CEIL)
            .plus('0.99');
    },
  );
  say('100,000 formulas, `ending([Price] * 85%, .99)`', ours, 'decimal.js by hand', byHand, '3');
}

// The file part of what goes out: 100,000 rows of 40 columns.
{
  const columns = book.all.filter((f) => f.key !== 'sku').slice(0, 39);
  const all = [book.get('sku')!, ...columns];
  const rows: Values[] = Array.from({ length: 1000 }, (_, i) => {
    const item = makeItem(i);
    return Object.fromEntries(
      all.map((c, n) => [c.key, item[c.key] ?? (c.key === 'sku' ? `SKU-${i}` : `value ${n} of ${i}`)]),
    );
  });
  const cells = rows.map((values) => all.map((c) => toCell(values[c.key])));
  const write = (format: 'csv' | 'xlsx') => () => {
    const writer = createExportWriter(format, all, 'mark', deflatePiece);
    writer.head();
    for (let n = 0; n < size / 1000; n++) writer.rows(rows);
    writer.end();
  };
  const [csv, unparse] = await pair(write('csv'), () => {
    for (let n = 0; n < size / 1000; n++)
      Buffer.from(Papa.unparse(cells, { newline: '\r\n', escapeFormulae: true }), 'utf8');
  });
  say('Writing 100,000 rows of 40 columns as text', csv, 'papaparse.unparse by 1,000 rows', unparse, '1.5');
  const [xlsx, excel] = await pair(
    write('xlsx'),
    async () => {
      const sink = new Writable({
        write: (_c, _e, done) => {
          done();
        },
      });
      const workbook = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: sink, useSharedStrings: false });
      const sheet = workbook.addWorksheet('Catalog');
      for (let n = 0; n < size / 1000; n++) for (const row of cells) sheet.addRow(row).commit();
      await workbook.commit();
    },
    3,
  );
  say('Writing the same as a workbook', xlsx, 'exceljs, streaming', excel, '1.5');
}

const { db, close } = await openItemHouse('bench_bulk');
try {
  await openQueues(db, [bulkChangeJob]);
  const steps: ChangeStep[] = [{ field: 'price', operation: { do: 'raise', by: 'percent', of: '1' } }];
  const which = whichSchema.parse({});
  if (!prepareChange(steps, book).ok) throw new Error('The change is wrong.');
  const bulk = async (): Promise<void> => {
    const { changeSet } = await db.transaction((tx) => beginBulk(tx, { which, steps, title: 'Bench' }, 'bench'));
    const context = {
      id: '',
      db,
      attempt: 1,
      beside: undefined,
      write: <T>(work: (tx: Db) => Promise<T>) => db.transaction(work),
      progress: () => Promise.resolve(),
    };
    await bulkChangeJob.run({ changeSet, actor: 'bench' }, context);
  };
  const [ours, update] = await pair(
    bulk,
    () => db.raw('update products set price = round(price * 1.01, 2), version = version + 1, updated_at = now()'),
    3,
  );
  say(
    'A recipe over 100,000 items: changed, kept with before and after',
    ours,
    'one UPDATE of the same rows',
    update,
    '4',
  );
  const [look, bare] = await pair(
    () => countBulkNow(db, { which, steps }),
    () => rowsOf(db, 'select id, sku, kind, price from products'),
    3,
  );
  say('Counting what it would do, before', look, 'reading the same rows', bare, '');
  writeSection(
    root,
    `## Changes in bulk

Made by \`npm run bench bulk\`, which writes this section: medians of runs in turn, ${cpus().length} cores, 100,000 items without markets (what follows on markets is measured above).

| Work | Basileus | Reference | Ratio | Aim |
| --- | --- | --- | --- | --- |
${lines.join('\n')}
`,
  );
} finally {
  await close();
}
