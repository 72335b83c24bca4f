import { useQuery } from '@tanstack/react-query';
import { useScope } from '../frame/scope';
import { PageHead, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { DispatchList } from './DispatchList';
import { DriftList } from './DriftList';
import { driftQuery, shelfQuery } from './queries';
import { ShelfList } from './ShelfList';
import { say } from '../ui/text';
import { localeNow } from '@basileus/core/text';
import { stateNames } from '../ui/terms';

const states = ['live', 'in review', 'refused', 'sent', 'withdrawn'] as const;

/** What became of what was sent: dispatches, and what stands on the market. */
export function SettlePage() {
  const { market, markets, name, isAll } = useScope();
  // Of several markets together only what was sent is listed; what stands there is looked at market by market.
  const isMany = isAll && markets.length > 1;
  const [state, setState] = useUrlValue('state', 'dispatches');
  const counts = useQuery(shelfQuery(market, states.some((s) => s === state) ? state : 'live', 0)).data?.counts;
  const drifted = useQuery({ ...driftQuery(market, 0), enabled: !isMany && market !== '' }).data?.total;
  return (
    <>
      <PageHead title={isAll ? say`Settle` : say`Settle with ${name}`} />
      <Views
        label={say`Views of Settle`}
        now={isMany ? 'dispatches' : state}
        onChoose={setState}
        views={[
          { key: 'dispatches', label: say`Dispatches` },
          ...(isMany ? [] : [{ key: 'drift', label: say`Drift`, count: drifted }]),
          ...(isMany ? [] : states).map((s) => ({
            key: s,
            label: stateNames[s][0]!.toLocaleUpperCase(localeNow()) + stateNames[s].slice(1),
            count: counts && (counts[s] ?? 0),
          })),
        ]}
      />
      {state === 'dispatches' || isMany ? (
        <DispatchList />
      ) : state === 'drift' ? (
        <DriftList key={market} market={market} />
      ) : (
        <ShelfList key={state} market={market} state={state} />
      )}
    </>
  );
}
