import { fireEvent, waitFor, within } from '@testing-library/react';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
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

const open = (path: string, between?: Between) => openPage(server, `/c/1/statements/${path}`, between);

describe('a statement', () => {
  it('that does not come says why, and is tried again in place', async () => {
    let isDown = true;
    const page = open('income?asOf=2026-10', (_method, path) =>
      isDown && path.startsWith('/companies/1/statements/income?') ? failed(503, 'The server is busy with an import.') : undefined,
    );
    expect(await page.findByText('The server is busy with an import.')).toBeTruthy();
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    expect(await page.findByRole('rowheader', { name: 'Revenue, net' })).toBeTruthy();
  });

  it('of a view that was deleted says so, and the month stays chosen', async () => {
    const page = open('view-4711?asOf=2026-09');
    expect(await page.findByText('There is no view "view-4711".')).toBeTruthy();
    expect(page.address()).toContain('asOf=2026-09');
  });

  it('limited to a department that is not there names it, and what was probably meant', async () => {
    const page = open('income?asOf=2026-10&filter.department=Tuors');
    expect(await page.findByText('No line has the department "Tuors". Did you mean "Tours"?')).toBeTruthy();
    expect(page.queryByRole('rowheader', { name: 'Revenue, net' })).toBeNull();
  });

  it('keeps its choices in the address, and follows them', async () => {
    const page = open('income?asOf=2026-10');
    await page.findByRole('rowheader', { name: 'Revenue, net' });
    const units = page.getByRole('combobox', { name: 'Units' });
    fireEvent.change(units, { target: { value: 'thousands' } });
    await waitFor(() => expect(page.address()).toContain('unit=thousands'));
    await waitFor(() => expect(page.getByRole('table').textContent).toContain('Thousands of US dollars'));
    fireEvent.change(units, { target: { value: 'dollars' } });
    await waitFor(() => expect(page.getByRole('table').textContent).not.toContain('Thousands of US dollars'));
  });

  it('opened again while its choices are still being saved offers them', async () => {
    let save = (): void => undefined;
    const saved = new Promise<Response>((resolve) => (save = () => resolve(new Response(null, { status: 204 }))));
    const page = open('vertical?asOf=2026-10', (method, path) => (method === 'PUT' && path.endsWith('/choices') ? saved : undefined));
    await page.findByRole('rowheader', { name: 'Revenue, net' });
    fireEvent.change(page.getByRole('combobox', { name: 'Department' }), { target: { value: 'Tours' } });
    await waitFor(() => expect(page.address()).toContain('filter.department=Tours'));
    fireEvent.click(within(page.getByRole('navigation', { name: 'Breadcrumbs' })).getByRole('link', { name: 'Statements' }));
    fireEvent.click(await page.findByRole('link', { name: /^Vertical income statement/ }));
    await page.findByRole('rowheader', { name: 'Revenue, net' });
    save();
    fireEvent.click(await page.findByRole('link', { name: 'Continue with Tours' }));
    await waitFor(() => expect(page.address()).toContain('filter.department=Tours'));
  });
});

describe('a drill-down', () => {
  const figureOf = async (page: ReturnType<typeof open>) => {
    await page.findByRole('rowheader', { name: 'Revenue, net' });
    return page.getByRole('button', { name: /^Revenue, net, Actual, Oct 2026: / });
  };

  it('that fails says why beside the statement, which stays', async () => {
    const page = open('income?asOf=2026-10', (_method, path) =>
      path.includes('/drill-down') ? failed(500, 'The drill-down failed.') : undefined,
    );
    fireEvent.click(await figureOf(page));
    const panel = within(await page.findByRole('complementary', { name: 'Drill-down' }));
    expect(await panel.findByText('The drill-down failed.')).toBeTruthy();
    expect(page.getByRole('rowheader', { name: 'Revenue, net' })).toBeTruthy();
  });

  it('adds up to its figure, and gives the focus back to it at Escape', async () => {
    const page = open('income?asOf=2026-10');
    fireEvent.click(await figureOf(page));
    const panel = within(await page.findByRole('complementary', { name: 'Drill-down' }));
    expect(await panel.findByText('Adds up to the amount')).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'Escape' });
    await waitFor(() => expect(page.queryByRole('complementary', { name: 'Drill-down' })).toBeNull());
    await waitFor(async () => expect(document.activeElement).toBe(await figureOf(page)));
  });
});
