// What an import would do with some of its rows: each compared with what we hold now.
import {
  findRowFaults,
  type ImportReading,
  type KnownAs,
  type PlannedRow,
  planReturn,
  planRow,
  type RowShape,
  sheetBounds,
  type ProblemFact,
  readKey,
  readSku,
  type WentOut,
} from '@basileus/core/sheet';
import type { ImportReadingShape } from '@basileus/contract';
import { type FieldBook, readHeadingUnit } from '@basileus/core/product';
import { dropBroken } from '@basileus/core/text';
import { foldSku, isSameSkuMistyped } from '@basileus/core/identifiers';
import { type Db, rowsOf } from '../database';
import { loadWentOut, mustLoadExport } from '../exports';
import { loadProductsOf, toFields } from '../products';
import { createListedJudge } from './judge-listed';
import type { ImportRow } from './queries';

export const toCoreReading = (r: ImportReadingShape): ImportReading => ({
  columns: r.columns.flatMap((c) => {
    if (c.field === null) return [];
    const unit = readHeadingUnit(c.name);
    const said = {
      index: c.index,
      ...(unit === undefined ? {} : { unit }),
      ...(c.converts ? { converts: c.converts } : {}),
    };
    return c.parts
      ? c.parts.map((field, at) => ({ ...said, field, part: { at, of: c.parts!.length } }))
      : [{ ...said, field: c.field }];
  }),
  decimalSign: r.decimalSign === ',' ? ',' : '.',
  dateOrder: r.dateOrder,
  listSeparator: r.listSeparator,
  mode: r.mode,
  blankClears: r.blankClears,
  acceptMended: r.acceptMended,
  knownBy: r.knownBy,
  makesSkus: r.makesSkus,
  asTwins: r.asTwins,
  replacements: r.replacements,
});

/** The shape of the table that rows are held against; its width is measured when the first rows are there. */
export const toRowShape = ({ kind, reading, width }: ImportRow): RowShape => ({
  delimiter: kind === 'text' ? reading.delimiter : undefined,
  width,
  skuAt: reading.columns.find((c) => c.field === reading.knownBy)?.index ?? -1,
  used: new Set(reading.columns.flatMap((c) => (c.field === null ? [] : [c.index]))),
});

/** What a column is called, by its index. */
export function createNamer(reading: ImportReadingShape): (index: number) => string {
  const names = new Map(reading.columns.map((c) => [c.index, c.name]));
  return (index) => names.get(index) ?? `Column ${index + 1}`;
}

export interface SheetRow {
  row: number;
  cells: string[];
}
export interface PlannedSheetRow extends SheetRow {
  planned: PlannedRow;
  swallowed: number;
  /** What went out of it, where it is the return of something. */
  went: WentOut | undefined;
  /** The version of the item that it was compared with: where that still stands, each change is as it was planned. */
  comparedWith: number | null;
}

/** What rows are planned by; `seen` grows with them. */
export interface PlanContext {
  reading: ImportReading;
  shape: RowShape;
  nameOf: (index: number) => string;
  seen: Map<string, number>;
  /** New SKUs of rows before, by their folded form. */
  spelled: Map<string, string>;
  fields: FieldBook;
  /** The file that went out of which this one is the return. */
  baseline?: Baseline | undefined;
}

/** What went out: which file, and the fields that it had. */
export interface Baseline {
  id: number;
  fields: ReadonlySet<string>;
}

/** The file of which an import is the return; undefined where it is none, or it has been forgotten. */
export async function loadBaseline(db: Db, found: ImportRow): Promise<Baseline | undefined> {
  if (found.baseline_id === null) return undefined;
  const { id, columns } = await mustLoadExport(db, found.baseline_id);
  return { id, fields: new Set(columns) };
}

