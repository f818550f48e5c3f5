import {
  type CompanyGroupDto,
  companyGroupSchema,
  type EntryListDto,
  type ExchangeRatesDto,
  type FigureGroupsDto,
  type GridDto,
  type Problem,
} from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';
import { ACCOUNTS, HEADER, NEW_COMPANY, row } from './support/small-ledger.ts';

let server: TestServer;
let euro: number;
const TERN = 1;
const GANNET = 2;
const group = (change: Partial<Record<string, unknown>> = {}) => ({
  name: 'Both companies',
  currency: 'USD',
  lead: TERN,
  members: [
    { company: TERN, intercompany: [] },
    { company: GANNET, intercompany: [] },
  ],
  ...change,
});
const create = async (change: Partial<Record<string, unknown>> = {}): Promise<CompanyGroupDto> => {
  const { status, body } = await server.send('POST', '/company-groups', group(change));
  if (status !== 201) throw new Error(JSON.stringify(body));
  return companyGroupSchema.parse(body);
};
const refused = async (change: Partial<Record<string, unknown>>): Promise<string> => {
  const { status, body } = await server.send('POST', '/company-groups', group(change));
  expect(status).toBe(422);
  return (body as Problem).detail;
};
/** Amounts of a line by column heading of its block; what has no figure by its reason. */
const figures = (grid: GridDto, line: string): Record<string, unknown> => {
  const index = grid.lines.findIndex(({ key }) => key === line);
  return Object.fromEntries(
    grid.columns.map((column, at) => {
      const cell = grid.cells[index]![at]!;
      const { heading } = grid.blocks[column.block]!;
      return [heading, 'value' in cell ? cell.value : cell.reason];
    }),
  );
};

beforeAll(async () => {
  server = await demoServer();
  const sales = [
    row('1', '2026-04-10', '1000', '100.00', '', 'Sale', 'North'),
    row('1', '2026-04-10', '4000', '', '100.00', 'Sale', 'North'),
    row('2', '2026-05-10', '1000', '50.00', '', 'Sale', 'North'),
    row('2', '2026-05-10', '4000', '', '50.00', 'Sale', 'North'),
  ];
  const checked = await server.upload(
    { ...NEW_COMPANY, name: 'Salt Trade', currency: 'EUR' },
    { accounts: ACCOUNTS, ledger: [HEADER, ...sales, ''].join('\n') },
  );
  euro = ((await server.send('POST', `/imports/${checked.id}/post`, {})).body as { companyId: number }).companyId;
});
afterAll(() => server.close());

