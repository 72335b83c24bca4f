import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from 'react-router';
import { CallError } from './api/call';
import { PerMarket } from './board/BoardPage';
import { CheckPage } from './check/CheckPage';
import { BulkPage } from './bulk/BulkPage';
import { RecipesPage } from './bulk/RecipesPage';
import { AddMarketPage } from './connection/AddMarketPage';
import { ConnectionPage } from './connection/ConnectionPage';
import { Frame } from './frame/Frame';
import { ExportsPage } from './exports/ExportsPage';
import { CatalogPage } from './gather/CatalogPage';
import { ImportPage } from './gather/ImportPage';
import { ImportsPage } from './gather/ImportsPage';
import { HistoryPage } from './history/HistoryPage';
import { HomePage } from './home/HomePage';
import { OwnPage } from './own/OwnPage';
import { PreparePage } from './prepare/PreparePage';
import { RulebookPage } from './rulebook/RulebookPage';
import { startSaving } from './saving/saving';
import { SendPage } from './send/SendPage';
import { DispatchPage } from './settle/DispatchPage';
import { SettlePage } from './settle/SettlePage';
import { SourcesPage } from './sources/SourcesPage';
import './theme.css';
import { Empty, Refused } from './ui/faces';

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

const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    errorElement: <Broken />,
    children: [
      {
        errorElement: <Broken />,
        children: [
          { index: true, element: <HomePage /> },
          { path: ':scope/gather', element: <CatalogPage /> },
          { path: ':scope/gather/bulk', element: <BulkPage /> },
          { path: ':scope/gather/recipes', element: <RecipesPage /> },
          { path: ':scope/gather/exports', element: <ExportsPage /> },
          { path: ':scope/gather/sources', element: <SourcesPage /> },
          { path: ':scope/gather/imports', element: <ImportsPage /> },
          { path: ':scope/gather/imports/:id', element: <ImportPage /> },
          {
            path: ':scope/prepare',
            element: (
              <PerMarket stop="prepare">
                <PreparePage />
              </PerMarket>
            ),
          },
          {
            path: ':scope/check',
            element: (
              <PerMarket stop="check">
                <CheckPage />
              </PerMarket>
            ),
          },
          {
            path: ':scope/send',
            element: (
              <PerMarket stop="send">
                <SendPage />
              </PerMarket>
            ),
          },
          { path: ':scope/settle', element: <SettlePage /> },
          { path: ':scope/settle/:id', element: <DispatchPage /> },
          { path: ':scope/rulebook', element: <RulebookPage /> },
          { path: ':scope/connection', element: <ConnectionPage /> },
          { path: 'all/history', element: <HistoryPage /> },
          { path: 'all/own', element: <OwnPage /> },
          { path: 'all/markets/new', element: <AddMarketPage /> },
          { path: ':scope', element: <Navigate to="prepare" replace /> },
          {
            path: '*',
            element: (
              <Empty title="There is no such page.">
                Go on by the path above, or{' '}
                <a className="underline" href="/">
                  home
                </a>
                .
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
