import {
  type MailDetailDto,
  type MailListingDto,
  type Problem,
  type ScheduleChange,
  type ScheduleListDto,
  scheduleListSchema,
} from '@wise-margin/contract';
import { isWatchedAccount } from '@wise-margin/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

const AT = '/companies/1';
let server: TestServer;
let clock: Date;
beforeEach(async () => {
  clock = new Date('2025-11-01T00:00:00Z');
  server = await demoServer({ now: () => clock });
  await makeTinyPack(server);
});
afterEach(() => server.close());

const SCHEDULE: ScheduleChange = {
  name: 'Bank',
  what: { kind: 'pack', pack: 'pack-1' },
  of: 'monthBefore',
  day: { kind: 'businessDay', number: 4 },
  minutes: 450,
  zone: 'America/New_York',
  condition: { kind: 'always' },
  to: ['ann@bank.com'],
  lists: [],
  subject: '{pack}, {month}',
  text: 'Attached. {link}',
  formats: ['pdf'],
  isHeld: false,
};
const WATCHING = (accounts: string) => ({ kind: 'watch', watch: { kind: 'postings', accounts } }) as const;
const create = async (change: Partial<ScheduleChange> = {}): Promise<ScheduleListDto> => {
  const { status, body } = await server.send('POST', `${AT}/schedules`, { ...SCHEDULE, ...change });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return scheduleListSchema.parse(body);
};
const listed = async (): Promise<ScheduleListDto['schedules'][number]> =>
  scheduleListSchema.parse(await server.get(`${AT}/schedules`)).schedules[0]!;
const subjects = async (): Promise<string[]> =>
  (await server.get<MailListingDto>(`${AT}/mail?limit=1000`)).messages.map(({ subject }) => subject).reverse();
/** The server’s clock goes on to a moment, and what is due is run. */
const goOnTo = (moment: string): Promise<number> => {
  clock = new Date(moment);
  return server.application.schedules.runDue(clock);
};

