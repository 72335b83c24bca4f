import { useId } from 'react';

/** Entries of a list, one a line. Empty lines stay while one types. */
export const Lines = ({
  label,
  items,
  onChange,
}: {
  label: string;
  items: readonly string[];
  onChange: (items: string[]) => void;
}) => (
  <textarea
    className="textarea textarea-sm min-h-0 w-full"
    rows={Math.min(6, Math.max(2, items.length + 1))}
    aria-label={label}
    placeholder={label}
    defaultValue={items.join('\n')}
    onChange={(e) => {
      onChange(
        e.target.value
          .split('\n')
          .map((l) => l.trim())
          .filter(Boolean),
      );
    }}
  />
);

export const Box = ({
  label,
  placeholder,
  value,
  options,
  type = 'text',
  isNumber = false,
  onChange,
}: {
  label: string;
  placeholder: string;
  value: string;
  options?: readonly string[] | undefined;
  type?: 'text' | 'date';
  isNumber?: boolean;
  onChange: (value: string) => void;
}) => {
  const listId = useId();
  return (
    <>
      <input
        className={`input input-sm min-w-0 flex-1 ${isNumber ? 'num' : ''}`}
        aria-label={label}
        placeholder={placeholder}
        type={type}
        inputMode={isNumber ? 'decimal' : undefined}
        autoComplete="off"
        list={options ? listId : undefined}
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
      {options && (
        <datalist id={listId}>
          {options.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
      )}
    </>
  );
};

export const Tick = ({
  label,
  isOn,
  onChange,
}: {
  label: string;
  isOn: boolean;
  onChange: (isOn: boolean) => void;
}) => (
  <label className="flex items-center gap-1.5">
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      checked={isOn}
      onChange={(e) => {
        onChange(e.target.checked);
      }}
    />
    {label}
  </label>
);
