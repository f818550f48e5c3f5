import type { ReportDto } from '@wise-margin/contract';
import { expect } from 'vitest';

import { startTestServer, type TestServer } from './server.ts';

/** The ledger by itself: every balance kept equals the sum of its lines, and nothing is out of balance. */
export async function expectBalanced({ application: { database } }: TestServer): Promise<void> {
  const differing = await database.select(
    `SELECT account_id, period_code, combination_id, layer, sum(net) AS difference FROM (
       SELECT account_id, period_code, combination_id, layer, debit - credit AS net FROM balances WHERE company_id = 1
       UNION ALL SELECT l.account_id, l.period_code, l.combination_id,
         CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END, -l.amount
       FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.company_id = 1)
     GROUP BY 1, 2, 3, 4 HAVING sum(net) <> 0`,
  );
  expect(differing).toEqual([]);
  expect(await database.select('SELECT entry_id FROM lines GROUP BY entry_id HAVING sum(amount) <> 0')).toEqual([]);
}

/** The same, and what is held in memory is what a process that starts now reads. */
export async function expectSound(server: TestServer): Promise<void> {
  await expectBalanced(server);
  const { booksCache } = server.application;
  const books = await booksCache.of(1);
  const fresh = await startTestServer({ from: server.directory });
  try {
    for (const asOf of ['2026-07', '2026-10', '2025-12'])
      expect(await server.get<ReportDto>(`/companies/1/reports/trial-balance?limit=2000&range=${asOf}`)).toEqual(
        await fresh.get(`/companies/1/reports/trial-balance?limit=2000&range=${asOf}`),
      );
    // and so are actuals by customer, by journal and with drafts, which follow changes too
    for (const query of ['customers?asOf=2026-10', 'income?asOf=2026-10&filter.source=purchases', 'income?asOf=2026-10&drafts=yes'])
      expect(await server.statement(`/companies/1/statements/${query}`)).toEqual(await fresh.statement(`/companies/1/statements/${query}`));
    const freshBooks = await fresh.application.booksCache.of(1);
    expect([books.version, books.firstPosted, books.lastPosted]).toEqual([
      freshBooks.version,
      freshBooks.firstPosted,
      freshBooks.lastPosted,
    ]);
    const everyEntry = `/companies/1/entries?limit=1000&from=2026-07`;
    expect(await server.get(everyEntry)).toEqual(await fresh.get(everyEntry));
  } finally {
    await fresh.close();
  }
}
