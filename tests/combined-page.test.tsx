import { fireEvent, waitFor, within } from '@testing-library/react';
import type { CompanyGroupDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
beforeEach(async () => {
  for (const { id } of await groups()) await server.send('DELETE', `/company-groups/${id}`);
});
afterEach(closePage);
afterAll(() => server.close());

const groups = () => server.get<CompanyGroupDto[]>('/company-groups');
const makeGroup = async (currency = 'USD'): Promise<CompanyGroupDto> => {
  const members = [1, 2].map((company) => ({ company, intercompany: [] }));
  const { status, body } = await server.send('POST', '/company-groups', { name: 'Island Group', currency, lead: 1, members });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body as CompanyGroupDto;
};
const open = (search = '', between?: Between) => openPage(server, `/c/1/statements/combined?asOf=2026-10${search}`, between);

describe('combined statements', () => {
  it('say what a group is where there is none, and make one from its dialog', async () => {
    const page = open();
    expect(await page.findByText(/A group sets companies side by side with a total/)).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'New group' }));
    const dialog = within(await page.findByRole('dialog'));
    const save = () => dialog.getByRole<HTMLButtonElement>('button', { name: /^(Save|Choose)/ });
    fireEvent.change(dialog.getByRole('textbox', { name: 'Name' }), { target: { value: 'Island Group' } });
    expect([save().textContent, save().disabled]).toEqual(['Choose at least two companies', true]);
    fireEvent.click(await dialog.findByRole('checkbox', { name: 'Gannet Rock' }));
    expect([save().textContent, save().disabled]).toEqual(['Save 2 companies', false]);
    fireEvent.change(dialog.getByRole('textbox', { name: 'Intercompany accounts of Gannet Rock' }), { target: { value: '12000; 20100' } });
    fireEvent.click(save());
    expect(await page.findByRole('heading', { level: 1, name: 'Income statement, combined' })).toBeTruthy();
    expect((await groups())[0]!.members[1]).toMatchObject({ company: 2, intercompany: ['12000', '20100'] });
  });

  it('tell in the dialog what is wrong with a group, and keep what was typed', async () => {
    await makeGroup();
    const page = open();
    fireEvent.click(await page.findByRole('button', { name: 'Companies' }));
    const dialog = within(await page.findByRole('dialog'));
    const accounts = dialog.getByRole<HTMLInputElement>('textbox', { name: 'Intercompany accounts of Tern Island' });
    fireEvent.change(accounts, { target: { value: '99999' } });
    fireEvent.click(dialog.getByRole('button', { name: 'Save 2 companies' }));
    expect(await dialog.findByText(/99999/)).toBeTruthy();
    expect([accounts.value, (await groups())[0]!.members[0]!.intercompany]).toEqual(['99999', []]);
  });

  it('name another company for the fiscal year when the leading one is taken out', async () => {
    await makeGroup();
    const page = open();
    fireEvent.click(await page.findByRole('button', { name: 'Companies' }));
    const dialog = within(await page.findByRole('dialog'));
    const lead = () => dialog.getByRole<HTMLSelectElement>('combobox', { name: 'Fiscal year and views of' });
    expect(lead().value).toBe('1');
    fireEvent.click(dialog.getByRole('checkbox', { name: 'Tern Island' }));
    expect(lead().value).toBe('2');
  });

  it('delete a group after a question', async () => {
    await makeGroup();
    const page = open();
    fireEvent.click(await page.findByRole('button', { name: 'Companies' }));
    const dialog = within(await page.findByRole('dialog'));
    fireEvent.click(dialog.getByRole('button', { name: 'Delete' }));
    expect(dialog.getByText('Island Group and its intercompany accounts will be deleted. The companies stay as they are.')).toBeTruthy();
    fireEvent.click(within(dialog.getByRole('alertdialog')).getByRole('button', { name: 'Cancel' }));
    expect(await groups()).toHaveLength(1);
    fireEvent.click(dialog.getByRole('button', { name: 'Delete' }));
    fireEvent.click(dialog.getByRole('button', { name: 'Delete group' }));
    expect(await page.findByText(/A group sets companies side by side/)).toBeTruthy();
    expect(await groups()).toEqual([]);
  });

  it('in another currency say which rates are missing, and lead to their table', async () => {
    await makeGroup('EUR');
    const page = open();
    fireEvent.click(await page.findByRole('button', { name: 'Add exchange rates' }));
    const dialog = within(await page.findByRole('dialog'));
    const table = await dialog.findByRole<HTMLTextAreaElement>('textbox', { name: /^EUR for one USD/ });
    const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save rates' });
    expect(save.disabled).toBe(true);
    fireEvent.change(table, { target: { value: '2026-10\t0.9\tninety' } });
    fireEvent.click(save);
    expect(await dialog.findByText(/ninety/)).toBeTruthy();
    expect(table.value).toBe('2026-10\t0.9\tninety');
  });

  it('keep their choices in the address', async () => {
    await makeGroup();
    const page = open('&span=month');
    await page.findByRole('heading', { level: 1, name: 'Income statement, combined' });
    const choose = (label: string, value: string) => fireEvent.change(page.getByRole('combobox', { name: label }), { target: { value } });
    choose('Show', 'budget');
    await waitFor(() => expect(page.address()).toContain('scenario=budget'));
    choose('Period', 'yearToDate');
    await waitFor(() => expect(page.address()).not.toContain('span='));
    choose('Columns', 'view');
    await waitFor(() => expect(page.queryByRole('combobox', { name: 'Period' })).toBeNull());
  });

  it('say why other views cannot be chosen where their list fails, and keep the statement', async () => {
    await makeGroup();
    let isDown = true;
    const page = open('', (_method, path) =>
      isDown && path.endsWith('/companies/1/views') ? failed(503, 'The list of views is not available.') : undefined,
    );
    expect(await page.findByText('The list of views is not available.')).toBeTruthy();
    expect(await page.findByRole('region', { name: 'Combined statement' })).toBeTruthy();
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    expect(await page.findByRole('option', { name: 'Balance sheet' })).toBeTruthy();
    await waitFor(() => expect(page.queryByText('The list of views is not available.')).toBeNull());
  });
});
