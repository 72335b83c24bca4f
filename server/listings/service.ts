import type { CellPatchInput } from '@basileus/contract';
import { governedSql } from './categories';
import { findSourceField, isFilled, isSameValue, resolveListing, type Value } from '@basileus/core/listing';
import { getCategoryPath } from '@basileus/core/rulebook';
import { type FieldChange, nameChange } from '@basileus/core/change';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { loadCorrespondences, loadMarketById, type Market } from '../markets';
import { groupByItem, recordChangeSet, updateProducts } from '../products';
import { refreshListings, refreshProducts } from './follow-up';
import { categoryOf, type FullRow, loadFullRows, roleOf, toOffered } from './rows';
import { say } from '@basileus/core/text';

export interface ListingPatchOutcome {
  changeSet: number | null;
  applied: number;
  conflicts: { id: number; field: string; now: Value | null }[];
}
interface Write {
  overrides: Map<number, Record<string, Value | null>>;
  categories: Map<number, string | null>;
  products: Map<number, Record<string, Value | null>>;
  formerGtins: string[];
}

/**
 * Sets what listings should show. A value equal to what the product gives is not kept as typed. Identifiers are mended
 * at their source, the product, since every market and every file must agree on them.
 */
export async function patchListingCells(
  db: Db,
  marketId: number,
  cells: readonly CellPatchInput[],
  title: string,
  actor: string,
  into?: number,
): Promise<ListingPatchOutcome> {
  const market = await loadMarketById(db, marketId);
  const unknown = cells.find(
    (c) => c.field !== 'category' && !market.rulebook.attributes.some((a) => a.key === c.field),
  );
  if (unknown)
    throw new AppError('bad-input', say`${market.name} has no attribute “${unknown.field}”.`, { field: unknown.field });
  const outcome: ListingPatchOutcome = { changeSet: null, applied: 0, conflicts: [] };
  await db.transaction(async (tx) => {
    const ids = [...new Set(cells.map((c) => c.id))];
    await tx.raw('select id from listings where id = any(?) and market_id = ? order by id for update', [ids, marketId]);
    const c = await loadCorrespondences(tx, marketId);
    const rows = new Map((await loadFullRows(tx, marketId, 'l.id = any(?)', [ids])).map((r) => [r.listing_id, r]));
    const write: Write = { overrides: new Map(), categories: new Map(), products: new Map(), formerGtins: [] };
    const changed: (FieldChange & { id: number; sku: string })[] = [];
    for (const cell of cells) {
      const row = rows.get(cell.id);
      if (!row) continue;
      const now = cell.field === 'category' ? row.market_category : (row.old_values[cell.field] ?? null);
      // A change that is sent twice, because its answer was lost, has been made.
      if (!cell.reset && isSameValue(now ?? undefined, cell.after ?? undefined)) continue;
      if (!cell.reset && !isSameValue(now ?? undefined, cell.before ?? undefined)) {
        outcome.conflicts.push({ id: cell.id, field: cell.field, now });
        continue;
      }
      const after = putCell(market, row, cell, c, write);
      if (after === undefined) continue;
      changed.push({ id: cell.id, sku: row.sku, field: cell.field, before: now, after });
    }
    await storeWrites(tx, write);
    outcome.changeSet = await recordChangeSet(
      tx,
      {
        title: title || `${nameChange(changed, market.labelOf)} on ${market.name}`,
        actor,
        target: 'listings',
        marketId,
        ...(into === undefined ? {} : { id: into }),
      },
      groupByItem(changed),
    );
    outcome.applied = changed.length;
    await refreshListings(tx, market, [...new Set(changed.map((x) => x.id))]);
    if (write.products.size) {
      await refreshProducts(tx, [...write.products.keys()], {
        fields: new Set([...write.products.values()].flatMap((fields) => Object.keys(fields))),
        formerGtins: write.formerGtins,
      });
      await announce(tx, { topic: 'products' });
    }
  });
  return outcome;
}

