// LibreOffice as a judge: works formulas out, converts files as a person at a desk would.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Opens a file and saves it in another format, in a folder and with a profile of its own; answers what was written. */
export function convertWithSpreadsheet(name: string, content: string | Uint8Array, to: string): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'basileus-sheet-'));
  try {
    writeFileSync(join(folder, name), content);
    const args = [`-env:UserInstallation=file://${folder}/profile`, '--headless', '--convert-to', to];
    execFileSync('/usr/bin/soffice', [...args, '--outdir', join(folder, 'out'), join(folder, name)], {
      stdio: 'ignore',
      timeout: 120_000,
      env: { ...process.env, HOME: folder },
    });
    return readFileSync(join(folder, 'out', readdirSync(join(folder, 'out'))[0]!));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

type Cell = { number: number } | { text: string } | { day: string } | { formula: string };

const escape = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;').replaceAll('  ', ' <text:s/>');
function writeCell(cell: Cell): string {
  if ('number' in cell) return `<table:table-cell office:value-type="float" office:value="${cell.number}"/>`;
  if ('day' in cell) return `<table:table-cell office:value-type="date" office:date-value="${cell.day}"/>`;
  if ('text' in cell)
    return `<table:table-cell office:value-type="string"><text:p>${escape(cell.text)}</text:p></table:table-cell>`;
  return `<table:table-cell table:formula="of:=${escape(cell.formula)}"/>`;
}
const unescape = (text: string): string =>
  text
    .replace(/<text:s text:c="(\d+)"\/>/g, (_, n: string) => ' '.repeat(Number(n)))
    .replaceAll('<text:s/>', ' ')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replaceAll('&apos;', "'")
    .replaceAll('&amp;', '&');

/**
 * Works out the formulas of a table (OpenFormula, OASIS OpenDocument 1.2 part 2) and answers every cell of it: numbers
 * and days in full, not as they are shown. Texts are compared without regard to case, as in a table made at a desk.
 */
export function workOutSheet(rows: readonly (readonly Cell[])[]): string[][] {
  const table = rows.map((r) => `<table:table-row>${r.map(writeCell).join('')}</table:table-row>`).join('');
  const spaces = ['office', 'table', 'text'].map((s) => `xmlns:${s}="urn:oasis:names:tc:opendocument:xmlns:${s}:1.0"`);
  const sheet = `<?xml version="1.0" encoding="UTF-8"?><office:document ${spaces.join(' ')} xmlns:of="urn:oasis:names:tc:opendocument:xmlns:of:1.2" office:version="1.2" office:mimetype="application/vnd.oasis.opendocument.spreadsheet"><office:body><office:spreadsheet><table:calculation-settings table:case-sensitive="false"/><table:table table:name="one">${table}</table:table></office:spreadsheet></office:body></office:document>`;
  const made = convertWithSpreadsheet('sheet.fods', sheet, 'fods').toString('utf8');
  const body = /<table:table [^]*?<\/table:table>/.exec(made)![0];
  return [...body.matchAll(/<table:table-row[^>]*>([^]*?)<\/table:table-row>/g)].map((row) =>
    [...row[1]!.matchAll(/<table:table-cell([^>]*?)(\/>|>([^]*?)<\/table:table-cell>)/g)].flatMap((cell) => {
      const said = (name: string): string | undefined => new RegExp(`${name}="([^"]*)"`).exec(cell[1]!)?.[1];
      const text = [...(cell[3] ?? '').matchAll(/<text:p[^>]*>([^]*?)<\/text:p>/g)]
        .map((p) => unescape(p[1]!))
        .join('\n');
      const value =
        said('office:date-value') ??
        said('office:boolean-value') ??
        said('office:value') ??
        (said('office:string-value') === undefined ? undefined : unescape(said('office:string-value')!)) ??
        text;
      return Array.from({ length: Number(said('table:number-columns-repeated') ?? 1) }, () => value);
    }),
  );
}