export async function planRows(
  db: Db,
  rows: readonly SheetRow[],
  { reading, shape, nameOf, seen, spelled, fields, baseline }: PlanContext,
): Promise<PlannedSheetRow[]> {
  // A database text holds no zero character; a SKU with one is refused, and not looked for.
  const skuAt = reading.columns.find((c) => c.field === 'sku')?.index ?? -1;
  const written = rows.map((r) => readSku(r.cells[skuAt] ?? ''));
  const twins = await findTwins(
    db,
    written.filter((s) => s !== '' && s.length < 1000 && dropBroken(s) === s),
    spelled,
  );
  const by = reading.knownBy ?? 'sku',
    known =
      by === 'sku'
        ? undefined
        : (await findKnown(db, rows, by, reading, fields)).map(({ sku, ...k }, i): KnownAs => {
            const isMade = reading.makesSkus && k.skus.length === 0 && written[i] === '' && sku !== '';
            return isMade ? { ...k, made: sku } : k;
          });
  const skus = written.map((sku, i) => {
    const as = known?.[i];
    if (as) return (as.skus.length === 1 ? as.skus[0] : as.made) ?? sku;
    return (reading.asTwins ? twins.inCatalog(sku) : undefined) ?? sku;
  });
  // No more of an item is read than the row says something of, and what a row is judged by beside that.
  const filled = reading.columns.flatMap((c) => (fields.get(c.field) === undefined ? [] : c.field));
  const products = new Map(
    (
      await loadProductsOf(
        db,
        filled,
        skus.filter((s) => dropBroken(s) === s),
      )
    ).map((r) => [r.sku, r]),
  );
  const strangers =
    known || !reading.columns.some((c) => c.field === 'gtin')
      ? undefined
      : await findKnown(
          db,
          rows.map((r, i) => ({ cells: products.has(skus[i]!) ? [] : r.cells })),
          'gtin',
          reading,
          fields,
        );
  const wentOut = baseline && (await loadWentOut(db, baseline.id, [...products.keys()]));
  const judge = await createListedJudge(
    db,
    reading.columns.map((c) => c.field),
    [...products.values()],
  );
  return rows.map(({ row, cells }, i) => {
    const sku = skus[i]!,
      product = products.get(sku),
      values = wentOut?.get(sku);
    const { problems: faults, swallowed } = findRowFaults(cells, shape, nameOf);
    const isReadAs = !known && sku !== written[i];
    if (isReadAs)
      faults.push({
        field: 'sku',
        value: written[i]!,
        kind: 'damage',
        fact: { is: 'read-as', sku },
        level: 'caution',
      });
    const meant = isReadAs ? cells.map((c, at) => (at === skuAt ? sku : c)) : cells;
    const went = baseline && values ? { fields: baseline.fields, values } : undefined;
    const held = product && { ...toFields(product), ...judge.held(product.id) },
      twin = product ? undefined : twins.of(sku),
      context = { fields, seen, faults, kind: product?.kind, twin, known: known?.[i] };
    const planned = judge.leaveOut(
      went ? planReturn(meant, reading, held, went, context) : planRow(meant, reading, held, context),
      product,
    );
    const [other] = strangers?.[i]?.skus ?? [];
    if (planned.action === 'create' && other !== undefined)
      planned.problems.push({
        field: 'gtin',
        value: strangers![i]!.value,
        kind: 'does-not-fit',
        fact: { is: 'barcode-of', sku: other },
        level: 'caution',
      });
    if (planned.sku && !seen.has(planned.sku)) seen.set(planned.sku, row);
    if (planned.action === 'create') spelled.set(foldSku(planned.sku), planned.sku);
    // What comes back is compared with what went out, and not with what stands here.
    const comparedWith = went === undefined ? (product?.version ?? null) : null;
    return { row, cells, planned, swallowed, went, comparedWith };
  });
}

