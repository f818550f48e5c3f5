import {
  type AuditTrailDto,
  type EntryDto,
  type EntryEffectDto,
  type EntryListDto,
  type EntryTemplateDto,
  type ImportDto,
  type LedgerPeriodsDto,
  type Problem,
  type StripDto,
  type UnfinishedDto,
} from '@wise-margin/contract';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { contentOf, type EntryAsContent } from './support/entry-content.ts';
import { type TestServer } from './support/server.ts';
import { expectBalanced, expectSound } from './support/sound-ledger.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const at = '/companies/1';
const find = (query: string): Promise<EntryListDto> => server.get(`${at}/entries?limit=1000&${query}`);
const entryOf = (id: number): Promise<EntryDto> => server.get(`${at}/entries/${id}`);
/** FY2027 runs April 2026 to March 2027: its period 6 is September 2026. */
const put = (number: number, state: string, more: object = {}) =>
  server.send('PUT', `${at}/periods`, { year: 2027, number, state, ...more });
const stateOf = async (number: number, year = 2027) =>
  (await server.get<LedgerPeriodsDto>(`${at}/periods`)).periods.find((period) => period.year === year && period.number === number)!.state;
const income = async (asOf: string, line = 'operating_income') => {
  const grid = await server.statement(`${at}/statements/income?asOf=${asOf}`);
  const cell = grid.cells[grid.lines.findIndex(({ key }) => key === line)]![0]!;
  return cell.kind === 'amount' ? cell.value : NaN;
};
const boatShow = async () => entryOf((await find('find=BS-2609-2&to=2026-09')).lines[0]!.entryId);
const openAll = async () => {
  const { periods } = await server.get<LedgerPeriodsDto>(`${at}/periods`);
  for (const { year, number, state } of periods)
    if (state !== 'open') await server.send('PUT', `${at}/periods`, { year, number, state: 'open', reason: 'Next test' });
};
beforeEach(openAll);
const entry = (date: string, more: Partial<EntryAsContent> = {}): EntryAsContent => ({
  date,
  source: 'adjustments',
  kind: 'adjustment',
  state: 'posted',
  lines: [
    { account: '6610', amount: 150_00, dimensions: { department: 'Office' }, memo: 'Audit fee', party: '', document: '', due: null },
    { account: '2050', amount: -150_00, dimensions: {}, memo: 'Audit fee', party: '', document: '', due: null },
  ],
  ...more,
});
const make = (content: EntryAsContent, more: object = {}) =>
  server.send('POST', `${at}/entries`, { content, reason: 'Year-end adjustment', ...more });
const madeId = (answer: { body: unknown }) => (answer.body as { entries: { id: number }[] }).entries[0]!.id;
const HEADER = 'entry,date,account,debit,credit';

