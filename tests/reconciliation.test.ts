import {
  type BankFileAnswerDto,
  bankFileAnswerSchema,
  type BankFilePreviewDto,
  type EntryDto,
  type ReconciliationDto,
  reconciliationSchema,
  type TieOutsDto,
} from '@wise-margin/contract';
import { ternIslandFiles } from '@wise-margin/demo';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { contentOf, type EntryAsContent } from './support/entry-content.ts';
import type { TestServer } from './support/server.ts';

const { bank: FILES } = ternIslandFiles();
const PATH = '/companies/1/reconciliation';
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());
afterEach(async () => {
  for (const { id } of (await describeAccount()).statements.reverse()) await server.send('DELETE', `${PATH}/statements/${id}`);
});

const describeAccount = async (query = 'account=1010'): Promise<ReconciliationDto> =>
  reconciliationSchema.parse(await server.get(`${PATH}?${query}`));
async function sent(
  text: string,
  fields: Readonly<Record<string, string>> = {},
  name = 'statement',
): Promise<{ status: number; body: unknown }> {
  const form = new FormData();
  for (const [field, value] of Object.entries({ account: '1010', ...fields })) form.append(field, value);
  form.append('statement', new Blob([text]), name);
  const response = await fetch(`${server.base}${PATH}/statements`, { method: 'POST', body: form });
  return { status: response.status, body: await response.json() };
}
async function preview(text: string, fields: Readonly<Record<string, string>> = {}): Promise<BankFilePreviewDto> {
  const { status, body } = await sent(text, fields);
  expect([status, body]).toMatchObject([200, { kind: 'preview' }]);
  return (bankFileAnswerSchema.parse(body) as Extract<BankFileAnswerDto, { kind: 'preview' }>).preview;
}
async function imported(text: string, fields: Readonly<Record<string, string>> = {}, name?: string): Promise<void> {
  const { fingerprint, faults } = await preview(text, fields);
  expect(faults).toEqual([]);
  const { status, body } = await sent(text, { ...fields, fingerprint }, name);
  expect([status, body]).toMatchObject([200, { kind: 'imported' }]);
}
const sum = (lines: readonly { readonly amount: number }[]): number => lines.reduce((total, { amount }) => total + amount, 0);
const accept = (proposals: ReconciliationDto['proposals']) =>
  server.send('POST', `${PATH}/clearings`, { account: '1010', clearings: proposals.map(({ bank, ledger }) => ({ bank, ledger })) });

