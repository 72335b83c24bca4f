// A list of a supplier who writes for people in another country: laid out by hand, in German and in euros.
import { computeGs1CheckDigit } from '@basileus/core/identifiers';
import ExcelJS from 'exceljs';

const gtin = (n: number): number => {
  const body = `952${String(n).padStart(9, '0')}`;
  return Number(body + computeGs1CheckDigit(body));
};

const above = ['Bestell-Nr.', 'Artikel', 'Farbe', 'Maße (cm)', 'Gewicht', 'EAN-Code', 'Preise in EUR', null];
const headings = [...above, 'Bestand', 'Werkstoff', 'Land', 'Zolltarif-Nr.'];
const models = [
  ['Becher „Frühnebel“', '9,5 x 9 x 10', '340 g', 4.2, 14.9],
  ['Müslischale „Frühnebel“', '16 × 16 × 6,5', '0,45 kg', '5,10 €', 16.9],
  ['Teller flach „Frühnebel“', '27 x 27 x 2,5', '0,62 kg', 6.4, 19.9],
  ['Krug „Morgenrot“', '14 x 11 x 21', '1.150 g', 11.75, 34.9],
] as const;
const colours = ['weiß', 'blau', 'grau'];

/** The rows as they stand in the sheet: what is null belongs to the cell above it, or to the left. */
export function listMorgenkrugRows(): (string | number | null)[][] {
  const items = models.flatMap(([name, size, weight, cost, retail], m) =>
    colours.map((colour, c) => [
      ...[`MK-${100 + m}${'abc'[c]!}`, c === 0 ? name : null, colour, c === 0 ? size : null, c === 0 ? weight : null],
      ...[gtin(810_000 + m * 10 + c), c === 0 ? cost : null, c === 0 ? retail : null],
      (m + c) % 4 === 3 ? 'ausverkauft' : 24 + m * 10 + c,
      ...[c === 0 ? 'Steinzeug' : null, c === 0 ? 'Deutschland' : null, '69120023'],
    ]),
  );
  return [
    ['Morgenkrug Steinzeug – Preisliste Frühjahr 2027'],
    ['alle Preise netto ab Werk'],
    [],
    headings,
    headings.map((_, i) => (i === 6 ? 'EK' : i === 7 ? 'UVP' : null)),
    ...items,
    [],
    ['* Mindestbestellwert 250 €, Lieferung in drei bis fünf Tagen'],
  ];
}

/** The same as a workbook, with the cells of a model over its colours. */
export async function makeMorgenkrugList(): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  book.created = book.modified = new Date('2026-11-02T09:00:00Z');
  const sheet = book.addWorksheet('Preisliste');
  for (const row of listMorgenkrugRows()) sheet.addRow(row);
  for (const column of 'ABCDEFIJKL') sheet.mergeCells(`${column}4:${column}5`);
  sheet.mergeCells('G4:H4');
  for (let m = 0; m < models.length; m++) {
    const first = 6 + m * colours.length;
    for (const column of 'BDEGHJK') sheet.mergeCells(`${column}${first}:${column}${first + colours.length - 1}`);
  }
  return Buffer.from(await book.xlsx.writeBuffer());
}
