import { fireEvent, waitFor, within } from '@testing-library/react';
import type { PackDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

const AT = '/companies/1/packs/pack-1';
let server: TestServer;
let first: PackDto;
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server);
  first = await saved();
});
beforeEach(async () => {
  const { version } = await saved();
  expect((await server.send('PUT', AT, { ...first, version })).status).toBe(200);
});
afterEach(() => {
  closePage();
  localStorage.clear();
  sessionStorage.clear();
});
afterAll(() => server.close());

const saved = () => server.get<PackDto>(AT);
const open = async (search = '?asOf=2026-10', between?: Between) => {
  const page = openPage(server, `/c/1/packs/pack-1${search}`, between);
  const outline = within(await page.findByRole('list', { name: 'Sections' }));
  await page.findByRole('button', { name: 'Issue…' });
  return { page, outline };
};
const hide = (outline: Awaited<ReturnType<typeof open>>['outline']) =>
  fireEvent.click(outline.getByRole('button', { name: 'Hide Income statement' }));

describe('changes of the sections of a pack', () => {
  it('are shown at once, and saved for this company or for all', async () => {
    const { page, outline } = await open();
    hide(outline);
    expect(page.getByText('Unsaved changes')).toBeTruthy();
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Issue…' }).disabled).toBe(true);
    expect(await outline.findByText('Statement; not included: hidden')).toBeTruthy();
    fireEvent.click(page.getByRole('button', { name: 'Save for Tern Island' }));
    await waitFor(async () => expect((await saved()).sections[0]!.hidden).toBe(true));
    await waitFor(() => expect(page.queryByText('Unsaved changes')).toBeNull());
  });

  it('are not lost on the way to another month: the page asks, and stays or goes', async () => {
    for (const search of ['?asOf=2026-10', '']) {
      const { page, outline } = await open(search);
      hide(outline);
      const next = page.getByRole('button', { name: /^Previous month/ });
      fireEvent.click(next);
      const asks = within(await page.findByRole('alertdialog', { name: 'Unsaved changes' }));
      fireEvent.click(asks.getByRole('button', { name: 'Keep editing' }));
      await waitFor(() => expect(page.queryByRole('alertdialog')).toBeNull());
      expect([search, page.queryByText('Unsaved changes') !== null, page.address()]).toEqual([search, true, `/c/1/packs/pack-1${search}`]);
      fireEvent.click(page.getByRole('button', { name: /^Previous month/ }));
      const asksAgain = within(await page.findByRole('alertdialog', { name: 'Unsaved changes' }));
      fireEvent.click(asksAgain.getByRole('button', { name: 'Discard changes' }));
      await waitFor(() => expect(page.address()).toBe('/c/1/packs/pack-1?asOf=2026-09'));
      closePage();
      localStorage.clear();
      sessionStorage.clear();
    }
  });

  it('are asked about before the page is closed, and only while there are some', async () => {
    const { page, outline } = await open();
    const isAsked = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }));
    expect(isAsked()).toBe(false);
    hide(outline);
    expect(isAsked()).toBe(true);
    fireEvent.click(page.getByRole('button', { name: 'Discard changes' }));
    expect(isAsked()).toBe(false);
  });

  it('that somebody else overtook are kept on the page, which says why they are not saved', async () => {
    const { page, outline } = await open();
    hide(outline);
    expect((await server.send('PUT', AT, { ...(await saved()), note: 'Theirs' })).status).toBe(200);
    fireEvent.click(page.getByRole('button', { name: 'Save for Tern Island' }));
    expect(await page.findByText('Somebody else saved this pack. Reload it to see their changes, then make yours.')).toBeTruthy();
    expect([outline.queryByRole('button', { name: 'Show Income statement' }) !== null, (await saved()).note]).toEqual([true, 'Theirs']);
  });

  it('are discarded at a click', async () => {
    const { page, outline } = await open();
    hide(outline);
    fireEvent.click(page.getByRole('button', { name: 'Discard changes' }));
    expect(page.queryByText('Unsaved changes')).toBeNull();
    expect(outline.getByRole('button', { name: 'Hide Income statement' })).toBeTruthy();
  });
});

describe('a pack that does not show', () => {
  it('says why its pages could not be made, beside its outline, and can be tried again', async () => {
    let isDown = true;
    const { page, outline } = await open('?asOf=2026-10', (_method, path) =>
      isDown && path === '/companies/1/pack-preview' ? failed(503, 'The preview took longer than 60 seconds and was stopped.') : undefined,
    );
    expect(await page.findByText('The preview took longer than 60 seconds and was stopped.')).toBeTruthy();
    expect(outline.getByText('Income statement')).toBeTruthy();
    isDown = false;
    fireEvent.click(page.getByRole('button', { name: 'Try again' }));
    expect(await page.findByRole('region', { name: 'Preview' })).toBeTruthy();
  });

  it('because there is none of that key says so', async () => {
    const page = openPage(server, '/c/1/packs/no-such-pack?asOf=2026-10');
    expect(await page.findByText(/There is no pack/)).toBeTruthy();
  });
});

describe('the settings of a pack', () => {
  it('delete it after a question, and not while it has unsaved changes', async () => {
    const { page, outline } = await open();
    const settings = async () => {
      fireEvent.click(page.getByRole('button', { name: 'Settings' }));
      return page.findByRole<HTMLButtonElement>('button', { name: 'Delete pack' });
    };
    hide(outline);
    expect((await settings()).disabled).toBe(true);
    fireEvent.click(page.getByRole('button', { name: 'Discard changes' }));
    await waitFor(() => expect(page.getByRole<HTMLButtonElement>('button', { name: 'Delete pack' }).disabled).toBe(false));
    fireEvent.click(page.getByRole('button', { name: 'Delete pack' }));
    const question = within(await page.findByRole('alertdialog', { name: 'Delete pack' }));
    expect(question.getByText('This pack will be deleted for Tern Island. Issued packs stay.')).toBeTruthy();
    fireEvent.click(question.getByRole('button', { name: 'Cancel' }));
    expect([page.queryByRole('alertdialog'), (await saved()).name]).toEqual([null, 'Bank letter']);
    fireEvent.click(page.getByRole('button', { name: 'Delete pack' }));
    fireEvent.click(within(await page.findByRole('alertdialog')).getByRole('button', { name: 'Delete pack' }));
    await waitFor(() => expect(page.address()).toMatch(/^\/c\/1\/packs(\?|$)/));
    expect((await server.send('GET', AT)).status).toBe(404);
  });
});
