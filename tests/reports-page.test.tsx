import { fireEvent, waitFor } from '@testing-library/react';
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

const open = async (report: string, search = '', between?: Between) => {
  const page = openPage(server, `/c/1/ledger/reports/${report}?asOf=2026-10${search}`, between);
  await page.findByRole('navigation', { name: 'Reports' });
  const field = (label: string) => page.findByLabelText<HTMLInputElement>(label);
  /** Types a text and ends it with Enter, as a form takes it. */
  const type = async (label: string, text: string) => {
    const input = await field(label);
    input.focus();
    fireEvent.change(input, { target: { value: text } });
    fireEvent.submit(input.form!);
    return input;
  };
  return { page, field, type };
};

describe('a report', () => {
  it('follows the months that are typed, and leaves the cursor in their field', async () => {
    const { page, type } = await open('trial-balance');
    const input = await type('Months', 'Jul 2026 to Sep 2026');
    await waitFor(() => expect(new URLSearchParams(window.location.search).get('range')).toBe('Jul 2026 to Sep 2026'));
    expect(await page.findByText(/Jul to Sep 2026|Jul 2026 to Sep 2026/)).toBeTruthy();
    expect([document.activeElement === input, input.value]).toEqual([true, 'Jul 2026 to Sep 2026']);
  });

  it('says what it cannot read, keeps what was typed, and is there once that is corrected', async () => {
    const { page, type, field } = await open('trial-balance');
    await type('Months', 'Okt to Nov');
    const alert = await page.findByRole('alert');
    expect(alert.textContent).toContain('Okt');
    expect((await field('Months')).value).toBe('Okt to Nov');
    await type('Months', 'Oct 2026');
    await waitFor(() => expect(page.queryByRole('alert')).toBeNull());
    expect(await page.findByText('Debits equal credits.')).toBeTruthy();
  });

  it('shows the months of the way back, not those that were typed since', async () => {
    const { page, type, field } = await open('trial-balance', '&range=Sep+2026');
    await type('Months', 'Oct 2026');
    await waitFor(() => expect(window.location.search).toContain('range=Oct+2026'));
    window.history.back();
    await waitFor(() => expect(window.location.search).toContain('range=Sep+2026'));
    await waitFor(async () => expect((await field('Months')).value).toBe('Sep 2026'));
    expect(await page.findByText('Debits equal credits.')).toBeTruthy();
  });

  it('opens as it was last run, and on its first choices again once those are taken back', async () => {
    const first = await open('journals');
    fireEvent.change(await first.page.findByRole('combobox', { name: 'Show' }), { target: { value: 'yes' } });
    await waitFor(() => expect(window.location.search).toContain('detail=yes'));
    closePage();
    const again = await open('journals');
    const choice = await again.page.findByRole<HTMLSelectElement>('combobox', { name: 'Show' });
    await waitFor(() => expect(choice.value).toBe('yes'));
    fireEvent.change(choice, { target: { value: 'no' } });
    await waitFor(() => expect(window.location.search).not.toContain('detail'));
    closePage();
    const last = await open('journals');
    expect((await last.page.findByRole<HTMLSelectElement>('combobox', { name: 'Show' })).value).toBe('no');
  });

  it('that found nothing says what to change', async () => {
    const { page } = await open('account-detail', '&accounts=6120&range=Mar+2027');
    expect(await page.findByText(/^No chosen account has an entry in these months\./)).toBeTruthy();
  });

  it('that failed says why, and is asked for again', async () => {
    let isDown = true;
    const { page } = await open('aging', '', (_method, path) =>
      isDown && path.includes('/reports/aging') ? failed(503, 'The server is restarting.') : undefined,
    );
    expect(await page.findByText('The server is restarting.')).toBeTruthy();
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    expect(await page.findByRole('region', { name: 'Receivables aging' })).toBeTruthy();
  });

  it('takes its files and their choices along', async () => {
    const { page } = await open('trial-balance', '&compare=prior-year&unit=thousands');
    const link = (name: string) => page.getByRole<HTMLAnchorElement>('link', { name }).getAttribute('href')!;
    for (const [name, format] of [
      ['PDF', 'pdf'],
      ['Spreadsheet', 'xlsx'],
      ['CSV', 'csv'],
    ] as const) {
      const [path, query] = link(name).split('?');
      expect(path).toBe(`/api/companies/1/reports/trial-balance/export.${format}`);
      expect(Object.fromEntries(new URLSearchParams(query))).toMatchObject({ compare: 'prior-year', unit: 'thousands' });
    }
  });
});

describe('the columns of an aging', () => {
  it('say what cannot be a number of days', async () => {
    const { page } = await open('aging');
    fireEvent.click(await page.findByRole('button', { name: /^(Columns|Filters|Further|More)/ }));
    const days = await page.findByLabelText<HTMLInputElement>('Days in a column');
    fireEvent.change(days, { target: { value: 'a month' } });
    fireEvent.blur(days);
    expect((await page.findByRole('alert')).textContent).toContain('size: What was entered is not a number.');
    expect(days.value).toBe('a month');
  });
});
