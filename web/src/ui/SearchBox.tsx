/** A search that narrows what is shown as one types. */
export const SearchBox = ({
  label,
  placeholder = label,
  width = 'w-52',
  value,
  onChange,
}: {
  label: string;
  placeholder?: string;
  width?: string;
  value: string;
  onChange: (text: string) => void;
}) => (
  <input
    type="search"
    className={`input input-sm ${width}`}
    aria-label={label}
    placeholder={placeholder}
    value={value}
    onChange={(e) => {
      onChange(e.target.value);
    }}
  />
);
