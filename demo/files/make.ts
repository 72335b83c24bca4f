// The files that the demo has ready to be imported: a supplier's list as such lists really come, and a price list.
import { computeGs1CheckDigit } from '@basileus/core/identifiers';
import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';

const gtin = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + computeGs1CheckDigit(body);
};
const short = (): string => {
  const body = '09520007001';
  return body + computeGs1CheckDigit(body);
};
const comma = (n: number): string => n.toFixed(2).replace('.', ',');

const header = [
  'Item no',
  'Family',
  'Product name',
  'Brand',
  'Group',
  'Barcode',
  'Trade price',
  'RRP',
  'Free stock',
  'Colour',
  'Material',
  'Diameter',
  'Gross weight',
  'Long description',
  'Image links',
];
type Row = (string | number)[];
const picture = (sku: string) =>
  [1, 2, 3].map((i) => `https://pictures.tidewrack.example/${sku.toLowerCase()}-${i}.jpg`).join('|');
const item = (
  sku: string,
  family: string,
  name: string,
  brand: string,
  group: string,
  code: string,
  cost: number,
  price: number,
  stock: number,
  colour: string,
  material: string,
  diameter: string,
  weight: string,
  text: string,
): Row => [
  sku,
  family,
  name,
  brand,
  group,
  code,
  comma(cost),
  comma(price),
  stock,
  colour,
  material,
  diameter,
  weight,
  text,
  picture(sku),
];

/** Rows under the title line: one family, singles, items we know already, three damaged barcodes, duplicates. */
export function listSupplierRows(): Row[] {
  const skillet = (size: number, i: number) =>
    item(
      `TW-SKIL-${size}`,
      'TW-SKIL',
      `Tidewrack Shoreline Skillet ${size} cm`,
      'Tidewrack',
      'Frying pans',
      gtin(700100 + i),
      9.4 + i * 2.35,
      24.99 + i * 6,
      40 - i * 7,
      '',
      'Cast iron',
      `${size} cm`,
      `${(1.2 + i * 0.45).toFixed(2).replace('.', ',')} kg`,
      `A pan of ${size} cm cast near the sea; it comes seasoned – and stays so.`,
    );
  const mug = (colour: string, i: number, brand = 'Tidewrack') =>
    item(
      `TW-MUG-${i}`,
      '',
      `${brand} Café Mug ${colour}`,
      brand,
      'Mugs',
      gtin(700200 + i),
      2.85,
      8.99,
      120 + i,
      colour,
      'Stoneware',
      '',
      '0,42 kg',
      `A mug with a broad handle, glazed in ${colour.toLowerCase()}. Crème inside.`,
    );
  return [
    item(
      'TW-SKIL',
      '',
      'Tidewrack Shoreline Skillet',
      'Tidewrack',
      'Frying pans',
      '',
      0,
      0,
      0,
      '',
      'Cast iron',
      '',
      '',
      'A pan cast near the sea; it comes seasoned – and stays so.',
    ).map((c, i) => ([5, 6, 7, 8].includes(i) ? '' : c)),
    ...[20, 24, 28, 32].map(skillet),
    ...['White', 'Blue', 'Grey', 'Cream', 'Olive'].map((c, i) => mug(c, i + 1)),
    mug('Red', 6, 'Tidewrack Trading Co'),
    item(
      'TW-BOWL-1',
      '',
      'Tidewrack Tideline Bowl',
      'Tidewrack',
      'Bowls',
      gtin(700300).slice(0, 6) + '00000000000',
      5.1,
      14.5,
      33,
      'Blue',
      'Stoneware',
      '16 cm',
      '0,80 kg',
      'A deep bowl for soup or cereal, fired twice.',
    ),
    item(
      'TW-JUG-1',
      '',
      'Tidewrack Tideline Jug',
      'Tidewrack',
      'Carafes',
      String(Number(short())),
      6.2,
      18,
      21,
      'Blue',
      'Stoneware',
      '',
      '1,05 kg',
      'A jug that pours without a drip, for water or milk.',
    ),
    item('FP-EMBE-24CM', 'FP-EMBE', 'Ember Frying Pan 24 cm', '', '', '9,52E+12', 12.6, 36.5, 75, '', '', '', '', ''),
    item('MG-DUNE-BLU', 'MG-DUNE', 'Dune Mug Blue', '', '', '', 4.15, 12.5, 210, '', '', '', '', ''),
    item('GT-BROO-200ML', 'GT-BROO', 'Brook Tumblers 200 ml', '', '', '', 7.05, 19.99, 64, '', '', '', '', ''),
    mug('Blue', 2),
    item('TW-MUG-9', '', '', 'Tidewrack', 'Mugs', gtin(700209), 2.85, 8.99, 12, 'Pink', 'Stoneware', '', '0,42 kg', ''),
  ].map((r) =>
    r[0] === 'FP-EMBE-24CM' || r[0] === 'MG-DUNE-BLU' || r[0] === 'GT-BROO-200ML'
      ? r.map((c, i) => ([1, 2, 3, 4, 9, 10, 11, 12, 13, 14].includes(i) ? '' : c))
      : r,
  );
}

/** The supplier's list: semicolons, Windows-1252, a title line, decimal commas, notes under the table. */
export function makeSupplierFile(): Buffer {
  const cell = (c: string | number): string =>
    /[;"\n]/.test(String(c)) ? `"${String(c).replace(/"/g, '""')}"` : String(c);
  const lines = [
    'Tidewrack Trading – autumn list for Brindlewick Housewares',
    '',
    header.join(';'),
    ...listSupplierRows().map((r) => r.map(cell).join(';')),
    '',
    'Prices in £ without VAT, carriage paid from £250. Subject to what is left.',
  ];
  return iconv.encode(lines.join('\r\n') + '\r\n', 'windows-1252');
}

/** The season's price list: a workbook with a title over the header and numbers as numbers. */
export async function makePriceList(skus: readonly { sku: string; price: string }[]): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  book.created = new Date('2026-11-02T08:00:00Z');
  book.modified = book.created;
  const sheet = book.addWorksheet('Winter prices');
  sheet.addRow(['Brindlewick Housewares, winter prices']);
  sheet.addRow(['SKU', 'Selling price', 'Sale price', 'Sale from', 'Sale to']);
  for (const [i, { sku, price }] of skus.entries())
    sheet.addRow([
      sku,
      Math.round(Number(price) * 104) / 100,
      i % 4 === 0 ? Math.floor(Number(price) * 0.9) : null,
      i % 4 === 0 ? '2026-11-27' : null,
      i % 4 === 0 ? '2026-11-30' : null,
    ]);
  const notes = book.addWorksheet('Notes');
  notes.addRow(['Agreed on 2 November.']);
  return Buffer.from(await book.xlsx.writeBuffer());
}
