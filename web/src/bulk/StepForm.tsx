import type { Product } from '@basileus/contract';
import { type ChangeOperation, type ChangeStep, isChangedInBulk, listOperations } from '@basileus/core/change';
import type { FieldBook, ProductField } from '@basileus/core/product';
import { X } from 'lucide-react';
import { useId } from 'react';
import { groupFields } from '../own/fields';
import { FormulaField } from './FormulaField';
import { moveStep, operationWords, startOperation } from './operation';

/** One step of a change: a field, what is done to it, and with what. */
export function StepForm({
  step,
  book,
  categories,
  samples,
  problem,
  onChange,
  onDrop,
}: {
  step: ChangeStep;
  book: FieldBook;
  categories: readonly string[];
  samples: readonly Product[];
  /** What is wrong with it, in words; a formula says that itself. */
  problem: string | undefined;
  onChange: (step: ChangeStep) => void;
  onDrop: () => void;
}) {
  const field = book.get(step.field);
  const { operation } = step;
  const put = (operation: ChangeOperation) => {
    onChange({ ...step, operation });
  };
  return (
    <li className="panel flex flex-col gap-2 p-3">
      <div className="flex items-center gap-2">
        <select
          className="select select-sm min-w-0 flex-1 font-semibold"
          aria-label="Field that is changed"
          value={step.field}
          onChange={(e) => {
            onChange(moveStep(step, book.get(e.target.value)!));
          }}
        >
          {!field && <option value={step.field}>{step.field}</option>}
          {groupFields(book.all.filter(isChangedInBulk)).map(([group, fields]) => (
            <optgroup key={group} label={group}>
              {fields.map((f) => (
                <option key={f.key} value={f.key}>
                  {f.label}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
        <select
          className="select select-sm min-w-0 flex-1"
          aria-label="What is done to it"
          value={operation.do}
          onChange={(e) => {
            put(startOperation(e.target.value as ChangeOperation['do']));
          }}
        >
          {(field ? listOperations(field) : [operation.do]).map((name) => (
            <option key={name} value={name}>
              {operationWords[name]}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Take this change out"
          onClick={onDrop}
        >
          <X size={14} />
        </button>
      </div>
      {field && (
        <With
          key={`${step.field} ${operation.do}`}
          operation={operation}
          field={field}
          book={book}
          categories={categories}
          samples={samples}
          onChange={put}
        />
      )}
      {problem && operation.do !== 'formula' && <p className="text-xs text-error">{problem}</p>}
    </li>
  );
}

/** What an operation needs to be told. */
function With({
  operation: o,
  field,
  book,
  categories,
  samples,
  onChange,
}: {
  operation: ChangeOperation;
  field: ProductField;
  book: FieldBook;
  categories: readonly string[];
  samples: readonly Product[];
  onChange: (operation: ChangeOperation) => void;
}) {
  switch (o.do) {
    case 'clear':
      return null;
    case 'set':
      return (
        <SetValue
          field={field}
          categories={categories}
          value={o.value}
          onChange={(value) => {
            onChange({ do: 'set', value });
          }}
        />
      );
    case 'raise':
      return (
        <div className="flex items-center gap-2">
          <Box
            label="By how much"
            placeholder="10, or -10 to lower"
            value={o.of}
            isNumber
            onChange={(of) => {
              onChange({ ...o, of });
            }}
          />
          <select
            className="select select-sm w-36"
            aria-label="Percent or amount"
            value={o.by}
            onChange={(e) => {
              onChange({ ...o, by: e.target.value as typeof o.by });
            }}
          >
            <option value="percent">percent</option>
            <option value="amount">amount</option>
          </select>
        </div>
      );
    case 'round':
      return (
        <div className="flex items-center gap-2">
          <Box
            label="Ending"
            placeholder=".99"
            value={o.ending}
            isNumber
            options={['.99', '.95', '.90', '.50', '.00', '9.99', '4.95']}
            onChange={(ending) => {
              onChange({ ...o, ending });
            }}
          />
          <select
            className="select select-sm w-36"
            aria-label="Which way"
            value={o.way}
            onChange={(e) => {
              onChange({ ...o, way: e.target.value as typeof o.way });
            }}
          >
            <option value="up">upwards</option>
            <option value="nearest">to the nearest</option>
            <option value="down">downwards</option>
          </select>
        </div>
      );
    case 'formula':
      return (
        <FormulaField
          value={o.formula}
          field={field}
          book={book}
          samples={samples}
          onChange={(formula) => {
            onChange({ do: 'formula', formula });
          }}
        />
      );
    case 'copy':
      return (
        <select
          className="select select-sm w-full"
          aria-label="Taken from"
          value={o.from}
          onChange={(e) => {
            onChange({ do: 'copy', from: e.target.value });
          }}
        >
          <option value="">from which field?</option>
          {groupFields(book.all.filter((f) => f.key !== field.key)).map(([group, fields]) => (
            <optgroup key={group} label={group}>
              {fields.map((f) => (
                <option key={f.key} value={f.key}>
                  {f.label}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
      );
    case 'rewrite':
      return (
        <>
          <div className="flex items-center gap-2">
            <Box
              label="Find"
              placeholder="find"
              value={o.find}
              onChange={(find) => {
                onChange({ ...o, find });
              }}
            />
            <Box
              label="Put in its place"
              placeholder="put in its place; nothing takes it out"
              value={o.by}
              onChange={(by) => {
                onChange({ ...o, by });
              }}
            />
          </div>
          <div className="flex gap-4 text-xs">
            <Tick
              label="whole words only"
              isOn={o.wholeWords}
              onChange={(wholeWords) => {
                onChange({ ...o, wholeWords });
              }}
            />
            <Tick
              label="capitals count"
              isOn={o.exactCase}
              onChange={(exactCase) => {
                onChange({ ...o, exactCase });
              }}
            />
          </div>
        </>
      );
    case 'add':
    case 'remove':
      return (
        <Lines
          label="Entries, one a line"
          items={o.items}
          onChange={(items) => {
            onChange({ do: o.do, items });
          }}
        />
      );
    case 'swap':
      return (
        <div className="flex items-center gap-2">
          <Box
            label="Entry"
            placeholder="this entry"
            value={o.from}
            onChange={(from) => {
              onChange({ ...o, from });
            }}
          />
          <Box
            label="Becomes"
            placeholder="becomes this one"
            value={o.to}
            onChange={(to) => {
              onChange({ ...o, to });
            }}
          />
        </div>
      );
    case 'number':
      return (
        <div className="flex items-center gap-2">
          <Box
            label="Pattern"
            placeholder="ART-####"
            value={o.pattern}
            onChange={(pattern) => {
              onChange({ ...o, pattern });
            }}
          />
          <label className="flex items-center gap-1 text-xs">
            from
            <input
              className="input input-sm num w-20"
              inputMode="numeric"
              value={o.start}
              onChange={(e) => {
                onChange({ ...o, start: Number(e.target.value.replace(/\D/g, '').slice(0, 9)) });
              }}
            />
          </label>
        </div>
      );
  }
}

/** One value for all, in the shape of its field. */
function SetValue({
  field,
  categories,
  value,
  onChange,
}: {
  field: ProductField;
  categories: readonly string[];
  value: string | string[];
  onChange: (value: string | string[]) => void;
}) {
  const text = typeof value === 'string' ? value : value.join('\n');
  if (field.kind === 'list')
    return (
      <Lines
        label="Entries, one a line"
        items={typeof value === 'string' ? (value === '' ? [] : [value]) : value}
        onChange={onChange}
      />
    );
  if (field.kind === 'long-text')
    return (
      <textarea
        className="textarea textarea-sm min-h-0 w-full"
        rows={4}
        aria-label="Value"
        value={text}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
    );
  const options = field.key === 'category' ? categories : field.kind === 'yes-no' ? ['yes', 'no'] : field.values;
  return (
    <div className="flex">
      <Box
        label="Value"
        placeholder={field.kind === 'measure' ? `such as 24 ${field.unit ?? 'cm'}` : ''}
        type={field.kind === 'date' ? 'date' : 'text'}
        isNumber={field.kind === 'money' || field.kind === 'integer' || field.kind === 'number'}
        value={text}
        options={options}
        onChange={onChange}
      />
    </div>
  );
}

/** Entries of a list, one a line. Empty lines stay while one types. */
const Lines = ({
  label,
  items,
  onChange,
}: {
  label: string;
  items: readonly string[];
  onChange: (items: string[]) => void;
}) => (
  <textarea
    className="textarea textarea-sm min-h-0 w-full"
    rows={Math.min(6, Math.max(2, items.length + 1))}
    aria-label={label}
    placeholder={label}
    defaultValue={items.join('\n')}
    onChange={(e) => {
      onChange(
        e.target.value
          .split('\n')
          .map((l) => l.trim())
          .filter(Boolean),
      );
    }}
  />
);

const Box = ({
  label,
  placeholder,
  value,
  options,
  type = 'text',
  isNumber = false,
  onChange,
}: {
  label: string;
  placeholder: string;
  value: string;
  options?: readonly string[] | undefined;
  type?: 'text' | 'date';
  isNumber?: boolean;
  onChange: (value: string) => void;
}) => {
  const listId = useId();
  return (
    <>
      <input
        className={`input input-sm min-w-0 flex-1 ${isNumber ? 'num' : ''}`}
        aria-label={label}
        placeholder={placeholder}
        type={type}
        inputMode={isNumber ? 'decimal' : undefined}
        autoComplete="off"
        list={options ? listId : undefined}
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
      {options && (
        <datalist id={listId}>
          {options.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
      )}
    </>
  );
};

const Tick = ({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) => (
  <label className="flex items-center gap-1.5">
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      checked={isOn}
      onChange={(e) => {
        onChange(e.target.checked);
      }}
    />
    {label}
  </label>
);
