import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import {
  type MailDetailDto,
  mailDetailSchema,
  type MailListingDto,
  mailListingSchema,
  mailListsSchema,
  type PackIssueDto,
  type Problem,
} from '@wise-margin/contract';
import { smtpTransport } from '@wise-margin/server';
import type { SMTPServerOptions } from 'smtp-server';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { startMailServer, type TestMailServer } from './support/mail-server.ts';
import { startTestServer, type TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

// Mail is taken by a general-purpose SMTP server from the npm registry (smtp-server), as well as refused by it.
const AT = '/companies/1';
const MAIL = { subject: '{pack}, {month}', text: 'The pack of {company} is attached. {link}', formats: ['pdf'], lists: [] };
let made = 0;
const newKey = (): string => `request-${(made += 1)}`;

async function issueOf(server: TestServer): Promise<number> {
  await makeTinyPack(server);
  const { status, body } = await server.send('POST', `${AT}/packs/pack-1/months/2026-10/issues`, {});
  if (status !== 201) throw new Error(JSON.stringify(body));
  return (body as PackIssueDto).id;
}
const send = (server: TestServer, issue: number, mail: object) =>
  server.send('POST', `${AT}/pack-issues/${issue}/mail`, { ...MAIL, key: newKey(), ...mail });
const messagesOf = async (server: TestServer): Promise<MailListingDto['messages']> =>
  mailListingSchema.parse(await server.get(`${AT}/mail`)).messages;
const detailOf = async (server: TestServer, id: number): Promise<MailDetailDto> =>
  mailDetailSchema.parse(await server.get(`${AT}/mail/${id}`));

describe('without a mail server', () => {
  let server: TestServer;
  let issue: number;
  beforeAll(async () => {
    server = await demoServer();
    issue = await issueOf(server);
  });
  afterAll(() => server.close());

  it('messages stay in the outbox, one for each person, with their fields filled in, and are read as files', async () => {
    const { status, body } = await send(server, issue, { to: ['ann@company.com', 'bo@company.com', 'ANN@company.com'] });
    expect([status, mailListingSchema.parse(body).hasServer]).toEqual([202, false]);
    const messages = await messagesOf(server);
    expect(messages.map(({ recipient, state, subject }) => [recipient, state, subject])).toEqual([
      ['bo@company.com', 'outbox', 'Bank letter, October 2026'],
      ['ANN@company.com', 'outbox', 'Bank letter, October 2026'],
    ]);
    const detail = await detailOf(server, messages[0]!.id);
    expect(detail.text).toMatch(/^The pack of Tern Island is attached. http:\/\/localhost:4180\/c\/1\/packs\/pack-1\/\d+$/);
    expect(detail.attachments.map(({ name }) => name)).toEqual(['pack-1-2026-10.pdf']);
    const file = await (await fetch(`${server.base}${AT}/mail/${messages[0]!.id}/message.eml`)).text();
    expect(file).toContain('To: bo@company.com');
    const pdf = Buffer.from(await (await fetch(`${server.base}${AT}/pack-issues/${issue}/export.pdf`)).arrayBuffer());
    const encoded = file.replaceAll('\r\n', '');
    expect(encoded).toContain(pdf.toString('base64').slice(0, 4000));
  });
  it('the same request again adds nothing, however often it arrives', async () => {
    const before = (await messagesOf(server)).length;
    const key = newKey();
    await Promise.all([1, 2, 3].map(() => send(server, issue, { key, to: ['cy@company.com'] })));
    expect((await messagesOf(server)).length).toBe(before + 1);
  });
  it.each([
    ['words', { text: 'Corrected: {link}' }],
    ['recipients', { to: ['cy@company.com', 'gus@company.com'] }],
    ['attachments', { formats: ['pdf', 'xlsx'] }],
  ])('a request that was taken and is sent again with other %s is refused: nobody gets two', async (_, change) => {
    const mail = { key: newKey(), to: ['cy@company.com'] };
    expect((await send(server, issue, mail)).status).toBe(202);
    const before = (await messagesOf(server)).length;
    const { status, body } = await send(server, issue, { ...mail, ...change });
    expect([status, (body as Problem).detail]).toEqual([
      409,
      expect.stringContaining('is in the outbox as it was. Nothing was sent again.'),
    ]);
    expect((await messagesOf(server)).length).toBe(before);
  });
  it('lists stand for their addresses; an empty one is removed', async () => {
    const set = (addresses: string[]) => server.send('PUT', `${AT}/mail-lists`, { name: 'Board', addresses });
    expect(mailListsSchema.parse((await set(['dee@company.com', 'eli@company.com'])).body)).toHaveLength(1);
    const { body } = await send(server, issue, { to: ['Dee@company.com'], lists: ['board'] });
    expect(
      mailListingSchema
        .parse(body)
        .messages.slice(0, 2)
        .map(({ recipient }) => recipient),
    ).toEqual(['eli@company.com', 'dee@company.com']);
    expect((await set([])).body).toEqual([]);
    const { status, body: problem } = await send(server, issue, { to: [], lists: ['Board'] });
    expect([status, (problem as Problem).detail]).toEqual([422, 'There is no list named Board.']);
  });
  it('names every field that cannot be taken, with its limit and the choices', async () => {
    const { status, body } = await send(server, issue, { to: ['a@b.com'], subject: 'x'.repeat(5000), formats: ['ods'], text: 7 as never });
    const { detail } = body as Problem;
    expect(status).toBe(422);
    expect(detail).toContain('subject: At most 300 characters; ');
    expect(detail).toContain('text: 7 is not a text.');
    expect(detail).toContain('formats 1: ods is not a choice here. Use pdf, docx, xlsx or html.');
  });
  it.each([
    [{ to: ['joe'] }, 'is not an email address. Enter one such as name@company.com'],
    [{ to: [] }, 'No recipients. Enter at least one address, or choose a list.'],
    [
      { to: ['a@b.com'], subject: '{year}' },
      'There is no field {year} here. Use {company}, {name}, {pack}, {month}, {issue}, {fingerprint}, {link}.',
    ],
    [{ to: ['a@b.com'], subject: ' ' }, 'Enter a subject'],
    [{ to: ['a@b.com'], slices: ['Nowhere'] }, 'The issue has none of these documents.'],
  ])('%o is refused with what to do', async (mail, words) => {
    const before = (await messagesOf(server)).length;
    const { status, body } = await send(server, issue, mail);
    expect([status, JSON.stringify(body)]).toEqual([422, expect.stringContaining(words)]);
    expect((await messagesOf(server)).length).toBe(before);
  });
});

describe('with a mail server', () => {
  let mailServer: TestMailServer;
  let server: TestServer;
  let clock: Date;
  const start = async (options: SMTPServerOptions = {}, login = ''): Promise<number> => {
    clock = new Date('2026-11-09T08:00:00Z');
    mailServer = await startMailServer(options, login);
    const transport = smtpTransport(mailServer.url, { milliseconds: 1500 });
    server = await demoServer({
      mail: { transport, from: 'Finance <finance@company.com>', url: 'https://margin.company.com' },
      now: () => clock,
    });
    return issueOf(server);
  };
  const later = (minutes: number): void => {
    clock = new Date(clock.getTime() + minutes * 60_000);
  };
  const sendDue = () => server.application.mailSender.sendDue();
  afterEach(async () => {
    await server.close();
    await mailServer.close();
  });

  it('each person gets one message, over TLS and with a sign-in where the server asks for it', async () => {
    const issue = await start(
      {
        secure: true,
        authOptional: false,
        onAuth: ({ username, password }, _session, done) =>
          done(username === 'fin' && password === 'secret' ? null : new Error('no'), { user: username }),
      },
      'fin:secret@',
    );
    await send(server, issue, { to: ['ann@company.com', 'bo@company.com'] });
    expect([await sendDue(), await sendDue()]).toEqual([2, 0]);
    expect(mailServer.taken.map(({ from, to }) => [from, to])).toEqual([
      ['finance@company.com', ['ann@company.com']],
      ['finance@company.com', ['bo@company.com']],
    ]);
    expect(new Set(mailServer.taken.map(({ raw }) => /^Message-ID: (.*)$/im.exec(raw)![1])).size).toBe(2);
    expect((await messagesOf(server)).map(({ state, attempts }) => [state, attempts])).toEqual([
      ['sent', 1],
      ['sent', 1],
    ]);
  });
  it('a wrong password is told, and tried again with growing pauses', async () => {
    const issue = await start({ authOptional: false, onAuth: (_auth, _session, done) => done(new Error('Invalid sign-in')) }, 'fin:wrong@');
    await send(server, issue, { to: ['ann@company.com'] });
    const waits: number[] = [];
    for (;;) {
      await sendDue();
      const [message] = await messagesOf(server);
      if (message!.nextAt === null) break;
      const wait = (new Date(message!.nextAt).getTime() - clock.getTime()) / 60_000;
      waits.push(wait);
      later(wait);
    }
    expect(waits).toEqual([1, 5, 15, 60, 240, 720]);
    const [message] = await messagesOf(server);
    expect([message!.state, message!.error]).toEqual(['failed', expect.stringContaining('The mail server refused the sign-in')]);
    expect(mailServer.taken).toEqual([]);
  });
  it('an address that the server does not know has failed at once, shows on its pack, and holds up nobody else', async () => {
    const issue = await start({
      onRcptTo: ({ address }, _session, done) =>
        done(address.startsWith('gone') ? Object.assign(new Error('No such mailbox'), { responseCode: 550 }) : null),
    });
    await send(server, issue, { to: ['gone@company.com', 'ann@company.com'] });
    expect(await sendDue()).toBe(2);
    const { messages } = mailListingSchema.parse(await server.get(`${AT}/mail?issue=${issue}`));
    expect(messages.map(({ recipient, state, error }) => [recipient, state, error])).toEqual([
      ['ann@company.com', 'sent', ''],
      ['gone@company.com', 'failed', 'The mail server answered 550 No such mailbox'],
    ]);
    later(10_000);
    expect(await sendDue()).toBe(0);
    // a person sends it again, once the mailbox is there
    expect((await server.send('POST', `${AT}/mail/${messages[0]!.id}/again`)).status).toBe(409);
    expect((await server.send('POST', `${AT}/mail/${messages[1]!.id}/again`)).status).toBe(200);
    expect(await sendDue()).toBe(1);
    expect((await detailOf(server, messages[1]!.id)).log.map(({ what }) => what)).toEqual([
      'Queued',
      'The mail server answered 550 No such mailbox Not tried again.',
      'Queued again by Tester',
      'The mail server answered 550 No such mailbox Not tried again.',
    ]);
  });
  it('a server that drops the connection in the middle of a message gets it again, under the same number', async () => {
    let drops = 1;
    const seen: string[] = [];
    const taken: string[] = [];
    const issue = await start({
      onData: (stream, session, done) => {
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => {
          chunks.push(chunk);
          if (drops > 0) {
            drops -= 1;
            seen.push(/^Message-ID: (.*)$/im.exec(chunk.toString())?.[1] ?? '');
            (session as unknown as { connection?: { destroy: () => void } }).connection?.destroy();
            stream.destroy(new Error('dropped'));
          }
        });
        stream.on('end', () => {
          taken.push(/^Message-ID: (.*)$/im.exec(Buffer.concat(chunks).toString())![1]!);
          done();
        });
        stream.on('error', () => done(Object.assign(new Error('Dropped'), { responseCode: 421 })));
      },
    });
    await send(server, issue, { to: ['ann@company.com'] });
    await sendDue();
    expect((await messagesOf(server))[0]).toMatchObject({ state: 'queued', attempts: 1 });
    later(1);
    await sendDue();
    expect((await messagesOf(server))[0]).toMatchObject({ state: 'sent', attempts: 2 });
    expect(taken).toEqual(seen);
  }, 30_000);
  it('a server that never answers is given up, and the message waits', async () => {
    const issue = await start({ onMailFrom: () => undefined });
    await send(server, issue, { to: ['ann@company.com'] });
    await sendDue();
    expect((await messagesOf(server))[0]).toMatchObject({
      state: 'queued',
      attempts: 1,
      error: expect.stringContaining('could not be reached') as string,
    });
  }, 30_000);
  it('two servers that look at the same queue send nothing twice', async () => {
    const issue = await start();
    await send(server, issue, { to: Array.from({ length: 8 }, (_, at) => `person${at}@company.com`) });
    await Promise.all([sendDue(), sendDue(), sendDue()]);
    expect(mailServer.taken.map(({ to }) => to[0]).sort()).toEqual(Array.from({ length: 8 }, (_, at) => `person${at}@company.com`));
  });
  it('what was being sent when the server stopped is not sent again by itself', async () => {
    const issue = await start();
    await send(server, issue, { to: ['ann@company.com'] });
    // the server stops after it took the message and before it noted the answer
    expect(await server.application.mailStore.claim(clock)).not.toBeNull();
    const copy = mkdtempSync(join(tmpdir(), 'wise-margin-mail-'));
    await server.close((directory) => cpSync(directory, copy, { recursive: true }));
    const mail = { transport: smtpTransport(mailServer.url), from: 'finance@company.com', url: 'https://margin.company.com' };
    server = await startTestServer({ from: copy, mail, now: () => clock });
    rmSync(copy, { recursive: true });
    await server.application.mailStore.recover(clock);
    expect(await sendDue()).toBe(0);
    const [message] = await messagesOf(server);
    expect([message!.state, message!.error]).toEqual([
      'failed',
      'The server stopped while this message was being sent. It may have arrived; send it again if it did not.',
    ]);
    expect(mailServer.tries()).toBe(0);
  });
});