describe('a schedule', () => {
  it('on the fourth business day fills the outbox with twelve messages in a year, each of the month before', async () => {
    const { schedules } = await create();
    // Nov 6, 2025 is the fourth business day of the month; clocks went back on Nov 2
    expect(schedules[0]!.next).toEqual(['2025-11-06T12:30:00.000Z', '2025-12-04T12:30:00.000Z', '2026-01-06T12:30:00.000Z']);
    let runs = 0;
    for (let day = new Date(clock); day < new Date('2026-11-01T00:00:00Z'); day = new Date(day.getTime() + 5 * 86_400_000))
      runs += await goOnTo(day.toISOString());
    expect(runs).toBe(12);
    expect(await subjects()).toEqual(
      [
        'October 2025',
        'November 2025',
        'December 2025',
        'January 2026',
        'February 2026',
        'March 2026',
        'April 2026',
        'May 2026',
        'June 2026',
        'July 2026',
        'August 2026',
        'September 2026',
      ].map((month) => `Bank letter, ${month}`),
    );
    expect((await listed()).runs[0]).toMatchObject({ state: 'done', note: 'September 2026, issue 1' });
  }, 120_000);
  it('runs what was missed while no server ran, each time once and in order; nothing when the clock was set back', async () => {
    await create({ formats: [] });
    await create({ name: 'Mid-month', day: { kind: 'dayOfMonth', number: 15 }, formats: [] });
    expect(await goOnTo('2026-01-10T00:00:00Z')).toBe(4 + 1);
    expect(await subjects()).toEqual(
      ['October 2025', 'October 2025', 'November 2025', 'November 2025', 'December 2025'].map((month) => `Bank letter, ${month}`),
    );
    expect(await goOnTo('2025-12-01T00:00:00Z')).toBe(0);
    expect(await goOnTo('2026-01-10T00:00:00Z')).toBe(0);
    expect(await subjects()).toHaveLength(5);
  }, 60_000);
  it('is run once by two servers that look at the same moment', async () => {
    await create({ formats: [] });
    clock = new Date('2025-12-31T00:00:00Z');
    const counts = await Promise.all([1, 2, 3].map(() => server.application.schedules.runDue(clock)));
    expect(counts.reduce((sum, count) => sum + count, 0)).toBe(2);
    expect(await subjects()).toHaveLength(2);
  }, 60_000);
  it('is skipped where its condition is not met, and says why', async () => {
    await create({ condition: { kind: 'monthClosed' } });
    await create({ name: 'Watch', condition: { kind: 'activity', view: 'income', line: 'no_line' } });
    await goOnTo('2025-11-10T00:00:00Z');
    const { schedules } = scheduleListSchema.parse(await server.get(`${AT}/schedules`));
    expect(schedules.map(({ runs }) => [runs[0]!.state, runs[0]!.note])).toEqual([
      ['skipped', 'October 2025 is not closed'],
      ['skipped', 'no_line has no activity'],
    ]);
    expect(await subjects()).toEqual([]);
  });
  it('on hold does nothing, and does not catch up when it goes on', async () => {
    const { schedules } = await create({ isHeld: true });
    const { id } = schedules[0]!;
    expect([schedules[0]!.next, await goOnTo('2026-02-01T00:00:00Z')]).toEqual([[], 0]);
    expect((await server.send('PUT', `${AT}/schedules/${id}`, SCHEDULE)).status).toBe(200);
    expect(await goOnTo('2026-02-28T00:00:00Z')).toBe(1);
    expect(await subjects()).toEqual(['Bank letter, January 2026']);
  });
  it('is run now, beside its times', async () => {
    const { id } = (await create()).schedules[0]!;
    expect((await server.send('POST', `${AT}/schedules/${id}/runs`)).status).toBe(201);
    // midnight of November 1 by universal time is still October in New York
    expect([await subjects(), (await listed()).runs.length]).toEqual([['Bank letter, September 2025'], 1]);
    expect((await server.send('DELETE', `${AT}/schedules/${id}`)).status).toBe(204);
    expect((await server.send('POST', `${AT}/schedules/${id}/runs`)).status).toBe(404);
  });
  it('that was under way when the server stopped is run again, unless its mail is there already', async () => {
    await create({ formats: [] });
    const { application } = server;
    clock = new Date('2025-12-31T00:00:00Z');
    const [stored] = await application.scheduleStore.list(1);
    const [first, second] = [Date.parse('2025-11-06T12:30:00Z'), Date.parse('2025-12-04T12:30:00Z')];
    await application.schedules.runDue(new Date(first));
    // stopped after the mail was queued, and stopped before anything was done
    const { database } = application;
    await database.write((transaction) => database.run(`UPDATE schedule_runs SET state = 'running'`, [], transaction));
    expect(await application.scheduleStore.claim(stored!, { at: second })).toBe(true);
    await application.schedules.recover();
    expect(await subjects()).toEqual(['Bank letter, October 2025', 'Bank letter, November 2025']);
    expect((await listed()).runs.map(({ state }) => state)).toEqual(['done', 'done']);
  });
  it('outside the fiscal years fails and says what to do', async () => {
    clock = new Date('2030-12-31T00:00:00Z');
    await create({ of: 'month', formats: [] });
    await goOnTo('2031-01-31T00:00:00Z');
    expect((await listed()).runs[0]).toMatchObject({
      state: 'failed',
      note: expect.stringContaining('outside the fiscal years of Tern Island') as string,
    });
  }, 120_000);
  it.each([
    [{ zone: 'New York' }, 'Enter a time zone such as America/New_York'],
    [{ day: { kind: 'businessDay', number: 0 } as const }, 'Count business days from 1'],
    [{ day: { kind: 'dayOfMonth', number: 32 } as const }, 'A month has at most 31 days'],
    [{ to: [] }, 'No recipients'],
    [{ to: ['joe'] }, 'is not an email address. Enter one such as name@company.com'],
    [{ what: { kind: 'pack', pack: 'none' } }, 'There is no pack'],
    [{ what: { kind: 'view', view: 'none' } }, 'There is no view'],
    [{ formats: ['csv'] }, 'A pack is not written as CSV. Choose PDF, DOCX, XLSX, HTML.'],
    [{ what: { kind: 'view', view: 'income' }, subject: '{name}', text: '', formats: ['html'] }, 'A view is not written as HTML.'],
    [{ what: { kind: 'view', view: 'income' }, subject: '{name}', text: '', formats: [] }, 'Choose at least one format for the view.'],
    [{ what: { kind: 'view', view: 'income' } }, 'There is no field {pack} here. Use {company}, {name}, {month}, {link}.'],
    [{ what: WATCHING('0001'), subject: '{name}', text: '' }, 'No account is 0001.'],
  ])('with %o is refused', async (change, words) => {
    const { status, body } = await server.send('POST', `${AT}/schedules`, { ...SCHEDULE, ...change });
    expect([status === 422 || status === 404, JSON.stringify(body as Problem)]).toEqual([true, expect.stringContaining(words)]);
  });
});

