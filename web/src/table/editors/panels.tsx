// What is offered while a cell is typed into, by its kind.
import { parseISO } from 'date-fns';
import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { DayPicker } from 'react-day-picker';
import { toDay } from '@basileus/core/quantity';
import { Thumb } from '../../ui/Thumb';
import type { Option } from './editing';
import { say } from '../../ui/text';

/** Options of a closed list; `chosen` is the one that Enter takes. */
export function OptionsPanel({
  id,
  options,
  chosen,
  isTicked,
  onPick,
}: {
  id: string;
  options: readonly Option[];
  chosen: number;
  /** Several may be chosen: which are. */
  isTicked?: ((o: Option) => boolean) | undefined;
  onPick: (o: Option) => void;
}) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[data-chosen]')?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <ul ref={list} id={id} role="listbox" aria-multiselectable={isTicked !== undefined} className="py-1">
      {options.map((o, i) => (
        <li
          key={o.code}
          id={`${id}-${i}`}
          role="option"
          aria-selected={isTicked ? isTicked(o) : i === chosen}
          {...(i === chosen ? { 'data-chosen': true } : {})}
          className={`flex cursor-pointer items-center gap-2 px-3 py-0.5 ${i === chosen ? 'bg-primary/12' : 'hover:bg-base-200'}`}
          onClick={() => {
            onPick(o);
          }}
        >
          {isTicked && (
            <input type="checkbox" className="checkbox checkbox-xs" tabIndex={-1} readOnly checked={isTicked(o)} />
          )}
          <span className="truncate">{o.label}</span>
          {o.code !== o.label && <span className="num ms-auto quiet text-xs">{o.code}</span>}
        </li>
      ))}
      {options.length === 0 && <li className="px-3 py-1 quiet">{say`Nothing on the list is called that.`}</li>}
    </ul>
  );
}

/** Entries of a list, each to be put elsewhere or taken out; links with the picture that they lead to. */
export function EntriesPanel({
  entries,
  isPictures,
  onStep,
  onDrop,
}: {
  entries: readonly string[];
  isPictures: boolean;
  onStep: (at: number, by: -1 | 1) => void;
  onDrop: (at: number) => void;
}) {
  if (entries.length === 0) return <p className="px-3 py-1 quiet">{say`Several entries, divided by |`}</p>;
  return (
    <ol className="py-1">
      {entries.map((e, i) => (
        <li key={`${i}-${e}`} className="flex items-center gap-2 px-2 py-0.5">
          <span className="num w-5 text-end quiet text-xs">{i + 1}</span>
          {isPictures && <Thumb link={e} className="h-10 w-10" />}
          <span className={`min-w-0 flex-1 ${isPictures ? 'truncate text-xs' : 'break-words'}`} title={e}>
            {e}
          </span>
          <IconButton label={say`Entry ${i + 1} up`} isOff={i === 0} onClick={() => onStep(i, -1)}>
            <ChevronUp size={13} />
          </IconButton>
          <IconButton label={say`Entry ${i + 1} down`} isOff={i === entries.length - 1} onClick={() => onStep(i, 1)}>
            <ChevronDown size={13} />
          </IconButton>
          <IconButton label={say`Take entry ${i + 1} out`} onClick={() => onDrop(i)}>
            <X size={13} />
          </IconButton>
        </li>
      ))}
    </ol>
  );
}

const IconButton = ({
  label,
  isOff = false,
  onClick,
  children,
}: {
  label: string;
  isOff?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) => (
  <button
    type="button"
    tabIndex={-1}
    className="btn btn-ghost btn-xs btn-square"
    aria-label={label}
    disabled={isOff}
    onClick={onClick}
  >
    {children}
  </button>
);

/** A month to pick a day from. */
export function DayPanel({ day, onPick }: { day: string | undefined; onPick: (day: string) => void }) {
  const chosen = day === undefined ? undefined : parseISO(day);
  return (
    <DayPicker
      key={day ?? ''}
      className="react-day-picker border-0"
      mode="single"
      weekStartsOn={1}
      {...(chosen ? { selected: chosen, defaultMonth: chosen } : {})}
      onDayClick={(d) => {
        onPick(toDay(d));
      }}
    />
  );
}

/** The amount that is typed, in other units. */
export const UnitsPanel = ({ amounts, onPick }: { amounts: readonly string[]; onPick: (text: string) => void }) =>
  amounts.length === 0 ? (
    <p className="px-3 py-1 quiet">{say`A number and its unit`}</p>
  ) : (
    <ul className="flex flex-wrap gap-1 p-2">
      {amounts.map((a) => (
        <li key={a}>
          <button
            type="button"
            tabIndex={-1}
            className="btn btn-xs num"
            onClick={() => {
              onPick(a);
            }}
          >
            {a}
          </button>
        </li>
      ))}
    </ul>
  );
