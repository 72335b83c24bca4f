import { fold } from '@basileus/core/text';
import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { useMemo, useState } from 'react';
import { count, say } from './text';
import { tell } from './tell';

interface Option {
  code: string;
  label: string;
}
/** Entries that are shown at once; a list may have thousands. */
const mostShown = 60;

/** Entries whose name or code has every word that was typed, those that begin with it first. */
export function findOptions(options: readonly Option[], typed: string): Option[] {
  const text = fold(typed.trim());
  if (text === '') return [...options];
  const words = text.split(' ');
  const found = options.flatMap((o) => {
    const named = fold(o.label),
      all = `${named} ${fold(o.code)}`;
    return words.every((w) => all.includes(w)) ? [{ o, rank: named.startsWith(text) ? 0 : 1 }] : [];
  });
  return found.sort((a, b) => a.rank - b.rank).map((f) => f.o);
}

/** One entry of a list, found by typing a part of it; arrow keys and Enter choose. */
export function ListPicker({
  label,
  options,
  value,
  onChoose,
  width = 'w-52',
  disabled = false,
  placeholder = say`choose …`,
}: {
  label: string;
  options: readonly Option[];
  value: string;
  onChoose: (code: string) => void;
  width?: string;
  disabled?: boolean;
  placeholder?: string;
}) {
  const chosen = options.find((o) => o.code === value)?.label ?? '';
  const [typed, setTyped] = useState<string | undefined>();
  const isOpen = typed !== undefined;
  const found = useMemo(() => (typed === undefined ? [] : findOptions(options, typed)), [options, typed]);
  return (
    <Command
      label={label}
      shouldFilter={false}
      className={`relative ${width}`}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) setTyped(undefined);
      }}
    >
      <Command.Input
        className="input input-sm w-full pe-7 text-ellipsis"
        placeholder={placeholder}
        aria-label={label}
        title={chosen}
        disabled={disabled}
        value={typed ?? chosen}
        onValueChange={setTyped}
        onFocus={() => {
          setTyped('');
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape' && isOpen) {
            e.stopPropagation();
            setTyped(undefined);
          } else if (e.key === 'ArrowDown' && !isOpen) setTyped('');
        }}
      />
      <ChevronDown size={14} className="quiet pointer-events-none absolute top-2 end-2" aria-hidden="true" />
      <Command.List
        className={`absolute z-30 mt-1 max-h-72 w-72 overflow-auto rounded border border-base-300 bg-base-100 py-1 shadow-lg ${isOpen ? '' : 'hidden'}`}
      >
        {isOpen && found.length === 0 && <p className="px-3 py-2 quiet">{say`Nothing on the list is called that.`}</p>}
        {found.slice(0, mostShown).map((o) => (
          <Command.Item
            key={o.code}
            value={`${o.label} ${o.code}`}
            onSelect={() => {
              onChoose(o.code);
              setTyped(undefined);
            }}
            className="cursor-pointer px-3 py-1 data-[selected=true]:bg-primary/10"
          >
            {o.label}
          </Command.Item>
        ))}
        {found.length > mostShown && (
          <p className="px-3 py-1 text-xs quiet">{tell`${count(found.length - mostShown)} more: type a part of it.`}</p>
        )}
      </Command.List>
    </Command>
  );
}
