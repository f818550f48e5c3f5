import {
  type AuditTrailDto,
  type EntryChangeDto,
  type EntryDto,
  type EntryEffectDto,
  entryEffectSchema,
  entryHistorySchema,
  type EntryListDto,
  type Problem,
  type ReportDto,
} from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

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
const historyOf = async (id: number): Promise<EntryChangeDto[]> =>
  entryHistorySchema.parse(await server.get(`${at}/entries/${id}/history`));
type Content = EntryAsContent;
/** An entry with another amount on every line, in proportion. */
const scaled = (content: Content, factor: number): Content => ({
  ...content,
  lines: content.lines.map((line) => ({ ...line, amount: line.amount * factor })),
});
const correct = (entry: EntryDto, content: Content, reason = 'Extra digit on the bill') =>
  server.send('POST', `${at}/entries/${entry.id}/correction`, { version: entry.version, content, reason });

describe('a correction', () => {
  it('is previewed, posted with its reason, followed by statements, and on record', async () => {
    const { lines } = await find('accounts=6120&from=2026-07&to=2026-07&sort=amount');
    const entry = await entryOf(lines[0]!.entryId);
    const before = await server.statement(`${at}/statements/income?asOf=2026-07`);
    const content = contentOf(entry);
    content.lines = content.lines.map((line) => ({ ...line, amount: line.amount - Math.sign(line.amount) * 100_00 }));
    const balanced = content.lines.reduce((sum, { amount }) => sum + amount, 0);
    expect(balanced).toBe(0);
    const preview = await server.send('POST', `${at}/entries/${entry.id}/correction/preview`, { version: entry.version, content });
    const effect = entryEffectSchema.parse(preview.body);
    expect(effect.accounts.find(({ number }) => number === '6120')).toMatchObject({ change: -100_00, month: 'Jul 2026' });
    expect(effect.statementLines).toEqual(
      expect.arrayContaining([expect.objectContaining({ statement: 'Income statement', line: 'Operating income', change: 100_00 })]),
    );
    expect(await server.statement(`${at}/statements/income?asOf=2026-07`)).toEqual(before);

    expect(await correct(entry, content, 'Bill misread: 100 too much')).toMatchObject({ status: 204 });
    const after = await server.statement(`${at}/statements/income?asOf=2026-07`);
    const operatingIncome = (grid: typeof before) => grid.cells[grid.lines.findIndex(({ key }) => key === 'operating_income')]![0]!;
    const [was, is] = [operatingIncome(before), operatingIncome(after)];
    if (was.kind !== 'amount' || is.kind !== 'amount') throw new TypeError('operating income is not an amount');
    expect(is.value - was.value).toBe(100_00);
    expect(await entryOf(entry.id)).toMatchObject({ version: entry.version + 1, debits: entry.debits - 100_00 });
    const [change] = await historyOf(entry.id);
    expect(change).toMatchObject({ kind: 'correct', reason: 'Bill misread: 100 too much', actor: 'Tester', undoneBy: null });
    expect(change!.differences.map(({ field }) => field)).toEqual(['amount', 'amount']);
    const trail = await server.get<AuditTrailDto>(`${at}/audit?find=misread`);
    expect(trail.events).toMatchObject([
      { words: `Entry ${entry.number} corrected`, entryId: entry.id, reason: 'Bill misread: 100 too much' },
    ]);
    expect(trail.events[0]!.changes).toHaveLength(2);
    await expectSound(server);
  });

  it('may move the entry to another month, add a line, remove one, and name a new vendor', async () => {
    const { lines } = await find('accounts=6120&from=2026-08&to=2026-08&sort=amount');
    const entry = await entryOf(lines[0]!.entryId);
    const content = contentOf(entry);
    const [first, ...others] = content.lines;
    const split = [
      { ...first!, amount: first!.amount - 10_00, party: 'A vendor not seen before' },
      ...others,
      { ...first!, amount: 10_00, account: '6610', memo: 'Late fee' },
    ];
    expect(await correct(entry, { ...content, date: '2026-09-02', lines: split })).toMatchObject({ status: 204 });
    expect((await find('find=not+seen')).lines.map(({ date }) => date)).toEqual(['2026-09-02']);
    await expectBalanced(server);
    const now = await entryOf(entry.id);
    expect(await correct(now, { ...contentOf(now), lines: contentOf(entry).lines })).toMatchObject({ status: 204 });
    expect((await entryOf(entry.id)).lines).toHaveLength(entry.lines.length);
    await expectSound(server);
  });

  it.each<[string, (content: Content) => Content, string, string]>([
    [
      'unbalanced',
      (content) => ({ ...content, lines: content.lines.map((line, place) => (place === 0 ? { ...line, amount: line.amount + 1 } : line)) }),
      'content.lines',
      'differ by 0.01',
    ],
    ['outside the years', (content) => ({ ...content, date: '2035-01-01' }), 'content.date', 'outside the fiscal years'],
    ['no date', (content) => ({ ...content, date: 'Oct 1' }), 'content.date', 'is not a date'],
    [
      'unknown account',
      (content) => ({ ...content, lines: content.lines.map((line, place) => (place === 0 ? { ...line, account: '612' } : line)) }),
      'content.lines.0.account',
      'There is no account 612',
    ],
    ['one line', (content) => ({ ...content, lines: [] }), 'content.lines', 'at least two lines'],
    ['zero', (content) => scaled(content, 0), 'content.lines.0.amount', 'has no amount'],
    [
      'unknown dimension',
      (content) => ({ ...content, lines: content.lines.map((line) => ({ ...line, dimensions: { region: 'North' } })) }),
      'content.lines',
      'no dimension "region"',
    ],
  ])('is refused when it is %s, and nothing is changed', async (_, change, path, words) => {
    const { lines } = await find('accounts=6120&from=2026-06&to=2026-06');
    const entry = await entryOf(lines[0]!.entryId);
    const { status, body } = await correct(entry, change(contentOf(entry)));
    expect(status).toBe(422);
    const { errors = [] } = body as Problem;
    expect(errors.find((error) => error.path === path)?.message).toContain(words);
    expect(await entryOf(entry.id)).toEqual(entry);
  });

  it('needs a reason, and a change', async () => {
    const { lines } = await find('accounts=6120&from=2026-06&to=2026-06');
    const entry = await entryOf(lines[0]!.entryId);
    expect((await correct(entry, contentOf(entry), ' ')).status).toBe(422);
    expect((await correct(entry, contentOf(entry))).body).toMatchObject({ detail: expect.stringContaining('Nothing was changed') });
  });

  it('of an entry someone else just changed is refused, and says who changed it', async () => {
    const { lines } = await find('accounts=6120&from=2026-05&to=2026-05');
    const entry = await entryOf(lines[0]!.entryId);
    const content = contentOf(entry);
    expect(
      (await correct(entry, { ...content, lines: content.lines.map((line) => ({ ...line, memo: 'First' })) }, 'Memo, first')).status,
    ).toBe(204);
    const second = await correct(entry, { ...content, lines: content.lines.map((line) => ({ ...line, memo: 'Second' })) }, 'Memo, second');
    expect(second).toMatchObject({ status: 409, body: { detail: expect.stringMatching(/was changed by Tester at .*: Memo, first/) } });
    expect((await entryOf(entry.id)).lines[0]!.memo).toBe('First');
  });
});

