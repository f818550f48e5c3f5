import type { EntryDto, EntryEffectDto, Problem } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

let server: TestServer;
let at: string;
beforeAll(async () => {
  server = await startTestServer();
  at = `/companies/${await loadSmallCompany(server)}`;
});
afterAll(() => server.close());

const line = (account: string, amount: number) => ({
  account,
  amount,
  dimensions: {},
  memo: 'Rent',
  party: '',
  document: 'B-1',
  due: null,
});
async function made(date: string, state = 'posted'): Promise<EntryDto> {
  const content = { date, source: 'purchases', kind: 'ordinary', state, lines: [line('6000', 7700), line('1000', -7700)] };
  const { entries } = await server.accept<{ entries: { id: number }[] }>('POST', `${at}/entries`, { content, reason: 'Bill' });
  return server.get<EntryDto>(`${at}/entries/${entries[0]!.id}`);
}
const reverse = (entry: EntryDto, more: object = {}) =>
  server.send('POST', `${at}/entries/${entry.id}/reversal`, { version: entry.version, date: entry.date, reason: 'Posted twice', ...more });
const entryOf = async (answer: unknown): Promise<EntryDto> =>
  server.get(`${at}/entries/${(answer as { entries: { id: number }[] }).entries[0]!.id}`);

describe('an entry', () => {
  it('is voided on its own day by its opposite, and the two name each other', async () => {
    const entry = await made('2025-06-10');
    const effect = await server.accept<EntryEffectDto>('POST', `${at}/entries/${entry.id}/reversal/preview`, {
      version: entry.version,
      date: entry.date,
    });
    expect(effect.closed).toBeNull();
    const { status, body } = await reverse(entry);
    expect(status).toBe(201);
    const opposite = await entryOf(body);
    expect(opposite).toMatchObject({
      date: '2025-06-10',
      related: [{ id: entry.id, how: 'reverses' }],
      lines: [
        { account: '6000', debit: null, credit: 7700, document: 'B-1', memo: `Void of ${entry.number}: Rent` },
        { account: '1000', debit: 7700, credit: null },
      ],
    });
    expect((await server.get<EntryDto>(`${at}/entries/${entry.id}`)).related).toMatchObject([{ id: opposite.id, how: 'reversedBy' }]);
  });
  it('is reversed on a later day, never on an earlier one', async () => {
    const entry = await made('2025-06-11');
    expect((await reverse(entry, { date: '2025-06-10' })).status).toBe(422);
    const { body } = await reverse(entry, { date: '2025-07-01' });
    expect(await entryOf(body)).toMatchObject({ date: '2025-07-01', lines: [{ memo: `Reversal of ${entry.number}: Rent` }, {}] });
  });
  it('is reversed once, and a draft not at all', async () => {
    const entry = await made('2025-06-12');
    await reverse(entry);
    const again = await reverse(entry);
    expect([again.status, (again.body as Problem).title]).toEqual([409, 'Reversed already']);
    expect((await reverse(await made('2025-06-12', 'draft'))).status).toBe(409);
  });
  it('of a closed month is reversed on the first open day', async () => {
    const entry = await made('2025-04-10');
    const { year, number } = (await server.get<{ periods: { year: number; number: number; key: string }[] }>(at)).periods.find(
      ({ key }) => key === '2025-04',
    )!;
    await server.accept('PUT', `${at}/periods`, { year, number, state: 'closed' });
    const effect = await server.accept<EntryEffectDto>('POST', `${at}/entries/${entry.id}/reversal/preview`, {
      version: entry.version,
      date: entry.date,
    });
    expect(effect.closed?.postIn).toBe('2025-05-01');
    expect((await reverse(entry)).status).toBe(409);
    const { status, body } = await reverse(entry, { postIn: '2025-05-01' });
    expect([status, (await entryOf(body)).date]).toEqual([201, '2025-05-01']);
    await server.accept('PUT', `${at}/periods`, { year, number, state: 'open', reason: 'Test is over' });
  });
});
