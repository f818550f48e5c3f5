import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import papaparse from 'papaparse';
import sqlite3 from 'sqlite3';
import { afterAll, describe, expect, it } from 'vitest';

import { run } from './main.ts';

const folder = mkdtempSync(join(tmpdir(), 'wise-margin-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const wm = async (...args: string[]) => {
  let out = '';
  let error = '';
  const code = await run([...args, '--data', join(folder, 'data')], { out: (text) => (out += text), error: (text) => (error += text) });
  return { code, out, error };
};
const accounts = join(folder, 'accounts.csv');
const ledger = join(folder, 'ledger.csv');
writeFileSync(accounts, 'account,name,class,active\n1000,Cash,Cash,yes\n4000,Sales,Revenue,yes\n6000,Wages,Operating expenses,yes\n');
const rows = ['entry,date,account,amount'];
for (const year of [2025, 2026])
  for (let month = 4; month <= 10; month += 1)
    rows.push(
      `${year}${month},${year}-${String(month).padStart(2, '0')}-02,1000,100.00`,
      `${year}${month},${year}-${String(month).padStart(2, '0')}-02,4000,-100.00`,
    );
writeFileSync(ledger, `${rows.join('\n')}\n`);

describe('the command line', () => {
  it('asks for what is missing with exit code 2', async () => {
    expect(await wm('import', '--ledger', ledger)).toMatchObject({ code: 2, error: expect.stringContaining('needs --company NAME') });
    expect(await wm('import', '--ledger', ledger, '--company', 'New')).toMatchObject({
      code: 2,
      error: expect.stringContaining('--currency USD and --year-starts 4'),
    });
    expect(await wm('nonsense')).toMatchObject({ code: 2, error: expect.stringContaining('there is no verb') });
    expect(await wm('trial-balance', '--nope')).toMatchObject({ code: 2 });
    expect(await wm('trial-balance', '--as-of', '2026-10', '--format', 'xml')).toMatchObject({ code: 2 });
    expect((await wm('--help')).code).toBe(0);
  });
  it('says there is no company yet with exit code 1', async () =>
    expect(await wm('trial-balance', '--as-of', '2026-10')).toMatchObject({ code: 1, error: expect.stringContaining('no company yet') }));
  it('refuses a bad file with every row on standard error, and keeps nothing', async () => {
    const bad = join(folder, 'bad.csv');
    writeFileSync(
      bad,
      'entry,date,account,amount\n1,2026-05-01,1000,1.005\n1,2026-05-01,4000,-1.00\n2,2026-05-99,1000,1.00\n2,2026-05-99,4000,-1.00\n',
    );
    const refused = await wm(
      'import',
      '--accounts',
      accounts,
      '--ledger',
      bad,
      '--company',
      'Shop',
      '--currency',
      'USD',
      '--year-starts',
      '4',
    );
    expect(refused).toMatchObject({ code: 1, out: '' });
    expect(refused.error).toContain('ledger row 2, amount: "1.005": The amount has more than 2 decimals');
    expect(refused.error).toContain('ledger row 4, date: "2026-05-99": There is no such day');
    expect(await wm('trial-balance', '--as-of', '2026-10')).toMatchObject({ code: 1 });
  });
  it('creates the company with its import', async () => {
    const made = await wm(
      'import',
      '--accounts',
      accounts,
      '--ledger',
      ledger,
      '--company',
      'Shop',
      '--currency',
      'USD',
      '--year-starts',
      '4',
      '--format',
      'json',
    );
    expect(made.code).toBe(0);
    expect(JSON.parse(made.out)).toMatchObject({ company: 'Shop', entries: '14', debits: '1400.00' });
  });
  it('creates a budget by percent', async () => {
    const made = await wm(
      'budget',
      'create',
      '--year',
      '2027',
      '--from',
      '2026',
      '--change',
      '3%',
      '--name',
      'Plan',
      '--approve',
      '--format',
      'json',
    );
    expect(JSON.parse(made.out)).toMatchObject({ name: 'Plan', year: 'FY2027', revenue: '721.00' });
    expect(await wm('budget', 'create', '--year', '2027', '--from', '2026', '--change', 'lots', '--name', 'Bad')).toMatchObject({
      code: 1,
      error: expect.stringContaining('Enter a percentage'),
    });
  });
  it('lists budgets, writes one to a file, previews a completed file and applies it', async () => {
    expect(JSON.parse((await wm('budget', 'list', '--format', 'json')).out)).toMatchObject([
      { name: 'Plan', year: 'FY2027', state: 'approved', revenue: '721.00' },
    ]);
    await wm('budget', 'create', '--year', '2027', '--from', '2026', '--change', '3', '--name', 'Draft');
    const path = join(folder, 'draft.csv');
    expect((await wm('budget', 'export', '--budget', 'draft', '--file', path)).code).toBe(0);
    const text = readFileSync(path, 'utf8');
    expect(text.split('\n').slice(0, 2)).toEqual(['account,period,amount', '4000,2027-01,103.00']);
    const filled = join(folder, 'filled.csv');
    writeFileSync(filled, text.replace('2027-01,103.00', '2027-01,150.00'));
    const answer = await wm('budget', 'import', '--budget', 'Draft', '--file', filled, '--format', 'json');
    expect(JSON.parse(answer.out)).toEqual({
      applied: false,
      changes: [{ account: '4000', name: 'Sales', slice: '', month: 'Apr', from: '103.00', to: '150.00' }],
    });
    expect((await wm('budget', 'import', '--budget', 'Draft', '--file', filled, '--apply')).code).toBe(0);
    await wm('budget', 'export', '--budget', 'Draft', '--file', path);
    expect(readFileSync(path, 'utf8')).toBe(readFileSync(filled, 'utf8'));
    writeFileSync(filled, 'account,period,amount\n4000,2027-01,lots\n9999,2027-01,5\n');
    const refused = await wm('budget', 'import', '--budget', 'Draft', '--file', filled, '--apply');
    expect(refused).toMatchObject({ code: 1, error: expect.stringContaining('row 2, amount: "lots"') as unknown });
    expect(refused.error).toContain('9999');
    expect(await wm('budget', 'export', '--budget', 'Nobody', '--file', path)).toMatchObject({
      code: 1,
      error: expect.stringContaining('There are: Draft (FY2027), Plan (FY2027)') as unknown,
    });
    expect(await wm('budget', 'export', '--budget', 'Plan')).toMatchObject({ code: 2 });
  });
  it('prints planned cash', async () => {
    const answer = JSON.parse((await wm('balance-plan', '--budget', 'Plan', '--format', 'json')).out) as { months: { cash: string }[] };
    // the year opens with what FY2026 brought, and each budgeted month adds 103.00
    expect(answer).toMatchObject({ opening: '700.00', lowest: 'opening', assumptions: { 1000: 'Balancing account for all cash' } });
    expect(answer.months.slice(0, 2).map(({ cash }) => cash)).toEqual(['803.00', '906.00']);
    expect(await wm('balance-plan')).toMatchObject({
      code: 2,
      error: expect.stringContaining('balance-plan needs --budget NAME') as unknown,
    });
  });
  it('prints the income statement with decimal texts, numbers and reasons', async () => {
    const answer = JSON.parse((await wm('statement', 'income', '--as-of', '2026-10', '--columns', 'review', '--format', 'json')).out) as {
      lines: { key: string; cells: Record<string, object> }[];
    };
    const cells = answer.lines.find(({ key }) => key === 'revenue')!.cells;
    expect(cells['month.actual']).toEqual({ value: '100.00' });
    expect(cells['month.budget_difference']).toEqual({ value: '-3.00', favor: 'U' });
    expect(cells['month.budget_percent']).toEqual({ value: -2.912621, unit: 'percent' });
    expect(cells['month.prior_percent']).toEqual({ value: 0, unit: 'percent' });
    expect(answer.lines.find(({ key }) => key === 'operating_expenses')!.cells['month.budget_percent']).toEqual({
      value: null,
      reason: 'Both amounts are zero',
    });
    expect((await wm('statement', 'income', '--as-of', '2026-10', '--columns', 'trend', '--format', 'csv')).out.split('\n')[0]).toContain(
      'Nov 2025: Actual',
    );
    expect((await wm('statement', 'income', '--as-of', '2026-10')).out).toContain('Revenue, net');
    expect(await wm('statement', 'income', '--as-of', '2026-10', '--budget', 'Other')).toMatchObject({
      code: 1,
      error: expect.stringContaining('There are: Draft (FY2027), Plan (FY2027)'),
    });
  });
  it('prints the trial balance, to the cent', async () => {
    const answer = JSON.parse((await wm('trial-balance', '--as-of', '2026-10', '--format', 'json')).out) as { rows: object[] };
    expect(answer.rows).toContainEqual({
      account: '4000',
      name: 'Sales',
      opening: '0.00',
      debits: '0.00',
      credits: '700.00',
      change: '-700.00',
      closingDebit: '',
      closingCredit: '700.00',
    });
    expect(answer.rows.at(-1)).toMatchObject({ name: 'Total', closingDebit: '1400.00', closingCredit: '1400.00' });
    const compared = JSON.parse(
      (await wm('trial-balance', '--from', '2026-10', '--to', '2026-10', '--compare', 'budget', '--format', 'json')).out,
    ) as { rows: object[] };
    expect(compared.rows).toContainEqual(
      expect.objectContaining({ account: '4000', base: '-721.00', difference: '21.00', percent: '2.912621' }),
    );
    expect(await wm('trial-balance')).toMatchObject({ code: 2, error: expect.stringContaining('--range') });
    expect(await wm('trial-balance', '--range', 'soon')).toMatchObject({ code: 1, error: expect.stringContaining('not a date or range') });
  });
  it('asks what months not posted yet are taken from, and brings those there are to a year', async () => {
    const create = (name: string, ...more: string[]) =>
      wm('budget', 'create', '--year', '2028', '--from', '2027', '--name', name, '--format', 'json', ...more);
    const refused = await create('Silent');
    expect(refused).toMatchObject({ code: 1, out: '' });
    expect(refused.error).toContain('FY2027 has no actuals for 5 of its 12 months (2026-11, 2026-12, 2027-01, 2027-02, 2027-03)');
    expect(refused.error).toContain('--projected');
    expect(JSON.parse((await create('Brought to a year', '--annualize')).out)).toMatchObject({ revenue: '1200.00' });
    expect(JSON.parse((await create('As posted', '--unposted-as-zero')).out)).toMatchObject({ revenue: '700.00' });
    // FY2027 has the approved Plan: 103.00 in each month FY2026 has
    expect(JSON.parse((await create('As projected', '--projected')).out)).toMatchObject({ revenue: '700.00' });
  });
  it('writes figures in full to CSV, without a letter beside them, and to the decimals asked for in a table', async () => {
    const income = (...more: string[]) => wm('statement', 'income', '--as-of', '2026-10', ...more);
    const rows = papaparse.parse<string[]>((await income('--format', 'csv')).out, { skipEmptyLines: true }).data;
    const [head, revenue] = [rows[0]!, rows.find(([key]) => key === 'revenue')!];
    const at = head.indexOf('October 2026: Var. %');
    expect(revenue[at]).toBe('-2.912621');
    expect(revenue[head.indexOf('F/U')]).toBe('U');
    const figures = rows.slice(1).flatMap((row) => row.filter((_, column) => column > 1 && head[column] !== 'F/U'));
    expect(figures.filter((text) => !/^$|^-?\d+(\.\d+)?$/.test(text))).toEqual([]);
    expect((await income('--decimals', '3')).out).toContain('-2.913');
    expect((await income('--decimals', '3')).out).not.toMatch(/(?:^|\s)-0\.?0*(?:\s|$)/m);
    expect(await income('--decimals', 'two')).toMatchObject({
      code: 2,
      error: expect.stringContaining('whole number from 0 to 6') as unknown,
    });
  });
  it('leaves out formula lines that are zero, as the screen does', async () => {
    const { out } = await wm('statement', 'cash-flow', '--as-of', '2026-10', '--format', 'csv');
    expect(out).toContain('net_change_in_cash');
    expect(out).not.toContain('unexplained');
  });
  it('takes a negative percentage, a year to open, and what has no department', async () => {
    const made = await wm('budget', 'create', '--year', '2027', '--from', '2026', '--change', '-10%', '--name', 'Less', '--format', 'json');
    expect(JSON.parse(made.out)).toMatchObject({ revenue: '630.00' });
    expect(JSON.parse((await wm('years', 'open', '--year', '2029', '--format', 'json')).out)).toMatchObject({
      years: [2026, 2027, 2028, 2029],
    });
    expect(await wm('years', 'open', '--year', '2040')).toMatchObject({
      code: 1,
      error: expect.stringContaining('follow one another') as unknown,
    });
    const split = join(folder, 'split.csv');
    writeFileSync(
      split,
      'entry,date,account,amount,department\n1,2026-05-01,1000,30.00,\n1,2026-05-01,4000,-10.00,Shop\n1,2026-05-01,4000,-20.00,\n',
    );
    await wm('import', '--accounts', accounts, '--ledger', split, '--company', 'Split', '--currency', 'USD', '--year-starts', '4');
    const of = async (department: string) =>
      (await wm('statement', 'income', '--as-of', '2026-05', '--company', 'Split', '--department', department, '--format', 'json')).out;
    const revenue = (text: string) =>
      (JSON.parse(text) as { lines: { key: string; cells: Record<string, { value: string }> }[] }).lines.find(
        ({ key }) => key === 'revenue',
      )!.cells['month.actual']!.value;
    expect([revenue(await of('Shop')), revenue(await of('none'))]).toEqual(['10.00', '20.00']);
  });
});

describe('entries', () => {
  it('are listed by account, month and text, and reclassified after a preview', async () => {
    const list = async (...args: string[]) =>
      papaparse.parse<Record<string, string>>((await wm('entries', '--company', 'Split', ...args, '--format', 'csv')).out, {
        header: true,
        skipEmptyLines: true,
      }).data;
    expect((await list('--accounts', '4000')).map(({ credit, department }) => [credit, department])).toEqual([
      ['10.00', 'Shop'],
      ['20.00', ''],
    ]);
    expect(await list('--least', '25')).toHaveLength(1);
    const move = ['reclassify', '--company', 'Split', '--accounts', '4000', '--department', 'none', '--to-department', 'Shop'];
    const preview = await wm(...move);
    expect([preview.code, preview.out]).toEqual([0, expect.stringContaining('Preview, nothing was changed: 1 line')]);
    expect(await wm(...move, '--apply')).toMatchObject({ code: 1, error: expect.stringContaining('reason') });
    expect((await list('--accounts', '4000')).map(({ department }) => department)).toEqual(['Shop', '']);
    expect((await wm(...move, '--apply', '--reason', 'Sold in the shop')).code).toBe(0);
    expect((await list('--accounts', '4000')).map(({ department }) => department)).toEqual(['Shop', 'Shop']);
    expect(await wm('entries', '--company', 'Split', '--least', 'much')).toMatchObject({ code: 2 });
    expect(await wm('reclassify', '--company', 'Split', '--find', 'nothing like it', '--to-account', '6000')).toMatchObject({ code: 2 });
  });
});

describe('reports, corrections and periods', () => {
  const split = (...args: string[]) => wm(...args, '--company', 'Split');
  const csv = async (...args: string[]) =>
    papaparse.parse<Record<string, string>>((await split(...args, '--format', 'csv')).out, { header: true, skipEmptyLines: true }).data;

  it('account detail, journals, activity and aging are printed', async () => {
    expect(
      (await csv('account-detail', '--range', '2026-05', '--accounts', '4000')).map(({ Memo, Credit, Balance }) => [Memo, Credit, Balance]),
    ).toEqual([
      ['Opening balance', '', '0.00'],
      ['', '10.00', '-10.00'],
      ['', '20.00', '-30.00'],
      ['Closing balance', '30.00', '-30.00'],
      ['Total', '30.00', ''],
    ]);
    expect((await csv('journals', '--range', 'May 2026')).map(({ Journal, Entries, Debits }) => [Journal, Entries, Debits])).toEqual([
      ['No journal', '1', '30.00'],
      ['Total', '1', '30.00'],
    ]);
    expect((await csv('activity', '--kind', 'customers', '--range', 'May 2026'))[0]).toMatchObject({
      Customer: 'No customer',
      'May 2026': '30.00',
    });
    expect(await split('activity', '--kind', 'friends', '--range', 'May 2026')).toMatchObject({ code: 2 });
    const aging = await split('aging', '--kind', 'receivables', '--as-of', '2026-11-09', '--by', 'due', '--days', '30', '--format', 'csv');
    expect(aging).toMatchObject({
      code: 0,
      out: expect.stringMatching(/^Customer,Not yet due,1 to 30,31 to 60,61 to 90,Over 90,Unapplied,Total/),
    });
    expect(await split('aging', '--as-of', 'someday')).toMatchObject({ code: 1, error: expect.stringContaining('not a date') });
  });
  it('periods close and open, and a correction in a closed one names the way', async () => {
    expect(await split('periods', 'close', '--period', '2026-05')).toMatchObject({
      code: 0,
      out: expect.stringMatching(/May 2026 .* closed/),
    });
    const date = ['correct', '--entry', '1', '--line', '2', '--to-account', '6000'];
    expect(await split(...date)).toMatchObject({
      code: 1,
      error: expect.stringContaining('May 2026 is closed. Post a correcting entry with --post-in 2026-06-01'),
    });
    expect(await split(...date, '--apply', '--reason', 'Wrong account')).toMatchObject({
      code: 1,
      error: expect.stringContaining('May 2026 is closed'),
    });
    expect(await split(...date, '--post-in', '2026-06-01', '--apply', '--reason', 'Wrong account')).toMatchObject({ code: 0 });
    expect((await csv('entries', '--from', '2026-06')).map(({ account, debit, credit }) => [account, debit, credit])).toEqual([
      ['4000', '10.00', ''],
      ['6000', '', '10.00'],
    ]);
    expect(await split('periods', 'open', '--period', '2026-05')).toMatchObject({ code: 1, error: expect.stringContaining('reason') });
    expect(await split('periods', 'open', '--period', 'FY2027-2', '--reason', 'Late sale')).toMatchObject({ code: 0 });
    expect(await split('periods', 'close', '--period', 'May')).toMatchObject({ code: 2 });
    expect(await split('correct', '--entry', 'none', '--date', '2026-05-02')).toMatchObject({ code: 1 });
    expect(await split('correct', '--entry', '1')).toMatchObject({ code: 2 });
    expect(await split('correct', '--entry', '1', '--date', '2026-05-02', '--apply', '--reason', 'Posted a day late')).toMatchObject({
      code: 0,
    });
    expect((await csv('entries', '--to', '2026-05'))[0]!.date).toBe('2026-05-02');
  });
});

describe('reconcile', () => {
  it('imports a statement, clears what is proven, and succeeds when the ledger agrees with the bank', async () => {
    const statement = join(folder, 'bank.csv');
    // the company of this file: 100.00 into cash on the second of each month
    writeFileSync(
      statement,
      'Date,Description,Amount,Balance\n2026-09-02,DEPOSIT 20269,100.00,1300.00\n2026-10-03,DEPOSIT 202610,100.00,1400.00\n2026-10-30,FEE,-5.00,1395.00\n',
    );
    const open = await wm('reconcile', '--file', statement, '--apply');
    expect(open).toMatchObject({ code: 1, error: expect.stringContaining('Not in the ledger: 2026-10-30 FEE: -5.00') as unknown });
    expect(open.error).not.toContain('DEPOSIT');
    const before = await wm('reconcile', '--as-of', '2026-10-29', '--format', 'csv');
    expect([before.code, before.out]).toEqual([0, expect.stringContaining('Adjusted bank balance,,1400.00')]);
    expect(await wm('reconcile', '--file', statement)).toMatchObject({
      code: 1,
      error: expect.stringContaining('was imported on') as unknown,
    });
    expect(await wm('reconcile', '--as-of', '2027-01-31')).toMatchObject({
      code: 2,
      error: expect.stringContaining('no statement of 1000 reaches') as unknown,
    });
  });
});

describe('search', () => {
  it('names what a text can mean, each with its address', async () => {
    const { out } = await wm('search', '--find', 'trial balance', '--format', 'csv');
    expect(out).toContain('page,Trial balance,,,ledger/reports/trial-balance');
    const entries = await wm('search', '--find', '>0', '--format', 'json');
    expect((JSON.parse(entries.out) as { hits: { kind: string }[] }).hits.map(({ kind }) => kind)).toContain('entry');
  });
  it('needs something to search for', async () =>
    expect(await wm('search')).toMatchObject({ code: 2, error: expect.stringContaining('search needs --find') as unknown }));
});

describe('findings', () => {
  it('are listed against the prior year with the sentence of each, and one is explained by its entries', async () => {
    const listed = await wm('findings', '--compare', 'prior-year', '--as-of', '2026-10', '--format', 'json');
    expect([listed.code, listed.error]).toEqual([0, '']);
    expect(JSON.parse(listed.out)).toMatchObject({ asOf: '2026-10', findings: expect.any(Array) as unknown });
    const explained = await wm(
      'explain',
      '--line',
      'revenue',
      '--compare',
      'prior-year',
      '--as-of',
      '2026-10',
      '--by',
      'entry',
      '--format',
      'csv',
    );
    const total = papaparse.parse<string[]>(explained.out.trim()).data.at(-1)!;
    expect([explained.code, total[0]]).toEqual([0, 'total']);
  });
  it('say what is wrong with what is asked', async () => {
    expect(await wm('findings', '--compare', 'last-year')).toMatchObject({
      code: 2,
      error: expect.stringContaining('--compare is budget, prior-year'),
    });
    expect(await wm('explain')).toMatchObject({ code: 2, error: expect.stringContaining('explain needs --line') });
    expect(await wm('explain', '--line', 'nothing')).toMatchObject({ code: 1, error: expect.stringContaining('line nothing') });
    expect(await wm('explain', '--line', 'revenue', '--compare', 'prior-year', '--by', 'color')).toMatchObject({
      code: 2,
      error: expect.stringContaining('--by is one of'),
    });
  });
  it('and postings that deserve a look, with rank, entry, account, party, amount and reason', async () => {
    const { code, out } = await wm('postings', 'check', '--format', 'csv');
    expect([code, out.split(/\r?\n/)[0]]).toEqual([0, 'rank,entry,account,party,amount,reason']);
  });
});

describe('the audit trail', () => {
  it('is listed oldest first, and verified: exit code 1 and the event named where a row was changed', async () => {
    const listed = await wm('audit', 'list', '--area', 'ledger', '--format', 'csv');
    expect(listed.code).toBe(0);
    expect(papaparse.parse<Record<string, string>>(listed.out, { header: true }).data[0]).toMatchObject({ change: 'Import 2 posted' });
    expect(await wm('audit', 'list', '--area', 'elsewhere')).toMatchObject({ code: 1, error: expect.stringContaining('area') });
    expect(await wm('audit', 'verify')).toMatchObject({ code: 0, error: '' });
    const database = new sqlite3.Database(join(folder, 'data', 'wise-margin.sqlite'));
    await new Promise((resolve) =>
      database.exec(`DROP TRIGGER audit_events_no_update; UPDATE audit_events SET at = '2020-01-01' WHERE id = 1`, () =>
        database.close(resolve),
      ),
    );
    const verified = await wm('audit', 'verify');
    expect(verified.code).toBe(1);
    expect(verified.error).toMatch(/The audit trail was tampered with\.\nEvent 1 was changed: .* 2020-01-01\./);
  });
});
