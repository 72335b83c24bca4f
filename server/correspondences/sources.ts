// What feeds the attributes of a market: everywhere, or at a node of its tree.
import type { FieldRow, listFieldMap, trySource } from '@basileus/contract';
import { compileFormula, spellFields, wordFormulaProblem } from '@basileus/core/formula';
import {
  createCorrespondences,
  everywhere,
  findSaid,
  prepareResolver,
  readFormula,
  type Source,
  toText,
} from '@basileus/core/listing';
import type { FieldBook } from '@basileus/core/product';
import { type DemandLevel, demandLevels, type RulebookAttribute, toAttributeField } from '@basileus/core/rulebook';
import type { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { categoryOf, loadFilledCounts, loadFullRows, loadOwnCounts, roleOf, toOffered } from '../listings';
import { loadSaid, type Market } from '../markets';
import { labelNode, listLeavesAt, listPath, refuseStranger, sayAnew } from './nodes';
import { say } from '@basileus/core/text';

/** Listings of a node that are counted through, value by value; of more nothing is said. */
const mostCounted = 20_000;
/** Categories that are all asked what they demand; a market may have tens of thousands. */
const mostAsked = 1000;

/** A source with the fields of its formula called as people call them now. */
const toShown = (source: Source, fields: FieldBook): Source => {
  if (source.is !== 'formula') return source;
  const compiled = compileFormula(source.formula, fields);
  return compiled.ok
    ? { is: 'formula', formula: spellFields(source.formula, compiled.formula, fields.labelOf) }
    : source;
};
/** The same, and a field by its label: what the history keeps. */
const toRemembered = (source: Source | null, fields: FieldBook): Source | null =>
  source?.is === 'field' ? { is: 'field', field: fields.labelOf(source.field) } : source && toShown(source, fields);

/** Listings of some leaves that have a value, by attribute; undefined where they are very many. */
async function countFilled(
  db: Db,
  market: Market,
  leaves: readonly string[],
  placed: number,
): Promise<ReadonlyMap<string, number> | undefined> {
  if (placed > mostCounted) return undefined;
  const rows = await rowsOf<{ key: string; n: number }>(
    db,
    `select k as key, count(*)::int as n from listings l, jsonb_object_keys(l."values") k
      where l.market_id = ? and l.category = any(?) group by 1`,
    [market.id, leaves],
  );
  return new Map(rows.map((r) => [r.key, r.n]));
}

/** The strongest demand of an attribute among some categories, and how many listings stand where it is a must. */
function readDemand(
  market: Market,
  key: string,
  leaves: readonly string[],
  placed: ReadonlyMap<string, number>,
): { level: DemandLevel; demanded: number } {
  let level: DemandLevel = 'unused',
    demanded = 0;
  for (const leaf of leaves) {
    const here = market.category(leaf)?.compiled.byKey.get(key)?.strongest ?? 'unused';
    if (demandLevels.indexOf(here) < demandLevels.indexOf(level)) level = here;
    if (here === 'must') demanded += placed.get(leaf) ?? 0;
  }
  return { level, demanded };
}

/** What feeds which attribute at a node, those that its categories ask for; the strongest demanded first, as the rulebook has them. */
export async function loadFieldMap(
  db: Db,
  market: Market,
  node: string,
): Promise<z.output<typeof listFieldMap.response>> {
  refuseStranger(market, node);
  const { sources } = await loadSaid(db, market.id),
    fields = await loadFields(db),
    c = createCorrespondences(sources, [], fields);
  const leaves = listLeavesAt(market, node),
    path = listPath(market, node);
  const placed = new Map<string, number>();
  for (const { chosen, n } of await loadOwnCounts(db, market.id))
    if (chosen !== null) placed.set(chosen, (placed.get(chosen) ?? 0) + n);
  const filled =
    node === everywhere
      ? await loadFilledCounts(db, market.id)
      : await countFilled(
          db,
          market,
          leaves,
          leaves.reduce((n, leaf) => n + (placed.get(leaf) ?? 0), 0),
        );
  // Of a large part of a tree those count in which something stands.
  const asked = leaves.length <= mostAsked ? leaves : leaves.filter((leaf) => placed.has(leaf));
  const rows = market.rulebook.attributes.flatMap((a): FieldRow[] => {
    const { level, demanded } = readDemand(market, a.key, asked, placed);
    if (node !== everywhere && level === 'unused') return [];
    const said = findSaid(a.key, path, c),
      above = node === everywhere ? undefined : findSaid(a.key, path.slice(0, -1), c);
    const show = (at: string) => ({
      node: at,
      source: toShown(sources.find((s) => s.attribute === a.key && s.node === at)!.source, fields),
    });
    return [
      {
        attribute: a.key,
        label: a.label,
        type: a.type,
        level,
        suggested: a.from ?? null,
        said: said ? show(said.node) : null,
        above: above ? show(above.node) : null,
        isBroken: said?.said.is === 'formula' && said.said.made === undefined,
        under: sources.flatMap((s) =>
          s.attribute === a.key &&
          s.node !== node &&
          listPath(market, s.node).some((n) => n === node || node === everywhere)
            ? [s.node]
            : [],
        ),
        filled: filled ? (filled.get(a.key) ?? 0) : null,
        demanded,
      },
    ];
  });
  const byNode = new Map<string, number>();
  for (const s of sources) byNode.set(s.node, (byNode.get(s.node) ?? 0) + 1);
  return { rows, nodes: [...byNode].map(([key, said]) => ({ key, said })) };
}

interface At {
  attribute: string;
  node: string;
}

function findAttribute(market: Market, key: string): RulebookAttribute {
  const found = market.rulebook.attributes.find((a) => a.key === key);
  if (!found) throw new AppError('bad-input', say`${market.name} has no attribute “${key}”.`, { field: 'attribute' });
  return found;
}

/** A source as it is kept; refuses what cannot feed the attribute. */
function judgeSource(market: Market, attribute: RulebookAttribute, source: Source, fields: FieldBook): Source {
  if (source.is === 'field' && !fields.get(source.field))
    throw new AppError('bad-input', say`We have no field “${source.field}”.`, {
      field: 'source',
      remedy: say`Choose a field of ours, or write the same text for every item.`,
    });
  if (source.is !== 'formula') return source;
  const read = readFormula(source.formula, toAttributeField(market, market.rulebook, attribute), fields);
  if (!read.ok)
    throw new AppError(
      'bad-input',
      say`The formula for ${attribute.label}: ${wordFormulaProblem(read.fault.problem)}`,
      {
        field: 'source',
        remedy: say`Change the formula at the place that is named.`,
      },
    );
  return { is: 'formula', formula: read.formula };
}

/** Says what feeds an attribute at a node; null takes back what was said there. The market's listings follow. */
export async function putSource(
  db: Db,
  market: Market,
  { attribute: key, node }: At,
  source: Source | null,
  actor: string,
): Promise<{ refreshed: number; job: string | null }> {
  refuseStranger(market, node);
  const attribute = findAttribute(market, key),
    fields = await loadFields(db);
  const after = source && judgeSource(market, attribute, source, fields);
  return sayAnew(db, market, async (tx) => {
    const { sources } = await loadSaid(tx, market.id);
    const before = sources.find((s) => s.attribute === key && s.node === node)?.source ?? null;
    await tx.raw('delete from attribute_sources where market_id = ? and node = ? and attribute = ?', [
      market.id,
      node,
      key,
    ]);
    if (after)
      await tx.raw('insert into attribute_sources (market_id, node, attribute, source) values (?, ?, ?, ?)', [
        market.id,
        node,
        key,
        JSON.stringify(after),
      ]);
    await recordHistory(tx, actor, {
      is: 'source-said',
      market: market.name,
      attribute: attribute.label,
      category: labelNode(market, node),
      before: toRemembered(before, fields),
      after: toRemembered(after, fields),
    });
  });
}

/** Items that show what a formula gives. */
const sampled = 3;

/** What a formula would give for an attribute, for some items of a node that stand in the attribute's rows. */
export async function tryFormula(
  db: Db,
  market: Market,
  { attribute: key, node }: At,
  formula: string,
): Promise<z.output<typeof trySource.response>> {
  refuseStranger(market, node);
  const attribute = findAttribute(market, key),
    fields = await loadFields(db);
  const read = readFormula(formula, toAttributeField(market, market.rulebook, attribute), fields);
  if (!read.ok) return read;
  const { sources, codes } = await loadSaid(db, market.id);
  const source = { is: 'formula' as const, formula: read.formula };
  const c = createCorrespondences(
    [...sources.filter((s) => s.attribute !== key), { attribute: key, node: everywhere, source }],
    codes,
    fields,
  );
  const wanted = await rowsOf<{ id: number }>(
    db,
    `select l.id from listings l join products p on p.id = l.product_id
      where l.market_id = ? and l.category = any(?) and (? or p.kind <> 'family') order by p.sku limit ?`,
    [market.id, listLeavesAt(market, node), attribute.rows === 'all' || attribute.rows === 'parent', sampled],
  );
  const rows = await loadFullRows(db, market.id, 'l.id = any(?)', [wanted.map((w) => w.id)]);
  return {
    ok: true,
    samples: rows.flatMap((row) => {
      const category = categoryOf(market, row)?.compiled;
      if (!category) return [];
      const { values, origins } = prepareResolver(category, c)(toOffered(market, row).fields, roleOf(row), {});
      const origin = origins[key];
      return [
        {
          sku: row.sku,
          value: toText(values[key]),
          fault: origin?.from === 'formula' ? (origin.fault ?? null) : null,
        },
      ];
    }),
  };
}