const textOf = async (id: number) => server.get<MailDetailDto>(`${AT}/mail/${id}`);

describe('a schedule of a view', () => {
  it('mails the view in the formats asked for, with the figures of its month', async () => {
    await create({
      what: { kind: 'view', view: 'income' },
      subject: '{name} of {company}, {month}',
      text: '{link}',
      formats: ['csv', 'pdf'],
    });
    await goOnTo('2025-11-07T00:00:00Z');
    const { messages } = await server.get<MailListingDto>(`${AT}/mail`);
    expect(messages.map(({ subject, issue }) => [subject, issue])).toEqual([['Income statement of Tern Island, October 2025', null]]);
    const { text, attachments } = await textOf(messages[0]!.id);
    expect(text).toBe('http://localhost:4180/c/1/statements/income');
    expect(attachments.map(({ name }) => name)).toEqual(['income-2025-10.csv', 'income-2025-10.pdf']);
    // the file mailed is the one that the statement exports for that month
    const exported = await (await fetch(`${server.base}${AT}/statements/income/export.csv?asOf=2025-10`)).text();
    const mail = await (await fetch(`${server.base}${AT}/mail/${messages[0]!.id}/message.eml`)).text();
    const [, attached] = /filename=income-2025-10\.csv\r\n\r\n([\s\S]*?)\r\n--/.exec(mail) ?? [];
    expect(Buffer.from(attached!, 'base64').toString('utf8')).toBe(`\ufeff${exported}`.replace('\ufeff\ufeff', '\ufeff'));
    expect((await listed()).runs[0]).toMatchObject({ state: 'done', note: 'Income statement, October 2025', issue: null });
  });
});

/** Posts an amount to an account that nobody knows yet. @returns the number of the entry */
async function postTo(account: string): Promise<string> {
  const lines = [
    { account, amount: 12_345 },
    { account: '1010', amount: -12_345 },
  ].map((line) => ({ ...line, dimensions: {}, party: '', memo: 'Unclear receipt', document: '', due: null }));
  const content = { date: '2026-11-03', source: '', kind: 'ordinary', state: 'posted', lines };
  const { status, body } = await server.send('POST', `${AT}/entries`, { content, reversesOn: null, reason: 'Not known yet' });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return (body as { entries: readonly { readonly number: string }[] }).entries[0]!.number;
}

describe('a watch report', () => {
  const watch: Partial<ScheduleChange> = {
    day: { kind: 'everyBusinessDay' },
    zone: 'UTC',
    of: 'month',
    subject: '{name}',
    text: '',
    formats: [],
  };

  it('of postings tells each once, with entry, person and time, and mails nothing while there is nothing new', async () => {
    const suspense = (await server.application.booksCache.of(1)).chart.accounts.find(isWatchedAccount)!;
    clock = new Date('2026-11-02T00:00:00Z');
    await create({ ...watch, what: WATCHING(suspense.number) });
    await goOnTo('2026-11-02T08:00:00Z');
    const before = (await subjects()).length;
    await goOnTo('2026-11-03T08:00:00Z');
    expect((await listed()).runs[0]).toMatchObject({ state: 'skipped', note: 'Nothing to report' });
    expect(await subjects()).toHaveLength(before);

    clock = new Date('2026-11-03T10:30:00Z');
    const number = await postTo(suspense.number);
    await goOnTo('2026-11-05T08:00:00Z');
    expect((await listed()).runs.slice(0, 2).map(({ state }) => state)).toEqual(['skipped', 'done']);
    const { messages } = await server.get<MailListingDto>(`${AT}/mail`);
    expect(messages).toHaveLength(before + 1);
    const { text, attachments } = await textOf(messages[0]!.id);
    expect(text).toBe(
      `${suspense.number} ${suspense.name}: $123.45, entry ${number} of Nov 3, 2026, "Unclear receipt"; posted by Tester, Nov 3, 2026, 10:30 UTC`,
    );
    expect(attachments.map(({ name }) => name)).toEqual(['postings-2026-11-04.csv']);
  });

  it('that was skipped by its condition leaves nothing out of the next one', async () => {
    const suspense = (await server.application.booksCache.of(1)).chart.accounts.find(isWatchedAccount)!;
    clock = new Date('2026-11-02T00:00:00Z');
    const closed = { kind: 'monthClosed' } as const;
    const change = { ...watch, what: WATCHING(suspense.number) };
    const { schedules } = await create({ ...change, condition: closed });
    clock = new Date('2026-11-02T06:00:00Z');
    await postTo(suspense.number);
    await goOnTo('2026-11-02T08:00:00Z');
    expect((await listed()).runs[0]).toMatchObject({ state: 'skipped', note: 'November 2026 is not closed' });
    await server.send('PUT', `${AT}/schedules/${schedules[0]!.id}`, { ...SCHEDULE, ...change });
    await goOnTo('2026-11-03T08:00:00Z');
    expect((await listed()).runs[0]).toMatchObject({ state: 'done', note: '1 line reported' });
  });

  it('of drafts and of tie-outs is mailed while there are some', async () => {
    clock = new Date('2026-11-02T00:00:00Z');
    await create({ ...watch, what: { kind: 'watch', watch: { kind: 'drafts' } } });
    await goOnTo('2026-11-02T08:00:00Z');
    const { messages } = await server.get<MailListingDto>(`${AT}/mail`);
    expect(messages.map(({ subject }) => subject)).toEqual(['Draft entries']);
    const drafts = (await server.get<{ draftCount: number }>(AT)).draftCount;
    const { text } = await textOf(messages[0]!.id);
    expect(text.split('\n')).toHaveLength(drafts);
    expect(text).toMatch(/^Draft entry \S+ of [A-Z][a-z]{2} \d+, 2026 is not posted \(\d+ lines\)/);

    await create({ ...watch, name: 'Ties', what: { kind: 'watch', watch: { kind: 'tieOuts' } } });
    await goOnTo('2026-11-03T08:00:00Z');
    const { failing } = await server.get<{ failing: number }>(`${AT}/tie-outs?asOf=2026-11`);
    const ties = (await subjects()).filter((subject) => subject === 'Tie-outs that fail');
    expect(ties).toHaveLength(failing > 0 ? 1 : 0);
  });
});

