import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { expect, it } from 'vitest';

import { openDatabase } from './database.ts';

it('drafts, folders, renamed formula names and last choices are carried over from older data', async () => {
  const directory = mkdtempSync(join(tmpdir(), 'plain-words-'));
  try {
    const before = await openDatabase(directory);
    await before.write(async (transaction) => {
      const run = (sql: string, ...bindings: string[]) => before.run(sql, bindings, transaction);
      // as the folder was before
      await run(`DELETE FROM SequelizeMeta WHERE name LIKE '0010%' OR name LIKE '0011%'`);
      await run(`ALTER TABLE views RENAME COLUMN folder TO shelf`);
      await run(`ALTER TABLE nonrecurring_items RENAME TO one_offs`);
      await run(`ALTER TABLE budget_changes RENAME COLUMN undone TO taken_back`);
      await run(`INSERT INTO companies (id, name, currency, start_month, created_at) VALUES (1, 'Shop', 'USD', 1, '2026-01-01')`);
      await run(
        `INSERT INTO budgets (company_id, year, name, state, created_at, actor) VALUES (1, 2027, 'Plan', 'working', '', ''), (1, 2027, 'Final', 'approved', '', '')`,
      );
      await run(
        `INSERT INTO views (company_id, name, shelf, note, line_set, column_set, owner, saved_at) VALUES (1, 'Mine', 'Board', '', $1, $2, 'owner', '')`,
        '{"lines":[{"key":"margin","expression":"operating_result / revenue"},{"key":"result_before_tax","name":"Result before tax"}]}',
        '{"blocks":[{"baseLine":"operating_result"}]}',
      );
      await run(`INSERT INTO benchmarks (company_id, line_key, value, kind) VALUES (1, 'operating_result', 12.5, 'industry')`);
      await run(
        `INSERT INTO accounts (id, company_id, position, number, name, class) VALUES (1, 1, 0, '6000', 'Wages', 'operatingExpenses')`,
      );
      await run(
        `INSERT INTO budget_lines (budget_id, account_id, dimension_values, basis) VALUES (1, 1, '{}', '{"kind":"payroll","withOneOffs":true,"besides":{"year":2026},"everywhere":true}')`,
      );
      await run(`INSERT INTO one_offs (company_id, account_id, period_code, reason, at, actor) VALUES (1, 1, 202601, 'Storm', '', '')`);
      await run(
        `INSERT INTO view_choices (company_id, person, view_key, choices) VALUES (1, 'Ann', 'income', '{"address":"only.department=Tours&unit=cents&only.location=Main"}')`,
      );
    });
    await before.close();
    const after = await openDatabase(directory);
    expect(await after.select('SELECT name, state FROM budgets ORDER BY id')).toEqual([
      { name: 'Plan', state: 'draft' },
      { name: 'Final', state: 'approved' },
    ]);
    expect(await after.select('SELECT folder, line_set, column_set FROM views')).toEqual([
      {
        folder: 'Board',
        line_set:
          '{"lines":[{"key":"margin","expression":"operating_income / revenue"},{"key":"income_before_taxes","name":"Result before tax"}]}',
        column_set: '{"blocks":[{"baseLine":"operating_income"}]}',
      },
    ]);
    expect(await after.select('SELECT basis FROM budget_lines')).toEqual([
      { basis: '{"kind":"payroll","includeNonrecurring":true,"currentStaff":{"year":2026},"wholeCompany":true}' },
    ]);
    expect(await after.select('SELECT reason FROM nonrecurring_items')).toEqual([{ reason: 'Storm' }]);
    expect(await after.select('SELECT undone FROM budget_changes')).toEqual([]);
    expect(await after.select('SELECT line_key FROM benchmarks')).toEqual([{ line_key: 'operating_income' }]);
    expect(await after.select('SELECT choices FROM view_choices')).toEqual([
      { choices: '{"address":"filter.department=Tours&unit=cents&filter.location=Main"}' },
    ]);
    await after.close();
  } finally {
    rmSync(directory, { recursive: true, force: true });
  }
});
