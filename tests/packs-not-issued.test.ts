import type { PackDto, PackListDto, PackPreviewDto, Problem } from '@wise-margin/contract';
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
