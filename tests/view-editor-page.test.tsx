import { fireEvent, waitFor, within } from '@testing-library/react';
import type { NewView, ViewDto, ViewListDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1/views';
let server: TestServer;
let source: ViewDto;
let view: ViewDto;
beforeAll(async () => {
  server = await demoServer();
});
beforeEach(async () => {
  for (const { key, isShipped } of await server.get<ViewListDto>(AT)) if (!isShipped) await server.send('DELETE', `${AT}/${key}`);
  const { columnSet } = await server.get<ViewDto>(`${AT}/balance`);
  const total = { kind: 'formula', key: 'twice', name: 'Twice the sales', expression: 'sales * 2', result: 'amount' } as const;
  source = await create({ name: 'Sales lines', lineSet: { ...lines('Sales'), lines: [...lines('Sales').lines, total] }, columnSet });
  view = await create({ name: 'Board sales', lineSet: lines('Own sales'), columnSet });
});
afterEach(() => {
  closePage();
  localStorage.clear();
});
afterAll(() => server.close());

const lines = (name: string): ViewDto['lineSet'] => ({
  key: 'lines',
  name: 'Lines',
  lines: [{ kind: 'accounts', key: 'sales', name, selection: { classes: ['revenue'] }, sign: 'credit' }],
});
async function create(made: NewView): Promise<ViewDto> {
  const { status, body } = await server.send('POST', AT, { shared: true, ...made });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body as ViewDto;
}
const saved = (of: ViewDto) => server.get<ViewDto>(`${AT}/${of.key}`);
const open = async (of: ViewDto, part: 'Lines' | 'Columns' = 'Lines', between?: Between) => {
  const page = openPage(server, `/c/1/statements/${of.key}/edit?asOf=2026-10`, between);
  const editor = within(await page.findByRole('complementary', { name: 'Editor' }));
  fireEvent.click(editor.getByRole('button', { name: part }));
  await page.findByRole('table');
  const from = () => editor.getByRole<HTMLSelectElement>('combobox', { name: `${part} of` });
  const take = async (key: string) => {
    await editor.findAllByRole('option', { name: key === 'income' ? 'Income statement' : 'Sales lines' });
    fireEvent.change(from(), { target: { value: key } });
    await waitFor(() => expect(from().value).toBe(key));
  };
  return { page, editor, from, take };
};

describe('the lines of another view', () => {
  it('are shown on figures at once, read only, and saved as that view’s', async () => {
    const { page, editor, take } = await open(view);
    await take(source.key);
    expect(editor.getByRole('list', { name: 'Lines' }).textContent).toContain('Twice the sales');
    expect(editor.queryByRole('combobox', { name: 'Add line' })).toBeNull();
    await page.findByRole('rowheader', { name: /Twice the sales/ });
    fireEvent.click(page.getByRole('button', { name: 'Save' }));
    await waitFor(async () => expect((await saved(view)).linesOf).toBe(source.key));
    expect((await saved(source)).usedBy).toEqual({ lines: ['Board sales'], columns: [] });
  });

  it('are undone and redone like any change', async () => {
    const { page, editor, from, take } = await open(view);
    await take(source.key);
    fireEvent.click(page.getByRole('button', { name: 'Undo' }));
    expect([from().value, editor.queryByRole('button', { name: /^Own sales/ }) !== null]).toEqual(['', true]);
    fireEvent.click(page.getByRole('button', { name: 'Redo' }));
    expect(from().value).toBe(source.key);
  });

  it('become its own to be edited, and a copy never follows', async () => {
    const { editor, from, take } = await open(view);
    await take(source.key);
    fireEvent.click(editor.getByRole('button', { name: 'Edit a copy here' }));
    expect([from().value, editor.queryByRole('button', { name: /^Twice the sales/ }) !== null]).toEqual(['', true]);
    fireEvent.change(editor.getByRole('combobox', { name: 'Copy lines from another view' }), { target: { value: 'income' } });
    await editor.findByRole('button', { name: /^Gross profit/ });
    expect(from().value).toBe('');
  });

  it('in a circle are refused at saving, with the draft kept', async () => {
    const version = (await saved(source)).version;
    expect((await server.send('PUT', `${AT}/${source.key}`, { version, linesOf: view.key })).status).toBe(200);
    const { page, from, take } = await open(view);
    await take(source.key);
    fireEvent.click(page.getByRole('button', { name: 'Save' }));
    expect(await page.findByText('Sales lines takes its lines from this view. Choose another view, or own lines.')).toBeTruthy();
    expect([from().value, (await saved(view)).linesOf, page.queryByText('Unsaved changes') !== null]).toEqual([source.key, null, true]);
  });
});

describe('the columns of another view', () => {
  it('stay as they are there when a line that they use is removed here', async () => {
    const income = await server.get<ViewDto>(`${AT}/income`);
    const own = await create({ name: 'Income, own lines', lineSet: income.lineSet, columnSet: income.columnSet, columnsOf: 'income' });
    const { page, editor } = await open(own);
    fireEvent.click(editor.getByRole('button', { name: /^Gross profit/ }));
    fireEvent.click(editor.getByRole('button', { name: 'Remove Gross profit' }));
    fireEvent.click(await editor.findByRole('button', { name: /^Remove (all|both)/ }));
    fireEvent.click(page.getByRole('button', { name: 'Save' }));
    await waitFor(async () => expect(JSON.stringify((await saved(own)).lineSet)).not.toContain('"gross_profit"'));
    expect(await saved(own)).toMatchObject({ columnsOf: 'income', columnSet: income.columnSet });
  });

  it('are listed under their blocks, with the way to the view they are from', async () => {
    const { editor, take } = await open(view, 'Columns');
    await take('income');
    expect(within(editor.getByRole('list', { name: 'Columns' })).getAllByText('Actual').length).toBeGreaterThan(1);
    expect(editor.getByRole('link', { name: 'Income statement' }).getAttribute('href')).toBe('/c/1/statements/income/edit?asOf=2026-10');
  });
});

describe('an editor', () => {
  it('that somebody else overtook says so, and keeps the draft', async () => {
    const { page, editor } = await open(view);
    expect((await server.send('PUT', `${AT}/${view.key}`, { version: view.version, note: 'Theirs' })).status).toBe(200);
    fireEvent.change(editor.getByRole('combobox', { name: 'Add line' }), { target: { value: 'spacer' } });
    fireEvent.click(page.getByRole('button', { name: 'Save' }));
    expect(await page.findByText(/^Board sales was saved at .* after you opened it\./)).toBeTruthy();
    expect([page.queryByText('Unsaved changes') !== null, (await saved(view)).lineSet.lines.length]).toEqual([true, 1]);
  });

  it('whose figures do not come says why and can be tried again', async () => {
    let isDown = true;
    const page = openPage(server, `/c/1/statements/${view.key}/edit?asOf=2026-10`, (_method, path) =>
      isDown && path.endsWith('/statement-preview') ? failed(503, 'The server is busy with other work.') : undefined,
    );
    expect(await page.findByText('The server is busy with other work.')).toBeTruthy();
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    expect(await page.findByRole('rowheader', { name: /Own sales/ })).toBeTruthy();
  });

  it('of a view that others take lines from says what they keep before it is deleted', async () => {
    expect((await server.send('PUT', `${AT}/${view.key}`, { version: view.version, linesOf: source.key })).status).toBe(200);
    const { page, editor } = await open(source);
    expect(editor.getByText('A change here also changes Board sales.')).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'Delete' }));
    const asks = within(page.getByRole('alertdialog', { name: 'Delete the view' }));
    expect(asks.getByText(/Board sales keeps the lines it has now\./)).toBeTruthy();
    fireEvent.click(asks.getByRole('button', { name: 'Delete view' }));
    await waitFor(() => expect(page.address()).toBe('/c/1/statements?asOf=2026-10'));
    expect(await saved(view)).toMatchObject({ linesOf: null, lineSet: { lines: [{ name: 'Sales' }, { key: 'twice' }] } });
  });
});
