import type { ImportReadingShape } from '@basileus/contract';
import { productFields } from '@basileus/core/sheet';
import { useState } from 'react';
import { count } from '../ui/text';

/** The columns of the file with the field of ours that each fills, why, and samples of what it holds. */
export function ColumnFields({
  reading,
  set,
}: {
  reading: ImportReadingShape;
  set: (part: Partial<ImportReadingShape>) => void;
}) {
  /** A field comes from one column: giving it to another takes it from the first. */
  const choose = (index: number, field: string | null) => {
    set({
      columns: reading.columns.map((o) => {
        if (o.index === index) return { ...o, field, reason: field ? 'chosen by you' : 'left out by you' };
        return o.field === field && field !== null ? { ...o, field: null, reason: 'given to another column' } : o;
      }),
    });
  };
  // A sheet may have thousands of columns; those that fill a field are always seen.
  const [most, setMost] = useState(200);
  const seen = reading.columns.filter((c, i) => i < most || c.field !== null);
  const hidden = reading.columns.length - seen.length;
  return (
    <div className="overflow-auto">
      <table className="plain-table">
        <thead>
          <tr>
            <th>Column in the file</th>
            <th>Field of ours</th>
            <th>Why, and what it holds</th>
          </tr>
        </thead>
        <tbody>
          {seen.map((c) => (
            <tr key={c.index}>
              <td className="font-semibold">{c.name}</td>
              <td>
                <select
                  className="select select-sm w-40"
                  aria-label={`Field for ${c.name}`}
                  value={c.field ?? ''}
                  onChange={(e) => {
                    choose(c.index, e.target.value || null);
                  }}
                >
                  <option value="">leave out</option>
                  {productFields.map((f) => (
                    <option key={f.key} value={f.key}>
                      {f.label}
                    </option>
                  ))}
                </select>
              </td>
              <td>
                <span className="quiet">{c.reason}</span>
                <div className="num line-clamp-2 text-[12px] break-all">{c.samples.slice(0, 3).join(' · ')}</div>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {hidden > 0 && (
        <button
          type="button"
          className="btn btn-sm m-3"
          onClick={() => {
            setMost(most + 500);
          }}
        >
          Show more of the {count(hidden)} other columns
        </button>
      )}
    </div>
  );
}
