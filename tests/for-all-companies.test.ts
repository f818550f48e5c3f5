import type { AuditTrailDto, BenchmarkDto, CompanyMaterialityDto, ViewDto, ViewListDto } from '@wise-margin/contract';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());
const [TERN, GANNET] = ['/companies/1', '/companies/2'] as const;

describe('a view for all companies', () => {
  let view: ViewDto;
  let revenue: ViewDto['lineSet'];
  const named = (name: string) => ({
    ...revenue,
    lines: [{ kind: 'accounts', key: 'sales', name, selection: { classes: ['revenue'] }, sign: 'credit' }],
  });
  const seen = (company: string) => server.get<ViewDto>(`${company}/views/${view.key}`);
  const nameShown = async (company: string): Promise<string> =>
    (await server.statement(`${company}/statements/${view.key}?asOf=2026-10`)).lines[0]!.name;
  const change = (company: string, body: object) => server.accept<ViewDto>('PUT', `${company}/views/${view.key}`, body);

  beforeEach(async () => {
    const shipped = await server.get<ViewDto>(`${TERN}/views/income`);
    revenue = shipped.lineSet;
    const { columnSet } = await server.get<ViewDto>(`${TERN}/views/balance`);
    for (const { key, isShipped } of await server.get<ViewListDto>(`${TERN}/views`))
      if (!isShipped) await server.accept('DELETE', `${TERN}/views/${key}`);
    view = await server.accept<ViewDto>('POST', `${TERN}/views`, {
      name: 'Sales',
      lineSet: named('Sales'),
      columnSet,
      scope: 'all',
      shared: true,
    });
  });

  it('is there for every company, and a change of it reaches all', async () => {
    expect(view).toMatchObject({ scope: 'all', isOwnVersion: false, changedBy: [] });
    expect((await server.get<ViewListDto>(`${GANNET}/views`)).find(({ key }) => key === view.key)).toMatchObject({
      name: 'Sales',
      scope: 'all',
    });
    await change(GANNET, { lineSet: named('Turnover'), version: view.version });
    expect([await nameShown(TERN), await nameShown(GANNET)]).toEqual(['Turnover', 'Turnover']);
  });

  it('leaves a company that changed its own as it is, and says which', async () => {
    const own = await change(GANNET, { lineSet: named('Salt sales'), version: view.version, scope: 'company' });
    expect(own).toMatchObject({ key: view.key, scope: 'company', isOwnVersion: true, changedBy: ['Gannet Rock'] });
    await change(TERN, { lineSet: named('Turnover'), version: view.version });
    expect([await nameShown(TERN), await nameShown(GANNET)]).toEqual(['Turnover', 'Salt sales']);
    expect(await seen(TERN)).toMatchObject({ scope: 'all', changedBy: ['Gannet Rock'] });
    // its own is once in its library
    expect((await server.get<ViewListDto>(`${GANNET}/views`)).filter(({ key }) => key === view.key)).toHaveLength(1);
    await server.accept('DELETE', `${GANNET}/views/${view.key}`);
    expect([await nameShown(GANNET), (await seen(TERN)).changedBy]).toEqual(['Turnover', []]);
  });

  it('takes a company’s own version over when that is saved for all', async () => {
    const own = await change(GANNET, { lineSet: named('Salt sales'), version: view.version, scope: 'company' });
    await change(GANNET, { version: own.version, scope: 'all' });
    expect(await nameShown(TERN)).toBe('Salt sales');
    const now = await seen(GANNET);
    expect(now).toMatchObject({ scope: 'all', isOwnVersion: false, changedBy: [] });
  });

  it('is in the audit trail with the version that a save made, beside those of companies', async () => {
    await change(GANNET, { lineSet: named('Salt sales'), version: view.version, scope: 'company' });
    const saved = await change(TERN, { lineSet: named('Turnover'), version: view.version });
    const { events } = await server.get<AuditTrailDto>(`${TERN}/audit?limit=1`);
    expect(events[0]).toMatchObject({ changes: [{ what: 'lines', to: `version ${saved.version}` }] });
    await server.accept('DELETE', `${GANNET}/views/${view.key}`);
  });

  it('is refused when somebody else saved it since, for one company or for all', async () => {
    await change(TERN, { lineSet: named('Turnover'), version: view.version });
    for (const scope of ['company', 'all'])
      expect((await server.send('PUT', `${GANNET}/views/${view.key}`, { note: 'Late', version: view.version, scope })).status).toBe(409);
  });

  it('and one company’s view can become one for all, and goes for all when it is deleted', async () => {
    const made = await server.accept<ViewDto>('POST', `${TERN}/views`, {
      name: 'Own',
      lineSet: named('Own'),
      columnSet: view.columnSet,
      shared: true,
    });
    expect((await server.send('GET', `${GANNET}/views/${made.key}`)).status).toBe(404);
    await server.accept('PUT', `${TERN}/views/${made.key}`, { version: made.version, scope: 'all' });
    expect((await server.get<ViewDto>(`${GANNET}/views/${made.key}`)).scope).toBe('all');
    await server.accept('DELETE', `${TERN}/views/${made.key}`);
    expect((await server.send('GET', `${GANNET}/views/${made.key}`)).status).toBe(404);
  });

  it('is refused under a name that another one for all has already, and outlives the one it was a version of', async () => {
    const own = (company: string) =>
      server.accept<ViewDto>('POST', `${company}/views`, { name: 'Twin', lineSet: named('Twin'), columnSet: view.columnSet, shared: true });
    const [first, second] = [await own(TERN), await own(GANNET)];
    await server.accept('PUT', `${TERN}/views/${first.key}`, { version: first.version, scope: 'all' });
    const { status, body } = await server.send('PUT', `${GANNET}/views/${second.key}`, { version: second.version, scope: 'all' });
    expect([status, JSON.stringify(body)]).toEqual([422, expect.stringContaining('You have a view named Twin already.')]);

    await change(GANNET, { lineSet: named('Salt sales'), version: view.version, scope: 'company' });
    await server.accept('DELETE', `${TERN}/views/${view.key}`);
    expect(await seen(GANNET)).toMatchObject({ key: view.key, scope: 'company', isOwnVersion: false });
    await server.accept('DELETE', `${GANNET}/views/${second.key}`);

    // a new one for all of the same name: the company has a view of that name, and cannot have two
    const next = await server.accept<ViewDto>('POST', `${TERN}/views`, { ...first, name: 'Sales', scope: 'all', shared: true });
    const twice = await server.send('PUT', `${GANNET}/views/${next.key}`, { note: 'Own', version: next.version, scope: 'company' });
    expect([twice.status, JSON.stringify(twice.body)]).toEqual([422, expect.stringContaining('You have a view named Sales already.')]);
    await server.accept('DELETE', `${GANNET}/views/${view.key}`);
  });

  it('keeps a private one to its owner', async () => {
    const { application } = server;
    const other = { name: 'Somebody else', now: () => new Date() };
    const made = await application.views.create(1, { ...view, name: 'Secret', shared: false, scope: 'all' }, other);
    expect((await server.send('GET', `${GANNET}/views/${made.key}`)).status).toBe(404);
    expect((await application.views.of(2, made.key, other)).name).toBe('Secret');
  });
});

