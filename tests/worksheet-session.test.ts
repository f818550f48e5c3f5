import type { BudgetDto, BudgetHistoryDto, WorksheetDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';

import { WorksheetSession } from '../apps/web/src/budgets/worksheet/worksheet-session.ts';
import { InlineWorker } from './support/inline-worker.ts';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

// A budget at work in a browser against the real server; the connection between them can be cut on either way.

const LOOK = { filter: {}, account: null, lineSet: null } as const;
let server: TestServer;
let company: number;
let at: string;
let budget: number;
let made = 0;

beforeAll(async () => {
  server = await startTestServer();
  company = await loadSmallCompany(server);
});
afterAll(() => server.close());

/** What stands between the page and the server. */
const line = { isCut: false, losesAnswers: false, requests: 0 };
const reach = globalThis.fetch;
/** What the page listens for in its window. */
const heard = new Map<string, () => void>();
/** What a browser keeps over a reload, for all its windows. */
const storage = new Map<string, string>();
const storageOf = (kept: Map<string, string>) => ({
  get length() {
    return kept.size;
  },
  key: (index: number) => [...kept.keys()][index] ?? null,
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, text: string) => void kept.set(key, text),
  removeItem: (key: string) => void kept.delete(key),
});
/** The next page is opened in another window of the same browser. */
const otherWindow = () => vi.stubGlobal('sessionStorage', storageOf(new Map()));

beforeEach(async () => {
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    if (!path.startsWith('/api')) return reach(path, init);
    line.requests += 1;
    if (line.isCut) throw new TypeError('cut');
    const answer = await reach(server.base + path.slice('/api'.length), init);
    if (line.losesAnswers && init?.method === 'POST') throw new TypeError('the answer was lost');
    return answer;
  });
  vi.stubGlobal('Worker', InlineWorker);
  vi.stubGlobal('window', {
    addEventListener: (event: string, listener: () => void) => void heard.set(event, listener),
    removeEventListener: (event: string) => void heard.delete(event),
  });
  vi.stubGlobal('document', { hidden: false });
  vi.stubGlobal('localStorage', storageOf(storage));
  otherWindow();
  Object.assign(line, { isCut: false, losesAnswers: false, requests: 0 });
  storage.clear();
  made += 1;
  const created = await server.send('POST', `/companies/${company}/budgets`, { name: `Plan ${made}`, year: 2026, from: 2025 });
  budget = (created.body as BudgetDto).id;
  at = `/companies/${company}/budgets/${budget}`;
});
const sessions: WorksheetSession[] = [];
afterEach(() => {
  for (const session of sessions.splice(0)) session.stop();
  vi.unstubAllGlobals();
});

async function open(): Promise<WorksheetSession> {
  const session = new WorksheetSession({ company, worksheet: await server.get<WorksheetDto>(`${at}/worksheet`), saved: () => undefined });
  sessions.push(session);
  session.start(LOOK);
  return session;
}
/** What the page shows of a month, in cents. */
function shown(session: WorksheetSession, account: string, month: number): number {
  const { grid } = session.snapshot().view!;
  const cell = grid.cells[grid.lines.findIndex((each) => each.account === account)]![month]!;
  return cell.kind === 'amount' ? cell.value : 0;
}
const stored = async (account: string, month: number): Promise<number> =>
  (await server.get<WorksheetDto>(`${at}/worksheet`)).lines
    .filter((each) => each.account === account)
    .reduce((sum, { amounts }) => sum + Math.abs(amounts[month]!), 0);
const type = (session: WorksheetSession, account: string, month: number, text: string): void =>
  session.apply([{ kind: 'month', account, month, text }]);
/** Waits for what is bound to come, however busy the machine is. */
const until = (check: () => unknown) => vi.waitFor(check as () => void, { timeout: 20_000, interval: 20 });
const settled = (session: WorksheetSession) => until(() => expect(session.snapshot().save).toEqual({ kind: 'saved' }));

