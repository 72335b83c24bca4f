// A workbook of one sheet as bytes (ECMA-376 part 2: a zip archive of parts), packed as its rows come: what is in memory is a
// piece of the sheet, not the file.
import { strToU8, Zip, ZipDeflate, ZipPassThrough } from 'fflate';

const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main',
  relations = 'http://schemas.openxmlformats.org/package/2006/relationships',
  office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships',
  sheetType = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
/** Archives know no earlier day; none is said, so that the same rows make the same bytes. */
const noDay = new Date(1980, 0, 1);

const escapeName = (name: string): string =>
  name.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

/** Custom properties of a document by name: kept by programs that save it anew, and shown nowhere in a sheet. */
type Properties = Readonly<Record<string, string>>;
export const propertiesPart = 'docProps/custom.xml';
const hasAny = (properties: Properties): boolean => Object.keys(properties).length > 0;
/** ECMA-376 part 1, 22.3; the format's identifier is that of the standard. */
const writeProperties = (properties: Properties): string =>
  `${head}<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/custom-properties" xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes">${Object.entries(
    properties,
  )
    .map(
      ([name, text], i) =>
        `<property fmtid="{D5CDD505-2E9C-101B-9397-08002B2CF9AE}" pid="${i + 2}" name="${escapeName(name)}"><vt:lpwstr>${escapeName(text)}</vt:lpwstr></property>`,
    )
    .join('')}</Properties>`;

/** The parts beside the sheet. The second style is text. */
const partsOf = (sheet: string, properties: Properties): Readonly<Record<string, string>> => ({
  '[Content_Types].xml': `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${sheetType}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${sheetType}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${sheetType}.styles+xml"/>${hasAny(properties) ? `<Override PartName="/${propertiesPart}" ContentType="application/vnd.openxmlformats-officedocument.custom-properties+xml"/>` : ''}</Types>`,
  '_rels/.rels': `${head}<Relationships xmlns="${relations}"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/>${hasAny(properties) ? `<Relationship Id="rId2" Type="${office}/custom-properties" Target="${propertiesPart}"/>` : ''}</Relationships>`,
  ...(hasAny(properties) ? { [propertiesPart]: writeProperties(properties) } : {}),
  'xl/workbook.xml': `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="${escapeName(sheet)}" sheetId="1" r:id="rId1"/></sheets></workbook>`,
  'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="${relations}"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${office}/styles" Target="styles.xml"/></Relationships>`,
  'xl/styles.xml': `${head}<styleSheet xmlns="${main}"><fonts count="1"><font><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="2"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/><xf numFmtId="49" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/></cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`,
});

export interface WorkbookPacker {
  /** Bytes that are ready once this piece of the sheet is in. */
  push: (text: string) => Uint8Array;
  /** The rest: the end of the sheet and the directory of the archive. */
  end: () => Uint8Array;
}

/**
 * Deflates bytes to whole blocks of which none is the last, so that pieces that were deflated one by one make one stream
 * (RFC 1951). What a machine brings does so several times as fast as JavaScript.
 */
export type DeflatePiece = (bytes: Uint8Array) => Uint8Array<ArrayBuffer>;
/** An empty block that is the last one: RFC 1951, 3.2.3 and 3.2.6. */
const lastBlock = new Uint8Array([3, 0]);

/** What repeats is found within a piece alone: a small one is held until more has come. */
const deflatedAtOnce = 262_144;

/** A part of an archive that is deflated piece by piece by what it is given. */
class DeflatedPart extends ZipPassThrough {
  override compression = 8;
  readonly #deflate: DeflatePiece;
  #held: Uint8Array[] = [];
  #bytes = 0;
  constructor(name: string, deflate: DeflatePiece) {
    super(name);
    this.#deflate = deflate;
  }
  protected override process(chunk: Uint8Array, isLast: boolean): void {
    this.#held.push(chunk);
    this.#bytes += chunk.length;
    if (this.#bytes >= deflatedAtOnce || (isLast && this.#bytes > 0)) {
      this.ondata(null, this.#deflate(joinBytes(this.#held)), false);
      this.#held = [];
      this.#bytes = 0;
    }
    if (isLast) this.ondata(null, lastBlock, true);
  }
}

/** Packs the text of one sheet, piece by piece, into a workbook of that sheet alone; with properties that go with it unseen. */
export function createWorkbookPacker(
  sheet: string,
  properties: Properties = {},
  deflate?: DeflatePiece,
): WorkbookPacker {
  let ready: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    ready.push(chunk);
  });
  const add = (name: string): ZipPassThrough | ZipDeflate => {
    // Three hundredths larger than at level 6, in three fifths of the time.
    const part = deflate ? new DeflatedPart(name, deflate) : new ZipDeflate(name, { level: 3 });
    part.mtime = noDay;
    zip.add(part);
    return part;
  };
  const take = (): Uint8Array => {
    const all = joinBytes(ready);
    ready = [];
    return all;
  };
  for (const [name, text] of Object.entries(partsOf(sheet, properties))) add(name).push(strToU8(text), true);
  const rows = add('xl/worksheets/sheet1.xml');
  return {
    push: (text) => {
      if (text !== '') rows.push(strToU8(text));
      return take();
    },
    end: () => {
      rows.push(new Uint8Array(), true);
      zip.end();
      return take();
    },
  };
}

function joinBytes(chunks: readonly Uint8Array[]): Uint8Array {
  if (chunks.length === 1) return chunks[0]!;
  const all = new Uint8Array(chunks.reduce((n, c) => n + c.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    all.set(chunk, at);
    at += chunk.length;
  }
  return all;
}