describe('a closed period', () => {
  it('takes no correction; a correcting entry in the open month is offered and posted instead', async () => {
    const bill = await boatShow();
    await put(6, 'closed');
    const content = contentOf(bill);
    content.lines = content.lines.map((line) => ({ ...line, amount: line.amount / 2 }));
    const request = { version: bill.version, content };
    const preview = await server.send('POST', `${at}/entries/${bill.id}/correction/preview`, request);
    expect((preview.body as EntryEffectDto).closed).toEqual({ periods: ['Sep 2026'], postIn: '2026-10-01' });
    const refused = await server.send('POST', `${at}/entries/${bill.id}/correction`, { ...request, reason: 'Half of it' });
    expect([refused.status, (refused.body as Problem).detail]).toEqual([
      409,
      'Sep 2026 is closed. Post in an open period, or reopen it with a reason.',
    ]);
    const before = [await income('2026-09'), await income('2026-10')];
    const posted = { ...request, postIn: '2026-10-01' };
    const effect = (await server.send('POST', `${at}/entries/${bill.id}/correction/preview`, posted)).body as EntryEffectDto;
    expect(effect.closed).toBeNull();
    expect(effect.accounts.find(({ number }) => number === '6310')).toMatchObject({ month: 'Oct 2026', change: -642_000 });
    expect(await server.send('POST', `${at}/entries/${bill.id}/correction`, { ...posted, reason: 'Half of it' })).toMatchObject({
      status: 204,
    });
    expect([await income('2026-09'), await income('2026-10')]).toEqual([before[0], before[1]! + 642_000]);
    const after = await entryOf(bill.id);
    expect(after.lines).toEqual(bill.lines);
    expect(after.related).toMatchObject([{ how: 'correctedBy', number: 'AJ-000001' }]);
    const correcting = await entryOf(after.related[0]!.id);
    expect(correcting).toMatchObject({
      date: '2026-10-01',
      kind: 'adjustment',
      importId: null,
      related: [{ how: 'corrects', id: bill.id }],
    });
    expect(correcting.lines.map(({ memo }) => memo)).toEqual(new Array(2).fill(`Correction of ${bill.number}`));
    await expectSound(server);
  });

  it('takes no reclassification; its sums are moved by one entry in the open month', async () => {
    const bill = await boatShow();
    await put(6, 'closed');
    const request = { lines: [bill.lines[0]!.id], account: '6220' };
    const { closed } = (await server.send('POST', `${at}/reclassifications/preview`, request)).body as EntryEffectDto;
    expect(closed?.postIn).toBe('2026-10-01');
    expect(await server.send('POST', `${at}/reclassifications`, { ...request, reason: 'Boat show' })).toMatchObject({ status: 409 });
    const before = await income('2026-09', 'operating_expenses');
    expect(await server.send('POST', `${at}/reclassifications`, { ...request, postIn: '2026-10-05', reason: 'Boat show' })).toMatchObject({
      status: 204,
    });
    expect(await income('2026-09', 'operating_expenses')).toBe(before);
    const { lines } = await find('find=Boat+show&from=2026-10&to=2026-10&origin=manual');
    const moved = lines.filter(({ kind }) => kind === 'reclassification');
    expect(moved.map(({ account, amount }) => [account, amount]).sort()).toEqual([
      ['6220', 1_284_000],
      ['6310', -1_284_000],
    ]);
    await expectBalanced(server);
  });

  it('takes no import: each row is named, and an import checked before is checked again', async () => {
    const rows = (number: string, date: string) => `${number},${date},1010,10.00,\n${number},${date},4310,,10.00\n`;
    const before = await server.get(`${at}/reports/trial-balance?range=2026-09`);
    const checked = await server.upload({ company: '1' }, { ledger: `${HEADER}\n${rows('LATE-1', '2026-09-12')}` });
    expect(checked.state).toBe('ready');
    await put(6, 'closed');
    const answer = await server.send('POST', `/imports/${checked.id}/post`, {});
    expect((answer.body as ImportDto).state).not.toBe('posted');
    await server.application.imports.settled(checked.id);
    const again = await server.get<ImportDto>(`/imports/${checked.id}`);
    expect(again).toMatchObject({ state: 'refused', issues: [{ row: 2, column: 'date', text: '2026-09-12', code: 'periodClosed' }] });
    const late = await server.upload(
      { company: '1' },
      { ledger: `${HEADER}\n${rows('LATE-2', '2026-10-12')}${rows('LATE-3', '2026-09-13')}` },
    );
    expect(late).toMatchObject({ state: 'refused', issues: [{ row: 4, text: '2026-09-13', reason: 'The date lies in a closed period' }] });
    expect(await server.get(`${at}/reports/trial-balance?range=2026-09`)).toEqual(before);
    for (const { id } of [checked, late]) await server.send('DELETE', `/imports/${id}`);
  });

  it('keeps an import from being reversed', async () => {
    const made = await server.upload(
      { company: '1' },
      { ledger: `${HEADER}\nREV-1,2026-09-12,1010,10.00,\nREV-1,2026-09-12,4310,,10.00\n` },
    );
    expect(await server.send('POST', `/imports/${made.id}/post`, {})).toMatchObject({ status: 200 });
    await put(6, 'closed');
    expect(await server.send('POST', `/imports/${made.id}/reverse`, {})).toMatchObject({ status: 409 });
    await openAll();
    expect(await server.send('POST', `/imports/${made.id}/reverse`, {})).toMatchObject({ status: 200 });
  });

  it('an import is reversed once the changes of its entries are undone', async () => {
    const made = await server.upload(
      { company: '1' },
      { ledger: `${HEADER}\nREV-2,2026-10-12,1010,10.00,\nREV-2,2026-10-12,4310,,10.00\n` },
    );
    await server.send('POST', `/imports/${made.id}/post`, {});
    const { lines } = await find('find=REV-2');
    expect(
      await server.send('POST', `${at}/reclassifications`, { lines: [lines[0]!.lineId], account: '1020', reason: 'Other bank' }),
    ).toMatchObject({ status: 204 });
    expect(await server.send('POST', `/imports/${made.id}/reverse`, {})).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('Undo those changes first') },
    });
    const [change] = await server.get<{ id: number }[]>(`${at}/entries/${lines[0]!.entryId}/history`);
    expect(await server.send('POST', `${at}/entry-changes/${change!.id}/undo`, { reason: 'As it was' })).toMatchObject({ status: 204 });
    expect(await server.send('POST', `/imports/${made.id}/reverse`, {})).toMatchObject({ status: 200 });
    await expectBalanced(server);
  });

  it('is reopened with a reason only, and both are on record', async () => {
    await put(6, 'closed');
    expect(await put(6, 'open')).toMatchObject({ status: 422, body: { errors: [{ path: 'reason' }] } });
    expect(await stateOf(6)).toBe('closed');
    const { months } = await server.get<StripDto>('/companies/1/period-strip?asOf=2026-10');
    expect(months.filter(({ state }) => state !== 'open').map(({ name }) => name)).toEqual(['Sep 2026']);
    expect(await put(6, 'open', { reason: 'Late bill from the boat show' })).toMatchObject({ status: 200 });
    const { events } = await server.get<AuditTrailDto>(`${at}/audit?limit=2`);
    expect(events.map(({ words, reason, changes }) => [words, reason, changes])).toEqual([
      ['Sep 2026 reopened', 'Late bill from the boat show', [{ what: 'Sep 2026', from: 'closed', to: 'open' }]],
      ['Sep 2026 closed', '', [{ what: 'Sep 2026', from: 'open', to: 'closed' }]],
    ]);
  });

  it('closes those before it when asked, and the adjustment period by itself', async () => {
    await server.send('PUT', `${at}/periods`, { year: 2025, number: 12, state: 'closed', earlier: true });
    expect([
      await stateOf(1, 2024),
      await stateOf(13, 2024),
      await stateOf(12, 2025),
      await stateOf(13, 2025),
      await stateOf(1, 2026),
    ]).toEqual(['closed', 'closed', 'closed', 'open', 'open']);
    expect(await make(entry('2025-03-31', { kind: 'adjustment' }))).toMatchObject({ status: 201 });
    expect(await make(entry('2025-03-31', { kind: 'ordinary' }))).toMatchObject({ status: 409 });
  });

  it('soft-closed takes entries of those who may post in it', async () => {
    await put(6, 'softClosed');
    expect(await make(entry('2026-09-30'))).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('Tester is not among those') },
    });
    await server.send('PUT', `${at}/periods/people`, { people: ['Tester'] });
    expect(await make(entry('2026-09-30'))).toMatchObject({ status: 201 });
    await put(6, 'closed');
    expect(await make(entry('2026-09-30'))).toMatchObject({ status: 409 });
    await server.send('PUT', `${at}/periods/people`, { people: [] });
  });

  it('says what is unfinished before it is closed', async () => {
    const { items } = await server.get<UnfinishedDto>(`${at}/periods/unfinished?year=2027&number=7`);
    expect(items).toEqual([{ kind: 'drafts', words: '3 entries are still in draft.' }]);
    expect(await server.send('GET', `${at}/periods/unfinished?year=2050&number=1`)).toMatchObject({ status: 422 });
  });

  it('is not closed while an import is being posted', async () => {
    const { database } = server.application;
    await database.write((transaction) => database.run(`UPDATE imports SET state = 'posting' WHERE id = 1`, [], transaction));
    expect(await put(6, 'closed')).toMatchObject({
      status: 409,
      body: { detail: 'Import 1 is being posted. Close the period when it is done.' },
    });
    await database.write((transaction) => database.run(`UPDATE imports SET state = 'posted' WHERE id = 1`, [], transaction));
    expect(await stateOf(6)).toBe('open');
  });
});

