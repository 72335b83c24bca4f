import { wordRowFault } from '@basileus/core/formula';
import { type ListingRow, listListings } from '@basileus/contract';
import type { Value } from '@basileus/core/listing';
import { marginAttribute } from '@basileus/core/rulebook';
import type { Patch } from '@basileus/core/change';
import { type ReactNode, useCallback, useMemo, useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import type { GridColumn } from '../table/columns';
import { DataGrid } from '../table/DataGrid';
import { useColumns } from '../table/useColumns';
import type { CellFace, GridRow } from '../table/GridLine';
import { useEdits } from '../table/useEdits';
import { type ItemRow, useGridRows } from '../table/useGridRows';
import { usePages } from '../table/usePages';
import { Refused } from '../ui/faces';
import { Seal } from '../ui/Seal';
import { wordCause, wordFinding } from '@basileus/core/checks';
import { useFields } from '../own/fields';
import { useWording } from '../words/findings';
import { say } from '../ui/text';

const longestOrigin = 80;
const shorten = (text: string): string => (text.length > longestOrigin ? `${text.slice(0, longestOrigin)} …` : text);

/** What a cell shows of a listing; one without a category has no attributes yet, and shows only its title. */
export function getStored(listing: ListingRow, key: string): Value | null {
  switch (key) {
    case 'sku':
    case 'state':
    case 'category':
      return listing[key];
    case marginAttribute:
      return listing.margin === null ? null : (listing.margin / 10).toFixed(1);
    case 'title':
      return listing.category === null ? listing.title : (listing.values['title'] ?? null);
    default:
      return listing.category === null ? null : (listing.values[key] ?? null);
  }
}
export type ListingQuery = Partial<z.input<typeof listListings.query>>;

const order = { blocker: 0, caution: 1, tip: 2 };
/** Mended rows that are kept in sight; they travel in the address of the question. */
const mostKept = 500;

/** Where a value comes from, as a sentence. */
export function wordOrigin(listing: ListingRow, key: string, labelOf: (field: string) => string): string | undefined {
  const o = listing.origins[key];
  if (!o) return undefined;
  switch (o.from) {
    case 'typed':
      return say`Typed here, over what the product gives.`;
    case 'fixed':
      return say`The same for all items, by the table of fields.`;
    case 'formula':
      return o.fault
        ? say`By a formula of the table of fields, which gives nothing here: ${wordRowFault(o.fault)}`
        : say`By a formula of the table of fields, from the product’s ${o.fields.map(labelOf).join(', ')}.`;
    case 'product':
      return o.fitted === undefined
        ? say`From the product’s ${labelOf(o.field)}.`
        : o.field === 'stock'
          ? say`From the product’s ${labelOf(o.field)} “${o.fitted}”: as much of it as this market is told.`
          : say`From the product’s ${labelOf(o.field)} “${shorten(o.fitted)}”, put as this market takes it.`;
    case 'mapping':
      return say`From the product’s ${labelOf(o.field)} “${o.ours}”, by the table of values.`;
  }
}

const wishTitles = {
  withdraw: say`To be taken down with the next sending.`,
  restore: say`To be put back with the next sending.`,
};

export type Neighbour = (id: number, by: -1 | 1) => Promise<number | undefined>;

export interface ListingsTableProps {
  market: string;
  query: ListingQuery;
  columns: readonly GridColumn[];
  label: string;
  empty?: ReactNode;
  /** `neighbour` finds the listing that stands so many rows behind another one of this table. */
  onOpen?: (listing: ListingRow, neighbour: Neighbour) => void;
  /** The marked listings, and the items that they are of. */
  onSelect?: (ids: string[], products: number[]) => void;
  onTotal?: (total: number) => void;
  quietTips?: boolean;
  /** Rows that are mended here stay in sight, greyed, until the table is left. */
  keepsMended?: boolean;
  sort?: { key: string; direction: 'up' | 'down' };
  onSort?: (key: string, direction: 'up' | 'down') => void;
  /** Puts the first finding of each row beside its state. */
  showsFinding?: boolean;
}

/** Listings as a spreadsheet: cells marked with their finding, hatched where the row's category leaves them unused. */
export function ListingsTable({
  market,
  query,
  columns,
  label,
  empty,
  onOpen,
  onSelect,
  quietTips,
  keepsMended = false,
  sort,
  onSort,
  showsFinding = false,
}: ListingsTableProps) {
  const { labelOf } = useFields();
  const [edited, setEdited] = useState<ReadonlySet<string>>(new Set());
  const asked = useMemo(
    () => ({
      ...query,
      ...(sort ? { sort: sort.key, direction: sort.direction } : {}),
      ...(edited.size ? { keep: [...edited].slice(-mostKept).join(',') } : {}),
    }),
    [query, sort, edited],
  );
  const pages = usePages<ListingRow>(['listings', 'table', market, asked], (offset, limit) =>
    call(listListings, { params: { market }, query: { ...asked, offset, limit } }),
  );
  const wording = useWording(market);
  const edits = useEdits(`listings:${market}`);
  const { onPatch } = edits;
  const patch = useCallback(
    (p: Patch) => {
      if (keepsMended) setEdited((old) => new Set([...old, ...p.map((c) => c.row)]));
      onPatch(p);
    },
    [keepsMended, onPatch],
  );
  const storedOf = useCallback(
    (listing: ListingRow, key: string): Value | null => {
      if (key !== 'first-finding') return getStored(listing, key);
      const [worst] = [...listing.findings].sort((a, b) => order[a.level] - order[b.level]);
      return worst && (!quietTips || worst.level !== 'tip') ? wordCause(worst, wording) : null;
    },
    [wording, quietTips],
  );
  const rowAt = useGridRows(pages.rowAt, storedOf, edits);
  const itemAt = pages.rowAt;
  const select = useCallback(
    (ids: string[], { top, bottom }: { top: number; bottom: number }) => {
      const products: number[] = [];
      for (let r = top; r <= bottom && products.length < ids.length; r++) {
        const listing = itemAt(r);
        if (listing) products.push(listing.productId);
      }
      onSelect?.(ids, products);
    },
    [itemAt, onSelect],
  );
  const faceOf = useCallback(
    (row: GridRow, column: GridColumn): CellFace | undefined => {
      const { item: listing } = row as ItemRow<ListingRow>;
      const faded =
        query.check !== undefined &&
        edited.has(row.id) &&
        !listing.findings.some(
          (f) => f.check === query.check && f.message === query.message && f.field === query.field,
        );
      if (column.key === 'first-finding') {
        const [worst] = [...listing.findings].sort((a, b) => order[a.level] - order[b.level]);
        return worst && (!quietTips || worst.level !== 'tip')
          ? { finding: { level: worst.level, says: wordFinding(worst, wording) } }
          : undefined;
      }
      if (column.key === 'state') {
        const blockers = listing.findings.filter((f) => f.level === 'blocker');
        return {
          faded,
          lead: (
            <>
              <Seal state={listing.state} bare />
              {listing.wish !== 'keep' && (
                <span className="shrink-0 text-warning" title={wishTitles[listing.wish]}>
                  {listing.wish},
                </span>
              )}
            </>
          ),
          finding: showsFinding
            ? undefined
            : blockers[0] && {
                level: 'blocker',
                says:
                  blockers.length === 1
                    ? wordFinding(blockers[0], wording)
                    : say`${blockers.length} blockers; first: ${wordFinding(blockers[0], wording)}`,
              },
        };
      }
      if (column.key === 'sku') {
        const f = listing.findings.find((x) => x.field === 'sku' || (x.field === 'category' && !showsFinding));
        return {
          faded,
          lead:
            listing.role === 'variant' ? (
              <span className="ms-1 h-3 w-2 shrink-0 border-b border-s border-base-content/40" aria-hidden="true" />
            ) : undefined,
          finding: f && { level: f.level, says: wordFinding(f, wording) },
        };
      }
      if (column.key === marginAttribute) return { faded };
      const found = listing.findings
        .filter((f) => f.field === column.key && (!quietTips || f.level !== 'tip'))
        .sort((a, b) => order[a.level] - order[b.level])[0];
      const level = listing.levels[column.key];
      return {
        faded,
        finding: found && { level: found.level, says: wordFinding(found, wording) },
        unused: listing.category !== null && (level === undefined || level === 'unused'),
        origin: wordOrigin(listing, column.key, labelOf),
      };
    },
    [quietTips, wording, query.check, query.message, query.field, edited, showsFinding, labelOf],
  );
  const all = useMemo<GridColumn[]>(
    () => [
      { key: 'sku', title: 'SKU', width: 190, kind: 'text', readOnly: true, mono: true, sortable: true },
      { key: 'state', title: say`State`, width: 124, kind: 'text', readOnly: true, sortable: true },
      ...(showsFinding
        ? [{ key: 'first-finding', title: say`To mend`, width: 240, kind: 'text' as const, readOnly: true }]
        : []),
      ...columns.map((c) => ({ ...c, sortable: true })),
    ],
    [columns, showsFinding],
  );
  const kept = useColumns({
    // Each category has columns of its own: what was laid out for some holds for these alone. The margin came later.
    table: `listings/${market}/${all
      .map((c) => c.key)
      .filter((key) => key !== marginAttribute)
      .join()}`,
    usual: all,
    all,
    groupOf: () => '',
    ...(onSort ? { onSort } : {}),
  });
  const neighbour: Neighbour = async (id, by) => {
    for (let i = 0; i < pages.total; i++) {
      if (pages.rowAt(i)?.id !== id) continue;
      const to = i + by;
      if (to < 0 || to >= pages.total) return undefined;
      await pages.loadRows(to, to);
      return pages.rowAt(to)?.id;
    }
    return undefined;
  };
  if (pages.error) return <Refused error={pages.error} again={pages.refetch} />;
  return (
    <>
      <DataGrid
        label={label}
        columns={kept.columns}
        frozen={kept.layout.frozen}
        layout={kept.grid}
        rowCount={pages.total}
        rowAt={rowAt}
        version={`${pages.stamp}${edits.version}`}
        faceOf={faceOf}
        onSeen={pages.onSeen}
        onPatch={patch}
        sort={sort}
        {...(onSort
          ? {
              onSort: (key: string) => {
                onSort(key, sort?.key === key && sort.direction === 'up' ? 'down' : 'up');
              },
            }
          : {})}
        onTurn={edits.onTurn}
        loadRows={pages.loadRows}
        {...(onOpen
          ? {
              onOpen: (r: GridRow) => {
                onOpen((r as ItemRow<ListingRow>).item, neighbour);
              },
            }
          : {})}
        {...(onSelect ? { onSelect: select } : {})}
        empty={pages.isLoading ? null : empty}
      />
      {kept.dialogs}
    </>
  );
}