describe('a bank statement', () => {
  it.each(['2026-09', '2026-10'])('of %s is the same in every format', async (month) => {
    const [csv, ofx, camt] = await Promise.all(['csv', 'ofx', 'xml'].map((ending) => preview(FILES[`bank-${month}.${ending}`]!)));
    expect([csv!.format, ofx!.format, camt!.format]).toEqual(['csv', 'ofx', 'camt053']);
    for (const other of [ofx!, camt!])
      expect([other.lines, other.moneyIn, other.moneyOut, other.opening, other.closing]).toEqual([
        csv!.lines,
        csv!.moneyIn,
        csv!.moneyOut,
        csv!.opening,
        csv!.closing,
      ]);
    expect([ofx!.from, ofx!.to, ofx!.bankAccount]).toEqual([camt!.from, camt!.to, camt!.bankAccount]);
    expect(ofx!.opening! + ofx!.moneyIn + ofx!.moneyOut).toBe(ofx!.closing);
  });

  it('is proposed against the ledger; two checks, a deposit in transit, a fee and a transposed deposit are left', async () => {
    await imported(FILES['bank-2026-09.ofx']!);
    await imported(FILES['bank-2026-10.xml']!);
    const before = await describeAccount();
    expect(before.statements.map(({ from, to, format }) => [from, to, format])).toEqual([
      ['2026-09-01', '2026-09-30', 'ofx'],
      ['2026-10-01', '2026-10-31', 'camt053'],
    ]);
    expect(before.near).toMatchObject([{ words: 'Transposed digits: 3,585.75 on the statement, 3,855.75 in the ledger' }]);
    const groups = before.proposals
      .filter(({ bank, ledger }) => bank.length + ledger.length > 2)
      .map(({ bank, ledger }) => [bank.length, ledger.length]);
    expect(groups).toEqual([
      [1, 3],
      [1, 4],
      [2, 1],
    ]);
    expect((await accept(before.proposals)).status).toBe(204);

    const open = await describeAccount();
    expect(open.bank.map(({ text, amount, suggested }) => [text, amount, suggested])).toEqual([
      ['ACH CREDIT SLATE RIVER CANOE D260902', 358_575, null],
      ['ACCOUNT ANALYSIS FEE', -4850, '6640'],
    ]);
    expect(open.outstanding.map(({ memo, amount }) => [memo, amount])).toEqual([
      ['Receipt for D-260902', 385_575],
      ['Receipt for D-260712', 624_496],
      ['Payment of FR-2609', -123_783],
      ['Deposit for carbon cloth', -320_000],
    ]);
    // opening balances agree but for the check of August, which cleared in September
    expect(open.figures!.difference).toBe(0);

    // the fee is posted, the deposit corrected, and what is left are checks and the deposit on its way
    const [deposit, fee] = open.bank;
    expect((await server.send('POST', `${PATH}/adjustments`, { account: '1010', bankLine: fee!.id, to: fee!.suggested })).status).toBe(204);
    const receipt = open.outstanding.find(({ memo }) => memo === 'Receipt for D-260902')!;
    const entry = await server.get<EntryDto>(`/companies/1/entries/${receipt.entryId}`);
    const content = correctable(entry, (amount) => (Math.abs(amount) === 385_575 ? Math.sign(amount) * 358_575 : amount));
    const corrected = await server.send('POST', `/companies/1/entries/${receipt.entryId}/correction`, {
      version: entry.version,
      content,
      reason: 'Digits exchanged',
    });
    expect(corrected).toMatchObject({ status: 204 });
    const again = await describeAccount();
    expect(again.proposals).toMatchObject([
      { bank: [deposit!.id], ledger: [receipt.id], words: 'Same reference, 3 days later', isSure: true },
    ]);
    await accept(again.proposals);
    const done = await describeAccount();
    expect([done.bank, done.unrecorded]).toEqual([[], []]);
    expect(done.figures).toMatchObject({
      difference: 0,
      depositsInTransit: { count: 1 },
      outstandingPayments: { count: 2 },
      unrecorded: { count: 0 },
    });
    expect(done.figures!.adjustedBank).toBe(done.figures!.ledgerBalance);
    expect(done.cleared.filter(({ kind }) => kind === 'adjustment')).toMatchObject([{ amount: -4850, ledger: [{ entry: 'AJ-000001' }] }]);

    // as of a day in between, more is on its way
    const between = await describeAccount('account=1010&asOf=2026-09-15');
    expect(between.figures).toMatchObject({ difference: 0 });
    expect(between.outstanding.length).toBeGreaterThan(1);
    expect(sum(between.outstanding)).toBe(between.figures!.depositsInTransit.amount + between.figures!.outstandingPayments.amount);
    expect((await describeAccount('account=1010&asOf=2026-11-01')).figures).toBeNull();

    const { tieOuts } = await server.get<TieOutsDto>('/companies/1/tie-outs?asOf=2026-10&again=yes');
    expect(tieOuts.find(({ key }) => key === 'bank-1010')).toMatchObject({ agrees: true, group: 'Open items' });

    // a correction of a cleared line breaks its clearing, and says so
    const now = await server.get<EntryDto>(`/companies/1/entries/${receipt.entryId}`);
    const reopened = correctable(now, (amount) => (Math.abs(amount) === 358_575 ? Math.sign(amount) * 358_500 : amount));
    await server.send('POST', `/companies/1/entries/${receipt.entryId}/correction`, {
      version: now.version,
      content: reopened,
      reason: 'Tried out',
    });
    const broken = await describeAccount();
    expect(broken.cleared.filter(({ isBroken }) => isBroken)).toMatchObject([{ ledger: [{ entry: receipt.entry }] }]);
    const failing = await server.get<TieOutsDto>('/companies/1/tie-outs?asOf=2026-10&again=yes');
    expect(failing.tieOuts.find(({ key }) => key === 'bank-1010')).toMatchObject({ agrees: false });
    const last = await server.get<EntryDto>(`/companies/1/entries/${receipt.entryId}`);
    await server.send('POST', `/companies/1/entries/${receipt.entryId}/correction`, {
      version: last.version,
      content: correctable(last, (amount) => (Math.abs(amount) === 358_500 ? Math.sign(amount) * 385_575 : amount)),
      reason: 'As it was before the test',
    });
  });
});

