import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';

import express, { type ErrorRequestHandler } from 'express';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';

import { eventStream } from './event-stream.ts';
import { download, routerOf } from './route.ts';

const failed = vi.fn<(error: unknown) => void>();
const stopped = vi.fn<() => void>();
let server: Server;
beforeAll(async () => {
  const routes = [
    download({
      method: 'get',
      path: '/events',
      summary: 'Events',
      type: 'text/event-stream',
      handle: ({ signal }) =>
        Promise.resolve({
          content: [
            eventStream<number>((next) => {
              next(1);
              return stopped;
            }, signal),
          ],
        }),
    }),
    download({
      method: 'get',
      path: '/broken',
      summary: 'A file that breaks off',
      type: 'text/csv',

      handle: () =>
        Promise.resolve({
          content: [
            (async function* () {
              yield 'a';
              throw new Error('the disk broke');
            })(),
          ],
        }),
    }),
  ];
  // Express knows an error handler by its four parameters

  const onError: ErrorRequestHandler = (error, _request, response, _next) => {
    failed(error);
    response.destroy();
  };
  server = express().use(routerOf(routes)).use(onError).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
const addressOf = (path: string): string => `http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`;

it('a stream that nobody reads any more ends without an error', async () => {
  const left = new AbortController();
  const response = await fetch(addressOf('/events'), { signal: left.signal });
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  while (!text.includes('data: 1')) text += (await reader.read()).value ?? '';
  left.abort();
  await vi.waitFor(() => expect(stopped).toHaveBeenCalledOnce());
  expect(failed).not.toHaveBeenCalled();
});

it('a stream that fails by itself is reported', async () => {
  await fetch(addressOf('/broken'))
    .then((response) => response.text())
    .catch(() => undefined);
  await vi.waitFor(() => expect(failed).toHaveBeenCalledWith(expect.objectContaining({ message: 'the disk broke' })));
});
