import { openApplication } from '@wise-margin/server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

/** The versions a company's event stream tells, one after the other. */
async function* versionsOf(company: number, signal: AbortSignal): AsyncGenerator<number> {
  const response = await fetch(`${server.base}/companies/${company}/events`, { signal });
  expect(response.headers.get('content-type')).toContain('text/event-stream');
  let text = '';
  for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) {
    text += chunk;
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const event = text.slice(0, end);
      text = text.slice(end + 2);
      if (event.startsWith('data: ')) yield (JSON.parse(event.slice(6)) as { version: number }).version;
    }
  }
}
const postOne = async (number: string): Promise<void> => {
  const rows = `entry,date,account,amount\n${number},2026-10-05,6410,12.50\n${number},2026-10-05,1010,-12.50\n`;
  const made = await server.upload({ company: '1' }, { ledger: rows });
  expect((await server.send('POST', `/imports/${made.id}/post`)).status).toBe(200);
};
const next = async (versions: AsyncGenerator<number>): Promise<number> => (await versions.next()).value as number;

describe('the event stream of a company', () => {
  it('tells the version there is, and each newer one, also to whoever comes later', async () => {
    const ended = new AbortController();
    const versions = versionsOf(1, ended.signal);
    const first = await next(versions);
    await postOne('EV-1');
    expect(await next(versions)).toBe(first + 1);
    const later = versionsOf(1, ended.signal);
    expect(await next(later)).toBe(first + 1);
    await postOne('EV-2');
    expect([await next(versions), await next(later)]).toEqual([first + 2, first + 2]);
    ended.abort();
    await expect(next(versions)).rejects.toThrow();
  });

  it('tells what another process posted', async () => {
    const ended = new AbortController();
    const versions = versionsOf(1, ended.signal);
    const first = await next(versions);
    const other = await openApplication({
      directory: server.directory,
      recover: false,
      actor: { name: 'Command line', now: () => new Date('2026-11-09T09:00:00Z') },
    });
    const { lines } = await other.entryList.page(1, {
      state: 'posted',
      filter: {},
      sort: 'date',
      order: 'descending',
      after: 0,
      limit: 1,
      accounts: '6410',
    });
    await other.entryChanges.reclassify(1, { lines: [lines[0]!.lineId], account: '6420', reason: 'From a script' }, other.actor);
    await other.close();
    expect(await next(versions)).toBe(first + 1);
    ended.abort();
  });

  it('says nothing of another company, and is not there for one that is not', async () => {
    const ended = new AbortController();
    const versions = versionsOf(2, ended.signal);
    const first = await next(versions);
    const waiting = next(versions).catch(() => 'nothing');
    await postOne('EV-3');
    setTimeout(() => ended.abort(), 300);
    expect(await waiting).toBe('nothing');
    expect(first).toBeGreaterThan(0);
    expect((await fetch(`${server.base}/companies/99/events`)).status).toBe(404);
  });
});