/** Notes one cell's change in `write`; answers the value that it will show, or undefined where nothing changes. */
function putCell(
  market: Market,
  row: FullRow,
  cell: CellPatchInput,
  c: Awaited<ReturnType<typeof loadCorrespondences>>,
  write: Write,
): Value | null | undefined {
  if (cell.field === 'category') {
    const wanted = typeof cell.after === 'string' && cell.after !== '' ? cell.after : null;
    if (wanted !== null && !market.category(wanted))
      throw new AppError('bad-input', say`“${wanted}” is not a category of ${market.name} that takes items.`, {
        field: 'category',
        remedy: say`Choose a leaf of the tree.`,
      });
    if (wanted === row.market_category) return undefined;
    write.categories.set(row.listing_id, wanted);
    return wanted;
  }
  const category = categoryOf(market, row)?.compiled;
  if (!category)
    throw new AppError(
      'bad-input',
      say`${row.sku} has no category on ${market.name} yet, so its fields are not known.`,
      {
        field: 'category',
        remedy: say`Choose a category first.`,
      },
    );
  const { [cell.field]: _, ...others } = row.overrides;
  const given = resolveListing(category, toOffered(market, row).fields, roleOf(row), others, c).values[cell.field];
  const put = (value: Value | null) => {
    (write.overrides.get(row.listing_id) ?? write.overrides.set(row.listing_id, {}).get(row.listing_id)!)[cell.field] =
      value;
  };
  if (cell.reset) {
    put(null);
    return given ?? null;
  }
  const after: Value | null = isFilled(cell.after ?? undefined) ? cell.after : null;
  const attribute = category.byKey.get(cell.field)!.attribute;
  const path = getCategoryPath(category.rulebook, category.key).map((n) => n.key);
  const source = findSourceField(attribute, path, c);
  if (attribute.type === 'identifier' && source && row.overrides[cell.field] === undefined) {
    (write.products.get(row.id) ?? write.products.set(row.id, {}).get(row.id)!)[source] = after;
    if (row.gtin14) write.formerGtins.push(row.gtin14);
    return after;
  }
  if (isSameValue(after ?? undefined, row.old_values[cell.field])) return undefined;
  put(isSameValue(after ?? undefined, given) ? null : (after ?? ''));
  return after;
}

async function storeWrites(db: Db, write: Write): Promise<void> {
  const overrides = [...write.overrides].map(([id, o]) => ({
    id,
    put: Object.fromEntries(Object.entries(o).filter(([, v]) => v !== null)),
    drop: Object.entries(o)
      .filter(([, v]) => v === null)
      .map(([k]) => k),
  }));
  if (overrides.length)
    await db.raw(
      `update listings l
        set overrides = (l.overrides - r.dropped) || r.put, updated_at = now()
        from (select (e ->> 'id')::bigint as id, e -> 'put' as put, array(select jsonb_array_elements_text(e -> 'drop')) as dropped from jsonb_array_elements(?::jsonb) e) r
        where l.id = r.id`,
      [JSON.stringify(overrides)],
    );
  const categories = [...write.categories].map(([id, category]) => ({ id, category }));
  if (categories.length)
    await db.raw(
      'update listings l set category = r.category, updated_at = now() from jsonb_to_recordset(?::jsonb) as r(id bigint, category text) where l.id = r.id',
      [JSON.stringify(categories)],
    );
  await updateProducts(
    db,
    [...write.products].map(([id, fields]) => ({ id, fields })),
  );
}

/** Puts listings into a leaf, or an own category's items, which is then remembered for later items. */
export async function assignToCategory(
  db: Db,
  market: Market,
  request: {
    category: string | null;
    ids?: number[] | undefined;
    ownCategory?: string | undefined;
    onlyEmpty: boolean;
  },
  actor: string,
): Promise<{ changed: number; changeSet: number | null }> {
  const { category, ownCategory } = request;
  if (category !== null && !market.category(category))
    throw new AppError('bad-input', say`“${category}” is not a category of ${market.name} that takes items.`, {
      field: 'category',
      remedy: say`Choose a leaf of the tree.`,
    });
  if (ownCategory === undefined && !request.ids?.length)
    throw new AppError('bad-input', say`Say which items: named ones, or all of an own category.`, { field: 'ids' });
  if (ownCategory !== undefined) {
    if (category === null)
      await db.raw(`delete from correspondences where market_id = ? and kind = 'category' and ours = ?`, [
        market.id,
        ownCategory,
      ]);
    else
      await db.raw(
        `insert into correspondences (market_id, kind, ours, theirs)
          values (?, 'category', ?, ?)
          on conflict (market_id, kind, attribute, ours, node) do update set theirs = excluded.theirs, updated_at = now()`,
        [market.id, ownCategory, category],
      );
  }
  // Asked after the rule is kept, so that an own category under this one counts unless it has a rule of its own.
  const [meant, bindings] =
    ownCategory === undefined
      ? [
          `coalesce(p.parent_id, p.id) in (select coalesce(q.parent_id, q.id) from listings x join products q on q.id = x.product_id where x.id = any(?))`,
          [request.ids ?? []],
        ]
      : [
          `(p.category = ? or l.category is null and p.category in (${governedSql}))`,
          [ownCategory, ownCategory, market.id],
        ];
  const rows = await rowsOf<{ id: number; category: string | null }>(
    db,
    `select l.id, l.category
      from listings l
      join products p on p.id = l.product_id
      where l.market_id = ? and ${meant} and (not ? or l.category is null) and l.accepted_details is null`,
    [market.id, ...bindings, ownCategory !== undefined && request.onlyEmpty],
  );
  const outcome = await patchListingCells(
    db,
    market.id,
    rows.map((r) => ({ id: r.id, field: 'category', before: r.category, after: category })),
    category === null ? 'Category taken away' : `Put into ${market.category(category)!.compiled.label}`,
    actor,
  );
  await announce(db, { topic: 'listings' });
  return { changed: outcome.applied, changeSet: outcome.changeSet };
}
