import { appendFileSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { deflateRawSync } from 'node:zlib';

import type { BudgetDto, ImportDto, Problem, ReportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';

import { deepLines, zipOf } from './support/hostile.ts';
import { PICTURE, startTestServer, type TestServer } from './support/server.ts';
import { ACCOUNTS, GOOD_LEDGER, HEADER, NEW_COMPANY, row } from './support/small-ledger.ts';

let server: TestServer;
let company: number;
let budget: number;
beforeAll(async () => {
  server = await startTestServer();
  const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: GOOD_LEDGER });
  company = ((await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto).companyId!;
  const request = { name: 'Plan', year: 2027, from: 2026, change: '3' };
  budget = ((await server.send('POST', `/companies/${company}/budgets`, request)).body as BudgetDto).id;
});
afterAll(() => server.close());
const at = () => `/companies/${company}`;
const problem = ({ body }: { body: unknown }) => body as Problem;
const file = (...rows: string[]) => [HEADER, ...rows, ''].join('\n');
const pair = (entry: string, amount: string, memo = '') => [
  row(entry, '2026-03-01', '1000', amount, '', memo),
  row(entry, '2026-03-01', '4000', '', amount, memo),
];
const upload = (ledger: string | Uint8Array) => server.upload({ company: String(company) }, { ledger });
const posted = async (ledger: string): Promise<ImportDto> => {
  const made = await upload(ledger);
  expect(made.issues).toEqual([]);
  return (await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto;
};
const balance = () => server.get<ReportDto>(`${at()}/reports/trial-balance?limit=2000&range=2026-12`);

describe('texts that take long to read', () => {
  it('a percentage of 200,000 spaces is refused at once', async () => {
    const start = performance.now();
    const { status } = await server.send('POST', `${at()}/budgets`, { name: 'Slow', year: 2027, from: 2026, change: ' '.repeat(200_000) });
    expect(status).toBe(422);
    expect(performance.now() - start).toBeLessThan(2000);
  });
  it('every text a request may hold has a longest length', async () => {
    const unbounded: string[] = [];
    const walk = (schema: unknown, path: string): void => {
      if (typeof schema !== 'object' || schema === null) return;
      const of = schema as Record<string, unknown>;
      const isFixed = of['enum'] !== undefined || of['const'] !== undefined || of['pattern'] !== undefined || of['format'] === 'binary';
      if (of['type'] === 'string' && !isFixed && of['maxLength'] === undefined) unbounded.push(path);
      for (const [key, value] of Object.entries(of)) if (key !== 'description') walk(value, `${path}.${key}`);
    };
    type Operation = { readonly requestBody?: unknown; readonly parameters?: { in: string; schema: unknown; name: string }[] };
    const document = await server.get<{ paths: Record<string, Record<string, Operation>> }>('/openapi.json');
    for (const [path, methods] of Object.entries(document.paths))
      for (const [method, { requestBody, parameters = [] }] of Object.entries(methods)) {
        walk(requestBody, `${method} ${path}`);
        for (const each of parameters) if (each.in === 'query') walk(each.schema, `${method} ${path} ?${each.name}`);
      }
    expect(unbounded).toEqual([]);
  });
  it('names in files hold 200 characters, and no control or direction-changing ones', async () => {
    const long = await upload(file(...pair('L1', '1.00').map((each) => `${each}${'n'.repeat(201)}`)));
    expect(long.issues[0]).toMatchObject({ code: 'tooLong', column: 'department', reason: 'The text is longer than 200 characters' });
    const turned = await upload(file(...pair('L2', '1.00', 'bill \u202e0001')));
    expect(turned.issues[0]).toMatchObject({
      code: 'controlCharacter',
      column: 'memo',
      reason: expect.stringContaining('U+202E') as unknown,
    });
    const account = await server.upload(
      { company: String(company) },
      { accounts: `account,name,class,active\n7000,Bell\u0007,Revenue,yes\n` },
    );
    expect(account.issues[0]).toMatchObject({ file: 'accounts', code: 'controlCharacter' });
  });
});

describe('files nobody here wrote', () => {
  it('UTF-8 with a stray byte is reported with its row, and read as the person chooses', async () => {
    const text = Buffer.from(file(...pair('U1', '5.00', 'café'), ...pair('U2', '6.00', 'stray X here')));
    text[text.lastIndexOf('X')] = 0xff;
    const made = await upload(text);
    expect(made.issues[0]).toMatchObject({ code: 'strayBytes', row: 5, reason: 'The file is UTF-8 except for 1 byte, on row 5' });
    const { status } = await server.send('POST', `/imports/${made.id}/check`, { encoding: 'utf-8' });
    expect(status).toBe(202);
    await server.application.imports.settled(made.id);
    const again = await server.get<ImportDto>(`/imports/${made.id}`);
    expect([again.state, again.issueCount]).toEqual(['ready', 0]);
    await server.send('DELETE', `/imports/${made.id}`);
    const latin = await upload(Buffer.from(file(...pair('U3', '5.00', 'caf\u00e9')), 'latin1'));
    expect([latin.state, latin.preview!.notices.length]).toEqual(['ready', 1]);
    await server.send('DELETE', `/imports/${latin.id}`);
  });
  it('a near account number, a US date and thousands say what to write', async () => {
    const made = await upload(
      file(
        'N1,2026-03-01,1O00,1.00,,,,,,,,,',
        'N1,2026-03-01,4000,,1.00,,,,,,,,',
        'N2,03/01/2026,1000,"1,250.00",,,,,,,,,',
        'N2,03/01/2026,4000,,1250.00,,,,,,,,',
      ),
    );
    const fixOf = (code: string) => made.issues.find((issue) => issue.code === code)?.fix;
    expect(fixOf('unknownAccount')).toContain('Did you mean 1000');
    expect(fixOf('dateLayout')).toContain('format the column as yyyy-mm-dd');
    expect(fixOf('badAmount')).toContain('Write 1250.00. In a spreadsheet');
  });
  it('a header with a slipped key asks before it becomes a dimension', async () => {
    const header = HEADER.replace('department', 'departm)nt');
    const made = await upload([header, ...pair('D1', '1.00'), ''].join('\n'));
    expect(made.issues[0]).toMatchObject({
      code: 'newDimension',
      column: 'departm)nt',
      reason: expect.stringContaining('did you mean department?') as unknown,
    });
    await server.send('POST', `/imports/${made.id}/check`, { dimensions: ['departm)nt'] });
    await server.application.imports.settled(made.id);
    expect(await server.get(`/imports/${made.id}`)).toMatchObject({ state: 'ready' });
    await server.send('DELETE', `/imports/${made.id}`);
  });
  it.each([
    [
      'a web page',
      '<!DOCTYPE html><html><body>Sign in</body></html>',
      'The file is a web page, not text in columns',
      'Export the accounts as CSV',
    ],
    ['a picture', PICTURE, 'The file is a PNG picture, not text in columns', 'Export the accounts as CSV'],
    [
      'a cell of 2 MB',
      `account,name,class,active\n7000,${'x'.repeat(2_000_000)},Revenue,yes\n`,
      'The row is longer than 1,000,000 characters',
      'Look for a quote',
    ],
    [
      'a quote left open',
      'account,name,class,active\n7000,"Open,Revenue,yes\n',
      'A quote is opened and not closed',
      'Close each quoted text',
    ],
  ])('%s given as accounts', async (_, accounts, reason, fix) => {
    const made = await server.upload({ company: String(company) }, { accounts });
    expect(made.issues[0]).toMatchObject({ reason, fix: expect.stringContaining(fix) as unknown });
  });
});

describe('statistics', () => {
  const send = async (text: string, fingerprint?: string) => {
    const form = new FormData();
    form.set('statistics', new Blob([text]), 's.csv');
    if (fingerprint !== undefined) form.set('fingerprint', fingerprint);
    const response = await fetch(`${server.base}${at()}/statistics`, { method: 'POST', body: form });
    return { status: response.status, body: (await response.json()) as unknown };
  };
  it('are previewed with all that is new in them, and imported only as previewed', async () => {
    const text = 'series,period,value,department,ward\nheads,2026-01,4,Nroth,A\nheads,2026-02,5,North,A\n';
    const { body } = await send(text);
    expect(body).toMatchObject({
      kind: 'preview',
      preview: {
        values: 2,
        replaced: 0,
        firstPeriod: '2026-01',
        series: [{ name: 'heads', isNew: true }],
        newDimensions: ['ward'],
        newValues: [{ dimension: 'department', value: 'Nroth', near: ['North'] }],
      },
    });
    const { fingerprint } = (body as { preview: { fingerprint: string } }).preview;
    expect((await send(`${text}heads,2026-03,6,North,A\n`, fingerprint)).status).toBe(422);
    expect(await server.get(`${at()}/statistics`)).toMatchObject({ series: [] });
    expect(await send(text, fingerprint)).toMatchObject({ status: 200, body: { kind: 'imported' } });
    expect((await send(text)).body).toMatchObject({ preview: { replaced: 2, series: [{ isNew: false }] } });
  });
  it('an unnamed column and a number of 150 digits are refused', async () => {
    expect(problem(await send('series,period,value,\nheads,2026-01,4,A\n')).detail).toContain('without a name');
    expect(problem(await send(`series,period,value\nheads,2026-01,${'9'.repeat(150)}\n`)).detail).toContain('not a plain number');
  });
});

describe('one import posted twice at once', () => {
  it('is posted once; the others answer 409, and it stays on record', async () => {
    const made = await upload(file(...pair('T1', '10.00')));
    const before = (await balance()).sides!.debits;
    const answers = await Promise.all([1, 2, 3, 4].map(() => server.send('POST', `/imports/${made.id}/post`, {})));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409]);
    expect((await balance()).sides!.debits).toBe(before + 1000);
    expect(await server.get(`/imports/${made.id}`)).toMatchObject({ state: 'posted', failure: null });
    expect((await server.send('DELETE', `/imports/${made.id}`)).status).toBe(409);
    // the same file is known again
    expect((await upload(file(...pair('T1', '10.00')))).issues[0]).toMatchObject({ code: 'sameFile' });
  });
  it('what was altered since the check is checked again, never posted as it is', async () => {
    const made = await upload(file(...pair('A1', '20.00')));
    const before = (await balance()).sides!.debits;
    const staged = join(server.directory, 'imports', String(made.id), 'staged.sqlite');
    appendFileSync(staged, 'altered');
    expect((await server.send('POST', `/imports/${made.id}/post`, {})).status).toBe(200);
    expect((await balance()).sides!.debits).toBe(before + 2000);
    const cut = await upload(file(...pair('A2', '20.00')));
    const path = join(server.directory, 'imports', String(cut.id), 'staged.sqlite');
    writeFileSync(path, readFileSync(path).subarray(0, 4096));
    expect((await server.send('POST', `/imports/${cut.id}/post`, {})).status).toBe(200);
    expect((await balance()).sides!.debits).toBe(before + 4000);
  });
  it('two that pass the largest amount together: the second is refused in our words', async () => {
    const most = '60000000000000.00';
    const before = await balance();
    const first = await upload(file(...pair('M1', most)));
    const second = await upload(file(...pair('M2', most)));
    expect((await server.send('POST', `/imports/${first.id}/post`, {})).status).toBe(200);
    const refused = await server.send('POST', `/imports/${second.id}/post`, {});
    expect([refused.status, problem(refused).detail]).toEqual([422, expect.stringContaining('would exceed 90,000,000,000,000')]);
    expect((await server.send('POST', `/imports/${first.id}/reverse`, {})).body).toMatchObject({ state: 'reversed' });
    await server.send('DELETE', `/imports/${second.id}`);
    expect(await balance()).toEqual(before);
  });
  it('can be reversed while nothing depends on it, once, and on record', async () => {
    const before = await balance();
    const made = await posted(file(...pair('R1', '30.00'), ...pair('R2', '7.00')));
    const entry = (await server.get<{ lines: { entryId: number }[] }>(`${at()}/accounts/4000/entries?from=2026-03&to=2026-03`)).lines.at(
      -1,
    )!.entryId;
    await server.send('POST', `${at()}/nonrecurring-items`, { account: '4000', period: '2026-03', entry, reason: 'once' });
    const refused = await server.send('POST', `/imports/${made.id}/reverse`, {});
    expect([refused.status, problem(refused).detail]).toEqual([409, expect.stringContaining('marked as nonrecurring: R2')]);
    const [mark] = await server.get<{ id: number }[]>(`${at()}/nonrecurring-items`);
    await server.send('DELETE', `${at()}/nonrecurring-items/${mark!.id}`);
    expect((await server.send('POST', `/imports/${made.id}/reverse`, {})).status).toBe(200);
    expect(await balance()).toEqual(before);
    expect((await server.send('POST', `/imports/${made.id}/reverse`, {})).status).toBe(409);
    const audit = await server.application.database.select<{ action: string }>(`SELECT action FROM audit_events WHERE subject = $1`, [
      `import ${made.id}`,
    ]);
    expect(audit.map(({ action }) => action)).toEqual(['import.post', 'import.reverse']);
  });
  it('a discarded one is in the audit record', async () => {
    const made = await upload(file(...pair('X1', '1.00')));
    await server.send('DELETE', `/imports/${made.id}`);
    const [event] = await server.application.database.select<{ action: string }>(`SELECT action FROM audit_events WHERE subject = $1`, [
      `import ${made.id}`,
    ]);
    expect(event).toEqual({ action: 'import.discard' });
    expect(existsSync(join(server.directory, 'imports', String(made.id)))).toBe(false);
  });
});