describe('a combined statement', () => {
  it('sets the companies beside one another over the same calendar months, each as its own statement has it', async () => {
    const { id } = await create();
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-10&span=yearToDate`);
    const own = async (company: number, asOf: string) => {
      const statement = await server.statement(`/companies/${company}/statements/income?asOf=${asOf}`);
      const column = statement.columns.findIndex(({ key }) => key === 'ytd.actual');
      const cell = statement.cells[statement.lines.findIndex(({ key }) => key === 'operating_income')]![column]!;
      return 'value' in cell ? cell.value : NaN;
    };
    const tern = await own(TERN, '2026-10');
    // the calendar year of the second company to October, less its first quarter
    const gannet = (await own(GANNET, '2026-10')) - (await own(GANNET, '2026-03'));
    expect(tern).not.toBe(0);
    expect(gannet).not.toBe(0);
    expect(figures(grid, 'operating_income')).toEqual({ 'Tern Island': tern, 'Gannet Rock': gannet, Combined: tern + gannet });
  });

  it('balances, and has the columns of the view on the combined figures', async () => {
    const [{ id }] = (await server.get<CompanyGroupDto[]>('/company-groups')) as [CompanyGroupDto];
    const balance = await server.statement(`/company-groups/${id}/statements/balance?asOf=2026-10`);
    expect(figures(balance, 'total_assets')).toEqual(figures(balance, 'liabilities_and_equity'));
    const view = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-10&columns=view`);
    expect(view.columns.map(({ key }) => key)).toContain('ytd.actual');
    const cash = await server.statement(`/company-groups/${id}/statements/cash-flow?asOf=2026-10`);
    expect(figures(cash, 'unexplained')).toEqual({ 'Tern Island': 0, 'Gannet Rock': 0, Combined: 0 });
  });

  it('lays a combined figure out by company and by account', async () => {
    const [{ id }] = (await server.get<CompanyGroupDto[]>('/company-groups')) as [CompanyGroupDto];
    const at = `/company-groups/${id}/statements/income/figure-groups?asOf=2026-10&line=operating_income&column=companies.total.amount`;
    const byCompany = await server.get<FigureGroupsDto>(`${at}&by=company`);
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-10`);
    expect(Object.fromEntries(byCompany.rows.map(({ name, amount }) => [name, amount]))).toEqual({
      'Tern Island': figures(grid, 'operating_income')['Tern Island'],
      'Gannet Rock': figures(grid, 'operating_income')['Gannet Rock'],
    });
    const byAccount = await server.get<FigureGroupsDto>(`${at}&by=account`);
    expect(byAccount.rows.length).toBeGreaterThan(10);
  });

  it('leads from the row of one company to its entries, by its own account numbers, and they add up to it', async () => {
    const { id } = await create({ name: 'Led to entries' });
    const at = `/company-groups/${id}/statements/income/figure-groups?asOf=2026-10&line=revenue`;
    const { rows } = await server.get<FigureGroupsDto>(`${at}&column=companies.total.amount&by=company`);
    expect(rows.map(({ entries }) => entries?.company)).toEqual([TERN, GANNET]);
    for (const { amount, entries } of rows) {
      const { company, accounts, from, to } = entries!;
      expect([from, to]).toEqual(['2026-04', '2026-10']);
      const found = await server.get<EntryListDto>(
        `/companies/${company}/entries?${new URLSearchParams({ accounts, from, to }).toString()}`,
      );
      expect(found.totals.credits - found.totals.debits).toBe(amount);
    }
    // of several companies at once there is no one list of entries
    const byAccount = await server.get<FigureGroupsDto>(`${at}&column=companies.total.amount&by=account`);
    expect(byAccount.rows.every(({ entries }) => entries === null)).toBe(true);
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-10`);
    const own = grid.columns.find(({ block }) => grid.blocks[block]!.heading === 'Gannet Rock')!;
    const ofOne = await server.get<FigureGroupsDto>(`${at}&column=${own.key}&by=account`);
    expect(ofOne.rows.length).toBeGreaterThan(1);
    for (const { entries } of ofOne.rows) expect(entries!.company).toBe(GANNET);
    expect((await server.send('DELETE', `/company-groups/${id}`)).status).toBe(204);
  });

  it('leaves intercompany accounts out and says what they do not agree on', async () => {
    const { id } = await create({
      name: 'Without lending',
      members: [
        { company: TERN, intercompany: ['4010'] },
        { company: GANNET, intercompany: [] },
      ],
    });
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-10`);
    const revenue = figures(grid, 'revenue');
    expect(revenue['Intercompany']).toBeLessThan(0);
    expect(revenue['Combined']).toBe(
      (revenue['Tern Island'] as number) + (revenue['Gannet Rock'] as number) + (revenue['Intercompany'] as number),
    );
    // an account that is left out of the total is among the entries of its company all the same
    const at = `/company-groups/${id}/statements/income/figure-groups?asOf=2026-10&line=revenue&column=companies.total.amount&by=company`;
    const { rows } = await server.get<FigureGroupsDto>(at);
    const entriesOf = (name: string) => rows.find((row) => row.name === name)!.entries;
    expect(entriesOf('Tern Island')!.accounts.split(', ')).toContain('4010');
    expect(entriesOf('Intercompany')).toBeNull();
    expect(grid.issues[0]).toMatchObject({
      place: 'Intercompany accounts',
      message: expect.stringMatching(/do not agree: \$[\d,.]+ is left/),
    });
    const balance = await server.statement(`/company-groups/${id}/statements/balance?asOf=2026-10`);
    expect(figures(balance, 'total_assets')).toEqual(figures(balance, 'liabilities_and_equity'));
  });

  it('is blank where a company is not posted yet, and says so', async () => {
    const [{ id }] = (await server.get<CompanyGroupDto[]>('/company-groups')) as [CompanyGroupDto];
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-12&span=month`);
    expect(figures(grid, 'operating_income')['Combined']).toBe('notYetPosted');
    expect(grid.issues.map(({ place }) => place)).toEqual(expect.arrayContaining(['Tern Island', 'Gannet Rock']));
  });

  it('by a dimension that one company lacks still adds up: its amounts have no value of it', async () => {
    const [{ id }] = (await server.get<CompanyGroupDto[]>('/company-groups')) as [CompanyGroupDto];
    const grid = await server.statement(`/company-groups/${id}/statements/departments?asOf=2026-10&columns=view`);
    const row = grid.cells[grid.lines.findIndex(({ key }) => key === 'revenue')]!;
    const actual = (isTotal: boolean) =>
      grid.columns.flatMap(({ key, block }, at) => {
        const cell = row[at]!;
        return key.endsWith('.actual') && grid.blocks[block]!.isTotal === isTotal && cell.kind === 'amount' ? [cell.value] : [];
      });
    expect(grid.blocks.map(({ heading }) => heading)).toContain('No department');
    expect(actual(false).reduce((sum, value) => sum + value, 0)).toBe(actual(true)[0]);
  });

  it('is written as each kind of file, with the figures of the grid', async () => {
    const [{ id }] = (await server.get<CompanyGroupDto[]>('/company-groups')) as [CompanyGroupDto];
    const at = `${server.base}/company-groups/${id}/statements/income/export`;
    const csv = await (await fetch(`${at}.csv?asOf=2026-10`)).text();
    expect(csv).toContain('Tern Island');
    expect(csv).toContain('Combined');
    for (const extension of ['pdf', 'xlsx', 'docx']) {
      const file = await fetch(`${at}.${extension}?asOf=2026-10`);
      expect(file.status).toBe(200);
      expect((await file.arrayBuffer()).byteLength).toBeGreaterThan(2000);
    }
  });
});

