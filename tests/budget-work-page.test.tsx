import { fireEvent, waitFor, within } from '@testing-library/react';
import type { BudgetDto, WorksheetDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { budgetMaker } from './support/new-budget.ts';
import { openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

// What is done with a budget as it is drawn: one-offs, notes, held months, files, versions, states, and two places at one figure.

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
const sum = ({ lines }: WorksheetDto, account: string, month: number): number =>
  lines.filter((each) => each.account === account).reduce((total, { amounts }) => total + Math.abs(amounts[month]!), 0);
const monthEdit = (account: string, month: number, text: string) => ({ kind: 'month', account, month, text });
async function openLine(address: string) {
  const page = openPage(server, `${address}?row=6000`);
  const panel = within(await page.findByRole('complementary', { name: 'Line' }));
  await panel.findByRole('heading', { name: 'Wages' });
  return { page, panel };
}

describe('the line’s panel', () => {
  it('marks what does not recur, says how much is left out, and counts it again', async () => {
    const { address, worksheet } = await newBudget();
    const { page, panel } = await openLine(address);
    await panel.findByText('Nothing is excluded from this account’s history.');
    fireEvent.click(panel.getByRole('button', { name: 'Exclude a month or an entry' }));
    const form = within(await panel.findByRole('form', { name: 'Exclude' }));
    fireEvent.change(form.getByLabelText('Month'), { target: { value: '2025-03' } });
    const entry = await form.findByRole<HTMLOptionElement>('option', { name: /^W2, Pay: 300\.00$/ });
    fireEvent.change(form.getByLabelText('Entry'), { target: { value: entry.value } });
    fireEvent.change(form.getByLabelText('Reason'), { target: { value: 'A substitute' } });
    fireEvent.click(form.getByRole('button', { name: 'Exclude' }));
    // the worksheet opens again over the changed history, and its panel with it
    const basis = () => page.getByRole('form', { name: 'Basis' });
    await waitFor(() => expect(basis().textContent).toMatch(/nonrecurring items.*: 300\./));
    const again = await page.findByRole('button', { name: 'Include again' });
    expect(page.queryByText('A substitute')).not.toBeNull();
    await waitFor(async () => expect(sum(await worksheet(), '6000', 2)).toBe(0));
    fireEvent.click(again);
    await waitFor(async () => expect(sum(await worksheet(), '6000', 2)).toBe(30_000));
  });
  it('keeps notes on the line, and releases held months one by one and all', async () => {
    const { api, address, worksheet } = await newBudget();
    await server.send('POST', `${api}/edits`, { edits: [0, 1, 2].map((month) => monthEdit('6000', month, '999')) });
    const { panel } = await openLine(address);
    const note = panel.getByLabelText('Note on the line');
    fireEvent.change(note, { target: { value: 'Agreed with the union' } });
    fireEvent.blur(note);
    await waitFor(async () => expect((await worksheet()).notes.map(({ text }) => text)).toEqual(['Agreed with the union']));
    fireEvent.click(await panel.findByRole('button', { name: 'Remove override Feb' }));
    await waitFor(async () => expect(sum(await worksheet(), '6000', 1)).toBe(30_000));
    fireEvent.click(await panel.findByRole('button', { name: 'Remove all 2 overrides' }));
    await waitFor(async () => expect([sum(await worksheet(), '6000', 0), sum(await worksheet(), '6000', 2)]).toEqual([30_000, 30_000]));
    await waitFor(() => expect(panel.queryByText('Manual overrides')).toBeNull());
  });
});

describe('files read back', () => {
  const csv = (...rows: string[]): File =>
    new File([['account,period,amount,department', ...rows, ''].join('\n')], 'filled.csv', { type: 'text/csv' });
  async function read(address: string, file: File) {
    const page = openPage(server, address);
    fireEvent.click(await page.findByRole('button', { name: 'Files' }));
    fireEvent.change(await page.findByLabelText('Upload completed template'), { target: { files: [file] } });
    return within(await page.findByRole('dialog', { name: /^Changes in / }));
  }
  it('are seen before they change anything, and change what differs', async () => {
    const { address, worksheet } = await newBudget();
    const dialog = await read(address, csv('6000,2026-01,450.00,South', '6000,2026-02,300.00,South'));
    await dialog.findByText('1 amount and 0 notes will change. 1 amount is unchanged.');
    expect(sum(await worksheet(), '6000', 0)).toBe(30_000);
    fireEvent.click(dialog.getByRole('button', { name: 'Apply 1 change' }));
    await waitFor(async () => expect(sum(await worksheet(), '6000', 0)).toBe(45_000));
  });
  it('list every row at fault with its reason and fix, and change nothing', async () => {
    const { address, worksheet } = await newBudget();
    const dialog = await read(
      address,
      csv(
        '6000,2026-01,450.00,South',
        '6000,2027-01,1.00,South',
        '6000,2026-03,"1,000.00",South',
        '6000,2026-04,5.00,Suoth',
        '9999,2026-05,5.00,South',
        '1000,2026-05,5.00,South',
        '6000,2026-01,451.00,South',
        '6000,2026-13,1.00,South',
      ),
    );
    const items = (await dialog.findAllByRole('listitem')).map(({ textContent }) => textContent!);
    for (const [row, words] of [
      [3, 'not a month of FY2026'],
      [4, '1000.00'],
      [5, 'South'],
      [6, '9999'],
      [7, 'balance'],
      [8, '6000'],
      [9, '2026-13'],
    ] as const)
      expect(items.find((each) => each.startsWith(`Row ${row},`)) ?? `no row ${row}: ${items.join(' | ')}`).toContain(words);
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: /^Apply|^No changes/ }).disabled).toBe(true);
    fireEvent.click(dialog.getByRole('button', { name: 'Cancel' }));
    expect(sum(await worksheet(), '6000', 0)).toBe(30_000);
  });
});