describe('an entry made by hand', () => {
  it('is previewed, posted, followed by statements and undone', async () => {
    const before = await income('2026-10');
    const preview = await server.send('POST', `${at}/entries/preview`, { content: entry('2026-10-31') });
    expect((preview.body as EntryEffectDto).accounts).toContainEqual({
      number: '6610',
      name: 'Accounting and legal',
      month: 'Oct 2026',
      change: 150_00,
    });
    const id = madeId(await make(entry('2026-10-31')));
    expect(await income('2026-10')).toBe(before - 150_00);
    expect((await entryOf(id)).lines.map(({ account }) => account)).toEqual(['6610', '2050']);
    const [change] = await server.get<{ id: number; kind: string; reason: string }[]>(`${at}/entries/${id}/history`);
    expect(change).toMatchObject({ kind: 'create', reason: 'Year-end adjustment' });
    expect(await server.send('POST', `${at}/entry-changes/${change!.id}/undo`, { reason: 'Posted twice' })).toMatchObject({ status: 204 });
    expect(await income('2026-10')).toBe(before);
    expect(await entryOf(id)).toMatchObject({ state: 'discarded', lines: [] });
    await expectSound(server);
  });
  it('reverses in the next month when asked', async () => {
    const before = [await income('2026-10'), await income('2026-11')];
    const answer = await make(entry('2026-10-31'), { reverseOn: '2026-11-01' });
    const [first, second] = (answer.body as { entries: { id: number }[] }).entries;
    expect(await entryOf(first!.id)).toMatchObject({ related: [{ how: 'reversedBy', id: second!.id }] });
    expect(await entryOf(second!.id)).toMatchObject({ date: '2026-11-01', related: [{ how: 'reverses', id: first!.id }] });
    expect([(await income('2026-10')) - before[0]!, await income('2026-11')]).toEqual([-150_00, 150_00]);
    expect(await make(entry('2026-10-31'), { reverseOn: '2026-10-31' })).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'reverseOn' }] },
    });
    await expectBalanced(server);
  });
  it.each([
    [
      'unbalanced',
      { lines: [{ ...entry('2026-10-31').lines[0]!, amount: 1 }, entry('2026-10-31').lines[1]!] },
      'Debits and credits differ',
    ],
    ['outside the fiscal years', { date: '2035-01-01' }, 'outside the fiscal years'],
    ['to an unknown account', { lines: entry('2026-10-31').lines.map((line) => ({ ...line, account: '6611' })) }, 'no account 6611'],
  ])('is refused when %s, and nothing is posted', async (_, more, words) => {
    const before = (await find('origin=manual')).totals;
    const answer = await make({ ...entry('2026-10-31'), ...more });
    expect([answer.status, (answer.body as Problem).detail]).toEqual([422, expect.stringContaining(words)]);
    expect((await find('origin=manual')).totals).toEqual(before);
  });
  it('in draft counts nowhere until it is posted, and can be discarded and restored', async () => {
    const before = await income('2026-10');
    const id = madeId(await make(entry('2026-10-31', { state: 'draft' })));
    expect(await income('2026-10')).toBe(before);
    expect(await server.send('POST', `${at}/entries/${id}/discard`, { version: 1 })).toMatchObject({ status: 204 });
    expect(await entryOf(id)).toMatchObject({ state: 'discarded', lines: [] });
    const [discarded] = await server.get<{ id: number; kind: string }[]>(`${at}/entries/${id}/history`);
    expect(discarded!.kind).toBe('discard');
    expect(await server.send('POST', `${at}/entry-changes/${discarded!.id}/undo`, { reason: 'Needed after all' })).toMatchObject({
      status: 204,
    });
    const restored = await entryOf(id);
    expect(restored).toMatchObject({ state: 'draft', debits: 150_00 });
    expect(await server.send('POST', `${at}/entries/${id}/post`, { version: 1 })).toMatchObject({ status: 409 });
    expect(await server.send('POST', `${at}/entries/${id}/post`, { version: restored.version })).toMatchObject({ status: 204 });
    expect(await income('2026-10')).toBe(before - 150_00);
    expect(await server.send('POST', `${at}/entries/${id}/post`, { version: restored.version + 1 })).toMatchObject({ status: 409 });
    await expectSound(server);
  });
  it('in draft is not posted into a closed period', async () => {
    const id = madeId(await make(entry('2026-09-30', { state: 'draft' })));
    await put(6, 'closed');
    expect(await server.send('POST', `${at}/entries/${id}/post`, { version: 1 })).toMatchObject({ status: 409 });
    expect(await entryOf(id)).toMatchObject({ state: 'draft', version: 1 });
  });
});

