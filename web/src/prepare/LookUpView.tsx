import { canAsk } from '@basileus/core/forms';
import type { Rulebook } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { SearchBox } from '../ui/SearchBox';
import { useUrlValue } from '../ui/url';
import { EntriesThere } from './EntriesThere';
import { lookUpQuery } from './queries';
import { say } from '../ui/text';

/** Looks whether the market already has an entry before one is created. */
export function LookUpView({ rulebook }: { rulebook: Rulebook }) {
  const { market, name } = useScope();
  const [q, setQ] = useUrlValue('look', '');
  const found = useQuery(lookUpQuery(market, q));
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto p-5">
      <SearchBox
        label={say`Look up on ${name}`}
        placeholder={say`Barcode, brand or words`}
        width="w-96"
        value={q}
        onChange={setQ}
      />
      {canAsk(rulebook, 'offer') && q === '' && <EntriesThere rulebook={rulebook} />}
      {found.error ? (
        <Refused error={found.error} />
      ) : found.isLoading ? (
        <Loading what={say`Asking ${name}`} />
      ) : !found.data ? (
        canAsk(rulebook, 'offer') && q === '' ? null : (
          <Empty title={say`Does ${name} have it already?`}>
            {say`An entry that exists needs only an offer; a second one is refused.`}
          </Empty>
        )
      ) : found.data.rows.length === 0 ? (
        <Empty title={say`Nothing like it stands there.`}>{say`It can be created as a new entry.`}</Empty>
      ) : (
        <table className="plain-table panel">
          <thead>
            <tr>
              <th>{say`Entry`}</th>
              <th>{say`Title`}</th>
              <th>{say`Brand`}</th>
              <th>{say`Item number`}</th>
              <th>{say`Category`}</th>
            </tr>
          </thead>
          <tbody>
            {found.data.rows.map((r) => (
              <tr key={r.number}>
                <td className="num">{r.number}</td>
                <td>{r.title}</td>
                <td>{r.brand}</td>
                <td className="num">{r.identifier}</td>
                <td>{r.category}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
