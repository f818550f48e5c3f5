import { createEvent, fireEvent, waitFor, within } from '@testing-library/react';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { budgetMaker } from './support/new-budget.ts';
import { failed, openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

// The page of a budget as it is drawn, against the real server: what keys, typing and pasting do, and the messages they give.

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

type Page = ReturnType<typeof openPage>;
/** A month's cell of a line, such as `cell('Wages', 'Mar')`; a group may have the account's name, and stands above it. */
const cell = (line: string, month: string): HTMLElement => labeled(new RegExp(`^${line}, Budget, ${month} 2026[:,]`));
const year = (line: string): HTMLElement => labeled(new RegExp(`^${line}, Budget, Jan to Dec 2026`));
/** The last button of a name; among hundreds of cells this is much quicker than by its role. */
function labeled(name: RegExp): HTMLElement {
  const found = [...document.querySelectorAll<HTMLElement>('button[aria-label]')].filter((each) =>
    name.test(each.getAttribute('aria-label')!),
  );
  expect(found.length, String(name)).toBeGreaterThan(0);
  return found.at(-1)!;
}
/** Types a text over a cell and ends it with a key. */
function type(page: Page, into: () => HTMLElement, text: string, end = 'Enter'): void {
  const name = into()
    .getAttribute('aria-label')!
    .replace(/(, manual override)?(, with a note)?: [^:]*$/, '');
  fireEvent.focus(into());
  fireEvent.keyDown(into(), { key: text[0]! });
  const input = page.getByRole('textbox', { name });
  fireEvent.change(input, { target: { value: text } });
  fireEvent.keyDown(input, { key: end });
}
async function open(path: string): Promise<Page> {
  const page = openPage(server, path);
  await page.findByText('Draft, all changes saved');
  return page;
}
const settled = (page: Page) => page.findByText('Draft, all changes saved');

describe('opening a budget', () => {
  it('shows the year’s summary and the months in the order of the statement', async () => {
    const page = await open((await newBudget()).address);
    const summary = page.getByLabelText('Annual summary');
    expect(summary.textContent).toContain('Revenue, net12,066');
    expect(summary.textContent).toContain('Operating income8,46670.2% of revenue');
    const names = within(page.getByRole('region', { name: 'Budget by month' })).getAllByRole('rowheader');
    expect(names.map(({ textContent }) => textContent).slice(0, 4)).toEqual(['Revenue', 'Sales', '4000 Sales', 'Revenue, net']);
    expect(cell('Sales', 'Dec').textContent).toBe('1,011');
  });
  it('says when there is none, and when the server fails, and opens when it is asked again', async () => {
    const missing = openPage(server, `/c/${company}/budgets/999`);
    expect((await missing.findByRole('alert')).textContent).toContain('There is no budget 999');
    const { address } = await newBudget();
    let fails = true;
    const page = openPage(server, address, (_, path) =>
      fails && path.includes('/worksheet') ? failed(500, 'The server could not do this.') : undefined,
    );
    expect((await page.findByRole('alert')).textContent).toContain('The server could not do this.');
    fails = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    await settled(page);
  });
  it('names a department that is not there, and rows that are not', async () => {
    const { address } = await newBudget();
    const page = await open(`${address}?filter.department=Nrth&rows=view-77`);
    const messages = page.getAllByRole('alert').map(({ textContent }) => textContent);
    expect(messages).toEqual(expect.arrayContaining([expect.stringContaining('There is no department “Nrth”. Choose one above.')]));
    await page.findByText(/These rows cannot be shown/);
  });
  it('shows accounts without figures, and quarters, when that is asked for', async () => {
    const page = await open((await newBudget()).address);
    expect(page.queryByRole('rowheader', { name: /Services/ })).toBeNull();
    fireEvent.click(page.getByLabelText('Show accounts with no amounts'));
    expect(page.queryByRole('rowheader', { name: /4100 Services/ })).not.toBeNull();
    expect(page.queryByRole('columnheader', { name: 'Q1' })).toBeNull();
    fireEvent.click(page.getByLabelText('Quarters'));
    expect(page.queryByRole('columnheader', { name: 'Q4' })).not.toBeNull();
  });
});

describe('typing into the grid', () => {
  it('holds a month, follows with totals, and is saved', async () => {
    const { address, worksheet } = await newBudget();
    const page = await open(address);
    type(page, () => cell('Wages', 'Mar'), '450.50');
    await waitFor(() => expect(cell('Wages', 'Mar').textContent).toBe('451'));
    expect(cell('Wages', 'Mar').getAttribute('aria-label')).toMatch(/manual override: 450\.50$/);
    expect(year('Wages').textContent).toBe('3,751');
    await waitFor(async () => expect((await worksheet()).lines.find(({ account }) => account === '6000')!.amounts[2]).toBe(45_050));
    await settled(page);
  });
  it('takes what one typed back and makes it again by the keyboard', async () => {
    const page = await open((await newBudget()).address);
    type(page, () => cell('Wages', 'Apr'), '1k');
    await waitFor(() => expect(cell('Wages', 'Apr').textContent).toBe('1,000'));
    await settled(page);
    fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true });
    await waitFor(() => expect(cell('Wages', 'Apr').textContent).toBe('300'));
    await settled(page);
    fireEvent.keyDown(document.body, { key: 'y', ctrlKey: true });
    await waitFor(() => expect(cell('Wages', 'Apr').textContent).toBe('1,000'));
  });
  it('is left by Escape, begun with what stands by F2, and empties by Delete', async () => {
    const page = await open((await newBudget()).address);
    const may = () => cell('Wages', 'May');
    fireEvent.focus(may());
    fireEvent.keyDown(may(), { key: 'F2' });
    const input = page.getByRole<HTMLInputElement>('textbox', { name: /^Wages, Budget, May/ });
    expect(input.value).toBe('300.00');
    fireEvent.change(input, { target: { value: '1' } });
    fireEvent.keyDown(input, { key: 'Escape' });
    expect(may().textContent).toBe('300');
    fireEvent.keyDown(may(), { key: 'Delete' });
    await waitFor(() => expect(may().textContent).toBe('–'));
  });
  it('lists what is not an amount, with what was typed', async () => {
    const page = await open((await newBudget()).address);
    type(page, () => cell('Wages', 'May'), '*lots');
    expect((await page.findByRole('alert')).textContent).toContain('6000 Wages: "*lots" is not an amount');
    fireEvent.click(page.getByRole('button', { name: 'Close' }));
    expect(page.queryByRole('alert')).toBeNull();
    expect(cell('Wages', 'May').textContent).toBe('300');
  });
  it('of a year spreads it over the months that are not held, in the chosen shape', async () => {
    const page = await open((await newBudget()).address);
    type(page, () => cell('Wages', 'Jan'), '100');
    await waitFor(() => expect(cell('Wages', 'Jan').textContent).toBe('100'));
    fireEvent.change(page.getByLabelText('Spread annual amounts'), { target: { value: 'even' } });
    type(page, () => year('Wages'), '1200', 'Tab');
    await waitFor(() => expect(year('Wages').textContent).toBe('1,200'));
    expect(['Jan', 'Feb', 'Dec'].map((month) => cell('Wages', month).textContent)).toEqual(['100', '100', '100']);
  });
  it('of a total says among how many it is shared, and is', async () => {
    const { address } = await newBudget();
    await server.send('POST', `${address.replace('/c/', '/companies/')}/edits`, {
      edits: [{ kind: 'year', account: '4100', text: '12000', spread: 'even' }],
      filter: { department: ['North'] },
    });
    const page = await open(address);
    const total = () => cell('Revenue, net', 'Jan');
    fireEvent.focus(total());
    expect(page.getByRole('status', { name: 'Selection' }).textContent).toContain('An amount entered here is allocated to 2 accounts');
    type(page, total, '*2');
    await waitFor(() => expect(total().textContent).toBe('4,000'));
    expect([cell('Sales', 'Jan').textContent, cell('Services', 'Jan').textContent]).toEqual(['2,000', '2,000']);
  });
});

