import {
  compileFormula,
  completeFormula,
  findResultFault,
  type FormulaFault,
  formulaFunctions,
  toFieldValue,
  wordFormulaProblem,
  wordRowFault,
} from '@basileus/core/formula';
import type { Product } from '@basileus/contract';
import type { FieldBook, ProductField } from '@basileus/core/product';
import { toDay } from '@basileus/core/quantity';
import { useId, useRef, useState } from 'react';
import { shown } from '../ui/text';

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
  samples: readonly Product[];
  onChange: (value: string) => void;
}) {
  const box = useRef<HTMLTextAreaElement>(null);
  const listId = useId();
  const [caret, setCaret] = useState<number>(),
    [chosen, setChosen] = useState(0),
    [isHelp, setHelp] = useState(false);
  const completion = caret === undefined ? undefined : completeFormula(value, caret, book);
  const options = completion?.options ?? [];
  const take = (n: number) => {
    const option = options[n];
    if (!completion || !option) return;
    const next = value.slice(0, completion.from) + option.insert + value.slice(completion.to);
    const at = completion.from + option.insert.length;
    onChange(next);
    setCaret(undefined);
    requestAnimationFrame(() => {
      box.current?.focus();
      box.current?.setSelectionRange(at, at);
    });
  };
  const made = compileFormula(value, book);
  const fault = made.ok ? findResultFault(made.formula.type, field, value.length) : made.fault;
  const today = toDay(new Date());
  return (
    <div className="flex flex-col gap-1">
      <div className="relative">
        <textarea
          ref={box}
          className="textarea textarea-sm num min-h-0 w-full leading-snug"
          rows={2}
          aria-label={`Formula for ${field.label}`}
          aria-autocomplete="list"
          aria-controls={listId}
          aria-expanded={options.length > 0}
          aria-activedescendant={options.length > 0 ? `${listId}-${chosen}` : undefined}
          role="combobox"
          spellCheck={false}
          placeholder="ending([Price] * 85%, .99)"
          value={value}
          onChange={(e) => {
            onChange(e.target.value);
            setCaret(e.target.selectionStart);
            setChosen(0);
          }}
          onBlur={() => {
            setCaret(undefined);
          }}
          onKeyDown={(e) => {
            if (options.length === 0) return;
            if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
              e.preventDefault();
              setChosen((chosen + (e.key === 'ArrowDown' ? 1 : options.length - 1)) % options.length);
            } else if (e.key === 'Enter' || e.key === 'Tab') {
              e.preventDefault();
              take(chosen);
            } else if (e.key === 'Escape') {
              e.preventDefault();
              e.stopPropagation();
              setCaret(undefined);
            }
          }}
        />
        {options.length > 0 && (
          <ul
            id={listId}
            role="listbox"
            className="panel absolute z-30 mt-0.5 max-h-64 w-full overflow-auto py-1 shadow"
          >
            {options.map((o, i) => (
              <li
                key={o.insert}
                id={`${listId}-${i}`}
                role="option"
                aria-selected={i === chosen}
                className={`cursor-pointer px-2 py-0.5 ${i === chosen ? 'bg-primary/10' : ''}`}
                onMouseDown={(e) => {
                  e.preventDefault();
                  take(i);
                }}
              >
                <span className="num">{o.label}</span> <span className="quiet text-xs">{o.about}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
      {value.trim() !== '' && fault ? (
        <Faulty text={value} fault={fault} />
      ) : (
        value.trim() !== '' &&
        made.ok && (
          <ul className="text-xs" aria-label="What it gives">
            {samples.map((p) => {
              const result = made.formula.run({ values: p.fields, today });
              return (
                <li key={p.id} className="flex gap-2">
                  <span className="num quiet">{p.sku}</span>
                  <span className="num ml-auto text-right">
                    {result.ok
                      ? shown(toFieldValue(result.value, field)) || (
                          <span className="quiet">nothing: stays as it is</span>
                        )
                      : wordRowFault(result.fault)}
                  </span>
                </li>
              );
            })}
          </ul>
        )
      )}
      <button
        type="button"
        className="self-start text-xs underline decoration-base-300 underline-offset-2"
        aria-expanded={isHelp}
        onClick={() => {
          setHelp(!isHelp);
        }}
      >
        Functions
      </button>
      {isHelp && <Functions />}
    </div>
  );
}

/** The formula with what is wrong underlined, and the sentence of it. */
function Faulty({ text, fault }: { text: string; fault: FormulaFault }) {
  const { from, to } = fault.at;
  const isAll = from === 0 && to === text.length;
  return (
    <div role="alert" className="text-xs text-error">
      {!isAll && (
        <div className="num whitespace-pre-wrap break-words quiet" aria-hidden="true">
          {text.slice(0, from)}
          <span className="text-error underline decoration-wavy underline-offset-2">{text.slice(from, to) || '␣'}</span>
          {text.slice(to)}
        </div>
      )}
      {wordFormulaProblem(fault.problem)}
    </div>
  );
}

/** Every function with what it does and an example. */
function Functions() {
  return (
    <table className="plain-table text-xs">
      <tbody>
        {formulaFunctions.map((f) => (
          <tr key={f.name}>
            <td className="num align-top">{f.name}</td>
            <td>
              {f.about}
              <div className="num quiet">
                {f.example} → {f.result}
              </div>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
