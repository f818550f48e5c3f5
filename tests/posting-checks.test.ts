import { type PostingCheckDto, postingCheckSchema, type Problem } from '@wise-margin/contract';
import papaparse from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const at = '/companies/1/posting-checks';
const check = async (query = ''): Promise<PostingCheckDto> => postingCheckSchema.parse(await server.get(`${at}${query}`));
const answer = (body: object) => server.send('POST', `${at}/answers`, body);

describe('the postings of the demo company', () => {
  it('that were planted are all among the first fifteen, each with its reason', async () => {
    const { suspects } = await check('?limit=15');
    const found = suspects.map(({ entry, account, reasons }) => `${entry?.number} ${account}: ${reasons[0]!.words}`);
    for (const planted of [
      'PU-001243 5210: Same document and amount as D-4471 of Oct 6, 2026, 11 days later',
      'PU-001163 6120: About ten times the usual 2,611',
      'PU-001213 6310: First posting to this account; usually on 6220 Boat shows',
      'PR-000166 5410: Memo refers to August',
      'BA-000221 6790: A posting to a watched account',
    ])
      expect(found).toContain(planted);
    expect(found.filter((words) => words.includes('No department'))).toHaveLength(4);
  });
  it('stand in order of a score that is the sum of its parts', async () => {
    const { suspects } = await check();
    expect(suspects.map(({ rank }) => rank)).toEqual(suspects.map((_, index) => index + 1));
    for (const { score, reasons, weight } of suspects)
      expect(score).toBeCloseTo(reasons.reduce((sum, reason) => sum + reason.score, 0) * weight, 0);
    expect(suspects.map(({ score }) => score)).toEqual(suspects.map(({ score }) => score).sort((a, b) => b - a));
  });
  it('are those of the months asked for', async () => {
    const { suspects } = await check('?from=2026-10&to=2026-10');
    expect(new Set(suspects.map(({ period }) => period))).toEqual(new Set(['2026-10']));
    expect((await server.send('GET', `${at}?from=2026-10&to=2026-09`)).status).toBe(422);
  });
  it('leave as a file with rank, entry, account, party, amount and reason', async () => {
    const response = await fetch(`${server.base}${at}/export.csv`);
    const { data } = papaparse.parse<Record<string, string>>((await response.text()).trim(), { header: true });
    expect(data[0]).toEqual({
      rank: '1',
      entry: 'PU-001243',
      account: '5210',
      party: 'Harbor Freight Lines',
      amount: '4890.00',
      reason: 'Same document and amount as D-4471 of Oct 6, 2026, 11 days later',
    });
  });
});

describe('an answer', () => {
  it('stays, with its reason and on record', async () => {
    const { suspects, count } = await check();
    const storm = suspects.find(({ entry }) => entry?.number === 'PU-000926')!;
    expect((await answer({ posting: storm.posting, answer: 'fine', reason: 'Roof after the storm' })).status).toBe(204);
    expect((await check()).count).toBe(count - 1);
    const [answered] = (await check('?show=answered')).suspects;
    expect([answered!.entry!.number, answered!.answer]).toEqual([
      'PU-000926',
      expect.objectContaining({ answer: 'fine', reason: 'Roof after the storm' }),
    ]);
    const trail = await server.get<{ events: { words: string; reason: string }[] }>('/companies/1/audit?limit=1');
    expect(trail.events[0]).toMatchObject({
      words: 'Suspected posting PU-000926 answered: no action needed',
      reason: 'Roof after the storm',
    });
  });
  it('that is learned from answers the same kind for the same account and party', async () => {
    const without = async () =>
      (await check()).suspects.filter(
        ({ account, reasons }) => account === '4030' && reasons.some(({ kind }) => kind === 'missingDimension'),
      );
    const [first] = await without();
    await answer({ posting: first!.posting, answer: 'fine', reason: 'Sales at the fair', learns: true });
    expect(await without()).toEqual([]);
  });
  it('of fine needs a reason, and is about something that is suspected', async () => {
    const [first] = (await check()).suspects;
    const unreasoned = await answer({ posting: first!.posting, answer: 'fine' });
    expect([unreasoned.status, (unreasoned.body as Problem).detail]).toEqual([422, 'Enter why it is fine, so that a reviewer can follow.']);
    expect((await answer({ posting: 'entry 999999', answer: 'corrected' })).status).toBe(404);
  });
});
