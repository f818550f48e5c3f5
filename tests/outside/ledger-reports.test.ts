import type { DuckDBConnection } from '@duckdb/node-api';
import type { CompanyDto, ReportDto } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, findClass } from '@wise-margin/core';
import { gannetRockFiles, ternIslandFiles } from '@wise-margin/demo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from '../support/demo-company.ts';
import { paidInParts } from '../support/paid-in-parts.ts';
import type { TestServer } from '../support/server.ts';
import { loadBoth } from '../support/sql-engine.ts';

let server: TestServer;
beforeAll(async () => {
  // its companies are these files, imported
  server = await demoServer();
});
afterAll(() => server.close());
const isIncome = (className: string) => ACCOUNT_CLASSES[findClass(className)!].statement === 'income';

describe.each([
  ['Tern Island', ternIslandFiles(), 4, '2026-11-09'],
  ['Gannet Rock', gannetRockFiles(), 1, '2026-09-17'],
  ['Random 1', paidInParts(1), 7, '2026-02-10'],
  ['Random 2', paidInParts(2), 1, '2025-12-31'],
] as const)('%s', (name, files, startMonth, day) => {
  let company: CompanyDto;
  let sql: DuckDBConnection;
  beforeAll(async () => {
    ({ company, sql } = await loadBoth(server, { name, files, startMonth }));
    await sql.run(`CREATE VIEW posted AS SELECT l.*, CAST(l.date AS DATE) AS day, greatest(net, 0) AS debited, greatest(-net, 0) AS credited, a.class,
      coalesce(kind, '') AS entry_kind, coalesce(party, '') AS who, coalesce(document, '') AS number FROM ledger l JOIN accounts a USING (account)`);
  });
  const table = async (query: string): Promise<unknown[][]> =>
    (await sql.runAndReadAll(query))
      .getRows()
      .map((row) => row.map((value) => (typeof value === 'bigint' ? Number(value) : value === null ? null : String(value))));
  const report = (text: string): Promise<ReportDto> =>
    server.get(`/companies/${company.id}/reports/${text}${text.includes('?') ? '&' : '?'}limit=2000`);
  async function everyRow(text: string): Promise<ReportDto['rows']> {
    const found: ReportDto['rows'] = [];
    for (let after: number | null = 0; after !== null;) {
      const page: ReportDto = await report(`${text}&after=${after}`);
      found.push(...page.rows);
      after = page.next;
    }
    return found;
  }
  const yearStart = (date: string) =>
    `(SELECT min(day) FROM posted WHERE fiscal_year = (SELECT max(fiscal_year) FROM posted WHERE day <= DATE '${date}'))`;

  it('agrees on the trial balance of any days: opening, debits, credits and closing', async () => {
    const { periods, lastPosted } = company;
    const last = periods.findIndex(({ key }) => key === lastPosted);
    const month = periods[last]!.key;
    for (const [from, to] of [
      [`${month}-01`, `${month}-28`],
      [`${periods[last - 1]!.key}-11`, `${month}-09`],
      [`${periods[last - 8]!.key}-05`, `${periods[last - 7]!.key}-20`],
    ] as const) {
      const theirs =
        await table(`SELECT account, any_value(class), coalesce(sum(net) FILTER (day < DATE '${from}'), 0), coalesce(sum(debited) FILTER (day >= DATE '${from}'), 0),
        coalesce(sum(credited) FILTER (day >= DATE '${from}'), 0),
        coalesce(sum(net) FILTER (day < DATE '${from}' AND day >= ${yearStart(from)} AND entry_kind <> 'closing'), 0),
        coalesce(sum(debited) FILTER (day >= DATE '${from}' AND entry_kind <> 'closing'), 0), coalesce(sum(credited) FILTER (day >= DATE '${from}' AND entry_kind <> 'closing'), 0)
        FROM posted WHERE day <= DATE '${to}' GROUP BY account`);
      const ours = await report(`trial-balance?range=${from}..${to}&zero=yes&inactive=yes`);
      expect(ours.sides!.debits).toBe(ours.sides!.credits);
      const total = ours.rows.at(-1)!;
      expect([total.cells[2], Number(total.cells[3]) - Number(total.cells[4])]).toEqual([0, 0]);
      const byAccount = new Map(ours.rows.map(({ cells }) => [cells[0], cells]));
      for (const [account, of, ...figures] of theirs) {
        const [opening, debits, credits] = (isIncome(String(of)) ? figures.slice(3) : figures.slice(0, 3)).map(Number);
        const cells = byAccount.get(String(account))!;
        expect([account, ...cells.slice(2, 5), Number(cells[6] ?? 0) - Number(cells[7] ?? 0)]).toEqual([
          account,
          opening,
          debits,
          credits,
          opening! + debits! - credits!,
        ]);
      }
    }
  });

  it('agrees on account detail: every line with its running balance', async () => {
    const [accounts] = await table(
      `SELECT any_value(account) FROM (SELECT account FROM posted WHERE class IN ('Payables', 'Accounts payable', 'Receivables') AND party IS NOT NULL GROUP BY account ORDER BY count(*) DESC LIMIT 1)`,
    );
    const account = String(accounts![0]);
    const { periods, lastPosted } = company;
    const month = periods[periods.findIndex(({ key }) => key === lastPosted) - 4]!.key;
    const theirs =
      await table(`SELECT entry, strftime(day, '%Y-%m-%d'), net, sum(net) OVER (ORDER BY day, rowid_) FROM (SELECT *, row_number() OVER () AS rowid_ FROM posted WHERE account = '${account}')
      QUALIFY strftime(day, '%Y-%m') = '${month}' ORDER BY day, rowid_`);
    const lines = (await everyRow(`account-detail?range=${month}&accounts=${account}`)).filter(({ link }) => link?.to === 'entry');
    expect(lines.length).toBeGreaterThan(3);
    const balanceAt = (rows: readonly (readonly unknown[])[]) => rows.map(([entry, date, net]) => [entry, date, net]).sort();
    expect(balanceAt(lines.map(({ cells }) => [cells[2], cells[1], Number(cells[7] ?? 0) - Number(cells[8] ?? 0)]))).toEqual(
      balanceAt(theirs),
    );
    expect(lines.at(-1)!.cells[9]).toBe(Number(theirs.at(-1)![3]));
  });

  it('agrees on journals: entries, lines and both sides', async () => {
    const month = company.lastPosted!;
    const theirs = await table(
      `SELECT coalesce(source, ''), count(DISTINCT entry), count(*), sum(debited), sum(credited) FROM posted WHERE strftime(day, '%Y-%m') = '${month}' GROUP BY 1 ORDER BY 1`,
    );
    const ours = (await report(`journals?range=${month}`)).rows
      .filter(({ kind }) => kind === 'line')
      .map(({ cells }) => [cells[0] === 'No journal' ? '' : cells[0], ...cells.slice(1)]);
    expect(ours).toEqual(theirs);
    const detailed = await everyRow(`journals?range=${month}&detail=yes`);
    expect(detailed.filter(({ kind }) => kind === 'line')).toHaveLength(theirs.reduce((sum, row) => sum + Number(row[2]), 0));
  });

  it('agrees on sales by customer', async () => {
    const month = company.lastPosted!;
    const theirs = await table(
      `SELECT who, sum(-net) FROM posted WHERE class IN ('Revenue', 'Revenue deductions') AND strftime(day, '%Y-%m') = '${month}' AND entry_kind <> 'closing' GROUP BY 1`,
    );
    const rows = (await report(`activity?range=${month}`)).rows.filter(({ kind, cells }) => kind === 'line' && cells[1] !== 0);
    expect(new Map(rows.map(({ cells }) => [cells[0] === 'No customer' ? '' : cells[0], cells[1]]))).toEqual(
      new Map(theirs.map(([who, sum]) => [who, Number(sum)])),
    );
  });

  it.each(['receivables', 'payables'] as const)('agrees on %s by age, and ties them to their accounts', async (kind) => {
    const sign = kind === 'receivables' ? 1 : -1;
    const control = `SELECT account FROM posted WHERE lower(class) = '${kind}' GROUP BY account HAVING count(party) * 2 >= count(*)`;
    const theirs =
      await table(`WITH lines AS (SELECT who, number, day, due, ${sign} * net AS owed FROM posted WHERE account IN (${control}) AND day <= DATE '${day}' AND who <> ''),
      documents AS (SELECT who, sum(owed) AS open, min(due) FILTER (owed > 0) AS due, min(day) FILTER (owed > 0) AS dated FROM lines WHERE number <> '' GROUP BY who, number
        UNION ALL SELECT who, owed, due, day FROM lines WHERE number = ''),
      aged AS (SELECT who, open, date_diff('day', coalesce(CAST(due AS DATE), dated), DATE '${day}') AS late FROM documents WHERE open <> 0)
      SELECT who, coalesce(sum(open) FILTER (open > 0 AND late <= 0), 0), coalesce(sum(open) FILTER (open > 0 AND late BETWEEN 1 AND 30), 0),
        coalesce(sum(open) FILTER (open > 0 AND late BETWEEN 31 AND 60), 0), coalesce(sum(open) FILTER (open > 0 AND late BETWEEN 61 AND 90), 0),
        coalesce(sum(open) FILTER (open > 0 AND late > 90), 0), coalesce(sum(open) FILTER (open < 0), 0), sum(open) FROM aged GROUP BY who`);
    const ours = await report(`aging?kind=${kind}&asOf=${day}`);
    const rows = ours.rows.filter(({ kind: of }) => of === 'line').map(({ cells }) => cells.slice(0, 8));
    const byName = (all: readonly (readonly unknown[])[]) =>
      [...all].map((row) => row.map(String)).sort((a, b) => (a[0]! < b[0]! ? -1 : 1));
    expect(byName(rows)).toEqual(byName(theirs));
    const [[balance]] = (await table(
      `SELECT coalesce(sum(${sign} * net), 0) FROM posted WHERE account IN (${control}) AND day <= DATE '${day}'`,
    )) as [[number]];
    const [[unnamed]] = (await table(
      `SELECT coalesce(sum(${sign} * net), 0) FROM posted WHERE account IN (${control}) AND day <= DATE '${day}' AND who = ''`,
    )) as [[number]];
    const total = theirs.reduce((sum, row) => sum + Number(row[7]), 0);
    expect(total + Number(unnamed)).toBe(Number(balance));
    if (theirs.length > 0) expect(ours.notes[0]!.text).toMatch(Number(unnamed) === 0 ? /^Agrees/ : /names? no (customer|vendor)\.$/);
    expect(ours.notes.map(({ text }) => text).join(' ')).not.toContain('is not explained');
  });
});