describe('a statement that does not fit', () => {
  const faults = async (text: string, fields: Readonly<Record<string, string>> = {}) => (await preview(text, fields)).faults;
  const SEPTEMBER = FILES['bank-2026-09.ofx']!;
  it('is refused by the faults of its preview, each with what to do, and nothing of it is kept', async () => {
    await imported(SEPTEMBER, {}, 'september.ofx');
    expect(await faults(SEPTEMBER)).toEqual([
      expect.stringMatching(/^This file was imported on Nov 9, 2026 by Tester already, as september.ofx/),
    ]);
    expect(await faults(FILES['bank-2026-09.csv']!)).toEqual([
      'Its days, Sep 1, 2026 to Sep 30, 2026, overlap september.ofx (Sep 1, 2026 to Sep 30, 2026). Download the days after it, or remove that statement first.',
    ]);
    const october = FILES['bank-2026-10.xml']!;
    expect(await faults(october.replaceAll('0048812', '77'))).toEqual([
      'The file is of the bank account 77, but 1010 is reconciled with 0048812. Choose another account, or another file.',
    ]);
    expect(await faults(october, { account: '1020' })).toEqual([
      'The file is of the bank account 0048812, which belongs to 1010 Operating cash. Choose that account, or another file.',
    ]);
    expect(await faults(october.replaceAll('USD', 'CAD'))).toEqual([
      'The file is in CAD, and the books of Tern Island are in USD. Choose a file of an account in USD.',
    ]);
    const another = october.replace(/(OPBD.*?<Amt Ccy="USD">)[\d.]+/, '$1' + '1.00');
    expect(await faults(another)).toEqual([
      expect.stringMatching(/^Its lines add up to -[\d.]+, but its balance goes from 1.00 to [\d.]+: [\d.]+ is missing/),
      expect.stringMatching(
        /^It begins with 1.00, but september.ofx ends on Sep 30, 2026 with [\d.]+. Import the statement of the days between first/,
      ),
    ]);
    const { fingerprint } = await preview(another);
    expect(await sent(another, { fingerprint })).toMatchObject({ status: 422, body: { title: 'Statement rejected' } });
    expect(await sent(october, { fingerprint })).toMatchObject({ status: 422, body: { title: 'Another file' } });
    expect((await describeAccount()).statements).toHaveLength(1);
  });
  it.each([
    ['', 'The file is empty'],
    ['\x89PNG\r\n', 'a PNG picture'],
    ['<html><body>Sign in again</body></html>', 'a web page'],
    ['<feed><entry/></feed>', 'not a bank statement'],
    ['a,b\n1,2\n', 'No row has headings for a date and an amount'],
    ['Date,Amount\n"2026-10-01,5.00\n', 'the quotes do not close'],
  ])('and is none at all is refused at once', async (text, why) => {
    const bytes = text.startsWith('\x89') ? Buffer.from(text, 'latin1').toString('latin1') : text;
    const form = new FormData();
    form.append('account', '1010');
    form.append('statement', new Blob([Buffer.from(bytes, 'latin1')]), 'x');
    const response = await fetch(`${server.base}${PATH}/statements`, { method: 'POST', body: form });
    expect([response.status, await response.json()]).toMatchObject([422, { detail: expect.stringContaining(why) as unknown }]);
  });
  it('without a balance asks for one, and takes the one a person enters', async () => {
    const rows = 'Date,Description,Amount\n10/05/2026,DEPOSIT,100.00\n10/28/2026,FEE,-5.00\n';
    expect(await faults(rows, { account: '1020' })).toEqual([
      'The file has no balance, and there is no statement before it. Enter the balance before its first line.',
    ]);
    expect(await faults(rows, { account: '1020', opening: 'none' })).toContain(
      'The opening balance "none" is not an amount. Enter it such as 12,345.67.',
    );
    const { opening, closing, from, to } = await preview(rows, { account: '1020', opening: '1,000.00' });
    expect([opening, closing, from, to]).toEqual([100_000, 109_500, '2026-10-01', '2026-10-31']);
    await imported(rows, { account: '1020', opening: '1,000.00' });
    // the next one goes on from there, and its columns are read as those before
    const next = 'Date,Description,Amount\n11/05/2026,DEPOSIT,1.00\n';
    expect((await preview(next, { account: '1020' })).opening).toBe(109_500);
    const [statement] = (await describeAccount('account=1020')).statements;
    await server.send('DELETE', `${PATH}/statements/${statement!.id}`);
  });
  it('of an account that is no cash is refused', async () => {
    expect(await sent(SEPTEMBER, { account: '6640' })).toMatchObject({
      status: 422,
      body: { detail: '6640 is not a cash account. Choose one of 1010 Operating cash, 1020 Payroll cash, 1030 Card clearing.' },
    });
    expect(await server.send('GET', `${PATH}?account=1010&asOf=2026-02-30`)).toMatchObject({ status: 422 });
    expect(await server.send('DELETE', `${PATH}/statements/999`)).toMatchObject({ status: 404 });
  });
});

