import { compileFormula, findResultFault, toFieldValue, wordRowFault } from '@basileus/core/formula';
import type { SampleItem } from '@basileus/contract';
import type { FieldBook, ProductField } from '@basileus/core/product';
import { toDay } from '@basileus/core/quantity';
import { FormulaBox, FormulaHelp } from '../ui/FormulaBox';
import { shown, say } from '../ui/text';

/**
 * A formula being written: fields and functions are completed, what is wrong is underlined where it stands, and three items
 * show what it gives.
 */
export function FormulaField({
  value,
  field,
  book,
  samples,
  onChange,
}: {
  value: string;
  field: ProductField;
  book: FieldBook;
  samples: readonly SampleItem[];
  onChange: (value: string) => void;
}) {
  const made = compileFormula(value, book);
  const fault = made.ok ? findResultFault(made.formula.type, field, value.length) : made.fault;
  const today = toDay(new Date());
  return (
    <div className="flex flex-col gap-1">
      <FormulaBox
        label={say`Formula for ${field.label}`}
        value={value}
        book={book}
        fault={fault}
        placeholder="ending([Price] * 85%, .99)"
        onChange={onChange}
      />
      {value.trim() !== '' && made.ok && !fault && (
        <ul className="text-xs" aria-label={say`What it gives`}>
          {samples.map((p) => {
            const result = made.formula.run({ values: p.fields, today });
            return (
              <li key={p.id} className="flex gap-2">
                <span className="num quiet whitespace-nowrap">{p.sku}</span>
                <span className="num ms-auto text-end">
                  {result.ok
                    ? shown(toFieldValue(result.value, field)) || (
                        <span className="quiet">{say`nothing: stays as it is`}</span>
                      )
                    : wordRowFault(result.fault)}
                </span>
              </li>
            );
          })}
        </ul>
      )}
      <FormulaHelp />
    </div>
  );
}
