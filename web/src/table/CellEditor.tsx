import { readDate } from '@basileus/core/quantity';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type KeyboardEvent, type ReactNode, useId, useLayoutEffect, useRef, useState } from 'react';
import { inLanguage } from '../ui/language';
import { count, say } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';
import type { GridColumn } from './columns';
import {
  dropEntry,
  findOptions,
  finishLastPart,
  getLastPart,
  guessOption,
  joinEntries,
  listAmounts,
  type Option,
  splitEntries,
  stepEntry,
  toggleEntry,
} from './editors/editing';
import { EditorPanel } from './editors/EditorPanel';
import { DayPanel, EntriesPanel, OptionsPanel, UnitsPanel } from './editors/panels';
import { rowHeight } from './geometry';
import { tell } from '../ui/tell';

/** Asks for values that stand in a column already and hold what is typed. */
export type Suggest = (column: string, typed: string) => Promise<readonly string[]>;

export interface CellEditorProps {
  column: GridColumn;
  suggest: Suggest | undefined;
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
/** Texts are given room to be read in. */
const longWidth = 440,
  longHeight = 150;
const yesNo: readonly Option[] = ['yes', 'no'].map((code) => ({ code, label: code }));

/**
 * The line over a cell. What it holds is what is committed; what stands under it, by the kind of the column, only writes
 * into it. It keeps its keys to itself, commits when it loses the focus, and commits only once.
 */
export function CellEditor(props: CellEditorProps) {
  const { column, suggest, top, left, width, isFrozen, onCommit, onCancel } = props;
  const ref = useRef<HTMLInputElement & HTMLTextAreaElement>(null),
    isOver = useRef(false);
  const [line, setLine] = useState<HTMLElement | null>(null);
  const [text, setText] = useState(props.text);
  // Until something is typed or an arrow is used, Enter keeps what stands there.
  const [isTouched, setTouched] = useState(props.text.length === 1);
  const [arrowed, setArrowed] = useState<number>();
  const listId = useId();
  useLayoutEffect(() => {
    setLine(ref.current);
    ref.current?.focus({ preventScroll: true });
    // One letter is what the person has just typed: it must not be selected, or the next one would replace it.
    if (props.text.length > 1) ref.current?.select();
  }, [props.text.length]);
  const isLong = column.shape === 'long';
  const isSeveral = column.kind === 'choices';
  const options = column.kind === 'yes-no' ? (column.options ?? yesNo) : column.options;
  const sought = !isTouched ? '' : isSeveral ? getLastPart(text) : text;
  const isOpen = options === undefined && column.suggests === true && suggest !== undefined;
  const quiet = useQuiet(sought, 150);
  const suggested = useQuery({
    queryKey: ['products', 'suggested', column.key, quiet],
    queryFn: () => suggest!(column.key, quiet),
    enabled: isOpen,
    placeholderData: keepPreviousData,
  }).data;
  const found = options
    ? findOptions(options, sought)
    : isOpen
      ? // What was asked for before is shown until the next is here, as far as it holds what is typed by now.
        findOptions(
          (suggested ?? []).map((label) => ({ code: label, label })),
          sought,
        )
      : [];
  const isOffered = options !== undefined || (isOpen && found.length > 0);
  // What anything may stand in takes what was typed, unless an arrow was used.
  const chosen =
    arrowed ?? (isTouched ? (isOpen ? -1 : guessOption(found, sought)) : found.findIndex((o) => o.label === text));
  const write = (next: string) => {
    setText(next);
    setTouched(true);
    setArrowed(undefined);
  };
  const commit = (what: string, key: string | undefined, isLeaving: boolean) => {
    if (isOver.current) return;
    isOver.current = true;
    onCommit(what, key, isLeaving);
  };
  /** The text as it is kept: with the option that is pointed at where that is meant. */
  const finish = (): string => {
    const option = found[chosen];
    if (!option || !(isTouched || arrowed !== undefined)) return text;
    if (!isSeveral) return option.label;
    return sought === '' ? text : joinEntries(splitEntries(finishLastPart(text, option.label)));
  };
  const onKey = (e: KeyboardEvent) => {
    e.stopPropagation();
    switch (e.key) {
      case 'Enter':
        if (isLong && (e.altKey || e.ctrlKey)) {
          const box = ref.current!;
          box.setRangeText('\n', box.selectionStart ?? 0, box.selectionEnd ?? 0, 'end');
          write(box.value);
          return;
        }
        e.preventDefault();
        // Of several, Enter on an arrowed option puts it in and goes on.
        if (isSeveral && arrowed !== undefined && found[arrowed]) {
          write(
            sought === ''
              ? `${toggleEntry(text, found[arrowed].label)} | `
              : finishLastPart(text, found[arrowed].label),
          );
          return;
        }
        commit(finish(), e.shiftKey ? 'ArrowUp' : 'ArrowDown', false);
        return;
      case 'Tab':
        e.preventDefault();
        commit(finish(), e.shiftKey ? 'ArrowLeft' : 'ArrowRight', false);
        return;
      case 'Escape':
        e.preventDefault();
        isOver.current = true;
        onCancel();
        return;
      case 'ArrowDown':
      case 'ArrowUp':
        if (found.length === 0) return;
        e.preventDefault();
        setArrowed(
          (Math.max(chosen, e.key === 'ArrowUp' ? 0 : -1) + (e.key === 'ArrowDown' ? 1 : found.length - 1)) %
            found.length,
        );
        return;
      default:
    }
  };
  const shared = {
    ref,
    ...inLanguage(column.language),
    value: text,
    'aria-label': say`${column.title}, editing`,
    autoComplete: 'off',
    onKeyDown: onKey,
    onBlur: (e: React.FocusEvent) => {
      commit(text, undefined, e.relatedTarget !== null);
    },
    onCopy: stop,
    onCut: stop,
    onPaste: stop,
    onMouseDown: stop,
    onDoubleClick: stop,
  };
  return (
    <>
      {isLong ? (
        <textarea
          {...shared}
          onChange={(e) => {
            write(e.target.value);
          }}
          style={{
            position: 'absolute',
            top,
            insetInlineStart: left,
            width: Math.max(width, longWidth),
            height: longHeight,
          }}
          className={`resize border-2 border-primary bg-base-100 px-1.5 py-1 outline-none ${isFrozen ? 'z-40' : 'z-30'}`}
        />
      ) : (
        <input
          {...shared}
          {...(isOffered
            ? {
                role: 'combobox',
                'aria-expanded': true,
                'aria-controls': listId,
                'aria-activedescendant': chosen >= 0 ? `${listId}-${chosen}` : undefined,
              }
            : {})}
          onChange={(e) => {
            write(e.target.value);
          }}
          style={{
            position: 'absolute',
            top,
            insetInlineStart: left,
            width: Math.max(width, narrowest),
            height: rowHeight,
          }}
          className={`border-2 border-primary bg-base-100 px-1.5 outline-none ${isFrozen ? 'z-40' : 'z-30'} ${column.kind === 'number' ? 'num text-end' : ''}`}
        />
      )}
      <PanelOf
        line={line}
        column={column}
        text={text}
        width={Math.max(width, narrowest)}
        options={
          isOffered && (
            <OptionsPanel
              id={listId}
              options={found}
              chosen={chosen}
              isTicked={isSeveral ? (o) => splitEntries(text).includes(o.label) : undefined}
              onPick={(o) => {
                if (isSeveral) {
                  // What was typed to find it goes; what was put in stays.
                  const typed = splitEntries(text.slice(0, sought === '' ? undefined : text.lastIndexOf('|') + 1));
                  setText(toggleEntry(joinEntries(typed), o.label));
                  setArrowed(undefined);
                  setTouched(false);
                } else commit(o.label, 'ArrowDown', false);
              }}
            />
          )
        }
        onText={write}
        onDone={(t) => {
          commit(t, 'ArrowDown', false);
        }}
      />
    </>
  );
}

const stop = (e: { stopPropagation: () => void }): void => {
  e.stopPropagation();
};

/** What stands under the line, by the kind of its column; nothing where a line says all. */
function PanelOf({
  line,
  column,
  text,
  width,
  options,
  onText,
  onDone,
}: {
  line: HTMLElement | null;
  column: GridColumn;
  text: string;
  width: number;
  options: ReactNode;
  onText: (text: string) => void;
  onDone: (text: string) => void;
}) {
  const panel = (least: number, inside: ReactNode) => (
    <EditorPanel under={line} width={Math.max(width, least)}>
      {inside}
    </EditorPanel>
  );
  if (options) return panel(220, options);
  if (column.kind === 'list')
    return panel(
      column.shape === 'pictures' ? 460 : 360,
      <EntriesPanel
        entries={splitEntries(text)}
        isPictures={column.shape === 'pictures'}
        onStep={(at, by) => {
          onText(stepEntry(text, at, by));
        }}
        onDrop={(at) => {
          onText(dropEntry(text, at));
        }}
      />,
    );
  if (column.kind === 'date') return panel(260, <DayPanel day={readDate(text, 'day-first')} onPick={onDone} />);
  if (column.shape === 'measure' && column.units)
    return panel(240, <UnitsPanel amounts={listAmounts(text, column.units)} onPick={onText} />);
  if (column.shape === 'long')
    return panel(
      longWidth,
      <p className="flex gap-4 px-3 py-1 quiet text-xs">
        <span>{tell`${count([...text].length)} characters`}</span>
        <span className="ms-auto">{say`Alt Enter: a new line`}</span>
      </p>,
    );
  return null;
}