describe('materiality limits for all companies', () => {
  const limit = (amount: number) => ({ amount, percent: null, passes: 'either', least: 0 });
  const limits = (amount: number) => ({ month: limit(amount), yearToDate: limit(amount * 3), overrides: [] });
  const of = (company: string) => server.get<CompanyMaterialityDto>(`${company}/materiality`);
  const amounts = async () => [(await of(TERN)).materiality.month.amount, (await of(GANNET)).materiality.month.amount];

  it('hold for every company without its own, and say which has', async () => {
    await server.accept('PUT', `${TERN}/materiality`, { ...limits(900_000), scope: 'all' });
    expect(await amounts()).toEqual([900_000, 900_000]);
    await server.accept('PUT', `${GANNET}/materiality`, limits(100_000));
    await server.accept('PUT', `${TERN}/materiality`, { ...limits(800_000), scope: 'all' });
    expect(await amounts()).toEqual([800_000, 100_000]);
    expect(await of(TERN)).toMatchObject({ source: 'all', changedBy: ['Gannet Rock'] });
    await server.accept('DELETE', `${GANNET}/materiality`);
    expect([await amounts(), (await of(GANNET)).source]).toEqual([[800_000, 800_000], 'all']);
  });

  it('are the same number of units in a currency with other decimals', async () => {
    const { application } = server;
    const books = await application.booksCache.of(2);
    const yen = { ...books, currency: { ...books.currency, code: 'JPY', exponent: 0 } };
    expect((await application.materiality.of(yen)).materiality.month.amount).toBe(8_000);
  });
});

describe('a benchmark for all companies', () => {
  const put = (company: string, value: number | null, scope: 'all' | 'company') =>
    server.accept<BenchmarkDto[]>('PUT', `${company}/benchmarks`, { line: 'current_ratio', kind: 'target', value, scope });
  const values = async () =>
    Promise.all(
      [TERN, GANNET].map(async (company) => {
        const statement = await server.statement(`${company}/statements/ratios?asOf=2026-10`);
        const column = statement.columns.findIndex(({ key }) => key === 'month.benchmark');
        const cell = statement.cells[statement.lines.findIndex(({ key }) => key === 'current_ratio')]![column];
        return cell && 'value' in cell ? cell.value : null;
      }),
    );

  it('stands in the statements of every company without its own', async () => {
    await put(TERN, 2, 'all');
    expect(await values()).toEqual([2, 2]);
    await put(GANNET, 1.5, 'company');
    await put(TERN, 1.8, 'all');
    expect(await values()).toEqual([1.8, 1.5]);
    expect((await server.get<BenchmarkDto[]>(`${TERN}/benchmarks`))[0]).toMatchObject({ scope: 'all', changedBy: ['Gannet Rock'] });
    await put(GANNET, null, 'company');
    expect(await values()).toEqual([1.8, 1.8]);
    await put(TERN, null, 'all');
    expect(await values()).toEqual([null, null]);
  });
});
