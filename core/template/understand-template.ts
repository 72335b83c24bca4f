// What a market's blank template asks, as far as it can be told from the workbook itself: the sheet to fill, its heading rows,
// and of each column its name, how much it is wanted, what may stand in it, and which field of ours it likely is.
import type { FieldBook } from '../product';
import type { DemandLevel } from '../rulebook';
import { understandSheet } from '../sheet';
import { foldLoosely } from '../text';
import type { TemplateSheet } from './read-template';

export type TemplateLevel = Exclude<DemandLevel, 'unused'>;
export interface TemplateColumn {
  /** Its place in the sheet, from 0. */
  index: number;
  /** The heading as it stands, and without the sign by which it says that it must be filled. */
  heading: string;
  label: string;
  /** What programs call it, where the sheet has a row of such names. */
  key: string | undefined;
  level: TemplateLevel;
  /** Where the level stands; undefined where nothing says it. */
  levelFrom: 'row' | 'label' | 'explained' | undefined;
  values: readonly string[];
  help: string | undefined;
  example: string | undefined;
  maxCharacters: number | undefined;
  /** The field of ours that it likely is. */
  field: string | undefined;
}
export interface TemplateReading {
  sheet: string;
  /** Rows over the first item, from 0: where labels and programs' names stand; undefined where there is no such row. */
  heads: { labels: number | undefined; keys: number | undefined };
  firstRow: number;
  columns: TemplateColumn[];
}

