/** One choice among many, or none of them; as narrow as it is told. */
export const Choice = ({
  label,
  all,
  value,
  options,
  width,
  onChoose,
}: {
  label: string;
  /** What no choice is called. */
  all: string;
  value: string;
  options: readonly (readonly [string, string])[];
  width: string;
  onChoose: (value: string) => void;
}) => (
  <select
    className={`select select-sm ${width}`}
    aria-label={label}
    value={value}
    onChange={(e) => {
      onChoose(e.target.value);
    }}
  >
    <option value="">{all}</option>
    {options.map(([key, text]) => (
      <option key={key} value={key}>
        {text}
      </option>
    ))}
  </select>
);
