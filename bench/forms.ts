// Records written and read in each container, and the bare library on the same text.
import { createFormWriter, type FeedRow, findForm, readForm, toRecords } from '@basileus/core/forms';
import { type Form, parseRulebook, type Rulebook } from '@basileus/core/rulebook';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { SaxesParser } from 'saxes';
import type { FeedEncoder } from '../server/dispatches/encode';

const read = (document: unknown): Rulebook => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error('The rulebook is not valid.');
  return reading.rulebook;
};
const row = (i: number, values: FeedRow['values'], category: string): FeedRow => ({
  operation: 'create',
  sku: `FP-${i}`,
  role: 'single',
  parentSku: undefined,
  axes: [],
  category,
  // As rows come from the database: texts that are one piece each, not yet to be put together.
  values: JSON.parse(JSON.stringify(values)) as FeedRow['values'],
  cleared: [],
});
const pictures = (i: number) => [1, 2, 3].map((n) => `https://pictures.brindlewick.example/fp-${i}-${n}.jpg`);

interface Made {
  book: Rulebook;
  form: Form;
  rows: FeedRow[];
}
/** Frying pans in lines of JSON. */
export function makeJson(count: number): Made {
  const book = read(cedarpostDocument);
  const rows = Array.from({ length: count }, (_, i) =>
    row(
      i,
      {
        name: `Brindlewick Hearth Frying Pan ${20 + (i % 16)} cm number ${i}`,
        maker: 'Brindlewick',
        story: `A pan for daily frying with a flat base and sloping sides, number ${i} of its kind.`,
        points: ['Holds its heat', 'Even base', 'Riveted handle'],
        code: String(9520000000000 + i),
        photos: pictures(i),
        ask: `${20 + (i % 60)}.99`,
        on_hand: String(i % 400),
        ships: 'two',
        state: 'sealed',
        box_l: '14.25 in',
        box_w: '11 in',
        box_h: '2.5 in',
        box_weight: '3.31 lb',
        color: 'jet',
        material: 'iron',
        diameter: '11 in',
        dishwasher: 'no',
        hazard: 'none',
      },
      'skillets',
    ),
  );
  return { book, form: findForm(book, 'create')!, rows };
}
/** The same in sheets of XML, in two scripts. */
export function makeXml(count: number): Made {
  const book = read(wadilineDocument);
  const rows = Array.from({ length: count }, (_, i) =>
    row(
      i,
      {
        'name@ar': `مقلاة ${20 + (i % 16)} سم Hearth Brindlewick ${i}`,
        'name@en': `Brindlewick Hearth Frying Pan ${20 + (i % 16)} cm number ${i}`,
        'story@ar': 'مقلاة لكل يوم بقاعدة مستوية وجوانب مائلة.',
        'story@en': `A pan for daily frying with a flat base & sloping sides, number ${i} of its kind.`,
        'point@en': ['Holds its heat', 'Even base', 'Riveted handle'],
        maker: 'Brindlewick',
        barcode: String(9520000000000 + i),
        picture: pictures(i),
        colour: 'black',
        material: 'iron',
        across: `${20 + (i % 16)} cm`,
        price: `${6 + (i % 20)}.550`,
        pieces: String(i % 400),
        ready: '3',
      },
      'pans',
    ),
  );
  return { book, form: findForm(book, 'create')!, rows };
}

/** Families of four sizes, each in one line of Shift_JIS. */
export function makeFamilies(count: number): Made {
  const book = read(lumbaraDocument);
  const rows: FeedRow[] = [];
  for (let i = 0; rows.length < count; i++) {
    const head = row(
      i,
      {
        na: `ブリンドルウィック 囲炉裏 フライパン ${i}`,
        yomi: 'ブリンドルウィックイロリフライパン',
        eimei: `Brindlewick Hearth Frying Pan ${i}`,
        hanashi: '毎日の料理に。底は平らで、縁はなだらか。',
        mei: 'Brindlewick',
        e: pictures(i),
        shinkyu: '1',
        zei: '10',
      },
      'furaipan',
    );
    rows.push({ ...head, role: 'parent', axes: ['kei'] });
    for (const size of [20, 24, 28, 32])
      rows.push({
        ...head,
        sku: `${head.sku}-${size}`,
        role: 'variant',
        parentSku: head.sku,
        axes: ['kei'],
        values: {
          jan: String(9520000000000 + i * 40 + size),
          kei: `${size} cm`,
          ne: String(3000 + size * 10),
          nokori: String((i * size) % 90),
        },
      });
  }
  return { book, form: findForm(book, 'create')!, rows };
}
/** Pans in a sheet of a workbook. */
export function makeSheet(count: number): Made {
  const document = JSON.parse(
    readFileSync(resolve(process.env['BASILEUS_ROOT'] ?? '.', 'docs/examples/thimble-row.json'), 'utf8'),
  ) as { forms: Record<string, unknown>[] };
  Object.assign(document.forms[0]!, {
    container: { kind: 'workbook', sheet: 'The stall', heads: [{ row: 'labels' }, { row: 'keys' }] },
    maxRecords: 1_000_000,
  });
  const book = read(document);
  const rows = Array.from({ length: count }, (_, i) =>
    row(
      i,
      {
        name: `Brindlewick Hearth Frying Pan ${20 + (i % 16)} cm number ${i}`,
        maker: 'Brindlewick',
        barcode: String(9520000000000 + i),
        photos: pictures(i),
        across: `${20 + (i % 16)} cm`,
        'asking@ie': `${20 + (i % 60)}.99`,
        pieces: String(i % 400),
      },
      'kitchen',
    ),
  );
  return { book, form: findForm(book, 'create')!, rows };
}

/** The whole file by batches; answers how long it is. */
export function writeAll({ book, form, rows }: Made): number {
  const writer = createFormWriter(book, form);
  let n = writer.header().length;
  for (let i = 0; i < rows.length; i += 1000)
    n += writer.records(toRecords(book, form, rows.slice(i, i + 1000))).length;
  return n + writer.footer().length;
}
export function textOf({ book, form, rows }: Made): string {
  const writer = createFormWriter(book, form);
  return writer.header() + writer.records(toRecords(book, form, rows)) + writer.footer();
}
export function readAll({ book, form }: Made, text: string): number {
  const reading = readForm(book, form, text, 'create');
  if (!reading.ok) throw new Error(reading.reason);
  return reading.rows.length;
}
/** The bytes of the whole file, by batches as it is built for sending. */
export function packAll({ book, form, rows }: Made, pack: FeedEncoder): Uint8Array {
  const writer = createFormWriter(book, form);
  const parts = [pack.mark, pack.encode(writer.header())];
  for (let i = 0; i < rows.length;) {
    let end = Math.min(rows.length, i + 1000);
    // Families stay together.
    while (end < rows.length && rows[end]!.parentSku !== undefined) end++;
    parts.push(pack.encode(writer.records(toRecords(book, form, rows.slice(i, end)))));
    i = end;
  }
  return Buffer.concat([...parts, pack.encode(writer.footer()), pack.end()]);
}

/** Bare saxes over a text, each element with its attributes and its text kept for as long as it is open. */
export function parseBare(text: string): number {
  const parser = new SaxesParser({ xmlns: false });
  let n = 0;
  parser.on('opentag', ({ attributes }) => {
    n += Object.keys(attributes).length;
  });
  parser.on('text', (t) => {
    n += t.length;
  });
  parser.write(text).close();
  return n;
}