describe('an error that nobody foresaw', () => {
  it('is noted on the run, reported, and does not stop later runs', async () => {
    await create({ formats: [] });
    const { packs } = server.application;
    const fault = vi.spyOn(packs, 'issue').mockRejectedValueOnce(new Error('disk gone'));
    await expect(goOnTo('2025-11-07T00:00:00Z')).rejects.toThrow('disk gone');
    expect((await listed()).runs[0]).toMatchObject({
      state: 'failed',
      note: expect.stringContaining('could not finish this run') as string,
    });
    fault.mockRestore();
    await goOnTo('2025-12-05T00:00:00Z');
    expect((await listed()).runs.map(({ state }) => state)).toEqual(['done', 'failed']);
  });
});

describe('holidays', () => {
  const importFile = (text: string) => server.sendFile('PUT', `${AT}/holidays`, 'file', new TextEncoder().encode(text));
  const calendar = (...events: string[]) =>
    [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      ...events.flatMap((event) => ['BEGIN:VEVENT', ...event.split('\n'), 'END:VEVENT']),
      'END:VCALENDAR',
    ].join('\r\n');
  it('of a calendar file move the business days', async () => {
    await create();
    const { status, body } = await importFile(
      calendar(
        'DTSTART;VALUE=DATE:20251104\nDTEND;VALUE=DATE:20251106\nSUMMARY:Works outing over\n  two days',
        'DTSTART;VALUE=DATE:20251225\nRRULE:FREQ=YEARLY\nSUMMARY:Christmas Day',
      ),
    );
    const list = scheduleListSchema.parse(body);
    expect([status, list.holidays.length, list.holidays.slice(0, 3)]).toEqual([
      200,
      2 + 21,
      [
        { date: '2025-11-04', name: 'Works outing over two days' },
        { date: '2025-11-05', name: 'Works outing over two days' },
        { date: '2025-12-25', name: 'Christmas Day' },
      ],
    ]);
    expect(list.schedules[0]!.next[0]).toBe('2025-11-10T12:30:00.000Z');
  });
  it.each([
    ['name,date\nChristmas,2025-12-25', 'The file is no calendar file'],
    [calendar('SUMMARY:No date'), 'has no date it begins on'],
    [calendar('DTSTART;VALUE=DATE:20251225\nRRULE:FREQ=NEVER'), 'cannot be read'],
  ])('of a file that cannot be taken are refused: %j', async (text, words) => {
    const { status, body } = await importFile(text);
    expect([status, (body as Problem).detail]).toEqual([422, expect.stringContaining(words)]);
  });
});