/** What of ours has the barcodes or part numbers of rows; families are sold by nobody. */
async function findKnown(
  db: Db,
  rows: readonly Pick<SheetRow, 'cells'>[],
  by: KnownAs['by'],
  reading: ImportReading,
  fields: FieldBook,
): Promise<(KnownAs & { sku: string })[]> {
  const keys = rows.map((r) => readKey(r.cells, reading, by, fields)),
    column = by === 'gtin' ? 'gtin14' : 'mpn';
  const asked = [...new Set(keys.map((k) => k.key))].filter((k) => k !== '' && dropBroken(k) === k);
  const found = new Map<string, string[]>();
  if (asked.length > 0)
    for (const { key, sku } of await rowsOf<{ key: string; sku: string }>(
      db,
      `select ${column} as key, sku from products where ${column} = any(?) and kind <> 'family' order by id`,
      [asked],
    ))
      found.set(key, [...(found.get(key) ?? []), sku]);
  return keys.map(({ key, value, sku }) => ({ by, value, sku, skus: found.get(key) ?? [] }));
}

interface Twins {
  /** The SKU of the catalog that one was probably meant to be; nothing of those that stand there themselves. */
  inCatalog: (sku: string) => string | undefined;
  /** The same, or the new SKU of a row before. */
  of: (sku: string) => { sku: string; isInFile: boolean } | undefined;
}
async function findTwins(db: Db, skus: readonly string[], spelled: ReadonlyMap<string, string>): Promise<Twins> {
  const near = new Map<string, string[]>(),
    there = new Set<string>();
  for (const { sku, fold } of await rowsOf<{ sku: string; fold: string }>(
    db,
    'select sku, sku_fold as fold from products where sku_fold = any(?) order by sku',
    [skus.map(foldSku)],
  )) {
    near.set(fold, [...(near.get(fold) ?? []), sku]);
    there.add(sku);
  }
  const inCatalog = (sku: string): string | undefined =>
    there.has(sku) ? undefined : near.get(foldSku(sku))?.find((other) => isSameSkuMistyped(other, sku));
  return {
    inCatalog,
    of: (sku) => {
      const known = inCatalog(sku),
        before = spelled.get(foldSku(sku));
      if (known !== undefined) return { sku: known, isInFile: false };
      return before !== undefined && isSameSkuMistyped(before, sku) ? { sku: before, isInFile: true } : undefined;
    },
  };
}

/** Whether a row's SKU was probably meant to be one of the catalog, or is read as that. */
export const isMistyped = (problems: readonly { fact?: unknown }[]): boolean =>
  problems.some(({ fact }) => {
    const { is, twin, isInFile } = (fact ?? {}) as { is?: string; twin?: string; isInFile?: true };
    return (is === 'mistyped-sku' && !isInFile) || is === 'read-as' || (is === 'not-in-catalog' && twin !== undefined);
  });

/** A refused cell as it is kept for the file of refused rows: whole characters, no more than a sheet's cell holds. */
const keepCell = (cell: string): string => dropBroken(cell.slice(0, sheetBounds.cellCharacters));

/** Facts hold pieces of the row: what no database text can hold is shown as a box, or left out. */
const cleanFact = (fact: ProblemFact): ProblemFact =>
  JSON.parse(JSON.stringify(fact), (_, part: unknown) =>
    typeof part === 'string' ? dropBroken(part.replaceAll('\0', '□')).slice(0, longestKept) : part,
  ) as ProblemFact;
const longestKept = 2000;

/** The row as it is kept: a refused one, and one with remarks, with its cells, so that they can be mended. */
export const toRecord = ({ row, cells, planned, comparedWith }: PlannedSheetRow) => ({
  row,
  sku: keepCell(planned.sku).slice(0, 200),
  action: planned.action,
  comparedWith,
  changes: planned.changes,
  problems: planned.problems.map((p) => ({
    ...p,
    value: keepCell(p.value).slice(0, 500),
    fact: cleanFact(p.fact),
    ...(p.mended === undefined ? {} : { mended: keepCell(p.mended) }),
  })),
  cells: planned.action === 'refuse' || planned.problems.length > 0 ? cells.map(keepCell) : null,
});