describe('selecting in the grid', () => {
  it('extends with Shift and arrows, tells sum and mean, changes all and fills right', async () => {
    const page = await open((await newBudget()).address);
    const jan = () => cell('Sales', 'Jan');
    fireEvent.focus(jan());
    fireEvent.keyDown(jan(), { key: 'ArrowRight', shiftKey: true });
    fireEvent.keyDown(cell('Sales', 'Feb'), { key: 'ArrowRight', shiftKey: true });
    const bar = page.getByRole('status', { name: 'Selection' });
    await waitFor(() => expect(bar.textContent).toContain('3 amounts, sum 3,003.00, average 1,001.00'));
    fireEvent.change(within(bar).getByLabelText('Change all selected amounts'), { target: { value: '+10%' } });
    fireEvent.click(within(bar).getByRole('button', { name: 'Change all' }));
    await waitFor(() => expect(cell('Sales', 'Feb').textContent).toBe('1,101'));
    fireEvent.click(within(bar).getByRole('button', { name: 'Fill right' }));
    await waitFor(() => expect(cell('Sales', 'Mar').textContent).toBe('1,100'));
    fireEvent.change(within(bar).getByLabelText('Change all selected amounts'), { target: { value: '900' } });
    fireEvent.click(within(bar).getByRole('button', { name: 'Set as total' }));
    expect((await page.findByRole('alert')).textContent).toContain('every month has a manual override');
  });
  it('copies exact figures as a spreadsheet takes them, and pastes a block with what found no place', async () => {
    const page = await open((await newBudget()).address);
    const sheet = page.getByRole('region', { name: 'Budget by month' });
    fireEvent.focus(cell('Sales', 'Nov'));
    fireEvent.keyDown(cell('Sales', 'Nov'), { key: 'ArrowRight', shiftKey: true });
    const data = new Map<string, string>();
    const copy = createEvent.copy(cell('Sales', 'Nov'), {
      clipboardData: { setData: (kind: string, text: string) => data.set(kind, text) },
    });
    fireEvent(cell('Sales', 'Nov'), copy);
    expect(data.get('text/plain')).toBe('1010.00\t1011.00');
    const text = '5\t6\t7000\t8\r\nno\t9\r\n';
    fireEvent(cell('Sales', 'Nov'), createEvent.paste(cell('Sales', 'Nov'), { clipboardData: { getData: () => text } }));
    await waitFor(() => expect(cell('Wages', 'Dec').textContent).toBe('9'));
    expect(year('Sales').textContent).toBe('7,000');
    const messages = page.getAllByRole('alert').map(({ textContent }) => textContent ?? '');
    expect(messages.some((words) => words.includes('6000 Wages: "no" is not an amount'))).toBe(true);
    expect(messages.some((words) => words.includes('Not pasted: 1 column past the end of the year.'))).toBe(true);
    expect(within(sheet).getAllByRole('row').length).toBeGreaterThan(5);
  });
  it('stays where one goes right after an amount is entered', async () => {
    const page = await open((await newBudget()).address);
    type(page, () => cell('Sales', 'Feb'), '1200');
    fireEvent.focus(cell('Wages', 'Mar'));
    await new Promise((done) => setTimeout(done, 100));
    const bar = page.getByRole('status', { name: 'Selection' });
    expect(within(bar).getByRole('button').textContent).toBe('Copy pattern of 6000');
  });
  it('copies a line’s shape and gives it to another', async () => {
    const page = await open((await newBudget()).address);
    for (const [month, text] of [
      ['Jan', '1200'],
      ['Feb', '0'],
    ] as const) {
      type(page, () => cell('Sales', month), text);
      await settled(page);
    }
    const bar = page.getByRole('status', { name: 'Selection' });
    fireEvent.focus(cell('Sales', 'Mar'));
    fireEvent.click(await within(bar).findByRole('button', { name: 'Copy pattern of 4000' }));
    fireEvent.focus(cell('Wages', 'Mar'));
    fireEvent.click(await within(bar).findByRole('button', { name: 'Paste pattern of 4000' }));
    await waitFor(() => expect(cell('Wages', 'Feb').textContent).toBe('–'));
    expect(year('Wages').textContent).toBe('3,600');
  });
});

describe('a budget that is approved', () => {
  it('is looked at and not changed', async () => {
    const { api, address } = await newBudget();
    for (const state of ['inReview', 'approved']) await server.send('POST', `${api}/state`, { state, anyway: true });
    const page = openPage(server, `${address}?row=6000`);
    await page.findByText('Approved and locked');
    const panel = await page.findByRole('complementary', { name: 'Line' });
    expect(within(panel).queryByRole('form')).toBeNull();
    expect(within(panel).queryByText('Same months of FY2025, unchanged.')).not.toBeNull();
    fireEvent.focus(cell('Wages', 'May'));
    fireEvent.keyDown(cell('Wages', 'May'), { key: '7' });
    expect(page.queryByRole('textbox', { name: /^Wages, Budget/ })).toBeNull();
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Undo' }).disabled).toBe(true);
    expect(page.queryByRole('button', { name: 'Submit for review' })).toBeNull();
  });
});
