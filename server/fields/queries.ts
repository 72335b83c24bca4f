// What a house says of its own fields, as it is stored.
import { type FieldBook, type OwnField, type OwnFields, compileFields } from '@basileus/core/product';
import { type Db, rowOf, rowsOf } from '../database';

const columns = `key, label, kind, "rows", "by", language, unit, "values", names, group_name as "group", categories, axis, shared`;

/** The fields of the house in their order, with its languages and currencies. */
export async function loadOwnFields(db: Db): Promise<OwnFields> {
  const found = (await rowOf<OwnFields>(
    db,
    `select coalesce((select jsonb_agg(to_jsonb(f) order by position) from (select position, ${columns} from own_fields) f), '[]') as fields,
      coalesce((select jsonb_agg(code order by position, code) from own_facets where kind = 'language'), '[]') as languages,
      coalesce((select jsonb_agg(code order by position, code) from own_facets where kind = 'currency'), '[]') as currencies`,
  ))!;
  return {
    ...found,
    // The place in the order is the order.
    fields: found.fields.map(({ position: _, ...f }: OwnField & { position?: number }) => f),
  };
}

/** The book of the house's fields as they are now. */
export const loadFields = async (db: Db): Promise<FieldBook> => compileFields(await loadOwnFields(db));

const settable = [
  'label',
  'kind',
  '"rows"',
  '"by"',
  'language',
  'unit',
  '"values"',
  'names',
  'group_name',
  'categories',
  'axis',
  'shared',
] as const;
const toBindings = (f: OwnField): (string | boolean | null)[] => [
  f.label,
  f.kind,
  f.rows,
  f.by,
  f.language,
  f.unit,
  JSON.stringify(f.values),
  JSON.stringify(f.names),
  f.group,
  JSON.stringify(f.categories),
  f.axis,
  f.shared,
];

/** Adds a field behind the others. */
export const insertField = async (db: Db, f: OwnField): Promise<void> => {
  await db.raw(
    `insert into own_fields (key, ${settable.join(', ')}, position)
      select ?, ${settable.map(() => '?').join(', ')}, coalesce(max(position), 0) + 1 from own_fields`,
    [f.key, ...toBindings(f)],
  );
};

export const updateField = async (db: Db, f: OwnField): Promise<void> => {
  await db.raw(`update own_fields set ${settable.map((c) => `${c} = ?`).join(', ')} where key = ?`, [
    ...toBindings(f),
    f.key,
  ]);
};

export const deleteField = async (db: Db, key: string): Promise<void> => {
  await db.raw('delete from own_fields where key = ?', [key]);
};

/** Puts fields into an order; those that are not named stay behind. */
export const storeFieldOrder = async (db: Db, keys: readonly string[]): Promise<void> => {
  await db.raw(
    `update own_fields f set position = o.n
      from (select key, row_number() over (order by array_position(?::text[], key) nulls last, position) as n from own_fields) o
      where f.key = o.key`,
    [[...keys]],
  );
};

type FacetKind = 'language' | 'currency';

/** Adds languages or currencies that the house writes from now on; those that it has are left. */
export const addFacets = async (db: Db, kind: FacetKind, codes: readonly string[]): Promise<string[]> =>
  (
    await rowsOf<{ code: string }>(
      db,
      `insert into own_facets (kind, code, position)
        select ?, c.code, coalesce((select max(position) from own_facets), 0) + c.n
        from unnest(?::text[]) with ordinality as c(code, n)
        on conflict do nothing
        returning code`,
      [kind, [...codes]],
    )
  ).map((r) => r.code);

export const deleteFacet = async (db: Db, kind: FacetKind, code: string): Promise<void> => {
  await db.raw('delete from own_facets where kind = ? and code = ?', [kind, code]);
};

/** How many items hold something in each of these facts, by name. */
export const countFacts = async (db: Db, names: readonly string[]): Promise<Map<string, number>> =>
  new Map(
    (
      await rowsOf<{ name: string; n: number }>(
        db,
        `select k.name, count(*)::int as n from products p cross join unnest(?::text[]) as k(name)
          where p.facts -> k.name is not null group by 1`,
        [[...names]],
      )
    ).map((r) => [r.name, r.n]),
  );
