import { fireEvent, waitFor, within } from '@testing-library/react';
import type { BudgetHistoryDto, CheckListDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { budgetMaker } from './support/new-budget.ts';
import { failed, openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

// What stands beside the month grid, and the pages around it, against the real server.

let server: TestServer;
let company: number;
beforeAll(async () => {
  server = await startTestServer();
  company = await loadSmallCompany(server);
});
afterAll(() => server.close());
const newBudget = budgetMaker(
  () => server,
  () => company,
);
const edit = (api: string, account: string, text: string, department: string) =>
  server.send('POST', `${api}/edits`, {
    edits: [{ kind: 'year', account, text, spread: 'even' }],
    filter: { department: [department] },
  });

describe('the budget checks', () => {
  it('says that there is nothing to say', async () => {
    const page = openPage(server, `${(await newBudget()).address}?panel=checks`);
    const panel = within(await page.findByRole('complementary', { name: 'Budget checks' }));
    expect((await panel.findByText(/Every line is in line with prior years/)).textContent).toBeTruthy();
  });
  it('leads to its line, takes an explanation, changes it and removes it', async () => {
    const { api, address } = await newBudget();
    await edit(api, '6000', '6000', 'South');
    const page = openPage(server, `${address}?panel=checks`);
    const panel = within(await page.findByRole('complementary', { name: 'Budget checks' }));
    const link = (await panel.findAllByRole('button', { name: '6000 Wages' }))[0]!;
    expect(panel.queryByText('6,000 is 66.7% above FY2025, 3,600.')).not.toBeNull();
    fireEvent.click(panel.getAllByRole('button', { name: 'Explain' })[0]!);
    fireEvent.change(await panel.findByLabelText('Explanation for 6000 Wages'), { target: { value: 'Two more people' } });
    fireEvent.click(panel.getByRole('button', { name: 'Save' }));
    await panel.findByText('Explained by Tester: Two more people');
    const { items } = await server.get<CheckListDto>(`${api}/checks`);
    expect(items[0]!.answer).toMatchObject({ text: 'Two more people', actor: 'Tester' });
    fireEvent.click(panel.getByRole('button', { name: 'Remove explanation' }));
    await waitFor(() => expect(panel.queryByText(/Explained by/)).toBeNull());
    fireEvent.click(link);
    await waitFor(() => expect(page.address()).toContain('row=6000'));
  });
  it('says what failed', async () => {
    const page = openPage(server, `${(await newBudget()).address}?panel=checks`, (_, path) =>
      path.endsWith('/checks') ? failed(500, 'The list could not be made.') : undefined,
    );
    await page.findByText('The list could not be made.');
  });
});

describe('the history', () => {
  it('tells who made what of which figure, of the budget or of one line', async () => {
    const { api, address } = await newBudget();
    await edit(api, '6000', '4800', 'South');
    await edit(api, '4000', '12000', 'North');
    await server.send('POST', `${api}/state`, { state: 'inReview' });
    const page = openPage(server, `${address}?panel=history&row=6000`);
    const panel = within(await page.findByRole('complementary', { name: 'History' }));
    await panel.findByText('Submitted for review');
    expect(panel.queryByText('Created from FY2025')).not.toBeNull();
    expect(panel.queryByText('Annual total of 4000 Sales: 12000')).not.toBeNull();
    fireEvent.click(panel.getByLabelText('Only line 6000'));
    await waitFor(() => expect(panel.queryByText('Submitted for review')).toBeNull());
    await panel.findByText('Annual total of 6000 Wages: 4800');
    expect(panel.getAllByRole('row', { hidden: true })[1]!.textContent).toBe('6000 South Jan300.00400.00');
  });
  it('shows what came before, page by page', async () => {
    const { address } = await newBudget();
    const item = (id: number) => ({
      id,
      at: '2026-11-09T08:00:00.000Z',
      actor: 'Tester',
      words: `Change ${id}`,
      kind: 'edit',
      isUndone: id === 2,
      cells: [],
      more: 0,
    });
    const pages: Readonly<Record<string, BudgetHistoryDto>> = {
      '': { items: [item(3), item(2)] as BudgetHistoryDto['items'], next: 2 },
      '?before=2': { items: [item(1)] as BudgetHistoryDto['items'], next: null },
    };
    const page = openPage(server, `${address}?panel=history`, (_, path) =>
      path.includes('/history') ? new Response(JSON.stringify(pages[path.split('/history')[1]!])) : undefined,
    );
    const panel = within(await page.findByRole('complementary', { name: 'History' }));
    await panel.findByText('Change 3');
    expect(panel.getByText('Change 2').className).toContain('line-through');
    fireEvent.click(panel.getByRole('button', { name: 'Show earlier changes' }));
    await panel.findByText('Change 1');
    expect(panel.queryByRole('button', { name: 'Show earlier changes' })).toBeNull();
  });
});

describe('what-if and target', () => {
  it('a scale is seen against the budget, which stays, and is saved as a version', async () => {
    const { api, address } = await newBudget();
    const page = openPage(server, `${address}?panel=what-if`);
    const panel = within(await page.findByRole('complementary', { name: 'What-if' }));
    fireEvent.change(panel.getByLabelText('Revenue'), { target: { value: '-50' } });
    await waitFor(() => expect(panel.getByRole('row', { name: /^Revenue, net/ }).textContent).toBe('Revenue, net12,0666,033(6,033)'));
    expect((await server.get<{ lines: { account: string; amounts: number[] }[] }>(`${api}/worksheet`)).lines[0]!.amounts[0]).toBe(-100_000);
    fireEvent.change(panel.getByLabelText('Revenue'), { target: { value: 'half' } });
    expect(panel.getByRole('alert').textContent).toContain('is not a percentage');
  });
  it('a target is shared by size, evenly and by weights, and refuses what is none', async () => {
    const { api, address } = await newBudget();
    await edit(api, '5000', '1200', 'North');
    const page = openPage(server, `${address}?panel=target`);
    const panel = within(await page.findByRole('complementary', { name: 'Target' }));
    const write = (label: string, value: string) => fireEvent.change(panel.getByLabelText(label), { target: { value } });
    const proposed = () =>
      within(panel.getByRole('table', { name: 'Proposal' }))
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.lastElementChild!.textContent);
    write('Annual amount', 'much');
    expect(panel.getByRole('alert').textContent).toContain('“much” is not an amount');
    // 7,266 are left of 12,066 less 1,200 and 3,600: 1,000 more are to be saved
    write('Annual amount', '8,266');
    write('Allocate to accounts', '9000');
    expect(panel.getByRole('alert').textContent).toContain('The budget has no line in these accounts.');
    write('Allocate to accounts', '5000-6999');
    await waitFor(() => expect(proposed()).toEqual(['950', '2,850']));
    write('Allocate by', 'even');
    await waitFor(() => expect(proposed()).toEqual(['700', '3,100']));
    write('Allocate by', 'typed');
    write('Weight of 6000 Wages', '-1');
    expect(panel.getByRole('alert').textContent).toContain('6000: “-1” is not a weight.');
    write('Weight of 6000 Wages', '3');
    await waitFor(() => expect(proposed()).toEqual(['950', '2,850']));
    fireEvent.click(panel.getByRole('button', { name: 'Apply' }));
    await waitFor(() => expect(page.getByLabelText('Annual summary').textContent).toContain('Operating income8,266'));
  });
});

describe('the pages around a budget', () => {
  it('the list says what to do where there is no history, and where the list fails', async () => {
    const chart = 'account,name,class,active\n1000,Cash,cash,yes\n4000,Sales,revenue,yes\n';
    const other = await server.upload({ name: 'Bare', currency: 'USD', startMonth: '1' }, { accounts: chart });
    const { companyId } = (await server.send('POST', `/imports/${other.id}/post`, {})).body as { companyId: number };
    const bare = openPage(server, `/c/${companyId}/budgets`);
    await bare.findByRole('heading', { name: 'A budget starts from history' });
    expect(bare.getByRole('link', { name: 'Import a ledger' }).getAttribute('href')).toBe(`/c/${companyId}/ledger/imports/new`);
    const page = openPage(server, `/c/${company}/budgets`, (_, path) =>
      path.endsWith('/budgets') ? failed(500, 'The budgets could not be read.') : undefined,
    );
    await page.findByText('The budgets could not be read.');
  });
  it('a new budget names what is wrong, and opens when it is made', async () => {
    const { id } = await newBudget();
    const page = openPage(server, `/c/${company}/budgets`);
    fireEvent.click(await page.findByRole('button', { name: 'New budget' }));
    const form = within(await page.findByRole('form', { name: 'New budget' }));
    const write = (label: string, value: string) => fireEvent.change(form.getByLabelText(label), { target: { value } });
    write('Name of the budget', ' ');
    write('Percent change', 'some');
    fireEvent.click(await form.findByRole('button', { name: 'Create budget' }));
    await waitFor(() =>
      expect(form.getAllByRole('alert').map(({ textContent }) => textContent)).toEqual([
        'Enter a budget name',
        'Enter a percentage such as 3 or -1.5',
      ]),
    );
    write('Percent change', '0');
    write('Name of the budget', `Plan ${id}`);
    fireEvent.click(await form.findByRole('button', { name: 'Create budget' }));
    await waitFor(() =>
      expect(
        page
          .getAllByRole('alert')
          .map(({ textContent }) => textContent)
          .join(),
      ).toMatch(/has a budget named Plan \d+ already/),
    );
    write('Name of the budget', 'Another');
    fireEvent.click(await form.findByRole('button', { name: 'Create budget' }));
    await page.findByRole('heading', { name: 'Another, FY2026' });
  });
  it('a new budget shows what it comes to by class before it is created', async () => {
    await newBudget();
    const page = openPage(server, `/c/${company}/budgets`);
    fireEvent.click(await page.findByRole('button', { name: 'New budget' }));
    const form = within(await page.findByRole('form', { name: 'New budget' }));
    const row = (name: string) => form.getByRole('row', { name: new RegExp(`^${name}`) }).textContent;
    // the rows are there before their amounts: what moves under the pointer loses a click
    expect([row('Net income'), form.queryByText('Calculating totals…') !== null]).toEqual(['Net income', true]);
    await form.findByText(/^Base: FY\d{4} actual/);
    expect(form.getByRole('columnheader', { name: /^FY\d{4} base$/ }).textContent).toBeTruthy();
    const before = row('Net income');
    fireEvent.change(form.getByLabelText('Percent change of operating expenses'), { target: { value: '50' } });
    await waitFor(() => expect(row('Operating expenses')).toMatch(/U50\.0$/), { timeout: 5000 });
    expect(row('Net income')).not.toBe(before);
    // a field that cannot be read leaves the last figures, marked as not current
    fireEvent.change(form.getByLabelText('Percent change of operating expenses'), { target: { value: 'more' } });
    await waitFor(() => expect(form.getAllByRole('table')[0]!.getAttribute('aria-busy')).toBe('true'));
    expect(row('Operating expenses')).toMatch(/U50\.0$/);
  });
  it('a preview that fails says why', async () => {
    const page = openPage(server, `/c/${company}/budgets`, (_, path) =>
      path.endsWith('/budgets/preview') ? failed(500, 'The preview could not be calculated.') : undefined,
    );
    fireEvent.click(await page.findByRole('button', { name: 'New budget' }));
    await page.findByText('The preview could not be calculated.');
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Create budget' }).disabled).toBe(false);
  });
  it('versions are compared with their reasons', async () => {
    const { id, api } = await newBudget();
    await edit(api, '6000', '4800', 'South');
    const note = { kind: 'note', account: '6000', month: null, text: 'Pay was agreed in May' };
    await server.send('POST', `${api}/edits`, { edits: [note] });
    const { id: first } = await newBudget();
    const page = openPage(server, `/c/${company}/budgets/${id}/comparison?with=${first}`);
    const row = await page.findByRole('row', { name: /^6000 Wages/ });
    expect(row.textContent).toContain('3,6004,8001,200U33.3');
    expect(row.textContent).toContain('Pay was agreed in May');
    const gone = openPage(server, `/c/${company}/budgets/${id}/comparison?with=999`);
    await gone.findByText(/There is no budget 999/);
  });
  it('cash follows the budget, its assumptions are refused where they cannot be, and are taken back', async () => {
    const { address } = await newBudget();
    const page = openPage(server, `${address}/balance-plan`);
    await page.findByRole('heading', { name: /: cash$/ });
    expect(page.getByRole('navigation', { name: 'Breadcrumbs' }).textContent).toMatch(/Cash$/);
    expect(page.getByLabelText('Cash for the year').textContent).toContain('Opening cash8,466');
    const assumptions = within(page.getByRole('complementary', { name: 'Assumptions' }));
    fireEvent.click(assumptions.getByRole('button', { name: /3000 Capital/ }));
    const panel = within(await page.findByRole('complementary', { name: '3000 Capital' }));
    expect(panel.queryByLabelText('Balance method')).not.toBeNull();
    const lost = openPage(server, `${address}/balance-plan?account=9999`);
    expect((await lost.findByRole('alert')).textContent).toContain('There is no account 9999 in the balance sheet.');
  });
});
