import type { AddressInfo } from 'node:net';
import { connect, createServer, type Socket } from 'node:net';

import type { ImportDto, MailListingDto, PackIssueDto, PackMonthDto, PackPreviewDto, Problem, ViewDto } from '@wise-margin/contract';
import { shippedPack } from '@wise-margin/core';
import { smtpTransport } from '@wise-margin/server';
import { afterEach, describe, expect, it, vi } from 'vitest';

import { demoServer } from '../support/demo-company.ts';
import { startMailServer, type TestMailServer } from '../support/mail-server.ts';
import { startTestServer, type TestServer } from '../support/server.ts';
import { ACCOUNTS, HEADER, NEW_COMPANY, row } from '../support/small-ledger.ts';
import { makeTinyPack } from '../support/tiny-pack.ts';

const MONTH = '/companies/1/packs/pack-1/months/2026-10';
let server: TestServer;
let mailServer: TestMailServer | undefined;
afterEach(async () => {
  vi.restoreAllMocks();
  await server.close();
  await mailServer?.close();
  mailServer = undefined;
});

const issues = async () => (await server.get<PackMonthDto>(MONTH)).issues;
const counts = async () => {
  const { database } = server.application;
  const count = async (table: string) => (await database.select<{ count: number }>(`SELECT count(*) AS count FROM ${table}`))[0]!.count;
  return Promise.all(['pack_issues', 'pack_documents', 'pack_files'].map(count));
};

describe('while a pack is issued', () => {
  it('a full disk leaves nothing half issued, is told plainly, and the next try works', async () => {
    server = await demoServer();
    await makeTinyPack(server);
    const { database } = server.application;
    const run = database.run.bind(database);
    let files = 0;
    vi.spyOn(database, 'run').mockImplementation(async (...args) => {
      if (args[0].includes('INTO pack_files') && (files += 1) === 3)
        throw Object.assign(new Error('SQLITE_FULL: database or disk is full'), { code: 'SQLITE_FULL' });
      return run(...args);
    });
    const { status, body } = await server.send('POST', `${MONTH}/issues`, {});
    expect([status, (body as Problem).title]).toEqual([507, 'Disk full']);
    expect([await counts(), await issues(), (await server.get<PackMonthDto>(MONTH)).state]).toEqual([[0, 0, 0], [], 'draft']);
    expect((await server.send('POST', `${MONTH}/issues`, {})).status).toBe(201);
    expect(await counts()).toEqual([1, 1, 4]);
  });

  it('an import that posts stops it, so that no issue is of two ledgers', async () => {
    server = await demoServer();
    await makeTinyPack(server);
    const ledger = [
      'entry,date,account,debit,credit,memo',
      'LATE-1,2026-10-31,1010,500.00,,Late sale',
      'LATE-1,2026-10-31,4010,,500.00,Late sale',
      '',
    ].join('\n');
    const late = await server.upload({ company: '1' }, { ledger });
    expect(late.state).toBe('ready');
    const { packIssues } = server.application;
    const freeze = packIssues.freeze.bind(packIssues);
    vi.spyOn(packIssues, 'freeze').mockImplementationOnce(async (...args) => {
      const posted = await server.send('POST', `/imports/${late.id}/post`, {});
      expect((posted.body as ImportDto).state).toBe('posted');
      return freeze(...args);
    });
    const { status, body } = await server.send('POST', `${MONTH}/issues`, {});
    expect([status, (body as Problem).title]).toEqual([409, 'Changed meanwhile']);
    expect(await issues()).toEqual([]);
    const again = (await server.send('POST', `${MONTH}/issues`, {})).body as PackIssueDto;
    expect(again.number).toBe(1);
  });
});