describe('another currency', () => {
  it('asks for rates by month, and translates flows at the average and balances at the closing rate', async () => {
    const { id } = await create({
      name: 'With euros',
      members: [
        { company: TERN, intercompany: [] },
        { company: euro, intercompany: [] },
      ],
    });
    const at = `/company-groups/${id}/statements`;
    const missing = (await server.send('GET', `${at}/income?asOf=2026-05`)) as { status: number; body: Problem };
    expect(missing.status).toBe(422);
    expect(missing.body.detail).toBe(
      'Exchange rates are missing: EUR to USD for 2026-04, 2026-05 (Salt Trade). Add average and closing rates for these months.',
    );
    const wrong = await server.send('PUT', '/exchange-rates/EUR/USD', { text: '2026-04\t1.1\t1.2\n2026-05\tone\t1.25' });
    expect(wrong.status).toBe(422);
    expect((wrong.body as Problem).detail).toBe(
      'Row 2: "one" is not a rate. Enter the average rate as a decimal above zero, such as 1.0842.',
    );
    expect((await server.get<ExchangeRatesDto>('/exchange-rates/EUR/USD')).rates).toEqual([]);
    for (const [pair, detail] of [
      ['euro/USD', '"euro" is not a currency code such as USD.'],
      ['USD/USD', 'Choose two different currencies.'],
    ] as const)
      expect(((await server.send('PUT', `/exchange-rates/${pair}`, { text: '' })).body as Problem).detail).toBe(detail);
    const { status } = await server.send('PUT', '/exchange-rates/EUR/USD', { text: '2026-04\t1.1\t1.2\n2026-05\t1.3\t1.25' });
    expect(status).toBe(200);
    // worked by hand: 100.00 at 1.10 and 50.00 at 1.30; 150.00 of cash at 1.25
    const income = await server.statement(`${at}/income?asOf=2026-05`);
    expect(figures(income, 'operating_income')['Salt Trade']).toBe(17_500);
    const balance = await server.statement(`${at}/balance?asOf=2026-05`);
    expect(figures(balance, 'total_assets')['Salt Trade']).toBe(18_750);
    expect(figures(balance, 'liabilities_and_equity')['Salt Trade']).toBe(18_750);
    const translation = balance.lines.find(({ name }) => name === 'Translation difference')!;
    expect(figures(balance, translation.key)['Salt Trade']).toBe(1_250);
    const cash = await server.statement(`${at}/cash-flow?asOf=2026-05`);
    // cash of 187.50 less 175.00 of flows: the effect of exchange rates
    expect(figures(cash, 'unexplained')['Salt Trade']).toBe(1_250);
    expect(cash.lines.find(({ key }) => key === 'unexplained')!.name).toBe('Effect of exchange rates on cash');
  });

  it('asks for a rate for the budget of a company in another currency that has no postings left', async () => {
    const ledger = [
      HEADER,
      ...['01', '12'].flatMap((month) => [
        row(month, `2025-${month}-10`, '1000', '100.00', '', 'Sale', 'North'),
        row(month, `2025-${month}-10`, '4000', '', '100.00', 'Sale', 'North'),
      ]),
      '',
    ].join('\n');
    const checked = await server.upload({ ...NEW_COMPANY, name: 'Begun anew', currency: 'CAD' }, { accounts: ACCOUNTS, ledger });
    const company = ((await server.send('POST', `/imports/${checked.id}/post`, {})).body as { companyId: number }).companyId;
    const budget = await server.send('POST', `/companies/${company}/budgets`, { name: 'Plan', year: 2026, from: 2025 });
    expect(budget.status).toBe(201);
    const { id: budgetId } = budget.body as { id: number };
    expect((await server.send('POST', `/companies/${company}/budgets/${budgetId}/state`, { state: 'approved', anyway: true })).status).toBe(
      200,
    );
    expect((await server.send('POST', `/imports/${checked.id}/reverse`, {})).status).toBe(200);
    const { id } = await create({
      name: 'With dollars of Canada',
      members: [
        { company: TERN, intercompany: [] },
        { company, intercompany: [] },
      ],
    });
    const missing = await server.send('GET', `/company-groups/${id}/statements/income?asOf=2026-05`);
    expect([missing.status, (missing.body as Problem).detail]).toEqual([
      422,
      'Exchange rates are missing: CAD to USD for the budget (Begun anew). Add average and closing rates for these months.',
    ]);
    await server.send('PUT', '/exchange-rates/CAD/USD', { text: '2026-04\t0.7\t0.72' });
    const grid = await server.statement(`/company-groups/${id}/statements/income?asOf=2026-05`);
    expect(figures(grid, 'revenue')['Begun anew']).toBe('notYetPosted');
    expect((await server.send('DELETE', `/company-groups/${id}`)).status).toBe(204);
  });
});

