import type { Value } from '@basileus/core/listing';
import { useId, useState } from 'react';
import { count, say } from '../ui/text';
import { ListPicker } from '../ui/ListPicker';
import { type GridColumn, toCellValue } from './columns';
import { tell } from '../ui/tell';

/** A value for a field in many rows: chosen from its list where it has one, typed otherwise. */
export function FillInput({
  column,
  example,
  text,
  onText,
}: {
  column: GridColumn;
  example?: string | undefined;
  text: string;
  onText: (text: string) => void;
}) {
  const listId = useId();
  const label = say`${column.title} for all`;
  if (column.options !== undefined && (column.kind === 'choice' || column.kind === 'yes-no'))
    return <ListPicker label={label} options={column.options} value={text} onChoose={onText} />;
  return (
    <>
      <input
        className="input input-sm w-52"
        aria-label={label}
        placeholder={example ? say`such as ${example}` : column.kind === 'choices' ? say`one | another` : column.title}
        list={column.kind === 'choices' ? listId : undefined}
        value={text}
        onChange={(e) => {
          onText(e.target.value);
        }}
      />
      {column.kind === 'choices' && (
        <datalist id={listId}>
          {column.options?.map((o) => (
            <option key={o.code} value={o.label} />
          ))}
        </datalist>
      )}
    </>
  );
}

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
  const value = toCellValue(column, text);
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== null) onFill(value);
      }}
    >
      <FillInput column={column} example={example} text={text} onText={setText} />
      <button type="submit" className="btn btn-sm" disabled={value === null || isBusy}>
        {tell`Fill ${count(rows)}`}
      </button>
    </form>
  );
}
