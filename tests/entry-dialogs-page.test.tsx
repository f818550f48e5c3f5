import { fireEvent, waitFor, within } from '@testing-library/react';
import type { DraftEntriesDto, EntryListDto, EntryTemplateDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1';
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterEach(closePage);
afterAll(() => server.close());

const drafts = () => server.get<DraftEntriesDto>(`${AT}/draft-entries`);
const made = async () => (await server.get<EntryListDto>(`${AT}/entries?origin=manual`)).lines.map(({ entryId }) => entryId);
const templates = () => server.get<EntryTemplateDto[]>(`${AT}/entry-templates`);

describe('a new entry', () => {
  const open = async (between?: Between) => {
    const page = openPage(server, '/c/1/ledger/drafts?asOf=2026-10', between);
    fireEvent.click(await page.findByRole('button', { name: 'New entry' }));
    const dialog = within(await page.findByRole('dialog', { name: 'New entry' }));
    const fill = (label: string, value: string) => fireEvent.change(dialog.getByLabelText(label), { target: { value } });
    const escape = () => fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' });
    /** An accrual of 150.00; its number of lines and its reason are what the server asks for. */
    const fillIn = () => {
      fill('Account, line 1', '6110');
      fill('Debit, line 1', '150');
      fill('Account, line 2', '2110');
      fill('Credit, line 2', '150');
      fill('Reason', 'Rent of November');
    };
    return { page, dialog, fill, fillIn, escape };
  };

  it('is not lost by Escape: it asks, and closes at once only while nothing was entered', async () => {
    const { page, dialog, fill, escape } = await open();
    fill('Debit, line 1', '150');
    escape();
    const question = () => page.queryByRole('alertdialog', { name: 'Unsaved changes' });
    await waitFor(() => expect(question()).not.toBeNull());
    fireEvent.click(dialog.getByRole('button', { name: 'Keep editing' }));
    expect([question(), dialog.getByLabelText<HTMLInputElement>('Debit, line 1').value]).toEqual([null, '150']);
    escape();
    fireEvent.click(await dialog.findByRole('button', { name: 'Discard changes' }));
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
    fireEvent.click(page.getByRole('button', { name: 'New entry' }));
    await page.findByRole('dialog', { name: 'New entry' });
    escape();
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
  });

  it('says what is wrong as it is entered, and cannot be posted until it is right', async () => {
    const { dialog, fill, fillIn } = await open();
    fill('Debit, line 1', '150');
    fill('Credit, line 2', '100');
    const post = () => dialog.getByRole<HTMLButtonElement>('button', { name: 'Post entry' });
    expect([dialog.getByRole('alert').textContent !== '', post().disabled]).toEqual([true, true]);
    fillIn();
    await waitFor(() => expect([dialog.queryByRole('alert'), post().disabled]).toEqual([null, false]));
    expect(await dialog.findByRole('table')).toBeTruthy();
  });

  it('is posted once, although its template could not be saved at first', async () => {
    let isDown = true;
    const { page, dialog, fill, fillIn } = await open((method, path) =>
      isDown && method === 'POST' && path.endsWith('/entry-templates') ? failed(503, 'The server is restarting.') : undefined,
    );
    const before = (await made()).length;
    fillIn();
    fireEvent.click(dialog.getByRole('checkbox', { name: 'Keep as a template' }));
    fill('Template name', 'Rent');
    fireEvent.click(dialog.getByRole('button', { name: 'Post entry' }));
    expect(await dialog.findByText('The entry was posted. The template was not saved: The server is restarting.')).toBeTruthy();
    const after = (await made()).length;
    expect(after).toBeGreaterThan(before);
    isDown = false;
    const again = await dialog.findByRole<HTMLButtonElement>('button', { name: 'Save template' });
    await waitFor(() => expect(again.disabled).toBe(false));
    fireEvent.click(again);
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
    expect([(await templates()).map(({ name }) => name), (await made()).length]).toEqual([['Rent'], after]);
  });

  it('that was posted is done with when its template is given up', async () => {
    const { page, dialog, fill, fillIn } = await open((method, path) =>
      method === 'POST' && path.endsWith('/entry-templates') ? failed(503, 'The server is restarting.') : undefined,
    );
    fillIn();
    fireEvent.click(dialog.getByRole('checkbox', { name: 'Keep as a template' }));
    fill('Template name', 'Never kept');
    fireEvent.click(dialog.getByRole('button', { name: 'Post entry' }));
    await dialog.findByText(/^The entry was posted\. The template was not saved/);
    const after = (await made()).length;
    fireEvent.click(dialog.getByRole('checkbox', { name: 'Keep as a template' }));
    const done = dialog.getByRole<HTMLButtonElement>('button', { name: 'Done' });
    await waitFor(() => expect([done.disabled, dialog.queryByRole('alert')]).toEqual([false, null]));
    fireEvent.click(done);
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
    expect([(await made()).length, (await templates()).some(({ name }) => name === 'Never kept')]).toEqual([after, false]);
  });
});

describe('a template', () => {
  it('is removed after a question, and kept when that is canceled or fails', async () => {
    let isDown = true;
    const page = openPage(server, '/c/1/ledger/drafts?asOf=2026-10', (method) =>
      isDown && method === 'DELETE' ? failed(503, 'The server is restarting.') : undefined,
    );
    fireEvent.click(await page.findByRole('button', { name: /^Templates/ }));
    fireEvent.click(await page.findByRole('button', { name: 'Remove Rent' }));
    const question = () => within(page.getByRole('alertdialog', { name: 'Remove Rent' }));
    expect(question().getByText('Rent will no longer be offered. Entries made from it stay.')).toBeTruthy();
    fireEvent.click(question().getByRole('button', { name: 'Cancel' }));
    expect([page.queryByRole('alertdialog'), (await templates()).length]).toEqual([null, 1]);
    fireEvent.click(page.getByRole('button', { name: 'Remove Rent' }));
    fireEvent.click(question().getByRole('button', { name: 'Remove template' }));
    expect((await page.findByText('The server is restarting.')).getAttribute('role')).toBe('alert');
    isDown = false;
    fireEvent.click(question().getByRole('button', { name: 'Remove template' }));
    await waitFor(async () => expect(await templates()).toEqual([]));
    expect(await page.findByText(/^No template yet\./)).toBeTruthy();
  });
});

describe('a draft', () => {
  const openDraft = async (between?: Between) => {
    const content = {
      date: '2026-10-31',
      document: '',
      memo: 'Freight of October',
      source: 'adjustments',
      kind: 'adjustment',
      state: 'draft',
      lines: [
        { account: '6110', amount: 15_000, memo: '', party: '', document: '', due: null, dimensions: {} },
        { account: '2110', amount: -15_000, memo: '', party: '', document: '', due: null, dimensions: {} },
      ],
    };
    const { entries } = await server.accept<{ entries: { id: number; number: string }[] }>('POST', `${AT}/entries`, {
      content,
      reason: 'Freight of October',
    });
    const page = openPage(server, `/c/1/ledger/drafts?asOf=2026-10&entry=${entries[0]!.id}`, between);
    const panel = within(await page.findByRole('complementary', { name: 'Drill-down' }));
    await panel.findByRole('button', { name: 'Post draft' });
    return { page, panel, id: entries[0]!.id };
  };

  it('that cannot be posted says why, and stays', async () => {
    const { panel, id } = await openDraft((method, path) =>
      method === 'POST' && path.endsWith('/post') ? failed(409, 'Oct 2026 is closed.') : undefined,
    );
    fireEvent.click(panel.getByRole('button', { name: 'Post draft' }));
    expect((await panel.findByRole('alert')).textContent).toBe('Oct 2026 is closed.');
    expect((await drafts()).entries.some((each) => each.id === id)).toBe(true);
  });

  it('is discarded after a question', async () => {
    const { panel, id } = await openDraft();
    fireEvent.click(panel.getByRole('button', { name: 'Discard' }));
    fireEvent.click(panel.getByRole('button', { name: 'Keep it' }));
    expect((await drafts()).entries.some((each) => each.id === id)).toBe(true);
    fireEvent.click(panel.getByRole('button', { name: 'Discard' }));
    fireEvent.click(panel.getByRole('button', { name: 'Discard draft' }));
    await waitFor(async () => expect((await drafts()).entries.some((each) => each.id === id)).toBe(false));
  });
});
