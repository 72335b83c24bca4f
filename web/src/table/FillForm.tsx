import type { Value } from '@basileus/core/listing';
import { useId, useState } from 'react';
import { count } from '../ui/text';
import { type GridColumn, toCellValue } from './columns';

/** One value for a field in many rows at once. */
export function FillForm({
  column,
  rows,
  example,
  isBusy,
  onFill,
}: {
  column: GridColumn;
  rows: number;
  example?: string | undefined;
  isBusy: boolean;
  onFill: (value: Value) => void;
}) {
  const [text, setText] = useState('');
  const listId = useId();
  const label = `${column.title} for all`;
  const value = toCellValue(column, text);
  const isChoice = column.options !== undefined && (column.kind === 'choice' || column.kind === 'yes-no');
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== null) onFill(value);
      }}
    >
      {isChoice ? (
        <select
          className="select select-sm w-44"
          aria-label={label}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
          }}
        >
          <option value="">choose …</option>
          {column.options?.map((o) => (
            <option key={o.code} value={o.code}>
              {o.label}
            </option>
          ))}
        </select>
      ) : (
        <input
          className="input input-sm w-52"
          aria-label={label}
          placeholder={example ? `such as ${example}` : column.kind === 'choices' ? 'one | another' : column.title}
          list={column.kind === 'choices' ? listId : undefined}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
          }}
        />
      )}
      {column.kind === 'choices' && (
        <datalist id={listId}>
          {column.options?.map((o) => (
            <option key={o.code} value={o.label} />
          ))}
        </datalist>
      )}
      <button type="submit" className="btn btn-sm" disabled={value === null || isBusy}>
        Fill {count(rows)}
      </button>
    </form>
  );
}