describe('a full disk', () => {
  const full = () => Object.assign(new Error('SQLITE_FULL: database or disk is full'), { code: 'SQLITE_FULL' });
  it('answers 507, keeps what there was, and the server goes on', async () => {
    const { database } = server.application;
    const write = vi.spyOn(database, 'write').mockRejectedValue(full());
    try {
      const edit = { edits: [{ kind: 'month', account: '4000', month: 0, text: '1' }], filter: {}, session: 's' };
      const answer = await server.send('POST', `${at()}/budgets/${budget}/edits`, edit);
      expect([answer.status, problem(answer).detail]).toEqual([507, expect.stringContaining('disk of the server is full')]);
    } finally {
      write.mockRestore();
    }
    expect((await server.send('GET', `${at()}/budgets`)).status).toBe(200);
  });
  it('during a check ends nothing: the import says so and can be discarded', async () => {
    const unhandled = vi.fn();
    process.on('unhandledRejection', unhandled);
    const { database, imports } = server.application;
    const real = database.write;
    let writes = 0;
    // the row of the import is written, what the check came to is not
    const write = vi
      .spyOn(database, 'write')
      .mockImplementation((work) => ((writes += 1) === 1 ? real(work) : Promise.reject(full())) as never);
    const form = new FormData();
    form.set('company', String(company));
    form.set('ledger', new Blob([file(...pair('F1', '1.00'))]), 'f.csv');
    const made = (await (await fetch(`${server.base}/imports`, { method: 'POST', body: form })).json()) as ImportDto;
    await imports.settled(made.id);
    write.mockRestore();
    await pause(20);
    process.off('unhandledRejection', unhandled);
    expect(unhandled).not.toHaveBeenCalled();
    expect(await server.get(`/imports/${made.id}`)).toMatchObject({
      state: 'failed',
      failure: expect.stringContaining('disk is full') as unknown,
    });
    expect((await server.send('DELETE', `/imports/${made.id}`)).status).toBe(204);
  });
});

