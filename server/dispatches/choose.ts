// Which of the planned rows are meant: named ones, those of a brand or an own category, those that one import has changed.
import type { PlanChoice } from '@basileus/contract';

type Binding = string | number | readonly number[] | readonly string[];

/** A choice of rows; of some of the market's categories alone where these are named. */
export type RowChoice = PlanChoice & { categories?: readonly string[] };

/**
 * SQL condition on listings l and products p, with its bindings. A new variant that goes brings its family row along, without which
 * the market refuses it; where a market takes families whole, all of its family.
 */
export function chooseSql(
  choice: RowChoice,
  operation: string,
  isWholeFamily = false,
): { sql: string; bindings: Binding[] } {
  const conditions: string[] = [],
    bindings: Binding[] = [];
  const add = (sql: string, value: Binding): void => {
    conditions.push(sql);
    bindings.push(value);
  };
  if (choice.ids) add('ql.id = any(?)', choice.ids);
  if (choice.brand) add('q.brand = ?', choice.brand);
  if (choice.own) add('q.category = ?', choice.own);
  if (choice.categories) add('ql.category = any(?)', choice.categories);
  if (choice.import)
    add(
      'exists (select 1 from import_rows r where r.import_id = ? and r.applied and r.clash is null and r.sku = q.sku)',
      choice.import,
    );
  if (conditions.length === 0) return { sql: 'true', bindings };
  const chosen = conditions.join(' and ');
  const own = chosen.replace(/\bql\./g, 'l.').replace(/\bq\./g, 'p.');
  if (operation !== 'create') return { sql: `(${own})`, bindings };
  if (isWholeFamily)
    return {
      sql: `coalesce(p.parent_id, p.id) in (select coalesce(q.parent_id, q.id) from products q
        join listings ql on ql.product_id = q.id where ql.market_id = m.id and ql.in_flight = 0
          and ql.planned @> '[{"operation": "create", "held": null}]' and ${chosen})`,
      bindings,
    };
  return {
    sql: `(${own} or p.kind = 'family' and exists (select 1 from products q
      join listings ql on ql.product_id = q.id and ql.market_id = l.market_id where q.parent_id = p.id and ql.in_flight = 0
        and ql.planned @> '[{"operation": "create", "held": null}]' and ${chosen}))`,
    bindings: [...bindings, ...bindings],
  };
}
