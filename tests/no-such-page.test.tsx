import { fireEvent } from '@testing-library/react';
import { afterAll, afterEach, beforeAll, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { closePage, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterEach(closePage);
afterAll(() => server.close());

it.each([
  ['/c/1/budgets/new', '/c/1'],
  ['/c/1/budgets/1.5/balance-plan', '/c/1'],
  ['/c/1/budgets/plan/comparison', '/c/1'],
  ['/c/1/ledger/imports/latest', '/c/1'],
  ['/c/1/statement', '/c/1'],
  ['/imports/latest', '/'],
])('%s leads nowhere, says so, and leads back', async (address, back) => {
  const page = openPage(server, address);
  expect((await page.findByText('There is no page at this address')).closest('main')!.textContent).not.toContain('NaN');
  expect(page.getByRole('link', { name: 'Go to the overview' }).getAttribute('href')).toBe(back);
});

it('the number of a budget that is not there is named', async () => {
  const page = openPage(server, '/c/1/budgets/99');
  await page.findByText('There is no budget 99.');
  expect(page.queryByText('There is no page at this address')).toBeNull();
});

it.each([
  ['/c/1/budgets/99', 'Budget', 'Go to the budgets'],
  ['/c/1/budgets/99/balance-plan', 'Cash and balance sheet', 'Go to the budgets'],
  ['/c/1/budgets/99/comparison', 'Comparison', 'Go to the budgets'],
  ['/c/1/packs/yearly-review', 'Pack', 'Go to the packs'],
  ['/c/1/packs/monthly-review/99', 'Issued pack', 'Go to the packs'],
])('%s, which is not there, leads to the list of those that are', async (address, title, back) => {
  const page = openPage(server, address);
  const link = await page.findByRole('link', { name: back });
  expect(page.getByRole('heading', { name: title, level: 1 })).toBeTruthy();
  expect(page.getByRole('alert').textContent).toMatch(/There is no/);
  expect(page.queryByRole('button', { name: 'Try again' })).toBeNull();
  fireEvent.click(link);
  expect(await page.findByRole('heading', { name: back === 'Go to the packs' ? 'Packs' : 'Budgets', level: 1 })).toBeTruthy();
});
