import { fireEvent, waitFor, within } from '@testing-library/react';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { closePage, failed, openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { ACCOUNTS, HEADER, NEW_COMPANY } from './support/small-ledger.ts';

/** Nine bills of one carrier, a month each. */
const LEDGER = [
  HEADER,
  ...Array.from({ length: 9 }, (_, at) => `2026-0${at + 1}-15`).flatMap((date, at) => [
    `PU-${at + 1},${date},6000,48.90,,"Freight in, resin",Harbor Freight Lines,HF-${at + 1},,purchases,,,`,
    `PU-${at + 1},${date},1000,,48.90,"Freight in, resin",Harbor Freight Lines,HF-${at + 1},,purchases,,,`,
  ]),
  '',
].join('\n');

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: LEDGER });
  expect(made.state).toBe('ready');
  await server.send('POST', `/imports/${made.id}/post`);
  await server.application.entryIndex.follow();
});
afterEach(() => {
  closePage();
  localStorage.clear();
  sessionStorage.clear();
});
afterAll(() => server.close());

const press = (key: string) => fireEvent.keyDown(document.body, { key });
const open = async (path = '/c/1/ledger/periods', between?: Parameters<typeof openPage>[2]) => {
  const page = openPage(server, path, between);
  await page.findByRole('button', { name: /^Search/ });
  press('/');
  const box = await page.findByRole<HTMLInputElement>('combobox', { name: /^Search / });
  const type = (value: string) => fireEvent.change(box, { target: { value } });
  return { page, box, type };
};

describe('the search', () => {
  it('opens the first hit at Enter while none is highlighted', async () => {
    const { page, box, type } = await open();
    type('PU-7');
    const hit = await page.findByRole('option', { name: /PU-7/ });
    await waitFor(() => expect(box.getAttribute('aria-activedescendant')).toBe(hit.id));
    fireEvent.pointerMove(hit, { screenX: 5, screenY: 5 });
    fireEvent.pointerLeave(hit, { screenX: 9, screenY: 90 });
    await waitFor(() => expect(box.hasAttribute('aria-activedescendant')).toBe(false));
    fireEvent.keyDown(box, { key: 'Enter' });
    await waitFor(() => expect(page.address()).toContain('/ledger/entries?entry='));
  });

  it('shows what was opened lately, the latest first, before anything is typed', async () => {
    localStorage.setItem(
      'wm.recent.1',
      JSON.stringify(
        ['income', 'balance'].map((key) => ({
          kind: 'view',
          key,
          name: `The ${key}`,
          detail: '',
          amount: null,
          link: `statements/${key}`,
        })),
      ),
    );
    const { page } = await open();
    const options = within(await page.findByRole('listbox')).getAllByRole('option');
    expect(options.map(({ textContent }) => textContent)).toEqual(['StatementThe income', 'The balance']);
    expect(page.getByText(/^Recently viewed\./)).toBeTruthy();
  });
  it('names each kind once, with amounts, and offers all entries', async () => {
    const { page, type } = await open();
    type('freight');
    await page.findByText('All entries with freight');
    const options = within(page.getByRole('listbox'))
      .getAllByRole('option')
      .map(({ textContent }) => textContent ?? '');
    expect(options.filter((text) => text.startsWith('Entry'))).toHaveLength(1);
    expect(options.some((text) => text.includes('Harbor Freight Lines') && text.includes('48.90'))).toBe(true);
    // eight of the nine bills, the newest first, and the way to all of them last
    expect(options.map((text) => /PU-\d/.exec(text)?.[0]).filter(Boolean)).toEqual([9, 8, 7, 6, 5, 4, 3, 2].map((at) => `PU-${at}`));
    expect(options.at(-1)).toBe('All entries with freight');
  });
  it('sets the month, and stays on the page', async () => {
    const { page, type, box } = await open();
    type('feb 2026');
    await page.findByRole('option', { name: /February 2026/ });
    fireEvent.keyDown(box, { key: 'Enter' });
    await waitFor(() => expect(page.address()).toBe('/c/1/ledger/periods?asOf=2026-02'));
  });
  it('says how many entries are not searched yet, and what the server refused', async () => {
    const answer = (body: object, status = 200) =>
      new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
    const { page, type } = await open('/c/1/ledger/periods', (_, path) =>
      path.includes('/search?') ? answer({ hits: [], moreEntries: null, pending: 12_345 }) : undefined,
    );
    type('resin');
    await page.findByText(/^Nothing found\. .* 12,345 entries are not searched yet; their index is being built\.$/);
    closePage();
    const long = await open();
    long.type('x'.repeat(201));
    await long.page.findByText(/at most 200 characters/);
  });
  it('is not opened by a slash typed in a field, but by Ctrl+K', async () => {
    const page = openPage(server, '/c/1/ledger/entries');
    const field = await page.findByLabelText('Find entries');
    fireEvent.keyDown(field, { key: '/' });
    expect(page.queryByRole('combobox', { name: /^Search / })).toBeNull();
    fireEvent.keyDown(field, { key: 'k', ctrlKey: true });
    expect(await page.findByRole('combobox', { name: /^Search / })).toBeTruthy();
  });
});

describe('the bank reconciliation', () => {
  it('says what to do before there is a statement, and offers those of the demo to demo companies alone', async () => {
    const page = openPage(server, '/c/1/ledger/reconciliation');
    await page.findByRole('heading', { name: 'No bank statement yet' });
    const accounts = within(page.getByLabelText('Account'))
      .getAllByRole('option')
      .map(({ textContent }) => textContent);
    expect(accounts).toEqual(['1000 Cash']);
    expect(page.queryByText(/^Demo statements/)).toBeNull();
  });
  it('of a server that fails says so, with a way to try again', async () => {
    const failing = (_: string, path: string) => (path.includes('/reconciliation') ? failed(507, 'There is no space left.') : undefined);
    const page = openPage(server, '/c/1/ledger/reconciliation', failing);
    const alert = await page.findByRole('alert');
    expect(alert.textContent).toContain('There is no space left.');
    expect(within(alert).getByRole('button', { name: 'Try again' })).toBeTruthy();
  });
});
