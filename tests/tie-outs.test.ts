import { type TieOutsDto, tieOutsSchema } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const tieOuts = async (query = ''): Promise<TieOutsDto> =>
  tieOutsSchema.parse(await server.get(`/companies/1/tie-outs?asOf=2026-10${query}`));
const failing = async () =>
  (await tieOuts('&again=yes')).tieOuts.filter(({ agrees }) => !agrees).map(({ key, where, difference }) => [key, where, difference]);

describe('tie-outs', () => {
  it('of the demo company all agree, each with both of its figures', async () => {
    const { tieOuts: all, failing: count } = await tieOuts();
    expect([count, all.filter(({ agrees }) => !agrees)]).toEqual([0, []]);
    expect(all.map(({ key }) => key)).toEqual([
      'entries',
      'periods',
      'imports',
      'balances',
      'balance-sheet',
      'net-income',
      'cash-flow',
      'slices-department',
      'slices-location',
      'slices-project',
      'retained-earnings',
      'receivables',
      'payables',
      'budget-1',
    ]);
    for (const { first, second, difference } of all) expect([first.amount - second.amount, first.amount !== 0]).toEqual([difference, true]);
  });

  // each change is made behind the application’s back and taken back again
  const run = (sql: string): Promise<void> => {
    const { database } = server.application;
    return database.write((transaction) => database.run(sql, [], transaction));
  };
  it('name the account whose kept balance is not the sum of its lines', async () => {
    const change = (by: number) =>
      run(`UPDATE balances SET debit = debit + ${by} WHERE (account_id, period_code, combination_id, layer) =
        (SELECT b.account_id, period_code, combination_id, layer FROM balances b JOIN accounts a ON a.id = b.account_id WHERE a.number = '6110' AND a.company_id = 1 ORDER BY 2, 3, 4 LIMIT 1)`);
    await change(500);
    expect(await failing()).toEqual([['balances', 'Accounts that differ: 6110.', 500]]);
    await change(-500);
    expect(await failing()).toEqual([]);
  });
  it('name the budget whose statement is not the sum of its lines', async () => {
    const change = (by: number) =>
      run(`UPDATE budget_cells SET amount = amount + ${by} WHERE (line_id, month) = (SELECT c.line_id, c.month FROM budget_cells c JOIN budget_lines l ON l.id = c.line_id
        JOIN accounts a ON a.id = l.account_id WHERE l.budget_id = 1 AND a.number = '6110' ORDER BY 1, 2 LIMIT 1)`);
    await change(700);
    expect((await failing()).map(([key, , difference]) => [key, difference])).toEqual([['budget-1', 700]]);
    await change(-700);
    expect(await failing()).toEqual([]);
  });
  it('name the entry, the period and the import that are out of balance', async () => {
    const change = (by: number) =>
      run(
        `UPDATE lines SET amount = amount + ${by} WHERE id = (SELECT min(l.id) FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.number = 'PU-001243')`,
      );
    await change(100);
    const found = new Map((await failing()).map(([key, where]) => [key, where]));
    expect([found.get('entries'), found.get('periods'), found.get('imports')]).toEqual([
      'Out of balance: PU-001243.',
      'Out of balance: Oct 2026.',
      'Out of balance: import 1.',
    ]);
    expect(found.has('balances')).toBe(true);
    await change(-100);
    expect(await failing()).toEqual([]);
  });
  it('find what was posted straight to retained earnings, and a receivable without a customer', async () => {
    const made = await server.send('POST', '/companies/1/entries', {
      content: {
        date: '2025-06-30',
        source: 'general',
        kind: 'ordinary',
        state: 'posted',
        lines: [
          { account: '1100', amount: 70_000, dimensions: {}, memo: 'Prior-period adjustment', party: '', document: '', due: null },
          { account: '3200', amount: -70_000, dimensions: {}, memo: 'Prior-period adjustment', party: '', document: '', due: null },
        ],
      },
      reason: 'Found in the audit',
    });
    expect(made.status).toBe(201);
    const found = new Map((await failing()).map(([key, , difference]) => [key, difference]));
    expect([found.get('retained-earnings'), found.get('receivables')]).toEqual([70_000, 70_000]);
  });
});
