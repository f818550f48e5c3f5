import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';

import express, { type ErrorRequestHandler } from 'express';
import { afterEach, expect, it } from 'vitest';
import { z } from 'zod';

import { openApiDocument } from './openapi.ts';
import { ProblemError } from './problem.ts';
import { download, type Route, route, routerOf } from './route.ts';
import { requiredUpload } from './upload.ts';

const closings: (() => void)[] = [];
afterEach(() => closings.splice(0).forEach((close) => close()));

/** Serves routes; what a handler throws is answered with its message. */
async function served(...routes: readonly Route[]): Promise<string> {
  const answerProblem: ErrorRequestHandler = (error: unknown, _request, response, _next) => {
    const status = error instanceof ProblemError ? error.status : error instanceof z.ZodError ? 422 : 500;
    response.status(status).send((error as Error).message);
  };
  const server = express().use(express.json(), routerOf(routes), answerProblem).listen(0, '127.0.0.1');
  closings.push(() => server.close());
  await new Promise((resolve) => server.once('listening', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
function folder(): string {
  const directory = mkdtempSync(join(tmpdir(), 'wise-margin-route-'));
  closings.push(() => rmSync(directory, { recursive: true }));
  return directory;
}
const echo = z.object({ company: z.number(), view: z.string(), limit: z.number(), note: z.string() });

it('hands over path, query and body as their schemas read them', async () => {
  const base = await served(
    route({
      method: 'post',
      path: '/companies/:company/views/:view',
      summary: 'Echo',
      request: { query: z.object({ limit: z.coerce.number().default(10) }), body: z.object({ note: z.string().trim() }) },
      response: echo,
      status: 201,
      handle: ({ path, query, body }) => ({ ...path, ...query, ...body }),
    }),
  );
  const answer = await fetch(`${base}/companies/7/views/12?limit=3`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ note: ' text ' }),
  });
  expect(answer.status).toBe(201);
  expect(await answer.json()).toEqual({ company: 7, view: '12', limit: 3, note: 'text' });
  const post = (path: string, body: string) =>
    fetch(base + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body }).then(({ status }) => status);
  expect(await post('/companies/seven/views/12', '{"note":""}')).toBe(404);
  expect(await post('/companies/7/views/12?limit=few', '{"note":""}')).toBe(422);
  expect(await post('/companies/7/views/12', '{}')).toBe(422);
});

it('passes what a handler throws, at once or later, to the error handler', async () => {
  const failing = (path: string, handle: () => Promise<void> | void) =>
    route({ method: 'get', path, summary: 'Fails', response: null, handle });
  const base = await served(
    failing('/at-once', () => {
      throw new Error('at once');
    }),
    failing('/later', () => Promise.reject(new Error('later'))),
    failing('/fine', () => undefined),
  );
  for (const [path, words] of [
    ['/at-once', 'at once'],
    ['/later', 'later'],
  ] as const) {
    const answer = await fetch(base + path);
    expect([answer.status, await answer.text()]).toEqual([500, words]);
  }
  expect((await fetch(`${base}/fine`)).status).toBe(204);
});

it('streams a download under its name', async () => {
  async function* rows() {
    yield 'a';
    yield 'b';
  }
  const upper = new Transform({ transform: (chunk, _encoding, done) => done(null, String(chunk).toUpperCase()) });
  const base = await served(
    download({
      method: 'get',
      path: '/rows.csv',
      summary: 'Rows',
      type: 'text/csv',
      handle: async () => ({ content: [rows(), upper], name: 'rows.csv' }),
    }),
  );
  const answer = await fetch(`${base}/rows.csv`);
  expect(answer.headers.get('content-disposition')).toBe('attachment; filename=rows.csv');
  expect(answer.headers.get('content-type')).toContain('text/csv');
  expect(await answer.text()).toBe('AB');
});

it('removes uploaded files once the request is answered, refused or failed', async () => {
  const directory = folder();
  const seen: string[] = [];
  const base = await served(
    route({
      method: 'post',
      path: '/files',
      summary: 'Read a file',
      request: { form: { files: ['file'], directory, mostBytes: 100 }, body: z.object({ mode: z.enum(['read', 'fail']) }) },
      response: z.object({ text: z.string(), name: z.string() }),
      handle: ({ uploads, body }) => {
        const { path, name } = requiredUpload(uploads, 'file', 'Choose a file.');
        seen.push(path);
        if (body.mode === 'fail') throw new Error('not readable');
        return { text: readFileSync(path, 'utf8'), name };
      },
    }),
  );
  const send = async (fields: Readonly<Record<string, string>>, content: string | null) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.set(name, value);
    if (content !== null) form.set('file', new Blob([content]), 'März.csv');
    const answer = await fetch(`${base}/files`, { method: 'POST', body: form });
    return [answer.status, await answer.text()] as const;
  };
  expect(await send({ mode: 'read' }, 'content')).toEqual([200, '{"text":"content","name":"März.csv"}']);
  expect(await send({ mode: 'fail' }, 'content')).toEqual([500, 'not readable']);
  expect((await send({ mode: 'other' }, 'content'))[0]).toBe(422);
  expect(await send({ mode: 'read' }, null)).toEqual([422, 'Choose a file.']);
  expect((await send({ mode: 'read' }, 'x'.repeat(101)))[0]).toBe(413);
  expect(seen.length).toBe(2);
  expect(seen.filter((path) => existsSync(path))).toEqual([]);
});

it('stops the work of an answer that nobody waits for', async () => {
  let aborted: () => void;
  const stopped = new Promise<void>((resolve) => (aborted = resolve));
  const base = await served(
    route({
      method: 'get',
      path: '/slow',
      summary: 'Slow',
      response: null,
      handle: ({ signal }) =>
        new Promise<void>((resolve) =>
          signal.addEventListener('abort', () => {
            aborted();
            resolve();
          }),
        ),
    }),
  );
  const leaving = new AbortController();
  const request = fetch(`${base}/slow`, { signal: leaving.signal });
  setTimeout(() => leaving.abort(), 50);
  await expect(request).rejects.toThrow();
  await stopped;
});

it('describes routes by their declarations', () => {
  const document = openApiDocument([
    route({
      method: 'put',
      path: '/companies/:company/logo',
      summary: 'Set the logo',
      request: { form: { files: ['logo'], directory: folder(), mostBytes: 1 } },
      response: echo,
      handle: () => ({ company: 1, view: '', limit: 1, note: '' }),
    }),
    download({
      method: 'get',
      path: '/companies/:company/logo',
      summary: 'The logo',
      type: 'image/png',
      handle: async () => ({ content: '' }),
    }),
  ]) as { paths: Record<string, Record<string, { parameters: unknown; requestBody?: { content: object }; responses: object }>> };
  const { put, get } = document.paths['/api/companies/{company}/logo']!;
  expect(put!.parameters).toMatchObject([{ in: 'path', name: 'company' }]);
  expect(put!.requestBody!.content).toHaveProperty(['multipart/form-data', 'schema', 'properties', 'logo', 'format'], 'binary');
  expect(get!.responses).toHaveProperty(['200', 'content', 'image/png']);
  expect(get!.responses).toHaveProperty('4XX');
});
