import { completeFormula, type FormulaFault, formulaFunctions, wordFormulaProblem } from '@basileus/core/formula';
import type { FieldBook } from '@basileus/core/product';
import { useId, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { sayWord } from '@basileus/core/text';
import { say } from './text';

/** A formula being written: fields and functions are completed, and what is wrong is underlined where it stands. */
export function FormulaBox({
  label,
  value,
  book,
  fault,
  placeholder = '',
  rows = 2,
  isFirst = false,
  onChange,
}: {
  label: string;
  value: string;
  /** The fields that it may read. */
  book: FieldBook;
  fault: FormulaFault | undefined;
  placeholder?: string;
  rows?: number;
  /** It has the focus when its dialog opens. */
  isFirst?: boolean;
  onChange: (value: string) => void;
}) {
  const box = useRef<HTMLTextAreaElement>(null);
  const listId = useId();
  const [caret, setCaret] = useState<number>(),
    [chosen, setChosen] = useState(0);
  const completion = caret === undefined ? undefined : completeFormula(value, caret, book);
  const options = completion?.options ?? [];
  const take = (n: number) => {
    const option = options[n];
    if (!completion || !option) return;
    const next = value.slice(0, completion.from) + option.insert + value.slice(completion.to);
    const at = completion.from + option.insert.length;
    // At once: who types on before the next frame would have the caret taken back behind what was typed.
    flushSync(() => {
      onChange(next);
      setCaret(undefined);
    });
    box.current?.focus();
    box.current?.setSelectionRange(at, at);
  };
  return (
    <div className="flex flex-col gap-1">
      <div className="relative">
        <textarea
          ref={box}
          data-first={isFirst || undefined}
          className="textarea textarea-sm num min-h-0 w-full leading-snug"
          rows={rows}
          aria-label={label}
          aria-autocomplete="list"
          aria-controls={listId}
          aria-expanded={options.length > 0}
          aria-activedescendant={options.length > 0 ? `${listId}-${chosen}` : undefined}
          role="combobox"
          spellCheck={false}
          placeholder={placeholder}
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
                <span className="num">{o.label}</span> <span className="quiet text-xs">{sayWord(o.about)}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
      {value.trim() !== '' && fault && <Faulty text={value} fault={fault} />}
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

/** All functions, shown when they are asked for. */
export function FormulaHelp() {
  const [isHelp, setHelp] = useState(false);
  return (
    <>
      <button
        type="button"
        className="self-start text-xs underline decoration-base-300 underline-offset-2"
        aria-expanded={isHelp}
        onClick={() => {
          setHelp(!isHelp);
        }}
      >
        {say`Functions`}
      </button>
      {isHelp && <Functions />}
    </>
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
              {sayWord(f.about)}
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
