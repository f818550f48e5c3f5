import {
  type CreatedPackShare,
  type EntryDto,
  type EntryListDto,
  type PackIssueDto,
  type PackShareDto,
  type Problem,
  type SharedFigureDto,
  sharedPackSchema,
} from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { contentOf } from './support/entry-content.ts';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

let server: TestServer;
let clock = new Date('2026-11-09T12:00:00Z');
let shares: string;
beforeAll(async () => {
  server = await demoServer({ now: () => clock });
  await makeTinyPack(server);
  const { id } = (await server.send('POST', '/companies/1/packs/pack-1/months/2026-10/issues', {})).body as PackIssueDto;
  shares = `/companies/1/pack-issues/${id}/shares`;
});
afterAll(() => server.close());

const create = async (share: object = {}): Promise<CreatedPackShare & { readonly at: string }> => {
  const { status, body } = await server.send('POST', shares, { expires: '2026-11-20', drillDown: false, ...share });
  if (status !== 201) throw new Error(JSON.stringify(body));
  const made = body as CreatedPackShare;
  return { ...made, at: `/shared/${made.link.split('/').at(-1)!}` };
};
const problem = async (path: string): Promise<readonly [number, string]> => {
  const { status, body } = await server.send('GET', path);
  return [status, (body as Problem).detail];
};

describe('a link to an issued pack', () => {
  it('shows the issue, section by section, and its PDF; its address is stored nowhere', async () => {
    const { at, link, id } = await create();
    expect(link).toMatch(/^http:\/\/localhost:4180\/shared\/[\w-]{32}$/);
    const pack = sharedPackSchema.parse(await server.get(at));
    expect(pack).toMatchObject({ company: 'Tern Island', name: 'Bank letter', monthName: 'October 2026', drillDown: false });
    expect(pack.reading.sections.map(({ title }) => title)).toEqual(['Income statement']);
    const [table] = pack.reading.sections[0]!.blocks;
    // the figures of the issue’s own statement
    const statement = await server.statement('/companies/1/statements/income?asOf=2026-10');
    const revenue = statement.cells[statement.lines.findIndex(({ key }) => key === 'revenue')]![0]! as { value: number };
    const row = table?.kind === 'table' ? table.rows.find(({ line }) => line === 'revenue') : undefined;
    expect(row!.cells[0]!.text).toBe(Math.round(revenue.value / 100).toLocaleString('en-US'));
    const pdf = await fetch(`${server.base}${at}/export.pdf`);
    expect(
      Buffer.from(await pdf.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    expect((await server.get<PackShareDto[]>(shares)).find((share) => share.id === id)).toMatchObject({ opens: 1, revokedAt: null });
    const stored = await server.application.database.select<Record<string, unknown>>('SELECT * FROM pack_shares');
    expect(JSON.stringify(stored)).not.toContain(at.slice('/shared/'.length));
  });

  it('opens through its last day and not after it', async () => {
    const { at } = await create({ expires: '2026-11-09' });
    expect((await server.send('GET', at)).status).toBe(200);
    clock = new Date('2026-11-10T12:00:00Z');
    expect(await problem(at)).toEqual([410, 'This link ended on 2026-11-09. Ask whoever sent it for a new one.']);
    expect((await problem(`${at}/export.pdf`))[0]).toBe(410);
    clock = new Date('2026-11-09T12:00:00Z');
  });

  it('is withdrawn at once, and an invented address opens nothing', async () => {
    const { at, id } = await create();
    expect((await server.send('DELETE', `${shares}/${id}`)).status).toBe(204);
    expect(await problem(at)).toEqual([410, 'This link was withdrawn. Ask whoever sent it for a new one.']);
    expect(await problem('/shared/abcdefgh')).toEqual([404, 'There is no link like this.']);
    expect((await server.send('DELETE', `${shares}/999`)).status).toBe(404);
  });

  it('is refused for a day that is past or more than a year away', async () => {
    const refused = async (expires: string) => ((await server.send('POST', shares, { expires, drillDown: false })).body as Problem).detail;
    expect(await refused('2026-11-08')).toBe('2026-11-08 is past. Enter a later day.');
    expect(await refused('2027-11-11')).toBe('A link opens for at most a year. Enter an earlier day.');
  });
});

describe('drill-down of a shared pack', () => {
  const figure = '/figure?section=income&line=operating_expenses&column=month.compared';

  it('is refused unless the link allows it', async () => {
    const { at } = await create();
    expect((await problem(at + figure))[0]).toBe(403);
  });

  it('leads to the accounts, says what is no sum of accounts, and tells when the ledger was corrected since', async () => {
    const { at } = await create({ drillDown: true });
    const before = await server.get<SharedFigureDto>(at + figure);
    expect(before.agrees).toBe(true);
    expect(before.accounts.reduce((sum, { amount }) => sum + amount, 0)).toBe(before.sum);
    expect((await problem(`${at}/figure?section=income&line=gross_margin&column=month.compared`))[0]).toBe(422);
    expect((await problem(`${at}/figure?section=income&line=nothing&column=month.compared`))[0]).toBe(404);
    await correctRent();
    const after = await server.get<SharedFigureDto>(at + figure);
    expect(after.agrees).toBe(false);
    expect(after.sum).toBe(before.sum + 200_00);
    // what was issued is as it was
    expect(after.text).toBe(before.text);
  });
});

/** A bill for rent and utilities of October 2026 turns out to be higher by 200.00. */
async function correctRent(): Promise<void> {
  const at = '/companies/1/entries';
  const { lines } = await server.get<EntryListDto>(`${at}?limit=50&accounts=6110&from=2026-10&to=2026-10`);
  const entries = await Promise.all(lines.map(({ entryId }) => server.get<EntryDto>(`${at}/${entryId}`)));
  const entry = entries.find(({ state, lines: own }) => state === 'posted' && own.length === 2)!;
  const content = contentOf(entry);
  content.lines = content.lines.map((line) => ({ ...line, amount: line.amount + Math.sign(line.amount) * 200_00 }));
  const { status, body } = await server.send('POST', `${at}/${entry.id}/correction`, {
    version: entry.version,
    content,
    reason: 'Bill misread',
  });
  if (status !== 204) throw new Error(JSON.stringify(body));
}
