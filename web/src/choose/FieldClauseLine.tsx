import { isBare, listTests, toCode, wordTest } from '@basileus/core/choose';
import { toShown } from '@basileus/core/product';
import { useId } from 'react';
import { FieldSelect } from '../own/FieldSelect';
import { type FieldLine, moveLine } from './clause';
import { MarketOfFields } from './MarketOfFields';
import { useWideFields } from './wideFields';
import { say } from '../ui/text';

/** One question about a field: which field, what is asked, and with what it is compared. */
export function FieldClauseLine({
  line,
  isWrong,
  isFixed = false,
  onChange,
}: {
  line: FieldLine;
  isWrong: boolean;
  /** The field is settled already. */
  isFixed?: boolean;
  onChange: (line: FieldLine) => void;
}) {
  const book = useWideFields();
  const field = book.get(line.field);
  const listId = useId();
  const hasBox = !isBare(line.is);
  const words =
    field?.kind === 'yes-no' ? ['yes', 'no'] : field?.words ? Object.values(field.words) : (field?.values ?? []);
  const box = (part: 'value' | 'to', label: string) => (
    <input
      className={`input input-sm min-w-24 flex-1 ${isWrong ? 'input-error' : ''}`}
      aria-label={label}
      type={field?.kind === 'date' ? 'date' : 'text'}
      list={words.length > 0 ? listId : undefined}
      placeholder={line.is === 'one-of' || line.is === 'none-of' ? say`divided by commas` : ''}
      value={field?.words ? toShown(field, toCode(field, line[part])) : line[part]}
      onChange={(e) => {
        onChange({ ...line, [part]: e.target.value });
      }}
    />
  );
  return (
    <>
      {!isFixed && (
        <>
          <MarketOfFields
            value={field?.market}
            field={line.field}
            book={book}
            onChoose={(key) => {
              onChange(moveLine(line, book.get(key)!));
            }}
          />
          <FieldSelect
            label={say`Field`}
            className="w-40"
            value={line.field}
            fields={book.all.filter((f) => f.market === field?.market)}
            onChoose={(key) => {
              onChange(moveLine(line, book.get(key)!));
            }}
          />
        </>
      )}
      <select
        className="select select-sm w-40"
        aria-label={say`What is asked`}
        value={line.is}
        onChange={(e) => {
          onChange({ ...line, is: e.target.value as FieldLine['is'] });
        }}
      >
        {(field ? listTests(field) : []).map((t) => (
          <option key={t} value={t}>
            {wordTest(t, field)}
          </option>
        ))}
      </select>
      {hasBox && box('value', say`Compared with`)}
      {line.is === 'between' && (
        <>
          <span>{say`and`}</span>
          {box('to', say`And`)}
        </>
      )}
      <datalist id={listId}>
        {words.map((v) => (
          <option key={v} value={v} />
        ))}
      </datalist>
    </>
  );
}
