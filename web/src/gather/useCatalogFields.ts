import type { ViewShape } from '@basileus/contract';
import { readMarketKey } from '@basileus/core/product';
import { useCallback, useMemo, useState } from 'react';
import { useToldFields } from '../choose/wideFields';
import { useCategoryScopes, useIsHouseTold } from '../own/fields';
import type { GridColumn } from '../table/columns';
import { startLayout } from '../table/layout';
import { useLayout } from '../table/useLayout';
import { toColumn } from './catalog-columns';

const isListed = (key: string): boolean => readMarketKey(key) !== undefined;
/** A column whose market has not told its fields yet: it keeps its place. */
const toUntold = (key: string): GridColumn => ({ key, title: '…', width: 110, kind: 'text', readOnly: true });

/**
 * The fields that the catalog may show as columns: those of items as they come, and those of listings behind them, which are
 * asked of the markets once a column, the order or somebody who chooses columns wants one.
 */
export function useCatalogFields({
  view,
  category,
  sort,
  beside,
}: {
  view: ViewShape | undefined;
  category: string;
  /** The field by which the rows are put in order. */
  sort: string;
  /** Columns that are looked at for now, their keys divided by commas. */
  beside: string;
}) {
  const table = view ? `catalog/${view.id}` : 'catalog',
    base = view?.layout ?? startLayout;
  const { layout } = useLayout(table, base);
  const [isWide, setWide] = useState(false);
  const kept = [...(layout.columns ?? []), ...beside.split(',')].filter(isListed).join(',');
  const { book, isTold } = useToldFields(isWide || kept !== '' || isListed(sort));
  const { within } = useCategoryScopes(),
    isHouseTold = useIsHouseTold();
  const known = useMemo(
    () => book.all.filter((f) => f.key !== 'parent_sku').map((f) => toColumn(f, book.shared)),
    [book],
  );
  const all = useMemo(
    () =>
      isTold || kept === '' ? known : [...known, ...kept.split(',').flatMap((k) => (book.get(k) ? [] : toUntold(k)))],
    [known, book, isTold, kept],
  );
  const usual = useMemo(
    () => known.filter((c) => !isListed(c.key) && (category === '' || within(category, book.get(c.key)?.categories))),
    [known, book, category, within],
  );
  return {
    fields: book,
    /** True for what the catalog can be put in order by; of a market that is not told yet the server knows. */
    named: (key: string): boolean => key === 'updated' || book.get(key) !== undefined || (isListed(key) && !isTold),
    /** Where the layout is kept, and what it is before it was changed. */
    table,
    base,
    usual,
    all,
    /** False while columns may still come. */
    isTold: isHouseTold && (isTold || kept === ''),
    seeAll: useCallback(() => {
      setWide(true);
    }, []),
  };
}