describe('a template', () => {
  it('makes the next draft each month, once, and is replaced and removed', async () => {
    const save = (nextDate: string | null) =>
      server.send('POST', `${at}/entry-templates`, { name: 'Audit fee', content: entry('2026-10-31'), nextDate });
    await save('2026-11-30');
    const [template] = (await save('2026-10-31')).body as EntryTemplateDto[];
    expect(template).toMatchObject({ name: 'Audit fee', nextDate: '2026-10-31' });
    const due = await server.get<UnfinishedDto>(`${at}/periods/unfinished?year=2027&number=7`);
    expect(due.items).toContainEqual({ kind: 'recurring', words: 'The recurring entry “Audit fee” is due.' });
    const next = () => server.send('POST', `${at}/entry-templates/${template!.id}/next`, {});
    expect(await entryOf(madeId(await next()))).toMatchObject({ date: '2026-10-31', state: 'draft', debits: 150_00 });
    expect(await entryOf(madeId(await next()))).toMatchObject({ date: '2026-11-30', state: 'draft' });
    expect(await server.get(`${at}/entry-templates`)).toMatchObject([{ nextDate: '2026-12-31' }]);
    await save(null);
    expect(await next()).toMatchObject({ status: 422 });
    expect(await server.send('DELETE', `${at}/entry-templates/${template!.id}`)).toMatchObject({ status: 200, body: [] });
  });
  it('is refused when its entry could not be posted', async () => {
    const content = { ...entry('2026-10-31'), lines: entry('2026-10-31').lines.slice(0, 1) };
    expect(await server.send('POST', `${at}/entry-templates`, { name: 'Broken', content })).toMatchObject({ status: 422 });
  });
});
