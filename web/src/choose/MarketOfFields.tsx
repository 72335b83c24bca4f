import type { FieldBook } from '@basileus/core/product';
import { useScope } from '../frame/scope';
import { say } from '../ui/text';

/** The market whose fields are chosen among; nothing for fields of items. Another market begins with the same field, or its first. */
export function MarketOfFields({
  value,
  field,
  book,
  onChoose,
}: {
  value: string | undefined;
  /** The field that is chosen now. */
  field: string;
  book: FieldBook;
  onChoose: (field: string) => void;
}) {
  const { markets } = useScope();
  if (value === undefined) return null;
  return (
    <select
      className="select select-sm w-32"
      aria-label={say`Market of the field`}
      value={value}
      onChange={(e) => {
        const there = book.all.filter((f) => f.market === e.target.value);
        const name = field.slice(value.length);
        onChoose((there.find((f) => f.key === `${e.target.value}${name}`) ?? there[0])!.key);
      }}
    >
      {markets.map((m) => (
        <option key={m.key} value={m.key}>
          {m.name}
        </option>
      ))}
    </select>
  );
}