describe('a budget at work in a browser', () => {
  it('shows what is typed at once and saves it behind', async () => {
    const session = await open();
    type(session, '6000', 0, '450');
    expect(shown(session, '6000', 0)).toBe(45_000);
    expect(line.requests).toBe(0);
    await until(async () => expect(await stored('6000', 0)).toBe(45_000));
    await settled(session);
  });

  it('keeps what is typed without a connection, over a closed page too, and sends it when it is back', async () => {
    const first = await open();
    line.isCut = true;
    type(first, '6000', 0, '450');
    type(first, '4000', 2, '+10%');
    await until(() => expect(first.snapshot().save).toMatchObject({ kind: 'unsaved', message: expect.stringMatching(/^2 changes/) }));
    first.stop();
    expect(await stored('6000', 0)).toBe(30_000);
    line.isCut = false;
    const second = await open();
    expect([shown(second, '6000', 0), shown(second, '4000', 2)]).toEqual([45_000, 110_220]);
    await until(async () => expect(await stored('4000', 2)).toBe(110_220));
    await settled(second);
    expect([await stored('6000', 0), [...storage.keys()].filter((key) => key.includes('unsaved'))]).toEqual([45_000, []]);
  });

  it('keeps what two windows left unsaved without a connection', async () => {
    const first = await open();
    otherWindow();
    const second = await open();
    line.isCut = true;
    type(first, '6000', 0, '450');
    type(second, '6000', 1, '460');
    await until(() => expect(second.snapshot().save.kind).toBe('unsaved'));
    first.stop();
    second.stop();
    line.isCut = false;
    otherWindow();
    await open();
    await until(async () => expect([await stored('6000', 0), await stored('6000', 1)]).toEqual([45_000, 46_000]));
  });
  it('shows the amount of another window once “keep theirs” is chosen, also when the connection is lost at that moment', async () => {
    const mine = await open();
    otherWindow();
    const other = await open();
    type(other, '6000', 0, '777');
    await until(async () => expect(await stored('6000', 0)).toBe(77_700));
    type(mine, '6000', 0, '450');
    await until(() => expect(mine.snapshot().save.kind).toBe('asked'));
    line.isCut = true;
    await mine.settleConflict(false);
    expect(mine.snapshot().save.kind).toBe('unsaved');
    line.isCut = false;
    heard.get('online')!();
    await settled(mine);
    await until(() => expect(shown(mine, '6000', 0)).toBe(77_700));
    expect(await stored('6000', 0)).toBe(77_700);
  });
  it('says whose amount replaced which, and enters it again when asked', async () => {
    const first = await open();
    type(first, '6000', 0, '450');
    await until(async () => expect(await stored('6000', 0)).toBe(45_000));
    otherWindow();
    const second = await open();
    type(second, '6000', 0, '777');
    await until(async () => expect(await stored('6000', 0)).toBe(77_700));
    first.refresh();
    await until(() => expect(first.snapshot().replaced).toMatchObject([{ account: '6000', month: 0, mine: '450.00', theirs: '777.00' }]));
    first.restore(first.snapshot().replaced);
    await settled(first);
    await until(async () => expect(await stored('6000', 0)).toBe(45_000));
    expect(first.snapshot().replaced).toEqual([]);
  });

  it('sends it at once when the browser says that the connection is back', async () => {
    const session = await open();
    line.isCut = true;
    // a try of its own comes too late
    const { setTimeout: later } = globalThis;
    vi.stubGlobal('setTimeout', (run: () => void, milliseconds = 0) => later(run, milliseconds < 1000 ? milliseconds : 60_000));
    type(session, '6000', 0, '450');
    await until(() => expect(session.snapshot().save.kind).toBe('unsaved'));
    line.isCut = false;
    heard.get('online')!();
    await settled(session);
    expect(await stored('6000', 0)).toBe(45_000);
    session.stop();
    expect([...heard]).toEqual([]);
  });

  it('counts an edit, an undo and a redo once when their answers are lost', async () => {
    const session = await open();
    type(session, '6000', 0, '+10%');
    await until(async () => expect(await stored('6000', 0)).toBe(33_000));
    await settled(session);
    line.losesAnswers = true;
    type(session, '6000', 0, '+10%');
    await until(async () => expect(await stored('6000', 0)).toBe(36_300));
    await until(() => expect(session.snapshot().save.kind).toBe('unsaved'));
    line.losesAnswers = false;
    await settled(session);
    expect([await stored('6000', 0), shown(session, '6000', 0)]).toEqual([36_300, 36_300]);

    line.losesAnswers = true;
    void session.step('undo');
    await until(() => expect(session.snapshot().save.kind).toBe('unsaved'));
    expect(await stored('6000', 0)).toBe(33_000);
    line.losesAnswers = false;
    heard.get('online')!();
    await settled(session);
    // one step back, not two, and the page knows of it
    expect([await stored('6000', 0), shown(session, '6000', 0)]).toEqual([33_000, 33_000]);
    await session.step('redo');
    expect([await stored('6000', 0), shown(session, '6000', 0)]).toEqual([36_300, 36_300]);
    const { items } = await server.get<BudgetHistoryDto>(`${at}/history`);
    expect(items.filter(({ kind }) => kind !== 'milestone').map(({ kind }) => kind)).toEqual(['redo', 'undo', 'edit', 'edit']);
  }, 30_000);

  it('takes undo asked for while an edit is on its way after that edit', async () => {
    const session = await open();
    type(session, '6000', 5, '999');
    void session.step('undo');
    await until(async () => expect(shown(session, '6000', 5)).toBe(30_000));
    await settled(session);
    expect(await stored('6000', 5)).toBe(30_000);
  });

  it('lists what is refused, with what was typed, and keeps the rest', async () => {
    const session = await open();
    session.apply([
      { kind: 'month', account: '6000', month: 0, text: 'lots' },
      { kind: 'month', account: '6000', month: 1, text: '7' },
    ]);
    expect(session.snapshot().refusals).toEqual([
      { edit: 0, account: '6000', text: 'lots', message: expect.stringContaining('is not an amount') as unknown },
    ]);
    await settled(session);
    await until(async () => expect(await stored('6000', 1)).toBe(700));
    expect(await stored('6000', 0)).toBe(30_000);
  });

  it('asks whose figure stands, and follows the answer', async () => {
    const theirs = (text: string) =>
      server.send('POST', `${at}/edits`, { edits: [{ kind: 'month', account: '6000', month: 3, text }], session: 'theirs' });
    for (const [keepMine, other, stands] of [
      [false, 500, 50_000],
      [true, 600, 44_400],
    ] as const) {
      const session = await open();
      await theirs(String(other));
      type(session, '6000', 3, '444');
      await until(() => expect(session.snapshot().save.kind).toBe('asked'));
      expect([shown(session, '6000', 3), await stored('6000', 3)]).toEqual([44_400, other * 100]);
      await session.settleConflict(keepMine);
      await settled(session);
      expect([shown(session, '6000', 3), await stored('6000', 3)]).toEqual([stands, stands]);
    }
  });

  it('takes in what others saved', async () => {
    const session = await open();
    await server.send('POST', `${at}/edits`, { edits: [{ kind: 'month', account: '4000', month: 0, text: '5' }], session: 'theirs' });
    session.refresh();
    await until(() => expect(shown(session, '4000', 0)).toBe(500));
    expect(session.snapshot().others).toEqual([expect.stringContaining('4000')]);
  });

  it('says that a budget was locked meanwhile, and shows it as it stands', async () => {
    const session = await open();
    for (const state of ['inReview', 'approved']) await server.send('POST', `${at}/state`, { state, anyway: true });
    type(session, '6000', 0, '1');
    await until(() =>
      expect(session.snapshot().save).toEqual({ kind: 'refused', message: expect.stringContaining('approved and locked') as unknown }),
    );
    expect(shown(session, '6000', 0)).toBe(30_000);
  });
});
