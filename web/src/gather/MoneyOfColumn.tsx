import type { ImportReadingShape } from '@basileus/contract';
import { canBeForeign, type FieldBook } from '@basileus/core/product';
import { useQuery } from '@tanstack/react-query';
import { ratesQuery } from '../connection/queries';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

type Column = ImportReadingShape['columns'][number];

/** Which currency the amounts of a column are in, where they fill a field that is kept in the house's alone. */
export function MoneyOfColumn({
  column: { name, field, converts },
  fields,
  onChoose,
}: {
  column: Column;
  fields: FieldBook;
  onChoose: (converts: Column['converts']) => void;
}) {
  const known = field === null ? undefined : fields.get(field);
  const { data } = useQuery({ ...ratesQuery, enabled: known?.kind === 'money' });
  const rates = (data?.rows ?? []).flatMap(({ currency, rate }) =>
    known && rate !== null && canBeForeign(known, currency, fields) ? { currency, rate } : [],
  );
  if (!data || (rates.length === 0 && !converts)) return null;
  const choices = rates.some((r) => r.currency === converts?.currency) || !converts ? rates : [converts, ...rates];
  return (
    <label className="mt-1 flex flex-wrap items-center gap-x-2 text-xs">
      {say`in`}
      <select
        className="select select-xs w-20"
        aria-label={say`Currency of ${name}`}
        value={converts?.currency ?? data.house}
        onChange={(e) => {
          onChoose(rates.find((r) => r.currency === e.target.value));
        }}
      >
        <option value={data.house}>{data.house}</option>
        {choices.map((r) => (
          <option key={r.currency} value={r.currency}>
            {r.currency}
          </option>
        ))}
      </select>
      {converts && (
        <span className="quiet">
          {tell`1 ${data.house} = ${(<span className="num">{converts.rate}</span>)} ${converts.currency}`}
        </span>
      )}
    </label>
  );
}
