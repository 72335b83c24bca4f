import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { type ProductField, readMarketKey } from '@basileus/core/product';
import { useState } from 'react';
import { useWideFields } from '../choose/wideFields';
import { FieldSelect } from '../own/FieldSelect';
import { count, plural, say } from '../ui/text';
import { tell } from '../ui/tell';

type Column = ImportReadingShape['columns'][number];

/** Why a column fills its field, or none. What is called by our name, or was chosen, needs no reason. */
function wordWhy(column: Column, rememberedFrom: string | null): string {
  switch (column.why) {
    case 'name':
    case 'chosen':
      return '';
    case 'words':
      return say`guessed from its heading`;
    case 'values':
      return say`its values are valid barcodes`;
    case 'like':
      return say`its heading is nearly ours`;
    case 'only-price':
      return say`the only price of the file`;
    case 'remembered':
      return say`remembered from ${rememberedFrom ?? say`an earlier file`}`;
    case 'taken':
      return say`another column holds that field`;
    case 'given':
      return say`its field was given to another column`;
    case 'left-out':
      return say`left out by you`;
    case 'none':
      return say`no field of ours is called so`;
  }
}

/** The columns of the file with the field of ours that each fills; what is left out stands first. */
export function ColumnFields({ data, set }: { data: ImportShape; set: (part: Partial<ImportReadingShape>) => void }) {
  const { reading } = data;
  const fields = useWideFields();
  /** A field comes from one column, but for lists: giving it to another takes it from the first. */
  const choose = (index: number, field: string | null) => {
    const isList = field !== null && fields.get(field)?.kind === 'list';
    set({
      columns: reading.columns.map((o) => {
        if (o.index === index) return { ...o, field, why: field ? 'chosen' : 'left-out' };
        return o.field === field && field !== null && !isList ? { ...o, field: null, why: 'given' } : o;
      }),
    });
  };
  // A sheet may have thousands of columns; those that fill a field are always seen.
  const [most, setMost] = useState(200);
  const left = reading.columns.filter((c) => c.field === null),
    taken = reading.columns.filter((c) => c.field !== null);
  const seen = [...left.slice(0, most), ...taken];
  const hidden = left.length - Math.min(left.length, most);
  return (
    <div className="overflow-auto">
      <p className="px-4 py-2">
        {tell`${plural(reading.columns.length, 'column', 'columns')}: ${count(taken.length)} taken`}
        {left.length > 0 && <span className="font-semibold">{tell`, ${count(left.length)} left out`}</span>}
      </p>
      <table className="plain-table">
        <thead>
          <tr>
            <th>{say`Column in the file`}</th>
            <th>{say`Field of ours`}</th>
            <th>{say`What it holds`}</th>
          </tr>
        </thead>
        <tbody>
          {seen.map((c) => (
            <tr key={c.index} className={c.field === null ? 'bg-warning/8' : ''}>
              <td className="font-semibold">{c.name}</td>
              <td>
                <FieldOfColumn
                  name={c.name}
                  value={c.field}
                  fields={fields.all}
                  onChoose={(field) => {
                    choose(c.index, field);
                  }}
                />
              </td>
              <td>
                <span className="quiet">{wordWhy(c, data.rememberedFrom)}</span>
                <div className="num line-clamp-2 text-xs break-all">{c.samples.slice(0, 3).join(' · ')}</div>
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
          {tell`Show more of the ${count(hidden)} other columns`}
        </button>
      )}
    </div>
  );
}

const elsewhere = '/';

/** The field that a column fills. Those of markets, of which there are hundreds, are listed once they are wanted. */
function FieldOfColumn({
  name,
  value,
  fields,
  onChoose,
}: {
  name: string;
  value: string | null;
  fields: readonly ProductField[];
  onChoose: (field: string | null) => void;
}) {
  const [isWide, setWide] = useState(false);
  const isOfMarket = value !== null && readMarketKey(value) !== undefined,
    isChoosing = isWide && value === null,
    seesMarkets = isWide || isOfMarket;
  return (
    <FieldSelect
      label={say`Field for ${name}`}
      className="w-40"
      value={isChoosing ? elsewhere : (value ?? '')}
      fields={seesMarkets ? fields : fields.filter((f) => !f.market)}
      none={say`leave out`}
      more={
        !seesMarkets || isChoosing
          ? { key: elsewhere, label: isChoosing ? say`choose …` : say`A market’s field …` }
          : undefined
      }
      onChoose={(key) => {
        if (key === elsewhere) setWide(true);
        else onChoose(key || null);
      }}
    />
  );
}
