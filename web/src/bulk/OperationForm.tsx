import type { SampleItem } from '@basileus/contract';
import type { ChangeOperation } from '@basileus/core/change';
import type { FieldBook, ProductField } from '@basileus/core/product';
import { FieldSelect } from '../own/FieldSelect';
import { FormulaField } from './FormulaField';
import { Box, Lines, Tick } from './inputs';
import { ReadForm } from './ReadForm';
import { SetValue } from './SetValue';
import { say } from '../ui/text';

const endings = ['.99', '.95', '.90', '.50', '.00', '9.99', '4.95'];

/** What an operation needs to be told. */
export function OperationForm({
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
  samples: readonly SampleItem[];
  onChange: (operation: ChangeOperation) => void;
}) {
  switch (o.do) {
    case 'clear':
    case 'follow':
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
            label={say`By how much`}
            placeholder={say`10, or -10 to lower`}
            value={o.of}
            isNumber
            onChange={(of) => {
              onChange({ ...o, of });
            }}
          />
          <select
            className="select select-sm w-36"
            aria-label={say`Percent or amount`}
            value={o.by}
            onChange={(e) => {
              onChange({ ...o, by: e.target.value as typeof o.by });
            }}
          >
            <option value="percent">{say`percent`}</option>
            <option value="amount">{say`amount`}</option>
          </select>
        </div>
      );
    case 'leave':
      return (
        <div className="flex items-center gap-2">
          <Box
            label={say`Margin in percent`}
            placeholder="18"
            value={o.margin}
            isNumber
            onChange={(margin) => {
              onChange({ ...o, margin });
            }}
          />
          <span className="quiet shrink-0">{say`% after tax, fees and cost; up to`}</span>
          <Box
            label={say`Ending`}
            placeholder={say`.99, or nothing`}
            value={o.ending}
            isNumber
            options={endings}
            onChange={(ending) => {
              onChange({ ...o, ending });
            }}
          />
        </div>
      );
    case 'round':
      return (
        <div className="flex items-center gap-2">
          <Box
            label={say`Ending`}
            placeholder=".99"
            value={o.ending}
            isNumber
            options={endings}
            onChange={(ending) => {
              onChange({ ...o, ending });
            }}
          />
          <select
            className="select select-sm w-36"
            aria-label={say`Which way`}
            value={o.way}
            onChange={(e) => {
              onChange({ ...o, way: e.target.value as typeof o.way });
            }}
          >
            <option value="up">{say`upwards`}</option>
            <option value="nearest">{say`to the nearest`}</option>
            <option value="down">{say`downwards`}</option>
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
        <FieldSelect
          label={say`Taken from`}
          none={say`from which field?`}
          value={o.from}
          fields={book.all.filter(
            (f) => f.key !== field.key && (!f.market || !field.market || f.market === field.market),
          )}
          onChoose={(from) => {
            onChange({ do: 'copy', from });
          }}
        />
      );
    case 'read':
      return <ReadForm field={field} operation={o} onChange={onChange} />;
    case 'rewrite':
      return (
        <>
          <div className="flex items-center gap-2">
            <Box
              label={say`Find`}
              placeholder={say`find`}
              value={o.find}
              onChange={(find) => {
                onChange({ ...o, find });
              }}
            />
            <Box
              label={say`Put in its place`}
              placeholder={say`put in its place; nothing takes it out`}
              value={o.by}
              onChange={(by) => {
                onChange({ ...o, by });
              }}
            />
          </div>
          <div className="flex gap-4 text-xs">
            <Tick
              label={say`whole words only`}
              isOn={o.wholeWords}
              onChange={(wholeWords) => {
                onChange({ ...o, wholeWords });
              }}
            />
            <Tick
              label={say`capitals count`}
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
          label={say`Entries, one a line`}
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
            label={say`Entry`}
            placeholder={say`this entry`}
            value={o.from}
            onChange={(from) => {
              onChange({ ...o, from });
            }}
          />
          <Box
            label={say`Becomes`}
            placeholder={say`becomes this one`}
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
            label={say`Pattern`}
            placeholder="ART-####"
            value={o.pattern}
            onChange={(pattern) => {
              onChange({ ...o, pattern });
            }}
          />
          <label className="flex items-center gap-1 text-xs">
            {say`from`}
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