describe('a company group', () => {
  it('refuses what it cannot be made of', async () => {
    const member = (company: number, ...intercompany: string[]) => ({ company, intercompany });
    expect(await refused({ name: 'X', members: [member(TERN), member(TERN)] })).toBe('Tern Island is in the group twice. Keep it once.');
    expect(await refused({ name: 'X', members: [member(TERN, '9'), member(GANNET)] })).toBe(
      'Tern Island has no account 9. Enter account numbers of Tern Island.',
    );
    expect(await refused({ name: 'X', lead: euro })).toBe('The leading company is not in the group. Choose one of its companies.');
    expect(await refused({})).toBe('There is a group named Both companies already. Give this one another name.');
    expect((await server.send('POST', '/company-groups', group({ name: 'X', members: [member(TERN)] }))).status).toBe(422);
  });

  it('is changed by version, and deleted without its companies', async () => {
    const made = await create({ name: 'Short lived' });
    const change = { ...group({ name: 'Renamed', lead: GANNET }), version: made.version };
    expect((await server.send('PUT', `/company-groups/${made.id}`, change)).body).toMatchObject({
      name: 'Renamed',
      lead: GANNET,
      version: 2,
    });
    expect((await server.send('PUT', `/company-groups/${made.id}`, change)).status).toBe(409);
    expect((await server.send('DELETE', `/company-groups/${made.id}`)).status).toBe(204);
    expect((await server.send('GET', `/company-groups/${made.id}`)).status).toBe(404);
    expect((await server.get<unknown[]>('/companies')).length).toBe(4);
    // groups and rates are on record in the audit trail of every company
    for (const company of [TERN, GANNET]) {
      const { events } = await server.get<{ events: { words: string }[] }>(`/companies/${company}/audit?limit=50`);
      const words = events.map((event) => event.words);
      expect(words.slice(0, 3)).toEqual([
        'Company group Renamed deleted',
        'Company group Renamed changed',
        'Company group Short lived created',
      ]);
      expect(words).toContain('Exchange rates EUR to USD changed');
    }
  });
});
