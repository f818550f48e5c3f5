import { type SearchDto, searchSchema } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
  await server.application.entryIndex.follow();
});
afterAll(() => server.close());

const search = async (q: string, asOf = '2026-10'): Promise<SearchDto> =>
  searchSchema.parse(await server.get(`/companies/1/search?asOf=${asOf}&q=${encodeURIComponent(q)}`));
const found = async (q: string): Promise<string[]> => (await search(q)).hits.map(({ kind, name }) => `${kind} ${name}`);

describe('a search', () => {
  it('finds an entry by its number, and the entry is all there is to choose', async () => {
    const { hits, moreEntries } = await search('pu-001230');
    expect(hits).toMatchObject([
      { kind: 'entry', name: 'PU-001230', amount: 489_000, detail: expect.stringContaining('Oct 6, 2026, Harbor Freight Lines, D-4471') },
    ]);
    expect(moreEntries).toBeNull();
    await server.get(`/companies/1/entries/${hits[0]!.link.replace('ledger/entries?entry=', '')}`);
  });
  it('finds the parts of a document number next to one another, and what begins so, the newest first', async () =>
    expect(await found('D-4471')).toEqual(['entry PU-001243', 'entry PU-001230']));
  it('finds a name wherever it is', async () => {
    const { hits, moreEntries } = await search('freight');
    const kinds = new Set(hits.map(({ kind }) => kind));
    expect([...kinds]).toEqual(expect.arrayContaining(['account', 'finding', 'party', 'entry']));
    const entries = hits.filter(({ kind }) => kind === 'entry');
    expect(entries).toHaveLength(8);
    expect(moreEntries).toBe('ledger/entries?find=freight');
  });
  it('finds amounts by their size, whichever their sign', async () => {
    const over = await search('>50k');
    expect(over.hits.every(({ amount }) => Math.abs(amount!) > 5_000_000)).toBe(true);
    expect(new Set(over.hits.map(({ kind }) => kind))).toEqual(new Set(['entry', 'finding']));
    expect(over.moreEntries).toBe('ledger/entries?least=50000.01');
    expect(await found('4890')).toEqual(expect.arrayContaining(['entry PU-001230', 'entry PU-001243']));
    // what the list shows of the same search
    const query = over.moreEntries!.replace('ledger/entries?', '').replace('50000.01', '5000001');
    const { totals } = await server.get<{ totals: { entries: number } }>(`/companies/1/entries?${query}`);
    expect(totals.entries).toBeGreaterThan(over.hits.length);
  });
  it('finds the variance of a finding by its amount', async () => {
    const { findings } = await server.get<{ findings: { name: string; spans: { variance: number }[] }[] }>(
      '/companies/1/findings?asOf=2026-10&comparison=budget',
    );
    const [{ name, spans }] = findings as [(typeof findings)[number]];
    const { hits } = await search(String(Math.abs(spans[0]!.variance / 100).toFixed(2)));
    expect(hits).toContainEqual(expect.objectContaining({ kind: 'finding', name, amount: spans[0]!.variance }));
  });
  it.each([
    ['oct 2025', ['month October 2025']],
    ['p&l', ['view Income statement']],
    ['tb', ['page Trial balance', 'page Outbox']],
    ['import files', ['command Import files']],
    ['nothing like it', []],
    ['"', []],
    ['-', []],
    ['NEAR( a:b * ^', []],
  ])('%s finds %j', async (q, names) => expect(await found(q)).toEqual(names));
  it('finds nothing for nothing, and refuses a book', async () => {
    expect(await search('  ')).toEqual({ hits: [], moreEntries: null, pending: 0 });
    const { status } = await server.send('GET', `/companies/1/search?q=${'x'.repeat(201)}`);
    expect(status).toBe(422);
  });
  it('keeps to its company', async () => {
    const { hits } = searchSchema.parse(await server.get('/companies/1/search?q=PU-001230'));
    const { database, entryIndex } = server.application;
    expect(hits).toHaveLength(1);
    expect(await entryIndex.find(2, ['pu-001230'], 8)).toEqual([]);
    expect(await entryIndex.ofAmount(2, { least: 489_000, most: 489_000 }, 8)).toEqual([]);
    const [row] = await database.select<{ count: number }>('SELECT count(*) AS count FROM entry_texts_pending');
    expect(row!.count).toBe(0);
  });
});

