import { fireEvent, waitFor, within } from '@testing-library/react';
import type { CompanyDto, CompanyMaterialityDto, FindingRecordDto, FindingsDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1';
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterEach(() => {
  closePage();
  sessionStorage.clear();
});
afterAll(() => server.close());

const findings = () => server.get<FindingsDto>(`${AT}/findings?asOf=2026-10&comparison=budget`);

/** Texts that are kept while they are written; the month in view is kept as well. */
const keptTexts = () => Object.keys(sessionStorage).filter((key) => !key.startsWith('wm.asOf.'));

describe('variances', () => {
  const open = async (search = '', between?: Between) => {
    const page = openPage(server, `/c/1/findings/variances?asOf=2026-10${search}`, between);
    const list = within(await page.findByRole('list', { name: 'Findings' }));
    const why = () => within(page.getByRole('region', { name: 'Why' }));
    // rows stand in the order in which the server lists them
    const row = (at: number) => within(list.getAllByRole('listitem')[at]!).getByRole('button');
    return { page, list, why, row };
  };
  const recordOf = (line: string, month: string, span: string) =>
    server.get<FindingRecordDto>(`${AT}/findings/record?view=income&line=${line}&comparison=budget&month=${month}&span=${span}`);
  const findingAt = async (at: number) => {
    const { line, name, month, spans } = (await findings()).findings[at]!;
    return { line, name, month, span: spans[0]!.span };
  };
  const [first, second] = [() => findingAt(0), () => findingAt(1)];

  it('a comment that is being written waits while another finding is looked at, and is accepted', async () => {
    const [one, two] = [await first(), await second()];
    const { why, row } = await open();
    fireEvent.click(await why().findByRole('button', { name: 'Edit' }));
    const text = () => why().getByRole<HTMLTextAreaElement>('textbox', { name: 'Comment' });
    fireEvent.change(text(), { target: { value: 'Permits were paid early: {variance}.' } });
    fireEvent.click(row(1));
    await waitFor(() => expect(why().getByRole('heading', { level: 2 }).textContent).toContain(two.name));
    await why().findByRole('button', { name: 'Edit' });
    expect(why().queryByRole('textbox', { name: 'Comment' })).toBeNull();
    fireEvent.click(row(0));
    await waitFor(() => expect(text().value).toBe('Permits were paid early: {variance}.'));
    fireEvent.click(why().getByRole('button', { name: 'Accept comment' }));
    await waitFor(async () =>
      expect((await recordOf(one.line, one.month, one.span)).comment?.template).toBe('Permits were paid early: {variance}.'),
    );
    await waitFor(() => expect(why().queryByRole('textbox', { name: 'Comment' })).toBeNull());
    expect(keptTexts()).toEqual([]);
  });

  it('a comment that cannot be saved stays in its field, with the reason', async () => {
    let isDown = true;
    const { why } = await open('', (method) => (isDown && method === 'PUT' ? failed(503, 'The server is restarting.') : undefined));
    fireEvent.click(await why().findByRole('button', { name: 'Edit' }));
    fireEvent.change(why().getByRole('textbox', { name: 'Comment' }), { target: { value: 'Second try' } });
    fireEvent.click(why().getByRole('button', { name: 'Accept comment' }));
    expect((await why().findByRole('alert')).textContent).toBe('The server is restarting.');
    expect(why().getByRole<HTMLTextAreaElement>('textbox', { name: 'Comment' }).value).toBe('Second try');
    isDown = false;
    fireEvent.click(why().getByRole('button', { name: 'Cancel' }));
    expect([why().queryByRole('textbox', { name: 'Comment' }), keptTexts()]).toEqual([null, []]);
  });

  it('a drafted comment is rejected, shown again, and accepted as it stands', async () => {
    const two = await second();
    const { why, row } = await open();
    fireEvent.click(row(1));
    await waitFor(() => expect(why().getByRole('heading', { level: 2 }).textContent).toContain(two.name));
    fireEvent.click(await why().findByRole('button', { name: 'Reject' }));
    expect(await why().findByText('The drafted comment was rejected.')).toBeTruthy();
    const again = why().getByRole<HTMLButtonElement>('button', { name: 'Show it again' });
    await waitFor(() => expect(again.disabled).toBe(false));
    fireEvent.click(again);
    const accept = await why().findByRole<HTMLButtonElement>('button', { name: 'Accept comment' });
    await waitFor(() => expect(accept.disabled).toBe(false));
    fireEvent.click(accept);
    await waitFor(async () => expect((await recordOf(two.line, two.month, two.span)).status).toBe('explained'));
    expect(await why().findByRole('button', { name: 'Remove comment' })).toBeTruthy();
  });

  it('are shown by their status, which the address keeps, and say where none has it', async () => {
    const { findings: all } = await findings();
    const { line, month, spans } = all.find(({ status }) => status === 'open')!;
    const place = { view: 'income', line, comparison: 'budget', month, span: spans[0]!.span };
    await server.accept('PUT', `${AT}/findings/record`, { ...place, status: 'accepted' });
    const answered = (await findings()).findings.filter(
      ({ status, notReversed }) => !notReversed && status !== 'open' && status !== 'needsCorrection',
    ).length;
    const { page } = await open();
    const count = () => within(page.getByRole('list', { name: 'Findings' })).getAllByRole('listitem').length;
    const choose = (value: string) => fireEvent.change(page.getByRole('combobox', { name: 'Show' }), { target: { value } });
    choose('answered');
    await waitFor(() => expect([page.address().includes('status=answered'), count()]).toEqual([true, answered]));
    choose('open');
    await waitFor(() => expect(count()).toBe(all.length - answered));
    expect(page.getByText(`${all.length} findings, ${all.length - answered} open.`)).toBeTruthy();
    closePage();
    const narrowed = openPage(server, '/c/1/findings/variances?asOf=2026-10&comparison=priorMonth&status=answered');
    expect(await narrowed.findByText('No finding has this status. Choose another under Show.')).toBeTruthy();
  });

  it('have an owner, saved on leaving the field, and a question to them, kept while it is written', async () => {
    const one = await first();
    const { why, row, page } = await open();
    const owner = await why().findByRole<HTMLInputElement>('textbox', { name: 'Owner' });
    fireEvent.change(owner, { target: { value: 'Ines' } });
    fireEvent.blur(owner);
    await waitFor(async () => expect((await recordOf(one.line, one.month, one.span)).owner).toBe('Ines'));
    fireEvent.click(await why().findByRole('button', { name: 'Ask the owner' }));
    const question = () => why().getByRole<HTMLTextAreaElement>('textbox', { name: 'Question' });
    fireEvent.change(question(), { target: { value: 'Were these permits of next year?' } });
    fireEvent.click(row(1));
    await waitFor(() => expect(why().queryByRole('textbox', { name: 'Question' })).toBeNull());
    fireEvent.click(row(0));
    fireEvent.click(await why().findByRole('button', { name: 'Ask the owner' }));
    expect(question().value).toBe('Were these permits of next year?');
    fireEvent.click(why().getByRole('button', { name: 'Ask' }));
    await waitFor(async () =>
      expect((await recordOf(one.line, one.month, one.span)).notes.at(-1)).toMatchObject({ kind: 'question', person: 'Ines' }),
    );
    await waitFor(() => expect(why().queryByRole('textbox', { name: 'Question' })).toBeNull());
    expect(page.getByText('Were these permits of next year?')).toBeTruthy();
  });

  it('are there although other statements cannot be listed, which the page says', async () => {
    const { page } = await open('', (_method, path) =>
      path === `${AT}/views` ? failed(503, 'The list of views is not available.') : undefined,
    );
    expect(await page.findByText('The list of views is not available.')).toBeTruthy();
  });

  it('that nothing can be compared with say what is missing', async () => {
    const { periods } = await server.get<CompanyDto>(AT);
    const page = openPage(server, `/c/1/findings/variances?asOf=${periods[0]!.key}&comparison=priorYear`);
    expect(await page.findByText('Nothing to compare with')).toBeTruthy();
  });
});

describe('materiality limits', () => {
  const limits = () => server.get<CompanyMaterialityDto>(`${AT}/materiality`);
  const open = async (between?: Between) => {
    const page = openPage(server, '/c/1/findings/limits?asOf=2026-10', between);
    const region = within(await page.findByRole('region', { name: 'Materiality limits' }));
    const group = (name: string) => within(region.getAllByRole('group', { name })[0]!);
    const type = (label: string, value: string) =>
      fireEvent.change(group('A month').getByRole('textbox', { name: label }), { target: { value } });
    const save = () => page.getByRole<HTMLButtonElement>('button', { name: 'Save limits' });
    return { page, region, group, type, save };
  };

  it('say what cannot be read, by the name that stands on the page, and give no findings then', async () => {
    const { region, type, save } = await open();
    type('Amount', 'a lot');
    expect(region.getByRole('alert').textContent).toBe('Month: enter the amount as a number above zero.');
    expect(save().disabled).toBe(true);
    type('Amount', '');
    type('Percent', '');
    expect(region.getByRole('alert').textContent).toBe('Month: enter an amount, a percent, or both.');
    type('Amount', '$2,500');
    type('Minimum variance', '-1');
    expect(region.getByRole('alert').textContent).toBe('Month: enter the smallest variance as a number.');
    type('Minimum variance', '0');
    expect(region.queryByRole('alert')).toBeNull();
    const add = region.getByRole<HTMLSelectElement>('combobox', { name: 'Add limits for' });
    const [, line] = [...add.options];
    fireEvent.change(add, { target: { value: line!.value } });
    const own = within(region.getByRole('group', { name: new RegExp(`^${line!.textContent}`) }));
    fireEvent.change(own.getAllByRole('textbox', { name: 'Amount' })[0]!, { target: { value: '0' } });
    expect(region.getByRole('alert').textContent).toBe(`${line!.textContent}, month: enter the amount as a number above zero.`);
    fireEvent.click(region.getByRole('button', { name: `Remove the limits of ${line!.textContent}` }));
    expect(region.queryByRole('alert')).toBeNull();
  });

  it('are saved for all companies or one, and one’s own are removed again', async () => {
    const { page, region, type, save } = await open();
    expect(region.getByText(/They are suggested from the revenue/)).toBeTruthy();
    type('Amount', '2,500');
    fireEvent.click(save());
    await waitFor(async () => expect((await limits()).materiality.month.amount).toBe(250_000));
    expect(await page.findByText(/They are this company’s own/)).toBeTruthy();
    expect([page.getByRole('status').textContent, save().disabled]).toEqual(['Saved.', true]);
    fireEvent.click(page.getByRole('button', { name: 'Remove own limits' }));
    expect(await page.findByText(/They are suggested from the revenue/)).toBeTruthy();
    fireEvent.change(page.getByRole('combobox', { name: 'for' }), { target: { value: 'all' } });
    fireEvent.click(save());
    expect(await page.findByText(/They are the limits for all companies/)).toBeTruthy();
    expect((await server.get<CompanyMaterialityDto>('/companies/2/materiality')).source).toBe('all');
  });

  it('say why they were not saved, and count findings again once the server answers', async () => {
    let isDown = true;
    const { region, type, save } = await open((method, path) =>
      isDown && (method === 'PUT' || path.endsWith('/preview')) ? failed(503, 'The server is restarting.') : undefined,
    );
    type('Amount', '1,234');
    fireEvent.click(save());
    await waitFor(() => expect(region.getAllByText('The server is restarting.').length).toBe(2));
    isDown = false;
    fireEvent.click(region.getByRole('button', { name: 'Try again' }));
    const table = within(await region.findByRole('table', { name: 'Findings by month' }));
    expect(table.getAllByRole('cell').length).toBeGreaterThan(1);
  });
});