/** Words by which templates say how much a field is wanted. Common practice, no source; in the languages of our markets. */
const levelWords: Readonly<Record<TemplateLevel, readonly string[]>> = {
  must: [
    'required',
    'mandatory',
    'must',
    'yes',
    'obligatory',
    'pflicht',
    'pflichtfeld',
    'erforderlich',
    'obligatorisk',
    '必須',
  ],
  should: [
    'recommended',
    'preferred',
    'should',
    'desired',
    'advised',
    'conditional',
    'conditionally required',
    'empfohlen',
    'rekommenderas',
    '推奨',
  ],
  may: ['optional', 'may', 'no', 'not required', 'freiwillig', 'valfri', '任意'],
};
const levelOf = new Map(
  (Object.keys(levelWords) as TemplateLevel[]).flatMap((l) => levelWords[l].map((w) => [foldLoosely(w), l] as const)),
);
/** The level that a cell says, in a word or at the beginning of a sentence. */
export function readLevel(cell: string): TemplateLevel | undefined {
  const text = foldLoosely(cell);
  return levelOf.get(text) ?? levelOf.get(foldLoosely(cell.split(/[,.;:(–—-]/)[0] ?? ''));
}

const isFilled = (c: string | undefined): c is string => c !== undefined && c.trim() !== '';
const filledOf = (row: readonly string[]): string[] => row.filter(isFilled).map((c) => c.trim());
/** A name for programs: no spaces, small letters or signs that divide words. */
const isKey = (c: string): boolean =>
  /^[A-Za-z][\w.:#[\]/-]*$/.test(c) && (/[_.:#[\]]/.test(c) || c === c.toLowerCase());
const share = (cells: readonly string[], is: (c: string) => boolean): number =>
  cells.length === 0 ? 0 : cells.filter(is).length / cells.length;

/** Rows over the items that are looked at. */
const headRows = 12;
/** The share of a sheet's width that a heading row fills. */
const leastWidth = 0.6;

interface Heads {
  labels: number | undefined;
  keys: number | undefined;
  levels: number | undefined;
  firstRow: number;
  width: number;
}

function findHeads(sheet: TemplateSheet, over?: number): Heads | undefined {
  const rows = sheet.rows.slice(0, over ?? headRows).map(filledOf);
  const width = Math.max(0, ...rows.map((r) => r.length));
  if (width < 3) return undefined;
  const found: Heads = { labels: undefined, keys: undefined, levels: undefined, firstRow: 0, width };
  rows.forEach((cells, i) => {
    const isLevels = cells.length > 1 && share(cells, (c) => readLevel(c) !== undefined) >= 0.7;
    if (isLevels && found.levels === undefined) found.levels = i;
    else if (cells.length >= width * leastWidth && new Set(cells).size >= cells.length * 0.95) {
      if (found.keys === undefined && share(cells, isKey) >= 0.8) found.keys = i;
      else if (found.labels === undefined && share(cells, (c) => c.length <= 80) === 1) found.labels = i;
    }
  });
  const heads = [found.labels, found.keys, found.levels].filter((r) => r !== undefined);
  if (found.labels === undefined && found.keys === undefined) return undefined;
  found.firstRow = over ?? Math.max(...heads) + 1;
  return found;
}

/** What a person says of a template, where it was misread: its sheet, and the row from 0 in which the first item stands. */
export interface SaidOfTemplate {
  sheet?: string;
  firstRow?: number;
}

/** The sheet to fill: the one with the most drop-downs and headings, and little under them. */
function findSheet(
  sheets: readonly TemplateSheet[],
  said: SaidOfTemplate,
): { sheet: TemplateSheet; heads: Heads } | undefined {
  const named = said.sheet === undefined ? sheets : sheets.filter((s) => s.name === said.sheet);
  const scored = named.flatMap((sheet) => {
    const heads = findHeads(sheet, said.firstRow);
    if (!heads) return [];
    const under = sheet.rows.slice(heads.firstRow).filter((r) => r.some(isFilled)).length;
    return [{ sheet, heads, score: heads.width + 3 * sheet.choices.size - Math.min(under, 60) }];
  });
  return scored.sort((a, b) => b.score - a.score)[0];
}

interface Explained {
  level?: TemplateLevel;
  help?: string;
  example?: string;
  maxCharacters?: number;
}

/** What other sheets explain of fields, a row each: which of their columns says what is told by its heading. */
function readExplanations(
  sheets: readonly TemplateSheet[],
  known: ReadonlySet<string>,
): ReadonlyMap<string, Explained> {
  const told = new Map<string, Explained>();
  for (const { rows } of sheets) {
    const width = Math.max(0, ...rows.slice(0, 200).map((r) => r.length));
    for (let c = 0; c < width; c++) {
      const naming = rows.flatMap((r, i) => (known.has(foldLoosely(r[c] ?? '')) ? [i] : []));
      if (naming.length < Math.max(3, known.size * 0.3)) continue;
      const head = rows[naming[0]! - 1] ?? [];
      const called = (words: RegExp): number => head.findIndex((h, i) => i !== c && words.test(h));
      const at = {
        level: called(/requir|mandator|demand|wanted|obligat|pflicht|need/i),
        help: called(/descri|meaning|explan|definition|what|notes?|help|beschreibung/i),
        example: called(/example|sample|beispiel|exempel/i),
        max: called(/max|length|characters|zeichen|limit/i),
      };
      for (const i of naming) {
        const cell = (n: number): string => (n < 0 ? '' : (rows[i]![n] ?? '').trim());
        const said: Explained = told.get(foldLoosely(rows[i]![c]!)) ?? {};
        told.set(foldLoosely(rows[i]![c]!), said);
        const level = readLevel(cell(at.level));
        const most = /\d+/.exec(cell(at.max).replace(/[.,](?=\d{3})/g, ''));
        if (level) said.level = level;
        if (cell(at.help)) said.help = cell(at.help).slice(0, 500);
        if (cell(at.example)) said.example = cell(at.example).slice(0, 200);
        if (most && Number(most[0]) > 0) said.maxCharacters = Number(most[0]);
      }
    }
  }
  return told;
}

/** Lists that stand in columns of other sheets under the names of fields. */
function readValueLists(
  sheets: readonly TemplateSheet[],
  known: ReadonlySet<string>,
): ReadonlyMap<string, readonly string[]> {
  const lists = new Map<string, readonly string[]>();
  for (const { rows } of sheets) {
    const head = rows
      .slice(0, headRows)
      .findIndex((r) => filledOf(r).filter((c) => known.has(foldLoosely(c))).length >= 2);
    if (head < 0) continue;
    rows[head]!.forEach((name, c) => {
      if (!isFilled(name) || !known.has(foldLoosely(name))) return;
      const values = rows.slice(head + 1).map((r) => (r[c] ?? '').trim());
      const filled = [...new Set(values.filter((v) => v !== ''))];
      if (filled.length > 1) lists.set(foldLoosely(name), filled);
    });
  }
  return lists;
}

/** A label without the signs by which it says that it must be filled. */
const plain = (label: string): string =>
  label
    .replace(/\((required|mandatory|optional|recommended)\)/i, '')
    .replace(/^\s*\*+\s*|\s*\*+\s*$/g, '')
    .trim();
const markedLevel = (label: string): TemplateLevel | undefined =>
  /\*\s*$|^\s*\*/.test(label) ? 'must' : readLevel(/\(([^)]*)\)\s*$/.exec(label)?.[1] ?? '');

/** Reads what a template asks; undefined where no sheet of it looks like one to be filled. */
export function understandTemplate(
  sheets: readonly TemplateSheet[],
  fields: FieldBook,
  said: SaidOfTemplate = {},
): TemplateReading | undefined {
  const found = findSheet(sheets, said);
  if (!found) return undefined;
  const { sheet, heads } = found;
  const rowAt = (n: number | undefined): readonly string[] => (n === undefined ? [] : (sheet.rows[n] ?? []));
  const labels = rowAt(heads.labels ?? heads.keys),
    keys = rowAt(heads.keys),
    levels = rowAt(heads.levels);
  const named = labels.flatMap((label, index) => (isFilled(label) ? [{ index, label: label.trim() }] : []));
  const known = new Set(
    named.flatMap(({ index, label }) => [
      foldLoosely(label),
      foldLoosely(plain(label)),
      foldLoosely(keys[index] ?? ''),
    ]),
  );
  known.delete('');
  const others = sheets.filter((s) => s !== sheet);
  const explained = readExplanations(others, known),
    lists = readValueLists(others, known);
  const guesses = understandSheet([labels.map(plain)], fields, 0).columns;
  const fieldAt = new Map(guesses.map((g) => [g.index, g.field]));
  const columns = named.map(({ index, label }): TemplateColumn => {
    const key = isFilled(keys[index]) ? keys[index].trim() : undefined;
    const names = [label, plain(label), key ?? ''].map(foldLoosely);
    const of = <T>(map: ReadonlyMap<string, T>): T | undefined =>
      names.map((n) => map.get(n)).find((v) => v !== undefined);
    const said = of(explained);
    const fromRow = readLevel(levels[index] ?? ''),
      fromLabel = markedLevel(label);
    return {
      index,
      heading: label,
      label: plain(label),
      key,
      level: fromRow ?? fromLabel ?? said?.level ?? 'may',
      levelFrom: fromRow ? 'row' : fromLabel ? 'label' : said?.level ? 'explained' : undefined,
      values: sheet.choices.get(index) ?? of(lists) ?? [],
      help: said?.help,
      example: said?.example,
      maxCharacters: said?.maxCharacters,
      field: fieldAt.get(index),
    };
  });
  return { sheet: sheet.name, heads: { labels: heads.labels, keys: heads.keys }, firstRow: heads.firstRow, columns };
}
