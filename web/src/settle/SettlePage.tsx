import { useQuery } from '@tanstack/react-query';
import { useScope } from '../frame/scope';
import { PageHead, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { DispatchList } from './DispatchList';
import { shelfQuery } from './queries';
import { ShelfList } from './ShelfList';

const states = ['live', 'in review', 'refused', 'sent', 'withdrawn'];

/** What became of what was sent: dispatches, and what stands on the market. */
export function SettlePage() {
  const { market, name, isAll } = useScope();
  const [state, setState] = useUrlValue('state', 'dispatches');
  const counts = useQuery(shelfQuery(market, states.includes(state) ? state : 'live', 0)).data?.counts;
  return (
    <>
      <PageHead title={isAll ? 'Settle' : `Settle with ${name}`} />
      <Views
        label="Views of Settle"
        now={state}
        onChoose={setState}
        views={[
          { key: 'dispatches', label: 'Dispatches' },
          ...states.map((s) => ({
            key: s,
            label: s[0]!.toUpperCase() + s.slice(1),
            count: counts && (counts[s] ?? 0),
          })),
        ]}
      />
      {state === 'dispatches' ? <DispatchList /> : <ShelfList key={state} market={market} state={state} />}
    </>
  );
}
