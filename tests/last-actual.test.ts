import type { CompanyDto, Problem } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1';
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const company = () => server.get<CompanyDto>(AT);
const line = (account: string, amount: number) => ({
  account,
  amount,
  dimensions: {},
  memo: 'Accrual',
  party: '',
  document: '',
  due: null,
});
/** Amounts of a line of the outlook, in cents. */
async function outlook(asOf: string, key: string) {
  const grid = await server.statement(`${AT}/statements/outlook?asOf=${asOf}`);
  const at = (column: string): number => {
    const cell = grid.cells[grid.lines.findIndex((each) => each.key === key)]![grid.columns.findIndex((each) => each.key === column)]!;
    return cell.kind === 'amount' ? cell.value : 0;
  };
  return { toDate: at('ytd.actual'), rest: at('rest.budget'), projected: at('year.projection'), issues: grid.issues };
}

describe('an accrual of October that reverses on November 1', () => {
  beforeAll(async () => {
    const content = {
      date: '2026-10-31',
      source: 'adjustments',
      kind: 'adjustment',
      state: 'posted',
      lines: [line('6220', 120_000), line('2110', -120_000)],
    };
    await server.accept('POST', `${AT}/entries`, { content, reverseOn: '2026-11-01', reason: 'Accrual of October' });
  });

  it('leaves October the last month of actuals, although November has a posting', async () => {
    expect(await company()).toMatchObject({
      lastPosted: '2026-11',
      lastActual: '2026-10',
      actuals: { basis: 'usualAccounts', unclear: null },
    });
  });
  it.each(['2026-07', '2026-10', '2026-11'])('leaves an outlook of %s that adds across on every line', async (asOf) => {
    const grid = await server.statement(`${AT}/statements/outlook?asOf=${asOf}`);
    for (const { key, kind } of grid.lines)
      if (kind === 'accounts' || kind === 'total') {
        const { toDate, rest, projected } = await outlook(asOf, key);
        expect([asOf, key, projected]).toEqual([asOf, key, toDate + rest]);
      }
    const { toDate, rest, projected } = await outlook(asOf, 'operating_income');
    expect(projected).toBe(toDate + rest);
  });
  it('says of November that it is not complete', async () => {
    expect((await outlook('2026-11', 'revenue')).issues).toMatchObject([
      { message: 'November 2026 is not complete: the last month of actuals is October 2026' },
    ]);
    expect((await outlook('2026-10', 'revenue')).issues).toEqual([]);
  });
});

describe('the last month of actuals', () => {
  const choose = (month: string | null) => server.send('PUT', `${AT}/periods/last-actual`, { month });
  it('is chosen, on record, and given back', async () => {
    expect((await choose('2026-09')).status).toBe(200);
    expect(await company()).toMatchObject({ lastActual: '2026-09', actuals: { basis: 'chosen', proposed: '2026-10' } });
    const { events } = await server.get<{ events: { words: string }[] }>(`${AT}/audit?limit=1`);
    expect(events[0]!.words).toBe('Last month of actuals');
    await choose(null);
    expect(await company()).toMatchObject({ lastActual: '2026-10', actuals: { basis: 'usualAccounts' } });
  });
  it('is a month with postings', async () => {
    const { status, body } = await choose('2027-01');
    expect([status, (body as Problem).detail]).toEqual([422, 'Nothing is posted in 2027-01. Choose a month with postings.']);
  });
  it('is the latest closed month', async () => {
    const { year, number } = (await company()).periods.find(({ key }) => key === '2026-09')!;
    await server.accept('PUT', `${AT}/periods`, { year, number, state: 'softClosed', earlier: true });
    expect(await company()).toMatchObject({ lastActual: '2026-09', actuals: { basis: 'closed' } });
    await server.accept('PUT', `${AT}/periods`, { year, number, state: 'open', reason: 'Reopened for the test' });
  });
});
