import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { type GridDto, type ImportDto, type PackedGrid } from '@wise-margin/contract';
import { unpackGrid } from '@wise-margin/presentation';
import { type Application, createApp, openApplication } from '@wise-margin/server';
import { pino } from 'pino';
import { inject } from 'vitest';

export type TestServer = {
  readonly base: string;
  readonly application: Application;
  readonly directory: string;
  readonly get: <Answer>(path: string) => Promise<Answer>;
  /** A statement with its cells. */
  readonly statement: (path: string) => Promise<GridDto>;
  readonly send: (method: string, path: string, body?: unknown) => Promise<{ status: number; body: unknown }>;
  /** Sends what has to be accepted, and gives the answer. */
  readonly accept: <Answer>(method: string, path: string, body?: unknown) => Promise<Answer>;
  /** Sends a file as a form has it. */
  readonly sendFile: (method: string, path: string, field: string, content: Uint8Array) => Promise<{ status: number; body: unknown }>;
  /** Uploads files as the screen does and waits for the check. */
  readonly upload: (
    target: Readonly<Record<string, string>>,
    files: { accounts?: string | Uint8Array; ledger?: string | Uint8Array },
  ) => Promise<ImportDto>;
  /** Stops it; `keep` may copy the folder before it is deleted. */
  readonly close: (keep?: (directory: string) => void) => Promise<void>;
};
/** The real application on a folder of its own, empty or a copy, listening on 127.0.0.1. */
export async function startTestServer({
  from = inject('emptyFolder'),
  mail,
  now = () => new Date('2026-11-09T08:00:00Z'),
}: {
  /** a data folder to copy; left out, one without companies */
  readonly from?: string;
  /** how mail is sent; left out, it stays in the outbox */
  readonly mail?: Parameters<typeof openApplication>[0]['mail'];
  readonly now?: () => Date;
} = {}): Promise<TestServer> {
  const directory = mkdtempSync(join(tmpdir(), 'wise-margin-test-'));
  cpSync(from, directory, { recursive: true });
  const application = await openApplication({
    directory,
    recover: true,
    actor: { name: 'Tester', now },
    ...(mail ? { mail } : {}),
  });
  const server = createApp({ application, logger: pino({ level: 'silent' }), webDirectory: null, hostNames: [] }).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  // a connection that is given up just as it is used again would fail a test after a pause of its machine
  server.keepAliveTimeout = 0;
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  const get = async <Answer>(path: string): Promise<Answer> => {
    const response = await fetch(base + path);
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return response.json() as Promise<Answer>;
  };
  const send: TestServer['send'] = async (method, path, body) => {
    const response = await fetch(base + path, {
      method,
      headers: { 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: text === '' ? null : JSON.parse(text) };
  };
  return {
    base,
    application,
    directory,
    get,
    statement: async (path) => unpackGrid(await get<PackedGrid>(path)),
    send,
    accept: async <Answer>(method: string, path: string, body?: unknown) => {
      const { status, body: answer } = await send(method, path, body);
      if (status >= 300) throw new Error(`${path}: ${status} ${JSON.stringify(answer)}`);
      return answer as Answer;
    },
    sendFile: async (method, path, field, content) => {
      const form = new FormData();
      form.set(field, new Blob([content as BlobPart]), field);
      const response = await fetch(base + path, { method, body: form });
      return { status: response.status, body: await response.json() };
    },
    upload: async (target, files) => {
      const form = new FormData();
      for (const [name, value] of Object.entries(target)) form.set(name, value);
      for (const [kind, content] of Object.entries(files)) form.set(kind, new Blob([content as BlobPart]), `${kind}.csv`);
      const response = await fetch(`${base}/imports`, { method: 'POST', body: form });
      const made = (await response.json()) as ImportDto;
      if (response.status !== 202) throw new Error(JSON.stringify(made));
      await application.imports.settled(made.id);
      return get<ImportDto>(`/imports/${made.id}`);
    },
    close: async (keep) => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await application.close();
      keep?.(directory);
      rmSync(directory, { recursive: true, force: true });
    },
  };
}

/** The smallest PNG there is: one transparent point. */
export const PICTURE = Uint8Array.from(
  Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64'),
);