describe('what a pack cannot show', () => {
  it('for a department without figures is said on its own document', async () => {
    server = await startTestServer();
    const sales = ['2025-01', '2025-02', '2025-03'].flatMap((month) => [
      row(`S${month}`, `${month}-10`, '1000', '100.00', '', 'Sale', 'North'),
      row(`S${month}`, `${month}-10`, '4000', '', '100.00', 'Sale', 'North'),
    ]);
    const balanceOnly = [
      row('C1', '2025-01-02', '1000', '50.00', '', 'Capital', 'East'),
      row('C1', '2025-01-02', '3000', '', '50.00', 'Capital', 'East'),
    ];
    const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: [HEADER, ...sales, ...balanceOnly, ''].join('\n') });
    await server.send('POST', `/imports/${made.id}/post`, {});
    const request = { ...shippedPack('department-report')!, month: '2025-03' };
    const of = async (slice: string) =>
      (await server.send('POST', '/companies/1/pack-preview', { ...request, slice })).body as PackPreviewDto;
    const noted = ({ sections }: PackPreviewDto) =>
      sections.filter(({ notes }) => notes.includes('The ledger has no amounts for this statement.'));
    const east = await of('East');
    expect(east.slices).toEqual(expect.arrayContaining(['East', 'North']));
    expect(noted(east).length).toBeGreaterThan(0);
    expect(noted(await of('North'))).toEqual([]);
  });

  it('in one width stands in parts: sixty columns, the names on each, nothing below seven points', async () => {
    server = await demoServer();
    const income = await server.get<ViewDto>('/companies/1/views/income');
    const span = { kind: 'month' };
    const amount = (key: string, scenario: string) => ({ kind: 'amount', key, heading: scenario, scenario, span });
    const block = { key: 'months', heading: '{span}', span, repeat: { over: 'months', last: 20 } };
    const columns = [
      amount('a', 'actual'),
      amount('b', 'budget'),
      { kind: 'difference', key: 'c', heading: 'Variance', compared: 'a', base: 'b' },
    ];
    const columnSet = { key: 'sixty', name: 'Sixty', blocks: [{ ...block, columns }] };
    const { body } = await server.send('POST', '/companies/1/views', { name: 'Sixty', lineSet: income.lineSet, columnSet });
    const view = (body as ViewDto).key;
    const grid = await server.statement(`/companies/1/statements/${view}?asOf=2026-10`);
    expect(grid.columns).toHaveLength(60);
    const review = shippedPack('monthly-review')!;
    const section = { ...review.sections.find(({ kind }) => kind === 'statement')!, view, comparison: 'asSaved' };
    const preview = (await server.send('POST', '/companies/1/pack-preview', { ...review, sections: [section], month: '2026-10' }))
      .body as PackPreviewDto;
    const texts = preview.pages.map(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark] : [])));
    expect(texts.length).toBeGreaterThan(3);
    expect(texts.every((page) => page.some(({ text }) => text === 'Net income'))).toBe(true);
    expect(Math.min(...texts.flat().map(({ size }) => size))).toBeGreaterThanOrEqual(7);
    // every month is there
    const all = texts
      .flat()
      .map(({ text }) => text)
      .join(' ');
    for (const { heading } of grid.blocks) expect(all).toContain(heading);
  });
});

describe('a mail server whose connection breaks in the middle of a message', () => {
  it('has the message once in the end, under one number', async () => {
    mailServer = await startMailServer();
    const target = Number(new URL(mailServer.url).port);
    let breaks = 1;
    const sockets = new Set<Socket>();
    // a line between the two that is cut once, after the message has begun
    const line = createServer((client) => {
      const far = connect(target, '127.0.0.1');
      for (const socket of [client, far]) {
        sockets.add(socket);
        socket.on('error', () => undefined);
        socket.on('close', () => sockets.delete(socket));
      }
      far.pipe(client);
      client.on('data', (chunk: Buffer) => {
        if (breaks > 0 && chunk.toString('latin1').includes('Subject:')) {
          breaks -= 1;
          client.destroy();
          far.destroy();
        } else far.write(chunk);
      });
      client.on('close', () => far.end());
    }).listen(0, '127.0.0.1');
    await new Promise((resolve) => line.once('listening', resolve));
    const url = `smtp://127.0.0.1:${(line.address() as AddressInfo).port}`;
    let clock = new Date('2026-11-09T12:00:00Z');
    server = await demoServer({
      now: () => clock,
      mail: { transport: smtpTransport(url), from: 'Wise Margin <pack@company.com>', url: 'http://localhost:4180' },
    });
    await makeTinyPack(server);
    const issue = (await server.send('POST', `${MONTH}/issues`, {})).body as PackIssueDto;
    const mail = { key: 'broken line', to: ['ann@company.com'], subject: '{name}', text: '', formats: ['pdf'] };
    expect((await server.send('POST', `/companies/1/pack-issues/${issue.id}/mail`, mail)).status).toBeLessThan(300);
    await server.application.mailSender.sendDue();
    const messages = async () => (await server.get<MailListingDto>('/companies/1/mail')).messages;
    expect((await messages())[0]).toMatchObject({ state: 'queued', attempts: 1 });
    expect(mailServer.taken).toEqual([]);
    clock = new Date('2026-11-09T12:02:00Z');
    await server.application.mailSender.sendDue();
    expect((await messages())[0]).toMatchObject({ state: 'sent', attempts: 2 });
    expect(mailServer.taken).toHaveLength(1);
    for (const socket of sockets) socket.destroy();
    await new Promise((resolve) => line.close(resolve));
  });
});
