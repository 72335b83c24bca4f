import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { type FieldBook, listSizes, readMarketKey } from '@basileus/core/product';
import { useState } from 'react';
import { useWideFields } from '../choose/wideFields';
import { FieldSelect } from '../own/FieldSelect';
import { FieldOfNewColumn } from './FieldOfNewColumn';
import { MoneyOfColumn } from './MoneyOfColumn';
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
  const choose = (index: number, chosen: readonly string[]) => {
    const [field = null] = chosen,
      isList = field !== null && fields.get(field)?.kind === 'list';
    set({
      columns: reading.columns.map(({ parts, converts, ...o }) => {
        if (o.index === index)
          return {
            ...o,
            field,
            ...(chosen.length > 1 ? { parts: [...chosen] } : {}),
            why: field === null ? 'left-out' : 'chosen',
          };
        const isGiven = !isList && (parts ?? [o.field]).some((f) => f !== null && chosen.includes(f));
        return isGiven
          ? { ...o, field: null, why: 'given' }
          : { ...o, ...(parts ? { parts } : {}), ...(converts ? { converts } : {}) };
      }),
    });
  };
  const convert = (index: number, converts: Column['converts']) => {
    set({
      columns: reading.columns.map(({ converts: before, ...o }) => {
        if (o.index === index) return { ...o, why: 'chosen', ...(converts ? { converts } : {}) };
        return { ...o, ...(before ? { converts: before } : {}) };
      }),
    });
  };
  // A sheet may have thousands of columns; those that fill a field are always seen.
  const [most, setMost] = useState(200),
    [adding, setAdding] = useState<Column | null>(null);
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
                  value={c.parts ?? (c.field === null ? [] : [c.field])}
                  fields={fields}
                  onChoose={(chosen) => {
                    choose(c.index, chosen);
                  }}
                  onAdd={() => {
                    setAdding(c);
                  }}
                />
                <MoneyOfColumn
                  column={c}
                  fields={fields}
                  onChoose={(converts) => {
                    convert(c.index, converts);
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
      {adding && (
        <FieldOfNewColumn
          column={adding}
          onClose={(key) => {
            setAdding(null);
            if (key !== '') choose(adding.index, [key]);
          }}
        />
      )}
    </div>
  );
}

const elsewhere = '/',
  added = '+',
  joint = ' × ';

/** The field that a column fills. Those of markets, of which there are hundreds, are listed once they are wanted. */
function FieldOfColumn({
  name,
  value,
  fields,
  onChoose,
  onAdd,
}: {
  name: string;
  /** Several, where each cell holds as many measures. */
  value: readonly string[];
  fields: FieldBook;
  onChoose: (fields: string[]) => void;
  onAdd: () => void;
}) {
  const [isWide, setWide] = useState(false);
  const key = value.join(joint);
  const isOfMarket = readMarketKey(key) !== undefined,
    isChoosing = isWide && key === '',
    seesMarkets = isWide || isOfMarket;
  return (
    <FieldSelect
      label={say`Field for ${name}`}
      className="w-40"
      value={isChoosing ? elsewhere : key}
      fields={fields.all.filter((f) => !f.made && (seesMarkets || !f.market))}
      none={say`leave out`}
      more={[
        ...listSizes(fields).map((s) => ({ key: s.join(joint), label: s.map(fields.labelOf).join(' × ') })),
        ...(!seesMarkets || isChoosing
          ? [{ key: elsewhere, label: isChoosing ? say`choose …` : say`A market’s field …` }]
          : []),
        { key: added, label: say`A new field of ours …` },
      ]}
      onChoose={(key) => {
        if (key === elsewhere) setWide(true);
        else if (key === added) onAdd();
        else onChoose(key === '' ? [] : key.split(joint));
      }}
    />
  );
}
