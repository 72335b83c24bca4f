// One task in a process of its own: time of the work alone, and the peak of resident memory.
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { Ajv } from 'ajv';
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import Papa from 'papaparse';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { Listing } from '@basileus/core/listing';
import { prepareChecks } from '@basileus/core/checks';
import { createFormWriter, type FeedRow, findForm, toRecords } from '@basileus/core/forms';
import { compileFields, firstFields } from '@basileus/core/product';
import { createRowReader, createTextDecoder, planRow, understandSheet } from '@basileus/core/sheet';
import { connect, migrate } from '../server/database';
import { makeStraightPass } from '../server/markets';
import { insertProducts, setStock } from '../server/products';
import { book, makeListings, pans } from './data';
import { PassThrough } from 'node:stream';
import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import { createFeedEncoder } from '../server/dispatches/encode';
import { decodeText } from '../server/markets/decode';
import { makeFamilies, makeJson, makeSheet, makeXml, packAll, parseBare, readAll, textOf, writeAll } from './forms';
import { copyBare, importRows, listImportRows, onHouse, recheck, recheckBare } from './house';

const [task = '', file = '', market = 'quillhaven'] = process.argv.slice(2);
const count = 100_000;
let peak = 0;
const watch = setInterval(() => {
  peak = Math.max(peak, process.memoryUsage().rss);
}, 25);

async function time(work: () => Promise<unknown> | unknown): Promise<void> {
  globalThis.gc?.();
  const started = performance.now();
  const result = await work();
  const seconds = (performance.now() - started) / 1000;
  peak = Math.max(peak, process.memoryUsage().rss);
  clearInterval(watch);
  if (result === undefined) throw new Error('A task must answer what it counted.');
  process.send?.({ seconds, peakMb: Math.round(peak / 1_048_576), result });
  process.disconnect();
}

const fields = compileFields(firstFields);

const readOurs = async () => {
  const decoder = createTextDecoder('utf-8');
  let reader: ReturnType<typeof createRowReader> | undefined,
    rows = 0,
    planned = 0;
  let reading: Parameters<typeof planRow>[1] | undefined;
  const seen = new Map<string, number>();
  const take = (batch: string[][]) => {
    for (const row of batch) {
      rows++;
      if (task === 'read-understand') {
        if (!reading) {
          const u = understandSheet(batch.slice(0, 200), fields, 0);
          reading = {
            columns: u.columns.flatMap((c) => (c.field ? [{ index: c.index, field: c.field }] : [])),
            decimalSign: ',',
            listSeparator: '|',
            mode: 'both',
            blankClears: false,
            acceptMended: true,
          };
          continue;
        }
        if (planRow(row, reading, undefined, { fields, seen }).action === 'create') planned++;
      }
    }
  };
  for await (const chunk of createReadStream(file)) {
    const text = decoder.push(chunk as Buffer);
    reader ??= createRowReader(';');
    take(reader.push(text));
  }
  take(reader!.push(decoder.end()));
  take(reader!.end());
  if (rows !== count + 1) throw new Error(`${rows} rows`);
  return rows + planned;
};

