import { fireEvent, waitFor, within } from '@testing-library/react';
import type { MailListDto, MailListingDto, PackIssueDto, PackMonthDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

const AT = '/companies/1';
let server: TestServer;
let issue: number;
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server);
  issue = ((await server.send('POST', `${AT}/packs/pack-1/months/2026-09/issues`, {})).body as PackIssueDto).id;
  const list: Pick<MailListDto, 'name' | 'addresses'> = { name: 'Board', addresses: ['ines@example.com', 'omar@example.com'] };
  await server.send('PUT', `${AT}/mail-lists`, list);
});
afterEach(closePage);
afterAll(() => server.close());

const messages = async () => (await server.get<MailListingDto>(`${AT}/mail`)).messages;
const outbox = (search = '') => openPage(server, `/c/1/packs/outbox${search}`);

describe('the outbox', () => {
  it('without a message says what belongs there, and why nothing leaves', async () => {
    const page = outbox();
    expect(await page.findByText('No messages yet')).toBeTruthy();
    expect(page.getByText('No mail server is set: messages stay here. Set SMTP_URL to send them.')).toBeTruthy();
  });
});

describe('an issued pack', () => {
  const openDialog = async () => {
    const page = openPage(server, `/c/1/packs/pack-1/${issue}?asOf=2026-09`);
    fireEvent.click(await page.findByRole('button', { name: /^Mail/ }));
    const dialog = within(await page.findByRole('dialog'));
    await dialog.findByText(/^No mail server is set\./);
    const board = await dialog.findByRole('checkbox', { name: 'Board (2)' });
    const to = dialog.getByRole<HTMLTextAreaElement>('textbox', { name: 'To' });
    const type = (text: string) => fireEvent.change(to, { target: { value: text } });
    const send = () => dialog.getByRole<HTMLButtonElement>('button', { name: /in the outbox$/ });
    return { page, dialog, board, to, type, send };
  };

  it('is not mailed before it is known whether anything leaves', async () => {
    let isDown = true;
    const page = openPage(server, `/c/1/packs/pack-1/${issue}?asOf=2026-09`, (_method, path) =>
      isDown && path.startsWith(`${AT}/mail?`) ? failed(503, 'The outbox is not available.') : undefined,
    );
    fireEvent.click(await page.findByRole('button', { name: /^Mail/ }));
    const dialog = within(await page.findByRole('dialog'));
    fireEvent.change(dialog.getByRole('textbox', { name: 'To' }), { target: { value: 'ines@example.com' } });
    expect(await dialog.findByText('The outbox is not available.')).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Send to 1' }).disabled).toBe(true);
    isDown = false;
    fireEvent.click(dialog.getByRole('button', { name: 'Try again' }));
    expect((await dialog.findByRole<HTMLButtonElement>('button', { name: 'Put 1 in the outbox' })).disabled).toBe(false);
  });

  it('is mailed to nobody, and to each person once however often they are named', async () => {
    const { board, type, send } = await openDialog();
    expect([send().textContent, send().disabled]).toEqual(['Put 0 in the outbox', true]);
    fireEvent.click(board);
    type('ines@example.com, eli@example.com; eli@example.com');
    expect([send().textContent, send().disabled]).toEqual(['Put 3 in the outbox', false]);
  });

  it('names a field and an address that are none, keeps what was typed, and is sent once corrected', async () => {
    const { page, dialog, to, type, send } = await openDialog();
    type('ines.example.com');
    fireEvent.click(send());
    expect(await dialog.findByText('to 1: ines.example.com is not an email address. Enter one such as name@company.com')).toBeTruthy();
    type('ines@example.com');
    const subject = dialog.getByRole('textbox', { name: 'Subject' });
    fireEvent.change(subject, { target: { value: '{pack} for {year}' } });
    fireEvent.click(send());
    expect(await dialog.findByText(/There is no field \{year\} here/)).toBeTruthy();
    expect([to.value, await messages()]).toEqual(['ines@example.com', []]);
    fireEvent.change(subject, { target: { value: '{pack} for {month}' } });
    fireEvent.click(dialog.getByRole('checkbox', { name: 'Spreadsheet' }));
    fireEvent.click(send());
    await waitFor(() => expect(page.queryByRole('dialog')).toBeNull());
    expect((await messages()).map(({ recipient, subject: of }) => [recipient, of])).toEqual([
      ['ines@example.com', 'Bank letter for September 2026'],
    ]);
  });

  it('is read in the outbox with its files, from its place in the address, too', async () => {
    const [message] = await messages();
    const page = outbox();
    fireEvent.click(await page.findByRole('button', { name: 'ines@example.com' }));
    await page.findByRole('heading', { level: 2, name: 'Bank letter for September 2026' });
    const shown = within(page.getByRole('region', { name: 'Message' }));
    expect(shown.getByText(/^pack-1-2026-09\.pdf, \d/)).toBeTruthy();
    expect(shown.getByText(/^pack-1-2026-09\.xlsx, \d/)).toBeTruthy();
    expect(shown.queryByRole('button', { name: 'Send again' })).toBeNull();
    expect(page.address()).toBe(`/c/1/packs/outbox?message=${message!.id}`);
    fireEvent.click(shown.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(page.queryByRole('region', { name: 'Message' })).toBeNull());

    const gone = outbox('?message=4711');
    expect(await gone.findByText(/There is no message/)).toBeTruthy();
  });
});

describe('the issue of a pack', () => {
  const openChecklist = async (between?: Between) => {
    const page = openPage(server, '/c/1/packs/pack-1?asOf=2026-10', between);
    fireEvent.click(await page.findByRole('button', { name: 'Issue…' }));
    const dialog = within(await page.findByRole('dialog'));
    return { page, dialog };
  };
  const issued = async () => (await server.get<PackMonthDto>(`${AT}/packs/pack-1/months/2026-10`)).issues;

  it('shows first what is open, each with the way to it', async () => {
    const { dialog } = await openChecklist();
    expect((await dialog.findByText(/^October 2026 is not closed\./)).querySelector('a')?.getAttribute('href')).toBe('/c/1/ledger/periods');
    expect(dialog.getByRole('heading', { name: /^\d+ items? to look at$/ })).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Issue anyway' }).disabled).toBe(false);
  });

  it('waits for its checklist, and does not begin where that cannot be read', async () => {
    const { dialog } = await openChecklist((_method, path) =>
      path.endsWith('/checklist') ? failed(500, 'The checklist failed.') : undefined,
    );
    expect(await dialog.findByText('The checklist failed.')).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Issue pack' }).disabled).toBe(true);
  });

  it('that the ledger overtook says so in the dialog and issues nothing; the next try does', async () => {
    const words = 'The ledger changed while the pack was being issued. Issue it again.';
    let isOvertaken = true;
    const { page, dialog } = await openChecklist((method, path) =>
      method === 'POST' && path.endsWith('/issues') && isOvertaken ? failed(409, words) : undefined,
    );
    fireEvent.click(await dialog.findByRole('button', { name: 'Issue anyway' }));
    expect(await dialog.findByText(words)).toBeTruthy();
    expect(await issued()).toEqual([]);
    isOvertaken = false;
    fireEvent.click(dialog.getByRole('button', { name: 'Issue anyway' }));
    await waitFor(async () => expect(page.address()).toMatch(new RegExp(`^/c/1/packs/pack-1/${(await issued())[0]?.id}`)));
    expect(await issued()).toHaveLength(1);
  });
});