describe('requests that were answered 500', () => {
  it.each(['History', "'x'", "it's", '[]:*?/\\', ''])('a view named %j is exported as a spreadsheet', async (name) => {
    const { sheetName } = await import('../apps/server/src/formats/sheet-names.ts');
    const made = sheetName(name, 'Statement');
    expect(made.length > 0 && made.length <= 31 && !/[\\/*?:[\]']/.test(made) && made.toLowerCase() !== 'history').toBe(true);
  });
  it('a logo of a PNG signature alone', async () => {
    const answer = await server.sendFile('PUT', `${at()}/logo`, 'logo', PICTURE.subarray(0, 8));
    expect([answer.status, problem(answer).detail]).toEqual([422, expect.stringContaining('damaged')]);
    expect((await server.sendFile('PUT', `${at()}/logo`, 'logo', PICTURE)).status).toBe(200);
  });
  it('a form that breaks off', async () => {
    const response = await fetch(`${server.base}/imports`, {
      method: 'POST',
      headers: { 'content-type': 'multipart/form-data; boundary=x' },
      body: '--x\r\nContent-Disposition: form-data; name="ledger"; filename="a.csv"\r\n\r\nentry',
    });
    expect([response.status, ((await response.json()) as Problem).detail]).toEqual([400, expect.stringContaining('incomplete')]);
  });
  it('sections nested 8,000 deep, a body of 5 MB, and one that is no JSON', async () => {
    const deep = await fetch(`${server.base}${at()}/statement-preview`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: deepLines(8000),
    });
    expect([deep.status, ((await deep.json()) as Problem).detail]).toEqual([422, expect.stringContaining('nested deeper')]);
    const large = await server.send('POST', `${at()}/budgets/${budget}/edits`, { pad: 'x'.repeat(5_000_000) });
    expect([large.status, problem(large).detail]).toEqual([413, expect.stringContaining('larger than 4 MB')]);
    const broken = await fetch(`${server.base}${at()}/budgets`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{',
    });
    expect([broken.status, ((await broken.json()) as Problem).detail]).toEqual([400, 'The request is not valid JSON.']);
  });
  it('a file past its own limit names that limit', async () => {
    const answer = await server.sendFile('PUT', `${at()}/logo`, 'logo', new Uint8Array(5_000_001));
    expect([answer.status, problem(answer).detail]).toEqual([413, expect.stringContaining('larger than 4 MB')]);
  });
  it('figures are not to be stored, and styles come from files alone', async () => {
    const response = await fetch(`${server.base}${at()}`);
    expect(response.headers.get('cache-control')).toBe('no-store');
    expect(response.headers.get('content-security-policy')).not.toContain('unsafe-inline');
  });
});

describe('a spreadsheet given as a template', () => {
  const send = (content: Uint8Array) => {
    const form = new FormData();
    form.set('file', new Blob([content as BlobPart]), 'plan.xlsx');
    return fetch(`${server.base}${at()}/budgets/${budget}/files`, { method: 'POST', body: form }).then(async (response) => ({
      status: response.status,
      body: (await response.json()) as unknown,
    }));
  };
  it('that inflates to hundreds of megabytes is refused before it is parsed', async () => {
    const zeros = Buffer.alloc(100 * 1024 ** 2);
    const bomb = zipOf([{ name: 'xl/worksheets/sheet1.xml', content: deflateRawSync(zeros), size: zeros.length }]);
    expect(bomb.length).toBeLessThan(300_000);
    const answer = await send(bomb);
    expect([answer.status, problem(answer).detail]).toEqual([422, expect.stringContaining('larger than 60 MB')]);
  });
  it('that lies about its size, or is none, is refused', async () => {
    const zeros = Buffer.alloc(80 * 1024 ** 2);
    const liar = zipOf([{ name: 'a.xml', content: deflateRawSync(zeros), size: 1000 }]);
    expect((await send(liar)).status).toBe(422);
    expect((await send(Buffer.from('not a workbook'))).status).toBe(422);
  });
});

describe('the data folder', () => {
  it('is for its owner alone', () => {
    expect(statSync(server.directory).mode & 0o777).toBe(0o700);
  });
  it('is cleaned at the start of uploads and staging folders that belong to no import', async () => {
    mkdirSync(join(server.directory, 'imports', '9999'), { recursive: true });
    writeFileSync(join(server.directory, 'uploads', 'orphan'), 'x');
    await server.application.imports.recover();
    expect(readdirSync(join(server.directory, 'uploads'))).toEqual([]);
    expect(existsSync(join(server.directory, 'imports', '9999'))).toBe(false);
  });
  it('keeps what it acknowledged through a loss of power, on every connection', async () => {
    const { database } = server.application;
    const [plain] = await database.select<{ synchronous: number }>('PRAGMA synchronous');
    const [inside] = await database.write((transaction) => database.select<{ synchronous: number }>('PRAGMA synchronous', [], transaction));
    expect([plain, inside]).toEqual([{ synchronous: 2 }, { synchronous: 2 }]);
  });
});