describe('a reclassification', () => {
  it('moves lines to another account and department as one change, and is undone as one', async () => {
    const { lines } = await find('accounts=6210&from=2026-08&to=2026-10&state=posted');
    const moved = lines.map(({ lineId }) => lineId);
    expect(moved.length).toBeGreaterThan(2);
    const request = { lines: moved, account: '6220', dimensions: { department: 'Store' } };
    const before = await server.get<ReportDto>(`${at}/reports/trial-balance?limit=2000&range=2026-10`);
    const effect = (await server.send('POST', `${at}/reclassifications/preview`, request)).body as EntryEffectDto;
    const sum = lines.reduce((total, { amount }) => total + amount, 0);
    const changeOf = (number: string) =>
      effect.accounts.filter((each) => each.number === number).reduce((total, { change }) => total + change, 0);
    expect([changeOf('6210'), changeOf('6220'), effect.lines]).toEqual([-sum, sum, moved.length]);

    expect((await server.send('POST', `${at}/reclassifications`, { ...request, reason: 'Boat show costs belong together' })).status).toBe(
      204,
    );
    expect((await find('accounts=6210&from=2026-08&to=2026-10&state=posted')).totals.lines).toBe(0);
    const now = await find('accounts=6220&from=2026-08&to=2026-10&filter.department=Store');
    expect(now.lines.map(({ lineId }) => lineId)).toEqual(expect.arrayContaining(moved));
    await expectSound(server);
    const [change] = await historyOf(lines[0]!.entryId);
    expect(change).toMatchObject({ kind: 'reclassify', entries: new Set(lines.map(({ entryId }) => entryId)).size });

    expect((await server.send('POST', `${at}/entry-changes/${change!.id}/undo`, { reason: 'Not decided yet' })).status).toBe(204);
    expect(await server.get(`${at}/reports/trial-balance?limit=2000&range=2026-10`)).toEqual(before);
    expect((await server.send('POST', `${at}/entry-changes/${change!.id}/undo`, { reason: 'Twice' })).status).toBe(409);
    expect((await historyOf(lines[0]!.entryId)).map(({ kind }) => kind)).toEqual(['undo', 'reclassify']);
    await expectBalanced(server);
  });

  it('moves whole entries to another month', async () => {
    const { lines } = await find('accounts=6220&from=2026-09&to=2026-09');
    const request = { lines: [lines[0]!.lineId], date: '2026-10-20' };
    const effect = (await server.send('POST', `${at}/reclassifications/preview`, request)).body as EntryEffectDto;
    expect(new Set(effect.accounts.map(({ month }) => month))).toEqual(new Set(['Sep 2026', 'Oct 2026']));
    const total = effect.accounts.filter(({ number }) => number === '6220').reduce((sum, { change }) => sum + change, 0);
    expect(total).toBe(0);
    expect((await server.send('POST', `${at}/reclassifications`, { ...request, reason: 'Show was in October' })).status).toBe(204);
    expect((await entryOf(lines[0]!.entryId)).date).toBe('2026-10-20');
    await expectSound(server);
  });

  it.each([
    [{ account: '9999' }, 'account', 'There is no account 9999'],
    [{ date: '2040-01-01' }, 'date', 'not a date within the fiscal years'],
    [{ dimensions: { region: 'North' } }, 'dimensions', 'no dimension "region"'],
    [{}, 'account', 'Choose an account, a dimension or a date'],
  ])('to %j is refused', async (to, path, words) => {
    const { lines } = await find('accounts=6220&from=2026-06');
    const { status, body } = await server.send('POST', `${at}/reclassifications`, { lines: [lines[0]!.lineId], ...to, reason: 'A try' });
    expect([status, (body as Problem).errors?.[0]?.path]).toEqual([422, path]);
    expect((body as Problem).detail).toContain(words);
  });

  it('of lines that are gone, or of another company, is refused', async () => {
    const [other] = await server.application.database.select<{ id: number }>(
      'SELECT l.id FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.company_id = 2 LIMIT 1',
    );
    for (const id of [other!.id, 99_999_999])
      expect((await server.send('POST', `${at}/reclassifications`, { lines: [id], account: '6220', reason: 'A try' })).body).toMatchObject({
        status: 422,
        detail: expect.stringContaining('no longer in the ledger'),
      });
  });

  it('of lines whose entry was changed since they were looked at changes nothing', async () => {
    const { lines } = await find('accounts=6220&from=2026-06');
    const { entryChanges, actor, database } = server.application;
    const request = { lines: [lines[0]!.lineId], reason: 'At once' };
    const results = await Promise.allSettled([
      entryChanges.reclassify(1, { ...request, account: '6410' }, actor),
      entryChanges.reclassify(1, { ...request, account: '6420' }, actor),
    ]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const [kept] = await database.select<{ count: number }>('SELECT count(*) AS count FROM entry_versions WHERE entry_id = $1', [
      lines[0]!.entryId,
    ]);
    expect(kept!.count).toBe((await entryOf(lines[0]!.entryId)).version - 1);
    await expectBalanced(server);
  });

  it('keeps its import from being reversed, so that it is not lost', async () => {
    expect((await server.send('POST', '/imports/1/reverse')).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('corrected or reclassified since'),
    });
  });
});