describe('versions and states', () => {
  it('a copy is named and opened, and a name in use is refused', async () => {
    const { address } = await newBudget();
    const page = openPage(server, address);
    const open = async () => {
      fireEvent.click(await page.findByRole('button', { name: 'Versions' }));
      return within(await page.findByRole('form', { name: 'New version' }));
    };
    let form = await open();
    fireEvent.change(form.getByLabelText('Name'), { target: { value: 'Leaner' } });
    fireEvent.change(form.getByLabelText('Description'), { target: { value: 'Without the second shop' } });
    fireEvent.click(form.getByRole('button', { name: 'Create version' }));
    await page.findByRole('heading', { name: 'Leaner, FY2026' });
    const budgets = await server.get<BudgetDto[]>(`/companies/${company}/budgets`);
    expect(budgets.find(({ name }) => name === 'Leaner')).toMatchObject({ note: 'Without the second shop', state: 'draft' });
    form = await open();
    fireEvent.change(form.getByLabelText('Name'), { target: { value: 'leaner' } });
    fireEvent.click(form.getByRole('button', { name: 'Create version' }));
    await form.findByText(/has a budget named leaner already/i);
  });
  it('a reforecast takes actuals through a month, and goes on at their mean', async () => {
    const begun = await loadSmallCompany(server, { name: 'Begun', later: 3 });
    const request = { name: 'Year under way', year: 2026, from: 2025 };
    const { id } = (await server.send('POST', `/companies/${begun}/budgets`, request)).body as BudgetDto;
    const page = openPage(server, `/c/${begun}/budgets/${id}`);
    fireEvent.click(await page.findByRole('button', { name: 'Versions' }));
    const form = within(await page.findByRole('form', { name: 'New version' }));
    expect(form.queryByLabelText('Actuals through')).toBeNull();
    fireEvent.change(form.getByLabelText('Type'), { target: { value: 'runRate' } });
    expect(form.getByLabelText<HTMLSelectElement>('Actuals through').value).toBe('2026-03');
    fireEvent.change(form.getByLabelText('Actuals through'), { target: { value: '2026-02' } });
    fireEvent.change(form.getByLabelText('Name'), { target: { value: 'Outlook' } });
    fireEvent.click(form.getByRole('button', { name: 'Create version' }));
    await page.findByRole('heading', { name: 'Outlook, FY2026' });
    const made = (await server.get<BudgetDto[]>(`/companies/${begun}/budgets`)).find(({ name }) => name === 'Outlook')!;
    const worksheet = await server.get<WorksheetDto>(`/companies/${begun}/budgets/${made.id}/worksheet`);
    // sales of January and February 2026 were 1,012 and 1,013
    expect([0, 1, 2, 11].map((month) => sum(worksheet, '4000', month))).toEqual([101_200, 101_300, 101_250, 101_250]);
  });
  it('goes to review, asks about open findings, and is approved and locked', async () => {
    const { api, address } = await newBudget();
    await server.send('POST', `${api}/edits`, { edits: [{ kind: 'year', account: '6000', text: '9000', spread: 'even' }] });
    const page = openPage(server, address);
    fireEvent.click(await page.findByRole('button', { name: 'Submit for review' }));
    fireEvent.click(await page.findByRole('button', { name: 'Submit and lock' }));
    const approve = await page.findByRole<HTMLButtonElement>('button', { name: 'Approve' });
    await waitFor(() => expect(approve.disabled).toBe(false));
    fireEvent.click(approve);
    await page.findByText(/findings? of the budget checks (has|have) no explanation\. Explain them, or approve anyway; this is recorded\./);
    fireEvent.click(page.getByRole('button', { name: 'Approve anyway' }));
    await page.findByText('Approved and locked');
  });
});

describe('two places at one figure', () => {
  it('are asked whose stands, with who entered what', async () => {
    const { api, address, worksheet } = await newBudget();
    const page = openPage(server, `${address}?row=6000`);
    await page.findByText('Draft, all changes saved');
    await server.send('POST', `${api}/edits`, { edits: [monthEdit('6000', 3, '500')], session: 'elsewhere' });
    const april = [...document.querySelectorAll<HTMLElement>('button[aria-label^="Wages, Budget, Apr 2026"]')].at(-1)!;
    fireEvent.focus(april);
    fireEvent.keyDown(april, { key: '4' });
    const input = page.getByRole('textbox', { name: /^Wages, Budget, Apr/ });
    fireEvent.change(input, { target: { value: '444' } });
    fireEvent.keyDown(input, { key: 'Enter' });
    const dialog = within(await page.findByRole('dialog', { name: 'Which amount should be kept?' }));
    expect(dialog.queryByText(/Apr: Tester entered 500\.00/)).not.toBeNull();
    expect(sum(await worksheet(), '6000', 3)).toBe(50_000);
    fireEvent.click(dialog.getByRole('button', { name: 'Keep mine' }));
    await waitFor(async () => expect(sum(await worksheet(), '6000', 3)).toBe(44_400));
  });
});