const schema = () => {
  const properties: Record<string, object> = {};
  const required: string[] = [];
  for (const a of pans.attributes) {
    const at = a.attribute;
    if (a.strongest === 'unused' || !['all', 'sellable'].includes(at.rows)) continue;
    if (a.strongest === 'must' && a.conditions.length === 0) required.push(at.key);
    const codes = a.codes?.entries.map((e) => e.code);
    const text = {
      type: 'string',
      ...(at.maxCharacters ? { maxLength: at.maxCharacters } : {}),
      ...(at.minCharacters ? { minLength: at.minCharacters } : {}),
      ...(at.pattern ? { pattern: at.pattern.regex } : {}),
    };
    properties[at.key] =
      at.type === 'one-of'
        ? { enum: codes }
        : at.type === 'several-of'
          ? { type: 'array', items: { enum: codes }, ...(at.maxItems ? { maxItems: at.maxItems } : {}) }
          : at.type === 'repeated-text'
            ? { type: 'array', items: text, ...(at.maxItems ? { maxItems: at.maxItems } : {}) }
            : at.type === 'links'
              ? { type: 'array', items: { type: 'string', pattern: '^https://\\S+\\.(jpg|jpeg|png)$' }, maxItems: 8 }
              : at.type === 'money'
                ? { type: 'string', pattern: '^\\d+(\\.\\d{1,2})?$' }
                : at.type === 'integer'
                  ? { type: 'string', pattern: '^\\d+$' }
                  : at.type === 'yes-no'
                    ? { enum: ['yes', 'no'] }
                    : at.type === 'date'
                      ? { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' }
                      : at.type === 'measure'
                        ? { type: 'string', pattern: `^\\d+(\\.\\d{1,2})? (${at.units!.join('|')})$` }
                        : at.type === 'identifier'
                          ? { type: 'string', pattern: '^\\d{8,14}$' }
                          : text;
  }
  return {
    type: 'object',
    required,
    properties,
    additionalProperties: false,
    allOf: [
      { if: { required: ['sale_price'] }, then: { required: ['sale_start'] } },
      {
        if: { required: ['material'], properties: { material: { const: 'other' } } },
        then: { required: ['material_other'] },
      },
    ],
  };
};

/** Rows as a database or a request gives them: flat texts out of JSON, not texts still being joined. */
const listListings = (): Listing[] => JSON.parse(JSON.stringify([...makeListings(count)])) as Listing[];

const feedRows = (): FeedRow[] =>
  listListings().map((l) => ({
    operation: 'create',
    sku: l.sku,
    role: 'single',
    parentSku: undefined,
    axes: [],
    category: l.category,
    values: l.values,
    cleared: [],
  }));
const form = findForm(book, 'create')!;
const productRecord = (i: number) => ({
  sku: `B-${i}`,
  title: `Bench item ${i} for the kitchen`,
  brand: 'Brindlewick',
  category: 'Frying pans',
  gtin: String(9520000000000 + i),
  cost: '9.10',
  price: '24.99',
});

const nothing = (): Promise<void> => Promise.resolve();
/** The cells of the same sheet, made beforehand: the reference is the library's own work alone. */
const sheetCells = ({ rows }: ReturnType<typeof makeSheet>): string[][] =>
  rows.map((r) => [
    'new',
    r.sku,
    '',
    'kitchen',
    String(r.values['name']),
    'Brindlewick',
    String(r.values['barcode']),
    (r.values['photos'] as string[]).join('|'),
    '',
    String(r.values['across']).replace(' cm', ''),
    String(r.values['asking@ie']),
    String(r.values['pieces']),
  ]);

const tasks: Record<string, () => Promise<void>> = {
  read: () => time(readOurs),
  'read-understand': () => time(readOurs),
  'read-reference': () =>
    time(
      () =>
        new Promise<number>((done, fail) => {
          let rows = 0;
          const parse = Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: ';' });
          createReadStream(file, { encoding: 'utf8' }).pipe(parse);
          parse.on('data', () => {
            rows++;
          });
          parse.on('end', () => {
            done(rows);
          });
          parse.on('error', fail);
        }),
    ),
  check: async () => {
    const list = listListings(),
      judge = prepareChecks(pans, undefined, makeStraightPass);
    await time(() => {
      let n = 0;
      for (const l of list) n += judge(l).length;
      return n;
    });
  },
  'check-same': async () => {
    const list = listListings(),
      judge = prepareChecks(
        pans,
        (id) =>
          [
            'demanded-missing',
            'unused-filled',
            'wrong-type',
            'value-not-allowed',
            'number-limits',
            'unit-not-accepted',
            'text-length',
            'pattern-mismatch',
          ].includes(id),
        makeStraightPass,
      );
    await time(() => {
      let n = 0;
      for (const l of list) n += judge(l).length;
      return n;
    });
  },
  'check-reference': async () => {
    const list = listListings().map((l) => l.values),
      judge = new Ajv({ allErrors: true, unicode: false, strict: false } as ConstructorParameters<
        typeof Ajv
      >[0]).compile(schema());
    await time(() => {
      let n = 0;
      for (const v of list) if (!judge(v)) n += judge.errors!.length;
      return n;
    });
  },
  write: async () => {
    const rows = feedRows(),
      writer = createFormWriter(book, form);
    await time(() => {
      let n = writer.header().length;
      for (let i = 0; i < rows.length; i += 1000)
        n += writer.records(toRecords(book, form, rows.slice(i, i + 1000))).length;
      return n;
    });
  },
  'write-reference': async () => {
    const rows = feedRows(),
      writer = createFormWriter(book, form);
    // The same cells, made beforehand: the reference is the library's own work alone.
    const cells = Papa.parse<string[]>(writer.records(toRecords(book, form, rows)), { delimiter: '\t' }).data;
    await time(() => {
      let n = 0;
      for (let i = 0; i < cells.length; i += 1000)
        n += Papa.unparse(cells.slice(i, i + 1000), { delimiter: '\t', newline: '\r\n' }).length;
      return n;
    });
  },
  'write-json': async () => {
    const made = makeJson(count);
    await time(() => writeAll(made));
  },
  'write-json-reference': async () => {
    const objects = textOf(makeJson(count))
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as object);
    await time(() => {
      let n = 0;
      for (const o of objects) n += JSON.stringify(o).length + 1;
      return n;
    });
  },
  'read-json': async () => {
    const made = makeJson(count),
      text = textOf(made);
    await time(() => readAll(made, text));
  },
  'read-json-reference': async () => {
    const text = textOf(makeJson(count));
    await time(
      () =>
        text
          .trim()
          .split('\n')
          .map((l) => JSON.parse(l) as object).length,
    );
  },
  'write-xml': async () => {
    const made = makeXml(count);
    await time(() => writeAll(made));
  },
  'write-xml-reference': async () => {
    const options = { ignoreAttributes: false, preserveOrder: true };
    const objects = new XMLParser(options).parse(textOf(makeXml(count))) as object;
    await time(() => String(new XMLBuilder(options).build(objects)).length);
  },
  'read-xml': async () => {
    const made = makeXml(count),
      text = textOf(made);
    await time(() => readAll(made, text));
  },
  'read-xml-reference': async () => {
    const text = textOf(makeXml(count));
    await time(() => parseBare(text));
  },
  'write-family': async () => {
    const made = makeFamilies(count);
    await time(() => packAll(made, createFeedEncoder(made.form.container)).length);
  },
  'write-family-reference': async () => {
    const { data: cells } = Papa.parse<string[]>(textOf(makeFamilies(count)), { delimiter: ',' });
    await time(() => {
      let n = 0;
      for (let i = 0; i < cells.length; i += 1000)
        n += iconv.encode(
          Papa.unparse(cells.slice(i, i + 1000), { quotes: true, newline: '\r\n' }),
          'shift_jis',
        ).length;
      return n;
    });
  },
  'read-family': async () => {
    const made = makeFamilies(count),
      bytes = packAll(made, createFeedEncoder(made.form.container));
    await time(async () => readAll(made, await decodeText(bytes, 'shift_jis')));
  },
  'read-family-reference': async () => {
    const made = makeFamilies(count),
      bytes = packAll(made, createFeedEncoder(made.form.container));
    await time(() => Papa.parse<string[]>(new TextDecoder('shift_jis').decode(bytes), { delimiter: ',' }).data.length);
  },
  'write-sheet': async () => {
    const made = makeSheet(count);
    await time(() => packAll(made, createFeedEncoder(made.form.container)).length);
  },
  'write-sheet-reference': async () => {
    const cells = sheetCells(makeSheet(count));
    await time(async () => {
      const stream = new PassThrough();
      stream.resume();
      const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useSharedStrings: false });
      const sheet = book.addWorksheet('The stall');
      for (const row of cells) sheet.addRow(row).commit();
      sheet.commit();
      await book.commit();
      return cells.length;
    });
  },
  'read-sheet': async () => {
    const made = makeSheet(count),
      bytes = packAll(made, createFeedEncoder(made.form.container));
    await time(async () => readAll(made, await decodeText(bytes, { sheet: 'The stall' })));
  },
  'read-sheet-reference': async () => {
    const made = makeSheet(count),
      bytes = packAll(made, createFeedEncoder(made.form.container));
    await time(async () => {
      let n = 0;
      const reader = new ExcelJS.stream.xlsx.WorkbookReader(Readable.from([bytes]), { sharedStrings: 'cache' });
      for await (const sheet of reader) for await (const row of sheet) n += row.cellCount;
      return n;
    });
  },
  recheck: () => onHouse(file, nothing, time, (db) => recheck(db, file, market)),
  'recheck-reference': () => onHouse(file, nothing, time, (db) => recheckBare(db, market)),
  import: () => onHouse(file, (db) => listImportRows(db, `n${process.pid}`), time, importRows),
  'import-reference': () => onHouse(file, (db) => listImportRows(db, 'bare'), time, copyBare),
  store: async () => {
    const db = connect(file);
    await migrate(db);
    await db.raw('truncate products cascade');
    await time(async () => {
      let n = 0;
      for (let i = 0; i < count; i += 2000) {
        await db.transaction(async (tx) => {
          const added = await insertProducts(
            tx,
            Array.from({ length: 2000 }, (_, k) => {
              const { sku, ...fields } = productRecord(i + k);
              return { sku, kind: 'single' as const, parentSku: null, axes: [], fields };
            }),
          );
          await setStock(
            tx,
            added.map((a) => ({ id: a.id, on_hand: 5 })),
          );
          n += added.length;
        });
      }
      return n;
    });
    await db.destroy();
  },
  'store-reference': async () => {
    const db = connect(file);
    await migrate(db);
    await db.raw('truncate products cascade');
    await db.destroy();
    const client = new pg.Client(file);
    await client.connect();
    await time(async () => {
      const copy = client.query(
        copyFrom(
          'copy products (sku, sku_fold, shelf_order, kind, title, brand, category, gtin, gtin14, cost, price) from stdin',
        ),
      );
      await pipeline(
        Readable.from(
          (function* () {
            for (let i = 0; i < count; i += 500) {
              let s = '';
              for (let k = i; k < i + 500; k++) {
                const p = productRecord(k);
                s += `${p.sku}\t${p.sku.toLowerCase()}\t${p.sku.toLowerCase()}\tsingle\t${p.title}\t${p.brand}\t${p.category}\t${p.gtin}\t0${p.gtin}\t${p.cost}\t${p.price}\n`;
              }
              yield s;
            }
          })(),
        ),
        copy,
      );
      await client.query('insert into stock (product_id, on_hand) select id, 5 from products');
      return count;
    });
    await client.end();
  },
};
await (tasks[task] ?? (() => Promise.reject(new Error(`No task ${task}`))))();
