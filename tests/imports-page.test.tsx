import { fireEvent, waitFor, within } from '@testing-library/react';
import type { ImportDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { type Between, closePage, failed, openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  await loadSmallCompany(server);
});
afterEach(closePage);
afterAll(() => server.close());

/** An import of the first company, checked and not posted. */
const upload = (ledger: string): Promise<ImportDto> => server.upload({ company: '1' }, { ledger });
const GOOD = 'entry,date,account,amount\nX-1,2025-02-10,4000,-25.00\nX-1,2025-02-10,6000,25.00\n';
const BAD =
  'entry,date,account,amount\nX-2,2025-02-31,4000,-25.00\nX-2,2025-02-31,6000,25.00\nX-3,2025-02-10,9999,1.00\nX-3,2025-02-10,6000,-1.00\n';
const open = async (id: number, between?: Between) => {
  const page = openPage(server, `/c/1/ledger/imports/${id}`, between);
  await page.findByRole('heading', { name: `Import ${id}` });
  return page;
};
const stateOf = async (id: number) => (await server.get<ImportDto>(`/imports/${id}`)).state;

describe('an import', () => {
  it('is posted from its preview, which says what it would do', async () => {
    const { id } = await upload(GOOD);
    const page = await open(id);
    const preview = within(await page.findByRole('region', { name: 'Preview' }));
    expect(preview.getByRole('heading').textContent).toMatch(/^For /);
    expect([preview.getByText('Good entries').nextSibling?.textContent, preview.getByText('Debits').nextSibling?.textContent]).toEqual([
      '1',
      '25.00',
    ]);
    fireEvent.click(page.getByRole('button', { name: 'Post 1 entry' }));
    expect(await page.findByRole('heading', { name: /^Posted to / })).toBeTruthy();
    expect(await stateOf(id)).toBe('posted');
  });

  it('that cannot be posted or discarded says why, and stays', async () => {
    const { id } = await upload(GOOD.replaceAll('X-1', 'X-4'));
    let isDown = true;
    const page = await open(id, (method) => (isDown && method !== 'GET' ? failed(503, 'The server is restarting.') : undefined));
    fireEvent.click(await page.findByRole('button', { name: 'Post 1 entry' }));
    expect(await page.findByText('The server is restarting.')).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'Discard import' }));
    await waitFor(() => expect(page.getAllByText('The server is restarting.')).toHaveLength(2));
    expect(await stateOf(id)).toBe('ready');
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Discard import' }));
    await waitFor(() => expect(page.address()).toBe('/c/1/ledger/imports'));
    expect((await server.send('GET', `/imports/${id}`)).status).toBe(404);
  });

  it('with errors names every row with its value, the reason and the fix, and posts nothing', async () => {
    const { id } = await upload(BAD);
    const page = await open(id);
    const rejected = within(await page.findByRole('region', { name: 'Rejected rows' }));
    expect(rejected.getByRole('heading').textContent).toMatch(/^\d errors\. Nothing was posted\.$/);
    expect(rejected.getByText('Fix the file and import it again.')).toBeTruthy();
    expect(rejected.getByRole<HTMLAnchorElement>('link', { name: 'Download rejected rows' }).getAttribute('href')).toBe(
      `/api/imports/${id}/issues.csv`,
    );
    expect(page.queryByRole('button', { name: /^Post / })).toBeNull();
    const { issues } = await server.get<ImportDto>(`/imports/${id}`);
    expect(issues.some(({ text, row }) => text === '2025-02-31' && row === 2)).toBe(true);
  });

  it('is reversed after a question, and stays on record', async () => {
    const { id } = await upload(GOOD.replaceAll('X-1', 'X-5'));
    await server.accept('POST', `/imports/${id}/post`, {});
    const page = await open(id);
    fireEvent.click(await page.findByRole('button', { name: 'Reverse import' }));
    expect(page.getByText('Its entries will be removed from the ledger. The import stays on record.')).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'Cancel' }));
    expect(await stateOf(id)).toBe('posted');
    fireEvent.click(page.getByRole('button', { name: 'Reverse import' }));
    fireEvent.click(page.getByRole('button', { name: 'Reverse import' }));
    expect(await page.findByText('This import was reversed. Its entries are no longer in the ledger.')).toBeTruthy();
    expect(await stateOf(id)).toBe('reversed');
  });

  it('with a column that is no field asks whether it is a dimension', async () => {
    const { id } = await upload('entry,date,account,amount,region\nX-6,2025-02-10,4000,-5.00,North\nX-6,2025-02-10,6000,5.00,North\n');
    const page = await open(id);
    const questions = within(await page.findByRole('region', { name: 'Questions about the file' }));
    expect(questions.getByText('Is region a dimension?')).toBeTruthy();
    fireEvent.click(questions.getByRole('button', { name: 'Add dimension region' }));
    expect(await page.findByRole('button', { name: 'Post 1 entry' })).toBeTruthy();
    expect(page.getByText('region: North')).toBeTruthy();
  });

  it('of a number that is not there says so', async () => {
    const page = openPage(server, '/c/1/ledger/imports/999');
    expect(await page.findByText(/There is no import 999/)).toBeTruthy();
  });
});
