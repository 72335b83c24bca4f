import { lazy, Suspense } from 'react';
import { Outlet } from 'react-router';
import { useScope } from '../frame/scope';
import { Loading } from '../ui/faces';
import type { BoardStop } from './BoardPage';

const BoardPage = lazy(async () => ({ default: (await import('./BoardPage')).BoardPage }));

/** A stop of the path for one market; for all markets together, what waits at it on each of them. */
export function PerMarket({ stop }: { stop: BoardStop }) {
  const { isAll, markets } = useScope();
  if (!isAll || markets.length < 2) return <Outlet />;
  return (
    <Suspense fallback={<Loading />}>
      <BoardPage stop={stop} />
    </Suspense>
  );
}
