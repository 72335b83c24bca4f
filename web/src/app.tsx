import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type ComponentType, StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from 'react-router';
import { CallError } from './api/call';
import { PerMarket } from './board/PerMarket';
import { Frame } from './frame/Frame';
import { startSaving } from './saving/saving';
import './theme.css';
import { Empty, Refused } from './ui/faces';
import { say } from './ui/text';
import { tell } from './ui/tell';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (n, e) => n < 2 && !(e instanceof CallError && e.body.code !== 'not-ready'),
      refetchOnWindowFocus: false,
    },
  },
});

startSaving(client);

function Broken() {
  return (
    <Refused
      error={useRouteError()}
      again={() => {
        window.location.reload();
      }}
    />
  );
}

/** What fetches the code of each page; all of it comes in a quiet moment, so that going there waits for nothing. */
const pages: (() => Promise<unknown>)[] = [];

/** A page whose code is fetched apart from the frame's; until it is here the page before stays. */
function page<K extends string>(load: () => Promise<Record<K, ComponentType>>, name: K) {
  pages.push(load);
  return async () => {
    const found = await load().catch(() => {
      throw new CallError({
        code: 'not-ready',
        message: say`This page could not be fetched.`,
        field: null,
        remedy: say`Try again when the server answers.`,
      });
    });
    return { Component: found[name] };
  };
}

const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    hydrateFallbackElement: <></>,
    errorElement: <Broken />,
    children: [
      {
        errorElement: <Broken />,
        children: [
          { index: true, lazy: page(() => import('./home/HomePage'), 'HomePage') },
          { path: ':scope/gather', lazy: page(() => import('./gather/CatalogPage'), 'CatalogPage') },
          { path: ':scope/gather/pictures', lazy: page(() => import('./gather/MatchPage'), 'MatchPage') },
          { path: ':scope/gather/bulk', lazy: page(() => import('./bulk/BulkPage'), 'BulkPage') },
          { path: ':scope/gather/recipes', lazy: page(() => import('./bulk/RecipesPage'), 'RecipesPage') },
          { path: ':scope/gather/exports', lazy: page(() => import('./exports/ExportsPage'), 'ExportsPage') },
          { path: ':scope/gather/sources', lazy: page(() => import('./sources/SourcesPage'), 'SourcesPage') },
          { path: ':scope/gather/imports', lazy: page(() => import('./gather/ImportsPage'), 'ImportsPage') },
          { path: ':scope/gather/imports/:id', lazy: page(() => import('./gather/ImportPage'), 'ImportPage') },
          {
            path: ':scope/prepare',
            element: <PerMarket stop="prepare" />,
            children: [{ index: true, lazy: page(() => import('./prepare/PreparePage'), 'PreparePage') }],
          },
          {
            path: ':scope/check',
            element: <PerMarket stop="check" />,
            children: [{ index: true, lazy: page(() => import('./check/CheckPage'), 'CheckPage') }],
          },
          {
            path: ':scope/send',
            element: <PerMarket stop="send" />,
            children: [{ index: true, lazy: page(() => import('./send/SendPage'), 'SendPage') }],
          },
          { path: ':scope/settle', lazy: page(() => import('./settle/SettlePage'), 'SettlePage') },
          { path: ':scope/settle/:id', lazy: page(() => import('./settle/DispatchPage'), 'DispatchPage') },
          { path: ':scope/rulebook', lazy: page(() => import('./rulebook/RulebookPage'), 'RulebookPage') },
          { path: ':scope/connection', lazy: page(() => import('./connection/ConnectionPage'), 'ConnectionPage') },
          { path: 'all/history', lazy: page(() => import('./history/HistoryPage'), 'HistoryPage') },
          { path: 'all/people', lazy: page(() => import('./people/PeoplePage'), 'PeoplePage') },
          { path: 'all/own', lazy: page(() => import('./own/OwnPage'), 'OwnPage') },
          { path: 'all/markets/new', lazy: page(() => import('./connection/AddMarketPage'), 'AddMarketPage') },
          { path: ':scope', element: <Navigate to="prepare" replace /> },
          {
            path: '*',
            element: (
              <Empty title={say`There is no such page.`}>
                {tell`Go on by the path above, or ${(
                  <a className="underline" href="/">
                    {say`home`}
                  </a>
                )}.`}
              </Empty>
            ),
          },
        ],
      },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);

/** How long the page that one came for has the line to itself, in milliseconds. */
const aheadOfOthers = 1_500;
setTimeout(() => {
  // What cannot be fetched now is asked for again, and told, when one goes there.
  void Promise.allSettled(pages.map((load) => load()));
}, aheadOfOthers);
