import type { EntryDto, Problem } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { uniqueConflict } from '../apps/server/src/database/unique-conflict.ts';
import { sendJson } from '../apps/web/src/api/client.ts';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

let server: TestServer;
let company: number;
beforeAll(async () => {
  server = await startTestServer();
  company = await loadSmallCompany(server);
});
afterAll(() => server.close());

const entry = (memo: string) => ({
  date: '2025-06-10',
  source: 'general',
  kind: 'ordinary',
  state: 'posted',
  lines: [
    { account: '6000', amount: 5000, dimensions: {}, memo, party: '', document: '', due: null },
    { account: '1000', amount: -5000, dimensions: {}, memo, party: '', document: '', due: null },
  ],
});
const post = (key: string, memo: string) =>
  fetch(`${server.base}/companies/${company}/entries`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'idempotency-key': key },
    body: JSON.stringify({ content: entry(memo), reason: 'Test' }),
  });
const posted = async (memo: string): Promise<number> => {
  const [row] = await server.application.database.select<{ count: number }>(
    'SELECT count(DISTINCT entry_id) AS count FROM lines WHERE memo = $1',
    [memo],
  );
  return row!.count;
};

describe('a request with a key', () => {
  it('gives the first answer again, and posts once', async () => {
    const [first, second] = [await post('key-0000001', 'Once'), await post('key-0000001', 'Once')];
    expect([first.status, second.status]).toEqual([201, 201]);
    expect((await second.json()) as EntryDto).toEqual(await first.json());
    expect(await posted('Once')).toBe(1);
  });
  it('posts once when a button is pressed twice', async () => {
    const answers = await Promise.all([1, 2, 3].map(() => post('key-0000002', 'Pressed')));
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    expect(await posted('Pressed')).toBe(1);
  });
  it('gives its answer to who asks again after the connection was cut before it came', async () => {
    const cut = new AbortController();
    const content = entry('Cut');
    const send = (signal?: AbortSignal) =>
      fetch(`${server.base}/companies/${company}/entries`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': 'key-0000009' },
        body: JSON.stringify({ content, reason: 'Test' }),
        ...(signal ? { signal } : {}),
      });
    const first = send(cut.signal);
    setTimeout(() => cut.abort(), 3);
    await first.catch(() => undefined);
    const again = await send();
    expect([again.status, await posted('Cut')]).toEqual([201, 1]);
  });
  it('with another key posts another one', async () => {
    await post('key-0000003', 'Twice');
    await post('key-0000004', 'Twice');
    expect(await posted('Twice')).toBe(2);
  });
  it('may not be another request, and one that failed may be tried again', async () => {
    await post('key-0000005', 'A');
    const other = await post('key-0000005', 'B');
    expect([other.status, ((await other.json()) as Problem).title]).toEqual([422, 'Key used before']);
    const wrong = { ...entry('Fixed'), lines: entry('Fixed').lines.slice(0, 1) };
    const send = (content: object) =>
      fetch(`${server.base}/companies/${company}/entries`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': 'key-0000006' },
        body: JSON.stringify({ content, reason: 'Test' }),
      });
    expect((await send(wrong)).status).toBe(422);
    expect((await send(entry('Fixed'))).status).toBe(201);
  });
  it('says that it was done where the answer was never stored', async () => {
    await post('key-0000007', 'Stopped');
    const { database } = server.application;
    await database.write((transaction) =>
      database.run(`UPDATE request_keys SET status = NULL, answer = NULL WHERE key = 'key-0000007'`, [], transaction),
    );
    const again = await post('key-0000007', 'Stopped');
    expect([again.status, await posted('Stopped')]).toEqual([409, 1]);
  });
  it('is sent by the pages: an answer that is lost, and the same sent again, posts once', async () => {
    const reach = globalThis.fetch;
    let isLost = true;
    globalThis.fetch = async (path, init) => {
      const answer = await reach(server.base + String(path).slice('/api'.length), init);
      if (!isLost) return answer;
      isLost = false;
      throw new TypeError('the answer was lost');
    };
    try {
      const send = () => sendJson('POST', `/companies/${company}/entries`, { content: entry('Lost'), reason: 'Test' });
      await expect(send()).rejects.toThrow();
      await send();
      expect(await posted('Lost')).toBe(1);
      // sent once more on purpose, it is another entry
      await send();
      expect(await posted('Lost')).toBe(2);
    } finally {
      globalThis.fetch = reach;
    }
  });
});

describe('the same added at the same moment', () => {
  it('is a 409 in words', async () => {
    const at = `/companies/${company}/budgets`;
    const name = { name: 'Same', year: 2026, from: 2025 };
    const answers = await Promise.all([1, 2, 3].map(() => server.send('POST', at, name)));
    const statuses = answers.map(({ status }) => status).sort();
    expect(statuses[0]).toBe(201);
    expect(statuses.slice(1).every((status) => status === 409 || status === 422)).toBe(true);
  });
  it('names what it is, and is found in what Sequelize throws', () => {
    const failure = (text: string) =>
      Object.assign(new Error('Validation error'), { parent: new Error(`SQLITE_CONSTRAINT: UNIQUE constraint failed: ${text}`) });
    expect(uniqueConflict(failure('budgets.company_id, budgets.year, budgets.name'))).toContain('A budget of that year');
    expect(uniqueConflict(failure('something.else'))).toContain('Someone else added the same');
    expect(uniqueConflict(new Error('something else'))).toBeNull();
  });
});
