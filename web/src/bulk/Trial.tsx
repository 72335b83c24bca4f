import { type BulkShape, cancelJob, type ListingFinding, startTrial, tryBulk } from '@basileus/contract';
import { wordFinding } from '@basileus/core/checks';
import { useMutation, useQuery } from '@tanstack/react-query';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Refused } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { useWording } from '../words/findings';
import { trialQuery } from './queries';
import { tell } from '../ui/tell';

/** What the markets would find, tried and undone again: on the first rows while one waits, on all of them as a job. */
export function Trial({ bulk, isAsked, changed }: { bulk: BulkShape; isAsked: boolean; changed: number }) {
  const first = useMutation({ mutationFn: () => call(tryBulk, { body: bulk }) });
  const whole = useMutation({ mutationFn: () => call(startTrial, { body: bulk }) });
  const all = useQuery(trialQuery(whole.data?.trial ?? 0)).data;
  const stop = useMutation({ mutationFn: () => call(cancelJob, { params: { id: whole.data!.job } }) });
  const shown = all ?? first.data;
  return (
    <div className="flex flex-col gap-2">
      <button
        type="button"
        className="btn btn-sm self-start"
        disabled={!isAsked || first.isPending}
        onClick={() => {
          first.mutate();
        }}
      >
        {first.isPending ? say`Trying …` : say`What would the markets find?`}
      </button>
      {first.error && <Refused error={first.error} />}
      {shown && (
        <div className="flex flex-col gap-1.5 text-xs" aria-live="polite">
          {!all && <p className="quiet">{tell`Tried on ${plural(shown.tried, 'row', 'rows')} and undone.`}</p>}
          {all && (
            <div className="flex items-center gap-2">
              <span className="quiet">
                {all.state === 'running'
                  ? say`Tried on ${count(all.tried)} rows so far, ${count(all.done)} of ${count(all.total)} gone through`
                  : say`Tried on ${all.state === 'done' ? say`all ` : ''}${plural(all.tried, 'row', 'rows')} and undone${all.state === 'stopped' ? say`; it was stopped` : ''}.`}
              </span>
              {all.state === 'running' && (
                <button
                  type="button"
                  className="btn btn-xs"
                  disabled={stop.isPending}
                  onClick={() => {
                    stop.mutate();
                  }}
                >
                  {say`Stop`}
                </button>
              )}
            </div>
          )}
          {!all && shown.tried < changed && (
            <button
              type="button"
              className="btn btn-xs self-start"
              disabled={!isAsked || whole.isPending}
              onClick={() => {
                whole.mutate();
              }}
            >
              {tell`Try all ${count(changed)} rows`}
            </button>
          )}
          {whole.error && <Refused error={whole.error} />}
          {shown.markets.map((m) => (
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
  const { markets } = useScope(),
    wording = useWording(market);
  const name = markets.find((m) => m.key === market)?.name ?? market;
  const said = [
    ...(held > 0 ? [say`${plural(held, 'price', 'prices')} would be held`] : []),
    ...(gone > 0 ? [say`${plural(gone, 'finding', 'findings')} would be settled`] : []),
  ];
  return (
    <div>
      <span className="font-semibold">{name}</span>: {news.length === 0 ? say`nothing new` : ''}
      {said.length > 0 && `${news.length === 0 ? '; ' : ''}${said.join('; ')}`}
      <ul>
        {news.slice(0, 5).map((n) => (
          <li key={`${n.finding.check} ${n.finding.message} ${n.finding.field}`} className="ms-3">
            <span className={n.finding.level === 'blocker' ? 'font-semibold text-error' : 'text-warning'}>
              {count(n.count)} × {n.finding.level}
            </span>{' '}
            {wordFinding(n.finding, wording)} <span className="num quiet">{n.sku}</span>
          </li>
        ))}
        {news.length > 5 && (
          <li className="ms-3 quiet">{tell`and ${plural(news.length - 5, 'cause', 'causes')} more`}</li>
        )}
      </ul>
    </div>
  );
}
