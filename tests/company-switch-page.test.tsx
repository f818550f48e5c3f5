import { act, fireEvent, waitFor } from '@testing-library/react';
import type { CompanyListDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterEach(() => {
  closePage();
  localStorage.clear();
  sessionStorage.clear();
});
afterAll(() => server.close());

const listing =
  (companies: CompanyListDto): Between =>
  (_method, path) =>
    path === '/companies' ? new Response(JSON.stringify(companies), { headers: { 'content-type': 'application/json' } }) : undefined;
const company = (id: number, name: string): CompanyListDto[number] => ({ id, name, isDemo: false });
const [TERN, GANNET, HERON] = [company(1, 'Tern Island'), company(2, 'Gannet Rock'), company(3, 'Heron Point')];

describe('another company', () => {
  it('is a click away, on the same statement with the same choices, and so is the way back', async () => {
    const page = openPage(server, '/c/1/statements/income?asOf=2026-09&unit=thousands&filter.department=Tours');
    fireEvent.click(await page.findByRole('button', { name: 'Switch to Gannet Rock' }));
    // a department is of one company alone
    await waitFor(() => expect(page.address()).toBe('/c/2/statements/income?asOf=2026-09&unit=thousands'));
    fireEvent.click(await page.findByRole('button', { name: 'Switch to Tern Island' }));
    await waitFor(() => expect(page.address()).toBe('/c/1/statements/income?asOf=2026-09&unit=thousands'));
  });

  it('keeps what was chosen there before, which going to it does not change', async () => {
    const saved: string[] = [];
    const page = openPage(server, '/c/2/statements/income?asOf=2026-09', (method, path) => {
      if (method === 'PUT') saved.push(path);
      return undefined;
    });
    fireEvent.click(await page.findByRole('button', { name: 'Switch to Tern Island' }));
    fireEvent.change(await page.findByRole('combobox', { name: 'Units' }), { target: { value: 'thousands' } });
    await waitFor(() => expect(saved).toEqual(['/companies/1/views/income/choices']));
    act(() => {
      window.history.pushState(null, '', '/c/1/statements/income?asOf=2026-09&unit=thousands&filter.department=Tours');
      window.dispatchEvent(new Event('popstate'));
    });
    await waitFor(() => expect(saved).toHaveLength(2));
    fireEvent.click(await page.findByRole('button', { name: 'Switch to Gannet Rock' }));
    await waitFor(() => expect(page.address()).toBe('/c/2/statements/income?asOf=2026-09&unit=thousands'));
    await page.findByRole('rowheader', { name: 'Net income' });
    expect(saved).toHaveLength(2);
  });

  it('is a key away, but not while one types or answers a question', async () => {
    const page = openPage(server, '/c/1/packs?asOf=2026-10');
    await page.findByRole('button', { name: 'Switch to Gannet Rock' });
    fireEvent.click(page.getByRole('button', { name: /^Shortcuts/ }));
    const close = await page.findByRole('button', { name: 'Close' });
    fireEvent.keyDown(close, { key: 'c' });
    fireEvent.click(close);
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
    const field = document.body.appendChild(document.createElement('input'));
    fireEvent.keyDown(field, { key: 'c' });
    field.remove();
    expect(page.address()).toBe('/c/1/packs?asOf=2026-10');
    fireEvent.keyDown(document.body, { key: 'c' });
    await waitFor(() => expect(page.address()).toBe('/c/2/packs?asOf=2026-10'));
  });

  it('of several is the one looked at before, and at first the next of the list', async () => {
    const page = openPage(server, '/c/2/budgets?asOf=2026-10', listing([TERN, GANNET, HERON]));
    expect(await page.findByRole('button', { name: 'Switch to Heron Point' })).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'Company: Gannet Rock' }));
    fireEvent.click(await page.findByRole('option', { name: 'Tern Island' }));
    await page.findByRole('button', { name: 'Company: Tern Island' });
    expect(await page.findByRole('button', { name: 'Switch to Gannet Rock' })).toBeTruthy();
  });

  it('is not offered where there is none', async () => {
    const page = openPage(server, '/c/1/budgets?asOf=2026-10', listing([TERN]));
    await page.findByRole('button', { name: 'Company: Tern Island' });
    await page.findByRole('heading', { level: 1, name: 'Budgets' });
    expect(page.queryByRole('button', { name: /^Switch to/ })).toBeNull();
    fireEvent.keyDown(document.body, { key: 'c' });
    expect(page.address()).toBe('/c/1/budgets?asOf=2026-10');
  });
});
