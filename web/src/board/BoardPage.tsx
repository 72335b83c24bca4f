import type { Overview } from '@basileus/contract';
import { wordCause } from '@basileus/core/checks';
import { useQueries } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { overviewQuery } from '../frame/queries';
import { rulebookQuery, type Stop, stopNames, useScope } from '../frame/scope';
import { LevelMark } from '../ui/demand';
import { Loading, PageHead, Refused, Views } from '../ui/faces';
import { nameRows } from '../send/words';
import { count, say } from '../ui/text';
import { wordingOf } from '../words/findings';
import { useUrlValue } from '../ui/url';
import { ClockLines } from './ClockLines';
import { ItemsBoard } from './ItemsBoard';
import { SendToAll } from './SendToAll';
import { SharedCauses } from './SharedCauses';

export type BoardStop = Extract<Stop, 'prepare' | 'check' | 'send'>;
const about: Record<BoardStop, string> = {
  prepare: say`What each market still needs: categories, values, words.`,
  check: say`What blocks on each market, the most frequent first.`,
  send: say`What is ready to go to each market.`,
};

/** All markets side by side at one stop, each line leading to the place where it is done. */
export function BoardPage({ stop }: { stop: BoardStop }) {
  const { markets } = useScope();
  const found = useQueries({ queries: markets.map((m) => overviewQuery(m.key)) });
  const [view, setView] = useUrlValue('view', 'items');
  if (stop === 'prepare' && view === 'items')
    return (
      <>
        <PageHead title={say`${stopNames[stop]}, all markets`} about={say`How every item stands on each market.`} />
        <PrepareViews now={view} onChoose={setView} />
        <ItemsBoard />
      </>
    );
  return (
    <>
      <PageHead title={say`${stopNames[stop]}, all markets`} about={about[stop]}>
        {stop === 'send' && <SendToAll overviews={found.map((f) => f.data)} />}
      </PageHead>
      {stop === 'prepare' && <PrepareViews now={view} onChoose={setView} />}
      <div className="grid min-h-0 flex-1 content-start gap-5 overflow-auto border-t border-base-300 p-5 xl:grid-cols-2">
        {stop === 'check' && <SharedCauses />}
        {markets.map((m, i) => (
          <section key={m.key} aria-label={m.name} className="panel">
            <header className="flex items-baseline gap-3 border-b border-base-300 px-4 py-2">
              <h2 className="text-lg">
                <Link className="underline-offset-2 hover:underline" to={`/${m.key}/${stop}`}>
                  {m.name}
                </Link>
              </h2>
              <span className="quiet text-sm">{m.sites.map((s) => `${s.country} · ${s.currency}`).join(', ')}</span>
            </header>
            {found[i]?.error ? (
              <Refused error={found[i].error} />
            ) : found[i]?.data ? (
              <MarketLines stop={stop} market={m.key} overview={found[i].data} />
            ) : (
              <Loading />
            )}
            {stop === 'send' && <ClockLines market={m.key} />}
          </section>
        ))}
      </div>
    </>
  );
}

const PrepareViews = ({ now, onChoose }: { now: string; onChoose: (view: string) => void }) => (
  <Views
    label={say`Views of Prepare`}
    now={now}
    onChoose={onChoose}
    views={[
      { key: 'items', label: say`Items` },
      { key: 'markets', label: say`Markets` },
    ]}
  />
);

interface Line {
  key: string;
  count: number;
  title: ReactNode;
  to: string;
}

function MarketLines({ stop, market, overview }: { stop: BoardStop; market: string; overview: Overview }) {
  const [book] = useQueries({ queries: [rulebookQuery(market)] });
  const lines: Record<BoardStop, () => Line[]> = {
    prepare: () => listPrepare(market, overview),
    check: () =>
      overview.causes.map((c) => ({
        key: `${c.cause.check} ${c.cause.message} ${c.cause.field}`,
        count: c.count,
        title: (
          <>
            <LevelMark level={c.level} bare />{' '}
            {wordCause(c.cause, book.data ? wordingOf(book.data) : { market, labelOf: (f) => f })}
          </>
        ),
        to: `/${market}/check?cause=${c.cause.check}.${c.cause.message}.${c.cause.field}`,
      })),
    send: () =>
      overview.today.flatMap((t) =>
        t.kind === 'send'
          ? t.operations.map((o) => ({
              key: o.operation,
              count: o.count,
              title: say`${nameRows(o.operation, o.count)} ready`,
              to: `/${market}/send?operation=${o.operation}`,
            }))
          : [],
      ),
  };
  const shown = lines[stop]();
  if (shown.length === 0) return <p className="quiet px-4 py-3">{nothing[stop]}</p>;
  return (
    <ul>
      {shown.map((l) => (
        <li key={l.key} className="border-b border-base-300 last:border-b-0">
          <Link className="flex items-baseline gap-3 px-4 py-1.5 hover:bg-base-200" to={l.to}>
            <span className="num w-16 text-end font-semibold">{count(l.count)}</span>
            <span>{l.title}</span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

const nothing: Record<BoardStop, string> = {
  prepare: say`Nothing is listed here yet.`,
  check: say`No findings.`,
  send: say`Nothing is ready to go: it stands as we have it, or is held back.`,
};

/** Where the listings of a market stand, those first that want a person. */
function listPrepare(market: string, { stops, states }: Overview): Line[] {
  const inState = (state: string, title: string): Line[] =>
    states[state]
      ? [
          {
            key: state,
            count: states[state],
            title,
            to: `/${market}/prepare?state=${encodeURIComponent(state)}`,
          },
        ]
      : [];
  return [
    ...(stops.prepare > 0
      ? [
          {
            key: 'unplaced',
            count: stops.prepare,
            title: say`without a category`,
            to: `/${market}/prepare?view=categories`,
          },
        ]
      : []),
    ...inState('blocked', 'blocked'),
    ...inState('refused', 'refused'),
    ...inState('ready', say`ready to go`),
    ...inState('sent', say`on their way`),
    ...inState('in review', say`in review`),
    ...inState('live', 'live'),
    ...inState('withdrawn', 'withdrawn'),
    ...inState('left out', say`left out`),
  ];
}
