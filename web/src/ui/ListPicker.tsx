import { Command } from 'cmdk';
import { useState } from 'react';

/** One entry of a list, found by typing a part of it; arrow keys and Enter choose. */
export function ListPicker({
  label,
  options,
  value,
  onChoose,
  width = 'w-52',
}: {
  label: string;
  options: readonly { code: string; label: string }[];
  value: string;
  onChoose: (code: string) => void;
  width?: string;
}) {
  const chosen = options.find((o) => o.code === value)?.label ?? '';
  const [typed, setTyped] = useState<string | undefined>();
  const isOpen = typed !== undefined;
  return (
    <Command
      label={label}
      className={`relative ${width}`}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) setTyped(undefined);
      }}
    >
      <Command.Input
        className="input input-sm w-full"
        placeholder="choose …"
        aria-label={label}
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
      <Command.List
        className={`absolute z-30 mt-1 max-h-72 w-72 overflow-auto rounded border border-base-300 bg-base-100 py-1 shadow-lg ${isOpen ? '' : 'hidden'}`}
      >
        <Command.Empty className="px-3 py-2 quiet">Nothing on the list is called that.</Command.Empty>
        {options.map((o) => (
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
      </Command.List>
    </Command>
  );
}
