import type { ListedProduct } from '@basileus/contract';
import { wordRowProblem } from '@basileus/core/change';
import { wordFinding } from '@basileus/core/checks';
import { type FieldBook, readMarketKey } from '@basileus/core/product';
import { ArrowUpRight, ChevronDown, ChevronRight } from 'lucide-react';
import { useCallback } from 'react';
import { Link } from 'react-router';
import { useScope } from '../frame/scope';
import type { useStandings } from '../frame/standings';
import { useCategoryScopes } from '../own/fields';
import type { GridColumn } from '../table/columns';
import type { GridRow } from '../table/GridLine';
import type { ItemRow } from '../table/useGridRows';
import { Seal } from '../ui/Seal';
import { useWordings } from '../words/findings';
import { say } from '../ui/text';

/** What stands in a cell of the catalog beside its text: how the item stands on each market, its place in a family, a way to its listings. */
export function useCatalogFace({
  fields,
  isWide,
  open,
  openIds,
  toggle,
  standingOf,
}: {
  fields: FieldBook;
  /** Fields of markets are among the columns. */
  isWide: boolean;
  open: string;
  openIds: ReadonlySet<string>;
  toggle: (id: string) => void;
  standingOf: ReturnType<typeof useStandings>['standingOf'];
}) {
  const { market, markets } = useScope(),
    { within } = useCategoryScopes(),
    wordings = useWordings(isWide);
  return useCallback(
    (row: GridRow, column: GridColumn) => {
      const { item: product } = row as ItemRow<ListedProduct>;
      // A column of their own would come between title and brand when a range is copied.
      if (column.key === 'title') {
        const standings = markets.map((m) => ({ name: m.name, state: standingOf(product.id, m.key)?.state }));
        return {
          // Each market has its place, whether the item has an entry there or not.
          tail: (
            <span className="ms-auto flex shrink-0 gap-1 ps-1">
              {standings.map(({ name, state }) => (
                <span key={name} className="flex w-[15px]" {...(state && { title: `${name}: ${state}` })}>
                  {state && (
                    <>
                      <span className="sr-only">{name}: </span>
                      <Seal state={state} bare />
                    </>
                  )}
                </span>
              ))}
            </span>
          ),
          origin: standings.flatMap(({ name, state }) => (state ? [`${name}: ${state}`] : [])).join(', '),
        };
      }
      const closed = product.closed?.[column.key];
      if (closed)
        return {
          unused: true,
          origin: wordRowProblem({ field: column.key, value: null, fault: closed }, fields),
        };
      const found = product.found?.[column.key],
        wording = found && wordings.get(readMarketKey(column.key)!.market);
      if (found && wording) return { finding: { level: found.level, says: wordFinding(found, wording) } };
      if (column.key !== 'sku') {
        const own = product.fields['category'];
        return {
          unused: !within(typeof own === 'string' ? own : '', fields.get(column.key)?.categories),
        };
      }
      const tail = (
        <Link
          to={`/${market}/prepare?q=${encodeURIComponent(product.sku)}`}
          tabIndex={-1}
          aria-label={say`Listings of ${product.sku}`}
          title={say`See it on the market`}
          className="ms-auto shrink-0 quiet opacity-40 hover:opacity-100"
          onMouseDown={(e) => {
            e.stopPropagation();
          }}
        >
          <ArrowUpRight size={14} />
        </Link>
      );
      if (product.kind === 'variant')
        return {
          tail,
          lead: <span className="ms-4 h-3 w-2 border-b border-s border-base-content/40" aria-hidden="true" />,
        };
      if (product.kind !== 'family') return { tail, lead: <span className="w-4 shrink-0" aria-hidden="true" /> };
      const isOpen = open === 'all' || openIds.has(row.id);
      return {
        lead: (
          <button
            type="button"
            tabIndex={-1}
            aria-label={say`${isOpen ? say`Close` : say`Open`} the family ${product.sku}, ${product.variants} variants`}
            className="-ms-1 shrink-0 text-secondary"
            onMouseDown={(e) => {
              e.stopPropagation();
            }}
            onClick={() => {
              toggle(row.id);
            }}
          >
            {isOpen ? <ChevronDown size={16} /> : <ChevronRight size={16} />}
          </button>
        ),
      };
    },
    [open, openIds, toggle, market, markets, standingOf, fields, within, wordings],
  );
}
