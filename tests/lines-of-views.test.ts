import type { AuditTrailDto, NewView, ViewDto, ViewListDto } from '@wise-margin/contract';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());
const [TERN, GANNET] = ['/companies/1', '/companies/2'] as const;
const refusal = async (method: string, path: string, body: unknown): Promise<unknown> => {
  const { status, body: answer } = await server.send(method, path, body);
  return { status, ...(answer as { detail: string }) };
};

describe('a view with the lines of another one', () => {
  let sets: Pick<ViewDto, 'lineSet' | 'columnSet'>;
  const named = (name: string): ViewDto['lineSet'] => ({
    key: 'lines',
    name: 'Lines',
    lines: [{ kind: 'accounts', key: 'sales', name, selection: { classes: ['revenue'] }, sign: 'credit' }],
  });
  const create = (name: string, more: Partial<NewView> = {}, company: string = TERN) =>
    server.accept<ViewDto>('POST', `${company}/views`, { name, ...sets, shared: true, ...more });
  const change = (view: ViewDto, body: object, company: string = TERN) =>
    server.accept<ViewDto>('PUT', `${company}/views/${view.key}`, { version: view.version, ...body });
  const seen = (view: ViewDto, company: string = TERN) => server.get<ViewDto>(`${company}/views/${view.key}`);
  const firstLine = async (view: ViewDto, company: string = TERN): Promise<string> =>
    (await server.statement(`${company}/statements/${view.key}?asOf=2026-10`)).lines[0]!.name;

  beforeEach(async () => {
    for (const company of [GANNET, TERN])
      for (const { key, isShipped } of await server.get<ViewListDto>(`${company}/views`))
        if (!isShipped) await server.accept('DELETE', `${company}/views/${key}`);
    const { columnSet } = await server.get<ViewDto>(`${TERN}/views/balance`);
    sets = { lineSet: named('Sales'), columnSet };
  });

  it('shows what the other one has now, and says so on both', async () => {
    const source = await create('Source');
    const view = await create('Board', { linesOf: source.key, lineSet: named('Not this') });
    expect(view).toMatchObject({ linesOf: source.key, columnsOf: null });
    await change(source, { lineSet: named('Turnover') });
    expect([await firstLine(view), (await seen(view)).version]).toEqual(['Turnover', 1]);
    expect((await seen(source)).usedBy).toEqual({ lines: ['Board'], columns: [] });
  });

  it('takes those of a built-in view, and columns as well as lines', async () => {
    const income = await server.get<ViewDto>(`${TERN}/views/income`);
    const view = await create('Board', { linesOf: 'income', columnsOf: 'income' });
    expect(view).toMatchObject({ linesOf: 'income', columnsOf: 'income', lineSet: income.lineSet, columnSet: income.columnSet });
    expect((await server.get<ViewDto>(`${TERN}/views/income`)).usedBy).toEqual({ lines: ['Board'], columns: ['Board'] });
    const [own, shipped] = await Promise.all(
      [view.key, 'income'].map((key) => server.statement(`${TERN}/statements/${key}?asOf=2026-10&shares=yes`)),
    );
    expect(own!.cells).toEqual(shipped!.cells);
    expect(own!.cells.length).toBeGreaterThan(50);
  });

  it('follows through several views', async () => {
    const source = await create('Source');
    const middle = await create('Middle', { linesOf: source.key });
    const view = await create('Board', { linesOf: middle.key });
    await change(source, { lineSet: named('Turnover') });
    expect(await firstLine(view)).toBe('Turnover');
    await change(middle, { lineSet: named('Own') });
    expect([await firstLine(view), (await seen(middle)).linesOf]).toEqual(['Own', null]);
  });

  it('keeps them as its own when it is told to, and when the other one is deleted', async () => {
    const source = await create('Source');
    const [own, left] = [await create('Own', { linesOf: source.key }), await create('Left', { linesOf: source.key })];
    const latest = await change(source, { lineSet: named('Turnover') });
    expect(await change(own, { linesOf: null })).toMatchObject({ linesOf: null, lineSet: named('Turnover') });
    await change(latest, { lineSet: named('Revenue') });
    expect(await firstLine(own)).toBe('Turnover');
    await server.accept('DELETE', `${TERN}/views/${source.key}`);
    expect(await seen(left)).toMatchObject({ linesOf: null, lineSet: named('Revenue') });
  });

  it('in every company shows those of that company’s version', async () => {
    const source = await create('Source', { scope: 'all' });
    const view = await create('Board', { linesOf: source.key, scope: 'all' });
    await change(source, { lineSet: named('Salt sales'), scope: 'company' }, GANNET);
    expect([await firstLine(view), await firstLine(view, GANNET)]).toEqual(['Sales', 'Salt sales']);
    // of the deleted view for all, one company has its own version: that company's lines stay linked
    await server.accept('DELETE', `${TERN}/views/${source.key}`);
    expect([await firstLine(view), await firstLine(view, GANNET)]).toEqual(['Sales', 'Salt sales']);
    expect([(await seen(view)).linesOf, (await seen(view, GANNET)).linesOf]).toEqual([null, source.key]);
    await server.accept('DELETE', `${GANNET}/views/${source.key}`);
    expect(await firstLine(view, GANNET)).toBe('Sales');
  });

  it('becomes a company’s own version with the link, and can change it', async () => {
    const source = await create('Source', { scope: 'all' });
    const view = await create('Board', { linesOf: source.key, scope: 'all' });
    const own = await change(view, { note: 'Ours', scope: 'company' }, GANNET);
    expect(own).toMatchObject({ isOwnVersion: true, linesOf: source.key });
    await change(source, { lineSet: named('Turnover') });
    expect(await firstLine(view, GANNET)).toBe('Turnover');
  });

  it('is refused where it would go in a circle, where the other one is not there, or is kept for one company', async () => {
    const source = await create('Source');
    const view = await create('Board', { linesOf: source.key });
    const put = (of: ViewDto, body: object) => refusal('PUT', `${TERN}/views/${of.key}`, { version: of.version, ...body });
    expect(await put(source, { linesOf: source.key })).toMatchObject({ status: 422, detail: 'A view cannot take its lines from itself.' });
    expect(await put(source, { linesOf: view.key })).toMatchObject({
      detail: 'Board takes its lines from this view. Choose another view, or own lines.',
    });
    for (const gone of ['view-9999', 'no such view'])
      expect(await put(view, { columnsOf: gone })).toMatchObject({
        detail: 'The view to take columns from is not there. Choose another view, or own columns.',
      });
    const kept = { detail: 'Source is kept for this company only. Keep it for all companies first, or copy its lines.' };
    expect(await put(view, { scope: 'all' })).toMatchObject(kept);
    expect(await refusal('POST', `${TERN}/views`, { name: 'All', ...sets, linesOf: source.key, scope: 'all' })).toMatchObject(kept);
    // nothing was changed, and columns of the view that takes its lines are free
    expect(await seen(view)).toMatchObject({ version: 1, linesOf: source.key, scope: 'company' });
    expect(await change(source, { columnsOf: view.key })).toMatchObject({ columnsOf: view.key });
  });

  it('stays with its own where versions of companies make a circle', async () => {
    const source = await create('Source', { scope: 'all' });
    const view = await create('Board', { scope: 'all', lineSet: named('Board sales') });
    await change(source, { linesOf: view.key, scope: 'company' }, GANNET);
    await change(view, { linesOf: source.key });
    expect([await firstLine(view), await firstLine(source)]).toEqual(['Sales', 'Sales']);
    expect(await firstLine(view, GANNET)).toBe('Board sales');
  });

  it('does not take those of another person’s private view', async () => {
    const other = { name: 'Somebody else', now: () => new Date() };
    const views = server.application.views;
    const base = { folder: 'My views', note: '', ...sets, linesOf: null, columnsOf: null, display: {}, choices: {} };
    const secret = await views.create(1, { ...base, name: 'Secret', shared: false, scope: 'company' }, other);
    expect(await refusal('POST', `${TERN}/views`, { name: 'Mine', ...sets, linesOf: secret.key })).toMatchObject({ status: 422 });
    // who shares a view shares the lines it takes from a private one
    const shared = await views.create(1, { ...base, name: 'Shared', linesOf: secret.key, shared: true, scope: 'company' }, other);
    await views.change({ company: 1, view: secret.key }, { lineSet: named('Turnover'), version: 1 }, other);
    expect(await firstLine(shared)).toBe('Turnover');
    for (const { key } of [shared, secret]) await views.remove(1, key, other);
  });

  it('is in the audit trail by the view they are taken from', async () => {
    const source = await create('Source');
    await change(await create('Board'), { linesOf: source.key });
    const { events } = await server.get<AuditTrailDto>(`${TERN}/audit?limit=1`);
    expect(events[0]!.changes).toEqual([{ what: 'lines', from: 'own', to: `of ${source.key}` }]);
  });
});
