import './dom.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, render, screen, type Screen } from '@testing-library/react';
import { createMemoryRouter, RouterProvider, type RouteObject } from 'react-router';
import { ApiProblem } from '../../apps/web/src/api/client.ts';
import BudgetPage from '../../apps/web/src/budgets/budget-page.tsx';
import BudgetsPage from '../../apps/web/src/budgets/budgets-page.tsx';
import CashPage from '../../apps/web/src/budgets/cash/cash-page.tsx';
import ComparisonPage from '../../apps/web/src/budgets/comparison-page.tsx';
import { Frame } from '../../apps/web/src/shell/frame.tsx';
import { InlineWorker } from './inline-worker.ts';
import type { TestServer } from './server.ts';

const ROUTES: RouteObject[] = [
  {
    path: '/c/:company',
    element: <Frame />,
    children: [
      { path: 'budgets', element: <BudgetsPage /> },
      { path: 'budgets/:budget', element: <BudgetPage /> },
      { path: 'budgets/:budget/cash', element: <CashPage /> },
      { path: 'budgets/:budget/comparison', element: <ComparisonPage /> },
    ],
  },
];
configure({ asyncUtilTimeout: 20_000 });
const reach = globalThis.fetch;

/** What stands between pages and the server: an answer given in its place, by method and the end of the path. */
export type Between = (method: string, path: string) => Response | undefined;

/** Draws a page of the application at an address, against a real server. What was drawn before is taken down. */
export function openPage(
  server: TestServer,
  path: string,
  between: Between = () => undefined,
): Screen & { readonly address: () => string } {
  cleanup();
  globalThis.fetch = async (asked, init) => {
    const text = String(asked);
    if (!text.startsWith('/api')) return reach(asked, init);
    const own = text.slice('/api'.length);
    return between(init?.method ?? 'GET', own) ?? reach(server.base + own, init);
  };
  globalThis.Worker = InlineWorker as unknown as typeof Worker;
  const client = new QueryClient({
    defaultOptions: { queries: { retry: (count, error) => count < 2 && (!(error instanceof ApiProblem) || error.isConnection) } },
  });
  const router = createMemoryRouter(ROUTES, { initialEntries: [path] });
  render(
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  return Object.assign(Object.create(screen) as Screen, {
    address: () => `${router.state.location.pathname}${router.state.location.search}`,
  });
}
