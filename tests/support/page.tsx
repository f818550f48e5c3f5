import './dom.ts';

import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, render, type Screen, screen } from '@testing-library/react';
import * as React from 'react';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';

import { newQueryClient } from '../../apps/web/src/api/query-client.ts';
import { ROUTES } from '../../apps/web/src/routes.tsx';
import { InlineWorker } from './inline-worker.ts';
import type { TestServer } from './server.ts';

configure({
  asyncUtilTimeout: 20_000,
  // whether an element can be seen is a question for the browser; asking it here of each of a grid's cells takes seconds
  defaultHidden: true,
  // a search is repeated until it finds something; printing the document each time takes longer than searching it
  getElementError: (message) => new Error(message ?? 'Not found'),
});
// React's development build notes where each element was made, for warnings that no test reads; past a number a second it does not
const { __CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE: internals } = React as unknown as Record<string, object>;
Object.defineProperty(internals, 'recentlyCreatedOwnerStacks', { get: () => Infinity, set: () => {} });

const { fetch: reach, Worker: ThreadWorker } = globalThis;

/** What stands between pages and the server: an answer given in its place, by method and the end of the path. */
export type Between = (method: string, path: string) => Response | Promise<Response> | undefined;

/** An answer that something failed, as the server gives it. */
export const failed = (status: number, detail: string): Response =>
  new Response(JSON.stringify({ type: 'about:blank', title: 'Failed', status, detail }), { status });

let stopRouter: (() => void) | undefined;
/** Takes the page down and gives back the globals it was drawn with. */
export function closePage(): void {
  cleanup();
  stopRouter?.();
  stopRouter = undefined;
  Object.assign(globalThis, { fetch: reach, Worker: ThreadWorker });
}

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
  const client = newQueryClient();
  // the product's router on the document's own address: choices are read from it
  stopRouter?.();
  window.history.replaceState(null, '', path);
  const router = createBrowserRouter(ROUTES);
  stopRouter = () => router.dispose();
  render(
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  return Object.assign(Object.create(screen) as Screen, {
    address: () => `${window.location.pathname}${window.location.search}`,
  });
}
