import type { PackChecklistDto, PackDto, PackIssueDto, PackListDto, PackPreviewDto, Problem } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server);
});
afterAll(() => server.close());

const AT = '/companies/1/packs';
const saveWith = async (change: (section: PackDto['sections'][number]) => object): Promise<PackDto> => {
  const pack = await server.get<PackDto>(`${AT}/pack-1`);
  const sections = pack.sections.map((section) => ({ ...section, ...change(section) }));
  const { status, body } = await server.send('PUT', `${AT}/pack-1`, { ...pack, sections });
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body as PackDto;
};
const issue = () => server.send('POST', `${AT}/pack-1/months/2026-10/issues`, {});

describe('a pack of which nothing shows', () => {
  it('because its sections are hidden, is not issued, and its page says so', async () => {
    const pack = await saveWith(() => ({ hidden: true }));
    const { status, body } = await issue();
    expect([status, (body as Problem).detail]).toEqual([
      422,
      'Bank letter has nothing to issue: none of its sections is included. Show one of them.',
    ]);
    const preview = await server.send('POST', '/companies/1/pack-preview', { ...pack, month: '2026-10' });
    const words = (preview.body as PackPreviewDto).pages.flatMap(({ marks }) =>
      marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : [])),
    );
    expect(words.join(' ')).toContain('No section of the pack is included.');
  });

  it('but for one department has a page for it that says so, is on the checklist, and keeps none of the others back', async () => {
    const pack = await server.get<PackDto>(`${AT}/pack-1`);
    const condition = { kind: 'activity', view: 'departments', line: 'revenue' };
    const sections = pack.sections.map((section) => ({ ...section, hidden: false, condition }));
    const made = await server.send('POST', AT, { ...pack, name: 'By department', splitBy: 'department', sections, scope: 'company' });
    expect(made.status).toBe(201);
    const { key } = made.body as PackDto;
    const { items } = await server.get<PackChecklistDto>(`${AT}/${key}/months/2026-10/checklist`);
    const empty = items.flatMap(({ words }) => /^(.+): no section is included\.$/.exec(words)?.[1] ?? []);
    const { status, body } = await server.send('POST', `${AT}/${key}/months/2026-10/issues`, {});
    const slices = (body as PackIssueDto).documents.map(({ slice }) => slice);
    expect([status, empty.length > 0, empty.length < slices.length]).toEqual([201, true, true]);
    expect(slices).toEqual(expect.arrayContaining(empty));
  });

  it('because no condition is met, is not issued either; with one section it is', async () => {
    await saveWith(() => ({ hidden: false, condition: { kind: 'activity', view: 'income', line: 'no_such_line' } }));
    const refused = await issue();
    expect(refused.status).toBe(422);
    const listed = async () => (await server.get<PackListDto>(`${AT}?month=2026-10`)).find(({ key }) => key === 'pack-1')!.lastIssue;
    expect(await listed()).toBeNull();
    await saveWith(() => ({ condition: { kind: 'always' } }));
    expect((await issue()).status).toBe(201);
    expect(await listed()).toMatchObject({ number: 1 });
  });
});
