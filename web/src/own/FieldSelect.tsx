import type { ProductField } from '@basileus/core/product';
import { groupFields } from './fields';

/** A choice among fields, under the groups that they are shown under elsewhere. */
export const FieldSelect = ({
  label,
  value,
  fields,
  none,
  more,
  className = 'w-full',
  onChoose,
}: {
  label: string;
  value: string;
  fields: readonly ProductField[];
  /** What no field is called, where none may be chosen. */
  none?: string;
  /** What may be chosen beside fields, behind them. */
  more?: readonly { key: string; label: string }[] | undefined;
  className?: string;
  onChoose: (key: string) => void;
}) => (
  <select
    className={`select select-sm ${className}`}
    aria-label={label}
    value={value}
    onChange={(e) => {
      onChoose(e.target.value);
    }}
  >
    {none !== undefined && <option value="">{none}</option>}
    {/* A field that is gone is still what is said. */}
    {value !== '' && !more?.some((m) => m.key === value) && !fields.some((f) => f.key === value) && (
      <option value={value}>{value}</option>
    )}
    {groupFields(fields).map(([group, list]) => (
      <optgroup key={group} label={group}>
        {list.map((f) => (
          <option key={f.key} value={f.key}>
            {f.label}
          </option>
        ))}
      </optgroup>
    ))}
    {more?.map((m) => (
      <option key={m.key} value={m.key}>
        {m.label}
      </option>
    ))}
  </select>
);
