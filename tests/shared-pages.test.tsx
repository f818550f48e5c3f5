import { fireEvent, waitFor } from '@testing-library/react';
import { type PackIssueDto, type SharedPackDto, sharedPackSchema } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

let server: TestServer;
let address: string;
let shared: SharedPackDto;
let issues: string;
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server);
  const { id } = (await server.send('POST', '/companies/1/packs/pack-1/months/2026-10/issues', {})).body as PackIssueDto;
  issues = `/companies/1/pack-issues/${id}`;
  const { body } = await server.send('POST', `${issues}/shares`, { expires: '2026-11-20', drillDown: true });
  address = new URL((body as { link: string }).link).pathname;
  shared = sharedPackSchema.parse(await server.get(address));
});
afterEach(closePage);
afterAll(() => server.close());

const answer = (body: unknown) => new Response(JSON.stringify(body));
const openShared = (change: Partial<SharedPackDto['reading']> = {}) =>
  openPage(server, address, (_method, path) =>
    path.startsWith('/shared') && !path.includes('/figure') ? answer({ ...shared, reading: { ...shared.reading, ...change } }) : undefined,
  );

describe('a shared pack', () => {
  it('goes by arrow keys from section to section and stops at both ends', async () => {
    const [section] = shared.reading.sections;
    const second = { ...section!, id: 'second', title: 'Second section' };
    const page = openShared({ sections: [section!, second] });
    const title = () => page.getByRole('heading', { level: 1 }).textContent;
    await waitFor(() => expect(title()).toBe('Income statement'));
    for (const [key, shown] of [
      ['ArrowRight', 'Second section'],
      ['PageDown', 'Second section'],
      ['Home', 'Income statement'],
      ['ArrowLeft', 'Income statement'],
      ['End', 'Second section'],
    ] as const) {
      fireEvent.keyDown(document.body, { key });
      await waitFor(() => expect([key, title()]).toEqual([key, shown]));
    }
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Next' }).disabled).toBe(true);
  });

  it('opens the accounts of a figure; Escape goes back to it once, and then leaves the focus where it is', async () => {
    const page = openShared();
    const figure = (await page.findAllByRole('button', { name: /Revenue, net/ }))[0]!;
    fireEvent.click(figure);
    await page.findByRole('table', { name: 'Accounts' });
    fireEvent.keyDown(document.body, { key: 'Escape' });
    await waitFor(() => expect(document.activeElement).toBe(figure));
    const picker = page.getByRole('link', { name: 'PDF' });
    picker.focus();
    fireEvent.keyDown(document.body, { key: 'Escape' });
    expect(document.activeElement).toBe(picker);
  });

  it('offers no full screen where the browser has none', async () => {
    const page = openShared();
    await page.findByRole('heading', { level: 1, name: 'Income statement' });
    expect(page.queryByRole('button', { name: 'Full screen' })).toBeNull();
  });

  it('without a section says so', async () => {
    const page = openShared({ sections: [] });
    expect(await page.findByText('Bank letter was issued without a section to show. Ask for another issue of it.')).toBeTruthy();
  });

  it('whose link is not known says so, and one that fails offers another try', async () => {
    const unknown = openPage(server, '/shared/none');
    expect(await unknown.findByText('This link does not open')).toBeTruthy();
    let isDown = true;
    const page = openPage(server, address, (_method, path) =>
      isDown && path.startsWith('/shared') ? failed(503, 'The server is busy.') : undefined,
    );
    const again = await page.findByRole('button', { name: 'Try again' });
    expect(page.getByText('The server is busy.')).toBeTruthy();
    isDown = false;
    fireEvent.click(again);
    expect(await page.findByRole('heading', { level: 1, name: 'Income statement' })).toBeTruthy();
  });
});

describe('a new link', () => {
  afterEach(() => {
    for (const [of, name] of [
      [window, 'isSecureContext'],
      [navigator, 'clipboard'],
    ] as const)
      Reflect.deleteProperty(of, name);
  });
  const created = async (clipboard: { writeText: () => Promise<void> } | null) => {
    Object.defineProperty(window, 'isSecureContext', { value: clipboard !== null, configurable: true });
    Object.defineProperty(navigator, 'clipboard', { value: clipboard, configurable: true });
    const page = openPage(server, `/c/1/packs/pack-1/${issues.split('/').at(-1)}?asOf=2026-10`);
    fireEvent.click(await page.findByRole('button', { name: /^Share/ }));
    fireEvent.click(await page.findByRole('button', { name: 'Create link' }));
    const link = await page.findByRole<HTMLInputElement>('textbox', { name: 'Link' });
    return { page, link };
  };

  it('is copied by a button', async () => {
    const { page } = await created({ writeText: () => Promise.resolve() });
    fireEvent.click(page.getByRole('button', { name: 'Copy' }));
    expect(await page.findByRole('button', { name: 'Copied' })).toBeTruthy();
  });

  it('that the browser does not copy is selected, with what to do', async () => {
    const { page, link } = await created({ writeText: () => Promise.reject(new Error('not allowed')) });
    fireEvent.click(page.getByRole('button', { name: 'Copy' }));
    expect(await page.findByText('The browser does not allow copying. The link is selected: copy it with the keyboard.')).toBeTruthy();
    expect([document.activeElement, link.selectionStart, link.selectionEnd]).toEqual([link, 0, link.value.length]);
  });

  it('has no copy button on a page that came without TLS', async () => {
    const { page } = await created(null);
    expect(page.queryByRole('button', { name: 'Copy' })).toBeNull();
  });
});
