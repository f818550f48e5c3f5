import { fireEvent, waitFor, within } from '@testing-library/react';
import type { BalancePlanDto, BudgetDto, ImportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';

// The page of a plan's cash as it is drawn, against the real server: every kind of rule is filled in and its effect seen.

const ACCOUNTS = [
  'account,name,class,active',
  '1000,Cash,cash,yes',
  '1100,Customers,receivables,yes',
  '1500,Machines,fixedAssets,yes',
  '1590,Wear of machines,accumulatedDepreciation,yes',
  '2400,Bank loan,longTermDebt,yes',
  '3000,Capital,capital,yes',
  '4000,Sales,revenue,yes',
  '6000,Wages,operatingExpenses,yes',
  '6800,Depreciation,depreciation,yes',
  '',
].join('\n');
/** 2025: sales of 3,000 and wages of 1,000 a month in cash, machines of 12,000 worn by 100 a month, 24,000 owed to the bank. */
const LEDGER = (() => {
  const entry = (id: string, date: string, lines: readonly (readonly [account: string, amount: number])[]): string[] =>
    lines.map(([account, amount]) => `${id},${date},${account},${amount > 0 ? amount : ''},${amount < 0 ? -amount : ''}`);
  const months = Array.from({ length: 12 }, (_, month) => `2025-${String(month + 1).padStart(2, '0')}-20`);
  const opening = [
    ['1000', 42_000],
    ['1500', 12_000],
    ['2400', -24_000],
    ['3000', -30_000],
  ] as const;
  return [
    'entry,date,account,debit,credit',
    ...entry('O', '2025-01-01', opening),
    ...months.flatMap((date, month) => [
      ...entry(`S${month}`, date, [
        ['1000', 3000],
        ['4000', -3000],
      ]),
      ...entry(`W${month}`, date, [
        ['6000', 1000],
        ['1000', -1000],
      ]),
      ...entry(`D${month}`, date, [
        ['6800', 100],
        ['1590', -100],
      ]),
    ]),
    '',
  ].join('\n');
})();

let server: TestServer;
let company: number;
let made = 0;
beforeAll(async () => {
  server = await startTestServer();
  const checked = await server.upload({ name: 'Machine Shop', currency: 'USD', startMonth: '1' }, { accounts: ACCOUNTS, ledger: LEDGER });
  company = ((await server.send('POST', `/imports/${checked.id}/post`, {})).body as ImportDto).companyId!;
});
afterAll(() => server.close());

/** Opens the cash of a new budget of 2026, which repeats 2025, at an account. */
async function openAt(account: string) {
  made += 1;
  const { id } = (await server.send('POST', `/companies/${company}/budgets`, { name: `Plan ${made}`, year: 2026, from: 2025 }))
    .body as BudgetDto;
  const page = openPage(server, `/c/${company}/budgets/${id}/balance-plan?account=${account}`);
  const panel = within(await page.findByRole('complementary', { name: new RegExp(`^${account} `) }));
  const figures = () => page.getByLabelText('Cash for the year').textContent;
  const write = (label: string, value: string) => fireEvent.change(panel.getByLabelText(label), { target: { value } });
  const set = () => fireEvent.click(panel.getByRole('button', { name: 'Apply' }));
  const stored = () => server.get<BalancePlanDto>(`/companies/${company}/budgets/${id}/balance-plan`);
  return { page, panel, figures, write, set, stored };
}

describe('cash of a plan', () => {
  it('opens where the ledger ends, and grows by what is earned in cash', async () => {
    // 42,000 and twelve months of 2,000; depreciation takes none
    const { figures } = await openAt('1100');
    expect(figures()).toContain('Opening cash66,000');
    expect(figures()).toContain('Closing cash90,000');
    expect(figures()).toContain('Change for the year24,000');
  });
  it('waits for customers who pay in thirty-one days: January’s sales come in in February', async () => {
    const { figures, write, set, page } = await openAt('1100');
    write('Balance method', 'daysOf');
    write('Days of', 'revenue');
    write('Number of days', 'same');
    write('Days', 'a month');
    expect(page.getByRole('alert').textContent).toBe('Days: “a month” is not a number of days. Enter days such as 45 or 32.5.');
    write('Days', '31');
    set();
    await waitFor(() => expect(figures()).toContain('Closing cash87,000'));
    expect(page.queryByText(/Planned days at month end: Jan 31, Feb 31/)).not.toBeNull();
  });
  it('pays for what is bought in its month, and says that it is below zero', async () => {
    const { page, figures, write, set, panel } = await openAt('1500');
    write('Balance method', 'purchases');
    fireEvent.click(panel.queryByRole('button', { name: /Purchase/ }) ?? panel.getByLabelText('Balance method'));
    write('Description, purchase 1', 'Press');
    write('Amount, purchase 1', '100k');
    write('Paid in, purchase 1', '2');
    set();
    // 66,000 and three months of 2,000 less 100,000
    await waitFor(() => expect(figures()).toContain('Low point(28,000)'));
    expect(figures()).toContain('below zero: additional funding is needed');
    fireEvent.click(await page.findByRole('button', { name: 'Reset to history' }));
    await waitFor(() => expect(figures()).toContain('Closing cash90,000'));
  });
  it('pays a loan back in level parts, and shows its schedule', async () => {
    const { page, figures, write, set } = await openAt('2400');
    write('Balance method', 'loan');
    write('Repayment', 'straight');
    write('Annual rate', '6');
    write('Remaining payments', '24');
    set();
    await waitFor(() => expect(figures()).toContain('Closing cash78,000'));
    const schedule = within(await page.findByRole('region', { name: 'Schedule' }));
    // half a percent of 24,000, then of 23,000
    expect(schedule.getByRole('row', { name: /^Jan/ }).textContent).toBe('Jan120.001,000.0023,000.00');
    expect(schedule.getByRole('row', { name: /^Feb/ }).textContent).toBe('Feb115.001,000.0022,000.00');
    expect(schedule.getByRole('row', { name: /^Dec/ }).textContent).toBe('Dec65.001,000.0012,000.00');
  });
  it('moves a balance by typed amounts, by month, and refuses what is none', async () => {
    const { figures, write, set, page, stored } = await openAt('3000');
    write('Balance method', 'movements');
    write('Net change, Jun', 'x');
    expect(page.getByRole('alert').textContent).toContain('Jun: “x” is not an amount.');
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Apply' }).disabled).toBe(true);
    write('Net change, Jun', '5000');
    write('Net change, Jul', '-1500.50');
    set();
    await waitFor(() => expect(figures()).toContain('Closing cash93,500'));
    const { accounts } = await stored();
    expect(accounts.find(({ account }) => account === '3000')).toMatchObject({ isSet: true });
  });
  it('takes a rule back and makes it again, and shows the balance sheet that follows', async () => {
    const { page, figures, write, set } = await openAt('3000');
    write('Balance method', 'movements');
    write('Net change, Jan', '700');
    set();
    await waitFor(() => expect(figures()).toContain('Closing cash90,700'));
    fireEvent.click(page.getByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(figures()).toContain('Closing cash90,000'));
    fireEvent.click(page.getByRole('button', { name: 'Redo' }));
    await waitFor(() => expect(figures()).toContain('Closing cash90,700'));
    fireEvent.change(page.getByLabelText('Show'), { target: { value: 'balance' } });
    const sheet = within(await page.findByRole('region', { name: 'Balance sheet' }));
    const row = (name: RegExp) => sheet.getByRole('row', { name }).textContent!;
    // 90,700 and machines of 12,000 less 2,400 worn; owed 24,000, put in 30,700, earned 22,800 and 22,800
    expect(row(/^Total assets/)).toMatch(/100,300$/);
    expect(row(/^Total liabilities and equity/)).toMatch(/100,300$/);
  });
});
