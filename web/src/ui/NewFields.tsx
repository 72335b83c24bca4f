import type { Value } from '@basileus/core/listing';
import { plural, shown } from './text';

/** Everything that something new would carry: in one line, and opened with every value. */
export function NewFields({
  lead = '',
  fields,
}: {
  lead?: string;
  fields: readonly { field: string; label: string; value: Value | null }[];
}) {
  return (
    <details>
      <summary className="cursor-pointer truncate quiet">
        {lead && <span className="text-success">{lead} </span>}
        {plural(fields.length, 'field', 'fields')}: {fields.map((d) => d.label).join(', ')}
      </summary>
      <dl className="grid grid-cols-[minmax(6rem,10rem)_1fr] gap-x-3 gap-y-0.5 py-1 text-sm">
        {fields.map((d) => (
          <div key={d.field} className="contents">
            <dt className="quiet">{d.label}</dt>
            <dd className="break-words">{shown(d.value)}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