describe('after the ledger changed, a search', () => {
  it('finds an entry by what it says now, and no more by what it said', async () => {
    const [id] = (await search('PU-001230')).hits.map(({ link }) => Number(link.replace('ledger/entries?entry=', '')));
    const run = (sql: string, ...bindings: (string | number)[]) =>
      server.application.database.write((transaction) => server.application.database.run(sql, bindings, transaction));
    await run("UPDATE lines SET memo = 'Zebra crossing' WHERE entry_id = $1", id!);
    await run("UPDATE entries SET version = version + 1, date = '2026-10-08' WHERE id = $1", id!);
    const { hits } = await search('zebra cross');
    expect(hits).toMatchObject([{ name: 'PU-001230', detail: expect.stringContaining('Oct 8, 2026') }]);
    await run("UPDATE lines SET memo = 'Freight in, resin' WHERE entry_id = $1", id!);
    await run("UPDATE entries SET version = version - 1, date = '2026-10-06' WHERE id = $1", id!);
    expect(await found('zebra')).toEqual([]);
    expect((await search('D-4471')).hits.map(({ name }) => name)).toEqual(['PU-001243', 'PU-001230']);
  });
});

describe('entries that come and go', () => {
  const entries = async (q: string) => (await search(q)).hits.filter(({ kind }) => kind === 'entry').map(({ name }) => name);
  it('of an import are found once it is posted, and no more when it is reversed', async () => {
    const ledger = [
      'entry,date,account,debit,credit,memo,party,document,due,source',
      'ZQ-1,2026-10-20,5210,77.31,,Quetzal crate,,QZ-0001,,purchases',
      'ZQ-1,2026-10-20,2010,,77.31,Quetzal crate,,QZ-0001,,purchases',
      '',
    ].join('\n');
    const made = await server.upload({ company: '1' }, { ledger });
    expect(await entries('quetzal')).toEqual([]);
    await server.send('POST', `/imports/${made.id}/post`);
    expect([await entries('quetzal'), await entries('QZ-0001'), await entries('77.31')]).toEqual([['ZQ-1'], ['ZQ-1'], ['ZQ-1']]);
    await server.send('POST', `/imports/${made.id}/reverse`);
    expect([await entries('quetzal'), await entries('77.31')]).toEqual([[], []]);
  });
  it('made by hand are found as drafts, and no more when they are discarded', async () => {
    const line = (account: string, amount: number) => ({
      account,
      amount,
      dimensions: {},
      memo: 'Quokka fence',
      party: '',
      document: '',
      due: null,
    });
    const content = {
      date: '2026-10-30',
      source: 'general',
      kind: 'ordinary',
      state: 'draft',
      lines: [line('6310', 5000), line('2050', -5000)],
    };
    const { status, body } = await server.send('POST', '/companies/1/entries', { content, reason: 'Tried out' });
    expect(status).toBe(201);
    const [{ id, number }] = (body as { entries: [{ id: number; number: string }] }).entries;
    const { hits } = await search('quokka');
    expect(hits).toMatchObject([{ name: number, detail: expect.stringMatching(/draft$/) as unknown, amount: 5000 }]);
    await server.send('POST', `/companies/1/entries/${id}/discard`, { version: 1 });
    expect(await entries('quokka')).toEqual([]);
  });
});

describe('packs', () => {
  it('are found by their names, and their pages by what people call them', async () => {
    const hits = async (q: string) => (await server.get<SearchDto>(`/companies/1/search?q=${encodeURIComponent(q)}`)).hits;
    expect((await hits('board summary'))[0]).toMatchObject({ kind: 'pack', link: 'packs/board-summary' });
    expect((await hits('outbox'))[0]).toMatchObject({ kind: 'page', link: 'packs/outbox' });
    expect((await hits('automatic mail'))[0]).toMatchObject({ kind: 'page', link: 'packs/schedules' });
  });
});
