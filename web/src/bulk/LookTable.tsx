import type { BulkCounts, BulkShape } from '@basileus/contract';
import { wordRowProblem } from '@basileus/core/change';
import { type FieldBook, toSpoken } from '@basileus/core/product';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Difference } from '../ui/Difference';
import { Empty, Loading, Refused, Views } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { bulkRowsQuery } from './queries';
import { tell } from '../ui/tell';

type Only = 'changed' | 'wrong' | 'same';
/** Before and after of every row, a page at a time; rows that stay, and those that are left since something is wrong. */
export function LookTable({
  bulk,
  counts,
  fields,
  book,
  isAsked,
}: {
  bulk: BulkShape;
  counts: BulkCounts | undefined;
  fields: readonly string[];
  book: FieldBook;
  isAsked: boolean;
}) {
  const [only, setOnly] = useState<Only>('changed'),
    // Places at which the pages before this one began, of the change that they were pages of.
    [places, setPlaces] = useState<{ of: string; before: number[] }>({ of: '', before: [] });
  const of = JSON.stringify(bulk);
  const before = places.of === of ? places.before : [];
  const setBefore = (next: number[]) => {
    setPlaces({ of, before: next });
  };
  const from = before.at(-1) ?? 0;
  const page = useQuery(bulkRowsQuery(bulk, only, from, isAsked));
  const next = page.data?.next ?? null;
  const show = (next: string) => {
    setOnly(next as Only);
    setBefore([]);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Views
        label={say`Rows`}
        now={only}
        onChoose={show}
        views={[
          { key: 'changed', label: say`Change`, count: counts?.changed },
          { key: 'same', label: say`Stay as they are`, count: counts?.same },
          { key: 'wrong', label: say`Left alone`, count: counts?.wrong },
        ]}
      />
      <div className="min-h-0 flex-1 overflow-auto bg-base-100">
        {!isAsked ? (
          <Empty title={say`Say what is to be changed.`}>
            {say`Before and after of every row stand here while you write; nothing is changed before you say so.`}
          </Empty>
        ) : page.isLoading ? (
          <Loading what={say`Working it out`} />
        ) : page.error || !page.data ? (
          <Refused error={page.error} again={() => void page.refetch()} />
        ) : page.data.rows.length === 0 ? (
          <Empty title={only === 'changed' ? say`No row would change.` : say`There are none.`} />
        ) : (
          <table className={`plain-table ${page.isPlaceholderData ? 'opacity-60' : ''}`}>
            <thead className="sticky top-0 z-10 bg-base-100">
              <tr>
                <th>SKU</th>
                <th>{say`Title`}</th>
                {only === 'wrong' ? (
                  <th>{say`Why it is left alone`}</th>
                ) : (
                  fields.map((f) => (
                    <th key={f} className={isNumber(book, f) ? 'text-end' : ''}>
                      {book.labelOf(f)}
                    </th>
                  ))
                )}
              </tr>
            </thead>
            <tbody>
              {page.data.rows.map((r) => (
                <tr key={r.id}>
                  <td className="num whitespace-nowrap">{r.sku}</td>
                  <td className="max-w-36 truncate lg:max-w-64" title={r.title}>
                    {r.title}
                  </td>
                  {only === 'wrong' ? (
                    <td>{r.problem && wordRowProblem(r.problem, book)}</td>
                  ) : (
                    fields.map((f) => {
                      const change = r.changes.find((c) => c.field === f);
                      return (
                        <td key={f} className={isNumber(book, f) ? 'num text-end whitespace-nowrap' : ''}>
                          {change ? (
                            <Difference
                              before={toSpoken(book.get(f), change.before)}
                              after={toSpoken(book.get(f), change.after)}
                            />
                          ) : (
                            <span className="quiet">–</span>
                          )}
                        </td>
                      );
                    })
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      {(from > 0 || next !== null) && (
        <div className="flex items-center gap-2 border-t border-base-300 px-5 py-1.5">
          <span className="quiet text-xs">{say`Page ${count(before.length + 1)}`}</span>
          <button
            type="button"
            className="btn btn-xs"
            disabled={before.length === 0}
            onClick={() => {
              setBefore(before.slice(0, -1));
            }}
          >
            {say`Earlier rows`}
          </button>
          <button
            type="button"
            className="btn btn-xs"
            disabled={next === null || page.isPlaceholderData}
            onClick={() => {
              if (next !== null) setBefore([...before, next]);
            }}
          >
            {say`Further rows`}
          </button>
        </div>
      )}
    </div>
  );
}
const isNumber = (book: FieldBook, key: string): boolean =>
  ['money', 'integer', 'number'].includes(book.get(key)?.kind ?? '');

/** What is wrong, gathered: so many rows of each, with one of them. */
export function Problems({ counts, book }: { counts: BulkCounts; book: FieldBook }) {
  if (counts.problems.length === 0) return null;
  return (
    <ul className="text-xs">
      {counts.problems.slice(0, 4).map((p) => (
        <li key={`${p.problem.field} ${p.problem.fault.kind}`}>
          <span className="font-semibold">{tell`${plural(p.count, 'row', 'rows')} left alone`}</span>
          {tell`, such as ${(<span className="num">{p.sku}</span>)}: ${wordRowProblem(p.problem, book)}`}
        </li>
      ))}
    </ul>
  );
}