describe('lines', () => {
  beforeAll(async () => {
    // a ledger of its own: entries that were posted from statements stay in it
    await server.close();
    server = await demoServer();
  });
  it('that do not add up are cleared with a difference, which stays in view until it is explained', async () => {
    await imported(FILES['bank-2026-09.ofx']!);
    await imported(FILES['bank-2026-10.ofx']!);
    const { near, proposals } = await describeAccount();
    await accept(proposals);
    const [{ bank, ledger }] = near as [(typeof near)[number]];
    const lines = { account: '1010', bank: [bank], ledger: [ledger] };
    expect(
      await server.send('POST', `${PATH}/clearings`, { account: '1010', clearings: [{ bank: [bank], ledger: [ledger] }] }),
    ).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('do not add up to the same amount') as unknown },
    });
    expect(await server.send('POST', `${PATH}/differences`, { ...lines, reason: '' })).toMatchObject({ status: 422 });
    expect(await server.send('POST', `${PATH}/differences`, { ...lines, reason: 'The bank is asked' })).toMatchObject({ status: 204 });
    expect(await server.send('POST', `${PATH}/differences`, { ...lines, reason: 'The bank is asked' })).toMatchObject({ status: 409 });
    const forced = await describeAccount();
    const [difference] = forced.cleared;
    expect(difference).toMatchObject({
      kind: 'difference',
      difference: -27_000,
      reason: 'The bank is asked',
      explanation: '',
      isBroken: false,
    });
    expect(forced.figures).toMatchObject({ difference: 0 });
    const made = await server.get<EntryDto>(`/companies/1/entries/${difference!.ledger[1]!.entryId}`);
    expect(made.lines.map(({ account, debit, credit }) => [account, debit, credit])).toEqual([
      ['1010', null, 27_000],
      ['6790', 27_000, null],
    ]);
    const fee = forced.bank.find(({ suggested }) => suggested !== null)!;
    await server.send('POST', `${PATH}/adjustments`, { account: '1010', bankLine: fee.id, to: fee.suggested! });
    const tie = async () =>
      (await server.get<TieOutsDto>('/companies/1/tie-outs?asOf=2026-10')).tieOuts.find(({ key }) => key === 'bank-1010');
    expect(await tie()).toMatchObject({ agrees: false, difference: 0, where: 'Forced differences without an explanation: 1.' });
    expect(await server.send('PUT', `${PATH}/differences/${difference!.id}`, { explanation: 'Deposit slip read wrong' })).toMatchObject({
      status: 204,
    });
    expect(await tie()).toMatchObject({ agrees: true });
    expect(await server.send('DELETE', `${PATH}/clearings/${difference!.id}`)).toMatchObject({ status: 204 });
    expect(await server.send('PUT', `${PATH}/differences/${difference!.id}`, { explanation: 'x' })).toMatchObject({ status: 404 });
    const { near: again } = await describeAccount();
    expect(again).toMatchObject([{ bank, ledger }]);
  });
  it('before the first statement are settled until one is marked as outstanding', async () => {
    await imported(FILES['bank-2026-09.csv']!);
    const asOf = 'account=1010&asOf=2026-08-31';
    const opened = await describeAccount(asOf);
    // the check of August that the bank saw in September
    const check = opened.ledger.find(({ memo }) => memo === 'Payment of FR-2607')!;
    expect([opened.figures!.difference, opened.outstanding]).toEqual([-check.amount, []]);
    const mark = (isOutstanding: boolean) => server.send('PUT', `${PATH}/outstanding`, { account: '1010', line: check.id, isOutstanding });
    expect(await mark(true)).toMatchObject({ status: 204 });
    const marked = await describeAccount(asOf);
    expect([marked.figures!.difference, marked.outstanding]).toMatchObject([0, [{ id: check.id, isMarked: true, isBefore: true }]]);
    await mark(false);
    expect((await describeAccount(asOf)).figures).toEqual(opened.figures);
  });
  it('are cleared once, and only with lines of their account', async () => {
    await imported(FILES['bank-2026-09.xml']!);
    const { proposals } = await describeAccount();
    const [first, second] = proposals;
    const twice = { account: '1010', clearings: [first, first].map((each) => ({ bank: each!.bank, ledger: each!.ledger })) };
    expect(await server.send('POST', `${PATH}/clearings`, twice)).toMatchObject({ status: 422 });
    const other = { account: '1020', clearings: [{ bank: second!.bank, ledger: second!.ledger }] };
    expect(await server.send('POST', `${PATH}/clearings`, other)).toMatchObject({ status: 409 });
    await accept([first!]);
    expect(await accept([first!])).toMatchObject({ status: 409 });
    expect((await describeAccount()).clearedCount).toBe(1);
  });
});

/** An entry as a correction takes it, with other amounts. */
const correctable = (entry: EntryDto, amountOf: (amount: number) => number): EntryAsContent => {
  const content = contentOf(entry);
  return { ...content, lines: content.lines.map((line) => ({ ...line, amount: amountOf(line.amount) })) };
};
