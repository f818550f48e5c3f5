import { type CompanyRunDto, companyRunSchema, type MailListingDto, type Problem } from '@wise-margin/contract';
import JSZip from 'jszip';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

let server: TestServer;
let small: number;
const run = (change: Record<string, unknown> = {}) => ({
  key: 'run number one',
  pack: 'pack-1',
  month: '2026-10',
  companies: [1, small, 2],
  ...change,
});
const start = async (change: Record<string, unknown> = {}): Promise<CompanyRunDto> => {
  const { status, body } = await server.send('POST', '/company-runs', run(change));
  if (status !== 202) throw new Error(JSON.stringify(body));
  const { id } = companyRunSchema.parse(body);
  await server.application.companyRuns.settled(id);
  return companyRunSchema.parse(await server.get(`/company-runs/${id}`));
};
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server, 'all');
  // its one fiscal year is 2025
  small = await loadSmallCompany(server, { name: 'Small/Company' });
});
afterAll(() => server.close());

describe('a run over several companies', () => {
  it('issues the pack of each; what fails at one does not stop the others', async () => {
    const { results, finishedAt, packName } = await start();
    expect(packName).toBe('Bank letter');
    expect(finishedAt).not.toBeNull();
    expect(results.map(({ name, state, note }) => [name, state, note])).toEqual([
      ['Tern Island', 'done', 'Issue 1'],
      ['Small/Company', 'failed', '2026-10 is outside the fiscal years of Small/Company, FY2025 to FY2025.'],
      ['Gannet Rock', 'done', 'Issue 1'],
    ]);
    // the summary has the figures of the companies' own statements
    for (const { company, summary } of [results[0]!, results[2]!]) {
      const statement = await server.statement(`/companies/${company}/statements/income?asOf=2026-10`);
      const column = statement.columns.findIndex(({ key }) => key === 'month.actual');
      const figure = (line: string) => statement.cells[statement.lines.findIndex(({ key }) => key === line)]![column];
      expect(figure('revenue')).toMatchObject({ value: summary!.revenue });
      expect(figure('operating_income')).toMatchObject({ value: summary!.operatingIncome });
    }
  });

  it('begins once for one key, and has the files of all in one', async () => {
    const again = await start();
    expect((await server.get<CompanyRunDto[]>('/company-runs')).map(({ id }) => id)).toEqual([again.id]);
    const response = await fetch(`${server.base}/company-runs/${again.id}/files.zip?format=pdf`);
    expect(response.headers.get('content-type')).toContain('application/zip');
    const zip = await JSZip.loadAsync(await response.arrayBuffer());
    const files = Object.keys(zip.files).filter((name) => !name.endsWith('/'));
    expect(files).toEqual(['Tern Island/pack-1-2026-10.pdf', 'Gannet Rock/pack-1-2026-10.pdf']);
    const own = await server.application.packIssues.file({ company: 1 }, again.results[0]!.issue!, { slice: '', format: 'pdf' });
    expect(Buffer.from(await zip.file(files[0]!)!.async('uint8array')).equals(own.content)).toBe(true);
  });

  it('mails one message for each company and person', async () => {
    const mail = { to: ['ann@bank.com'], lists: [], subject: '{company}, {month}', text: 'Attached.', formats: ['pdf'] };
    await start({ key: 'run number two', companies: [1, 2], mail });
    const subjects = async (company: number) =>
      (await server.get<MailListingDto>(`/companies/${company}/mail`)).messages.map(({ subject }) => subject);
    expect(await subjects(1)).toEqual(['Tern Island, October 2026']);
    expect(await subjects(2)).toEqual(['Gannet Rock, October 2026']);
  });

  it('leaves companies alone whose checklist is not clear, where that is asked for', async () => {
    const { results } = await start({ key: 'run number three', companies: [1], onlyClear: true });
    expect(results[0]).toMatchObject({ state: 'skipped', issue: null });
    expect(results[0]!.note).toMatch(/^The checklist is not clear: /);
    const zip = await server.send('GET', `/company-runs/${(await server.get<CompanyRunDto[]>('/company-runs'))[0]!.id}/files.zip`);
    expect(zip.status).toBe(409);
    expect((zip.body as Problem).detail).toBe('This run issued nothing, so there are no files.');
  });

  it('refuses what cannot be run', async () => {
    const detail = async (change: Record<string, unknown>) => {
      const { status, body } = await server.send('POST', '/company-runs', run({ key: 'run not begun', ...change }));
      return [status, (body as Problem).detail];
    };
    expect(await detail({ companies: [1, 1] })).toEqual([422, 'A company is named twice. Name each once.']);
    expect(await detail({ companies: [99] })).toEqual([404, 'There is no company 99.']);
    expect(await detail({ pack: 'pack-9' })).toEqual([404, 'There is no pack "pack-9".']);
    expect(await detail({ mail: { to: [], lists: [], subject: 'S', text: '', formats: [] } })).toEqual([
      422,
      'No recipients. Enter at least one address, or choose a list.',
    ]);
  });

  it('that a stop of the server interrupted says what was not finished', async () => {
    const { id } = await server.application.companyRuns
      .start({ key: 'run interrupted', pack: 'pack-1', month: '2026-10', companies: [1, 2], onlyClear: false, mail: null })
      .then(async (begun) => {
        await server.application.companyRuns.close();
        return begun;
      });
    // as a start after the stop finds it
    const { database } = server.application;
    await database.write(async (transaction) => {
      await database.run(`UPDATE company_run_results SET state = 'waiting' WHERE run_id = $1 AND company_id = 2`, [id], transaction);
      await database.run('UPDATE company_runs SET finished_at = NULL WHERE id = $1', [id], transaction);
    });
    await server.application.companyRuns.recover();
    const { results, finishedAt } = await server.get<CompanyRunDto>(`/company-runs/${id}`);
    expect(finishedAt).not.toBeNull();
    expect(results.map(({ state }) => state)).toEqual(['done', 'failed']);
    expect(results[1]!.note).toMatch(/^The server stopped before this company was finished/);
  });
});
