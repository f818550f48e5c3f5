import { type EntryListDto, entryListSchema, type ListedLineDto, type Problem } from '@wise-margin/contract';
import papaparse from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
let every: readonly ListedLineDto[];
beforeAll(async () => {
  server = await demoServer();
  every = await allOf('');
});
afterAll(() => server.close());

const page = async (query: string): Promise<EntryListDto> => entryListSchema.parse(await server.get(`/companies/1/entries?${query}`));
/** Every page of what matches. */
async function allOf(query: string): Promise<ListedLineDto[]> {
  const lines: ListedLineDto[] = [];
  for (let after: number | null = 0; after !== null;) {
    const { lines: more, next }: EntryListDto = await page(`${query}&after=${after}&limit=1000`);
    lines.push(...more);
    after = next;
  }
  return lines;
}

describe('the list of entries', () => {
  it('has every line of the ledger once, the newest first, and adds up both sides', async () => {
    const [stored] = await server.application.database.select<{ lines: number; entries: number; debits: number }>(
      `SELECT count(*) AS lines, count(DISTINCT l.entry_id) AS entries, sum(max(l.amount, 0)) AS debits FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.company_id = 1 AND e.state = 'posted'`,
    );
    const { totals } = await page('limit=1');
    expect(totals).toEqual({ ...stored, credits: stored!.debits });
    expect(new Set(every.map(({ lineId }) => lineId)).size).toBe(stored!.lines);
    const dates = every.map(({ date }) => date);
    expect(dates).toEqual([...dates].sort().reverse());
  });

  it.each<[string, (line: ListedLineDto) => boolean]>([
    ['accounts=6000-6999', ({ account }) => account >= '6000' && account <= '6999'],
    ['from=2026-08&to=2026-10', ({ date }) => date >= '2026-08-01' && date <= '2026-10-31'],
    ['least=100000&most=250000', ({ amount }) => Math.abs(amount) >= 100_000 && Math.abs(amount) <= 250_000],
    [
      'filter.department=Tours&filter.department=Workshop',
      ({ dimensions }) => ['Tours', 'Workshop'].includes(dimensions['department'] ?? ''),
    ],
    ['filter.department=(none)', ({ dimensions }) => (dimensions['department'] ?? '') === ''],
    ['origin=import', () => true],
    ['origin=manual', () => false],
    [
      'find=FREIGHT&from=2026-10',
      ({ entry, document, memo, party, date }) =>
        date >= '2026-10-01' && `${entry}\t${document}\t${memo}\t${party}`.toLowerCase().includes('freight'),
    ],
  ])('keeps to %s', async (query, matches) => {
    const wanted = every.filter(matches);
    if (query !== 'origin=manual') expect(wanted.length).toBeGreaterThan(0);
    const found = await allOf(query);
    expect(found.map(({ lineId }) => lineId)).toEqual(wanted.map(({ lineId }) => lineId));
    const { totals } = await page(query);
    const sum = (side: 1 | -1) => wanted.reduce((total, { amount }) => total + Math.max(0, side * amount), 0);
    expect(totals).toEqual({
      lines: wanted.length,
      entries: new Set(wanted.map(({ entryId }) => entryId)).size,
      debits: sum(1),
      credits: sum(-1),
    });
  });

  it('adds drafts to its totals only when they are asked for', async () => {
    const [posted, draft, all] = await Promise.all(['limit=1', 'state=draft&limit=100', 'state=all&limit=1'].map((query) => page(query)));
    expect(draft!.totals.lines).toBeGreaterThan(0);
    expect(draft!.lines.every(({ state }) => state === 'draft')).toBe(true);
    expect(all!.totals.debits).toBe(posted!.totals.debits + draft!.totals.debits);
    expect(all!.totals.lines).toBe(posted!.totals.lines + draft!.totals.lines);
  });

  it('is sorted by amount, by account and by party', async () => {
    const amounts = (await page('sort=amount&order=descending&limit=50')).lines.map(({ amount }) => amount);
    expect(amounts).toEqual(
      every
        .map(({ amount }) => amount)
        .sort((a, b) => b - a)
        .slice(0, 50),
    );
    const parties = (await allOf('sort=party&order=ascending&accounts=6000-6999')).map(({ party }) => party);
    expect(new Set(parties).size).toBeGreaterThan(1);
    const runs = parties.filter((party, index) => party !== parties[index - 1]);
    expect(runs.length).toBe(new Set(parties).size);
  });

  it('leaves as a file in the order asked for', async () => {
    const response = await fetch(`${server.base}/companies/1/entries/export.csv?accounts=6400-6499&sort=amount&order=ascending`);
    expect(response.headers.get('content-type')).toContain('text/csv');
    const rows = papaparse.parse<Record<string, string>>(await response.text(), { header: true, skipEmptyLines: true }).data;
    const listed = await allOf('accounts=6400-6499&sort=amount&order=ascending');
    expect(rows.map(({ entry, debit, credit }) => [entry, debit || credit])).toEqual(
      listed.map(({ entry, amount }) => [entry, (Math.abs(amount) / 100).toFixed(2)]),
    );
    expect(Object.keys(rows[0]!)).toEqual(expect.arrayContaining(['account', 'document', 'due', 'import', 'department']));
  });

  it.each([
    ['accounts=banana', 'accounts', 'No account is banana'],
    ['filter.region=North', 'filter', 'The ledger has no dimension "region"'],
    ['filter.party=Nobody', 'filter', 'No line has the party "Nobody"'],
    ['from=2026-10&to=2026-08', 'to', 'The period ends before it starts'],
    ['least=500&most=100', 'least', 'larger than the largest'],
    ['limit=5000', 'limit', ''],
    ['sort=memo', 'sort', ''],
  ])('refuses %s and names the field', async (query, field, words) => {
    const response = await fetch(`${server.base}/companies/1/entries?${query}`);
    expect(response.status).toBe(422);
    const { errors, detail } = (await response.json()) as Problem;
    expect(errors?.[0]?.path).toBe(field);
    expect(detail).toContain(words);
  });

  it('follows what is posted and reversed', async () => {
    const before = (await page('limit=1')).totals;
    const made = await server.upload(
      { company: '1' },
      { ledger: 'entry,date,account,amount\nQ-1,2026-10-05,6410,12.50\nQ-1,2026-10-05,1010,-12.50\n' },
    );
    expect(made).toMatchObject({ state: 'ready' });
    await server.send('POST', `/imports/${made.id}/post`);
    expect((await page('find=q-1&limit=10')).lines.map(({ amount }) => amount).sort()).toEqual([-1250, 1250]);
    expect((await server.send('POST', `/imports/${made.id}/reverse`)).status).toBe(200);
    expect((await page('limit=1')).totals).toEqual(before);
  });
});

it('every line found can be selected, however many pages it has', async () => {
  const found = await server.get<EntryListDto>('/companies/1/entries?accounts=6110&limit=10');
  const { lines } = await server.get<{ lines: number[] }>('/companies/1/entries/lines?accounts=6110');
  expect([lines.length, lines.slice(0, 10)]).toEqual([found.totals.lines, found.lines.map(({ lineId }) => lineId)]);
});

it('choices are saved under a name, replaced and removed', async () => {
  const path = '/companies/1/entry-filters';
  await server.send('PUT', path, { name: 'Freight', address: 'find=freight' });
  const { body } = await server.send('PUT', path, { name: 'Freight', address: 'find=freight&fromMonth=2026-10' });
  const [filter] = body as { id: number; name: string; address: string }[];
  expect(filter).toMatchObject({ name: 'Freight', address: 'find=freight&fromMonth=2026-10' });
  expect(await server.send('PUT', path, { name: ' ', address: '' })).toMatchObject({ status: 422 });
  expect(await server.send('DELETE', `${path}/${filter!.id}`)).toMatchObject({ status: 200, body: [] });
});
