import { type BulkShape, tryBulk } from '@basileus/contract';
import { wordFinding } from '@basileus/core/checks';
import { useMutation } from '@tanstack/react-query';
import { call } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { Refused } from '../ui/faces';
import { count, plural } from '../ui/text';
import { useQuery } from '@tanstack/react-query';
import type { ListingFinding } from '@basileus/contract';

/** What the markets would find, tried on the first rows and undone again. */
export function Trial({ bulk, isAsked }: { bulk: BulkShape; isAsked: boolean }) {
  const trial = useMutation({ mutationFn: () => call(tryBulk, { body: bulk }) });
  const isOfThis = trial.data !== undefined;
  return (
    <div className="flex flex-col gap-2">
      <button
        type="button"
        className="btn btn-sm self-start"
        disabled={!isAsked || trial.isPending}
        onClick={() => {
          trial.mutate();
        }}
      >
        {trial.isPending ? 'Trying …' : 'What would the markets find?'}
      </button>
      {trial.error && <Refused error={trial.error} />}
      {isOfThis && (
        <div className="flex flex-col gap-1.5 text-xs" aria-live="polite">
          <p className="quiet">Tried on {plural(trial.data.tried, 'row', 'rows')} and undone.</p>
          {trial.data.markets.map((m) => (
            <OfMarket key={m.market} {...m} />
          ))}
        </div>
      )}
    </div>
  );
}

function OfMarket({
  market,
  news,
  gone,
  held,
}: {
  market: string;
  news: { count: number; sku: string; finding: ListingFinding }[];
  gone: number;
  held: number;
}) {
  const { markets } = useScope();
  const book = useQuery(rulebookQuery(market)).data;
  const name = markets.find((m) => m.key === market)?.name ?? market;
  const labelOf = (field: string): string => book?.attributes.find((a) => a.key === field)?.label ?? field;
  const said = [
    ...(held > 0 ? [`${plural(held, 'price', 'prices')} would be held`] : []),
    ...(gone > 0 ? [`${plural(gone, 'finding', 'findings')} would be settled`] : []),
  ];
  return (
    <div>
      <span className="font-semibold">{name}</span>: {news.length === 0 ? 'nothing new' : ''}
      {said.length > 0 && `${news.length === 0 ? '; ' : ''}${said.join('; ')}`}
      <ul>
        {news.slice(0, 5).map((n) => (
          <li key={`${n.finding.check} ${n.finding.message} ${n.finding.field}`} className="ml-3">
            <span className={n.finding.level === 'blocker' ? 'font-semibold text-error' : 'text-warning'}>
              {count(n.count)} × {n.finding.level}
            </span>{' '}
            {wordFinding(n.finding, { market: name, labelOf })} <span className="num quiet">{n.sku}</span>
          </li>
        ))}
        {news.length > 5 && <li className="ml-3 quiet">and {plural(news.length - 5, 'cause', 'causes')} more</li>}
      </ul>
    </div>
  );
}
