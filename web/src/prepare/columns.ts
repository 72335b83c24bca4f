// Columns of a listing table: exactly those that the shown categories demand, in the rulebook's order.
import {
  compileCategory,
  type CompiledCategory,
  type DemandLevel,
  marginAttribute,
  type Rulebook,
  type RulebookAttribute,
} from '@basileus/core/rulebook';
import type { GridColumn } from '../table/columns';
import { say } from '../ui/text';

const kinds: Partial<Record<RulebookAttribute['type'], GridColumn['kind']>> = {
  integer: 'number',
  decimal: 'number',
  money: 'number',
  'one-of': 'choice',
  'several-of': 'choices',
  'yes-no': 'yes-no',
  date: 'date',
  links: 'list',
  'repeated-text': 'list',
};
const strength: Record<DemandLevel, number> = { must: 3, should: 2, may: 1, unused: 0 };

export function toGridColumn(rulebook: Rulebook, a: RulebookAttribute, level: DemandLevel | undefined): GridColumn {
  const codes = a.codes === undefined ? undefined : rulebook.codeLists[a.codes]?.entries;
  return {
    key: a.key,
    title: a.label,
    width: isWide(rulebook, a)
      ? 300
      : a.type === 'identifier'
        ? 150
        : a.type === 'repeated-text' || a.type === 'links'
          ? 200
          : 125,
    kind: kinds[a.type] ?? 'text',
    level,
    shape:
      a.type === 'html' || a.type === 'long-text'
        ? 'long'
        : a.type === 'measure'
          ? 'measure'
          : a.type === 'links'
            ? 'pictures'
            : undefined,
    units: a.units,
    options:
      a.type === 'yes-no'
        ? [
            { code: 'yes', label: say`yes` },
            { code: 'no', label: say`no` },
          ]
        : codes,
    mono: a.type === 'identifier' || a.type === 'measure' || a.type === 'date' || a.type === 'moment',
    unit: a.type === 'money' ? currencyOf(rulebook, a) : a.units?.join(say` or `),
    language: a.facet?.language,
    help: a.help ? `${a.help}${a.example ? say` For example: ${a.example}` : ''}` : undefined,
  };
}

/** Titles and long texts need room. */
const isWide = (rulebook: Rulebook, a: RulebookAttribute): boolean =>
  a.type === 'html' || a.type === 'long-text' || rulebook.titles.some((t) => t.field === a.key);

/** The currency of a field: that of its site, or of the only one. */
const currencyOf = (rulebook: Rulebook, a: RulebookAttribute): string =>
  (rulebook.sites.find((s) => s.key === a.facet?.site) ?? rulebook.sites[0]!).currency;

/** Columns with what prices leave behind the first price among them and those that stand right behind it; none without one. */
export function addMargin(columns: readonly GridColumn[], { offers }: Rulebook): GridColumn[] {
  const prices = new Set(offers.flatMap((o) => [o.price, o.salePrice]));
  const first = columns.findIndex((c) => prices.has(c.key));
  if (first < 0) return [...columns];
  const rest = columns.findIndex((c, i) => i > first && !prices.has(c.key)),
    at = rest < 0 ? columns.length : rest;
  const margin: GridColumn = {
    key: marginAttribute,
    title: say`Margin`,
    width: 96,
    kind: 'number',
    readOnly: true,
    unit: '%',
    help: say`What remains of the price after tax, the market’s cut and the cost, at the site where it is least.`,
  };
  return [...columns.slice(0, at), margin, ...columns.slice(at)];
}

/** Attribute columns for a set of categories with the strongest level each has in any of them. */
export function columnsFor(rulebook: Rulebook, categories: readonly string[], least: 'must' | 'all'): GridColumn[] {
  const compiled = categories
    .map((c) => compileCategory(rulebook, c))
    .filter((c): c is CompiledCategory => c !== undefined);
  const columns = rulebook.attributes.flatMap((a) => {
    const level = compiled.reduce<DemandLevel>((s, c) => {
      const l = c.byKey.get(a.key)!.strongest;
      return strength[l] > strength[s] ? l : s;
    }, 'unused');
    return level === 'unused' || (least === 'must' && level !== 'must') ? [] : [toGridColumn(rulebook, a, level)];
  });
  // What is demanded stands first, and within a level the rulebook's order.
  return columns.sort((a, b) => strength[b.level ?? 'unused'] - strength[a.level ?? 'unused']);
}
