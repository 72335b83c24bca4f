import { type KeyboardEvent, useId, useLayoutEffect, useRef } from 'react';
import type { GridColumn } from './columns';
import { inLanguage } from '../ui/language';
import { rowHeight } from './geometry';

export interface CellEditorProps {
  column: GridColumn;
  text: string;
  top: number;
  left: number;
  width: number;
  isFrozen: boolean;
  /** `key` is the arrow along which the selection goes on; `isLeaving` says that the focus has gone elsewhere. */
  onCommit: (text: string, key: string | undefined, isLeaving: boolean) => void;
  onCancel: () => void;
}

const narrowest = 160;

/** The input over a cell. It keeps its keys to itself, commits when it loses the focus, and commits only once. */
export function CellEditor({ column, text, top, left, width, isFrozen, onCommit, onCancel }: CellEditorProps) {
  const ref = useRef<HTMLInputElement>(null),
    isOver = useRef(false);
  const listId = useId();
  useLayoutEffect(() => {
    ref.current?.focus({ preventScroll: true });
    // One letter is what the person has just typed: it must not be selected, or the next one would replace it.
    if (text.length > 1) ref.current?.select();
  }, [text.length]);
  const commit = (key: string | undefined, isLeaving: boolean) => {
    if (isOver.current) return;
    isOver.current = true;
    onCommit(ref.current?.value ?? '', key, isLeaving);
  };
  const onKey = (e: KeyboardEvent) => {
    e.stopPropagation();
    switch (e.key) {
      case 'Enter':
        e.preventDefault();
        commit(e.shiftKey ? 'ArrowUp' : 'ArrowDown', false);
        return;
      case 'Tab':
        e.preventDefault();
        commit(e.shiftKey ? 'ArrowLeft' : 'ArrowRight', false);
        return;
      case 'Escape':
        e.preventDefault();
        isOver.current = true;
        onCancel();
        return;
      default:
    }
  };
  return (
    <>
      <input
        ref={ref}
        {...inLanguage(column.language)}
        defaultValue={text}
        list={column.options ? listId : undefined}
        aria-label={`${column.title}, editing`}
        autoComplete="off"
        onKeyDown={onKey}
        onBlur={(e) => {
          commit(undefined, e.relatedTarget !== null);
        }}
        onCopy={(e) => {
          e.stopPropagation();
        }}
        onPaste={(e) => {
          e.stopPropagation();
        }}
        style={{ position: 'absolute', top, left, width: Math.max(width, narrowest), height: rowHeight }}
        className={`border-2 border-primary bg-base-100 px-1.5 outline-none ${isFrozen ? 'z-40' : 'z-30'} ${column.kind === 'number' ? 'num text-right' : ''}`}
      />
      {column.options && (
        <datalist id={listId}>
          {column.options.map((o) => (
            <option key={o.code} value={o.label} />
          ))}
        </datalist>
      )}
    </>
  );
}
