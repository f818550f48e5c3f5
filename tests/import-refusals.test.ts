import type { ImportDto, ReportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { startTestServer, type TestServer } from './support/server.ts';
import { ACCOUNTS, GOOD_LEDGER, HEADER, NEW_COMPANY, row } from './support/small-ledger.ts';

let server: TestServer;
let company: number;
let before: ReportDto;

beforeAll(async () => {
  server = await startTestServer();
  const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: GOOD_LEDGER });
  expect(made).toMatchObject({
    state: 'ready',
    issueCount: 0,
    preview: {
      rows: 6,
      entries: 3,
      debits: 135009,
      credits: 135009,
      firstPeriod: '2026-01-02',
      lastPeriod: '2026-02-03',
      newYears: [2026],
      newDimensionValues: [{ dimension: 'department', values: ['North', 'South'] }],
    },
  });
  expect(made.preview!.newAccounts).toHaveLength(8);
  const posted = await server.send('POST', `/imports/${made.id}/post`, {});
  expect(posted.status).toBe(200);
  company = (posted.body as ImportDto).companyId!;
  before = await trialBalance();
});
afterAll(() => server.close());

const trialBalance = () => server.get<ReportDto>(`/companies/${company}/reports/trial-balance?limit=2000&range=2026-12`);
const upload = (ledger: string | Uint8Array) => server.upload({ company: String(company) }, { ledger });
const file = (...rows: string[]) => [HEADER, ...rows, ''].join('\n');
/** A balanced entry whose first row is replaced. */
const withFirst = (first: string) => file(first, row('N1', '2026-03-01', '4000', '', '10.00'));

/** Uploads, expects a refusal with an issue like the one given, and sees that nothing changed. */
async function refusal(ledger: string | Uint8Array, issue: Partial<ImportDto['issues'][number]>): Promise<ImportDto> {
  const made = await upload(ledger);
  expect(made.state).toBe('refused');
  expect(made.issues).toContainEqual(expect.objectContaining(issue));
  for (const issue of made.issues) {
    expect(issue.reason).not.toBe('');
    expect(issue.fix).not.toBe('');
  }
  const post = await server.send('POST', `/imports/${made.id}/post`, {});
  expect(post.status).toBe(409);
  expect(await trialBalance()).toEqual(before);
  return made;
}

const expectRefused = async (...expected: Parameters<typeof refusal>): Promise<void> => void (await refusal(...expected));

describe('a refused import changes nothing and names the row, the column, the text and the reason', () => {
  it('an unbalanced entry', () =>
    expectRefused(file(row('N1', '2026-03-01', '1000', '10.00', ''), row('N1', '2026-03-01', '4000', '', '9.99')), {
      row: 2,
      code: 'unbalanced',
      text: 'N1',
      reason: expect.stringContaining('difference 0.01') as string,
    }));
  it('an unknown account', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '9999', '10.00', '')), {
      row: 2,
      column: 'account',
      text: '9999',
      code: 'unknownAccount',
    }));
  it('an inactive account', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '6100', '10.00', '')), { row: 2, column: 'account', code: 'inactiveAccount' }));
  it('a date outside every fiscal year', () =>
    expectRefused(withFirst(row('N1', '2031-03-01', '1000', '10.00', '')), {
      row: 2,
      column: 'date',
      text: '2031-03-01',
      code: 'dateOutsideYears',
    }));
  it('an impossible date', () =>
    expectRefused(withFirst(row('N1', '2026-02-30', '1000', '10.00', '')), {
      row: 2,
      column: 'date',
      text: '2026-02-30',
      code: 'impossibleDate',
    }));
  it('a date in another layout', () =>
    expectRefused(withFirst(row('N1', '03/01/2026', '1000', '10.00', '')), { row: 2, column: 'date', code: 'dateLayout' }));
  it.each([
    ['three decimals', '10.000', 'more than 2 decimals'],
    ['thousands separators', '"1,010.00"', 'thousands separators'],
    ['parentheses', '(10.00)', 'parentheses'],
    ['a trailing minus', '10.00-', 'minus sign is after'],
    ['a currency sign', '$10.00', 'currency sign'],
    ['exponent notation', '1e5', 'exponent notation'],
    ['letters', 'ten', 'not an amount'],
    ['a decimal comma', '"10,50"', 'decimal comma'],
    ['an amount past the largest', '99999999999999999', 'past 90,000,000,000,000'],
  ])('an amount with %s', (_, amount, reason) =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', amount, '')), {
      row: 2,
      column: 'debit',
      text: amount.replaceAll('"', ''),
      code: 'badAmount',
      reason: expect.stringContaining(reason) as string,
    }),
  );
  it('says what to write instead', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', '"1,010.00"', '')), {
      fix: 'Write 1010.00. In a spreadsheet, format the column without them and export it again',
    }));
  it('says which side a negative belongs to', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', '(10.00)', '')), { fix: 'Write 10.00 on the credit side' }));
  it('no amount at all', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', '', '')), { row: 2, column: 'debit', text: '', code: 'noAmount' }));
  it('debit and credit both filled', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', '10.00', '10.00')), {
      row: 2,
      column: 'credit',
      code: 'debitAndCredit',
      text: '10.00 and 10.00',
    }));
  it('a negative debit', () =>
    expectRefused(withFirst(row('N1', '2026-03-01', '1000', '-10.00', '')), { row: 2, column: 'debit', code: 'negativeSide' }));
  it('an entry of a single row', () => expectRefused(file(row('N1', '2026-03-01', '1000', '0.00', '')), { row: 2, code: 'singleLine' }));
  it('an entry number used twice within the file', () =>
    expectRefused(
      file(
        row('N1', '2026-03-01', '1000', '1.00', ''),
        row('N1', '2026-03-01', '4000', '', '1.00'),
        row('N2', '2026-03-01', '1000', '1.00', ''),
        row('N2', '2026-03-01', '4000', '', '1.00'),
        row('N1', '2026-03-02', '1000', '2.00', ''),
        row('N1', '2026-03-02', '4000', '', '2.00'),
      ),
      { row: 6, column: 'entry', text: 'N1', code: 'entryRepeatedInFile' },
    ));
  it('an entry number the ledger holds', () =>
    expectRefused(
      file(
        row('N9', '2026-03-01', '1000', '1.00', ''),
        row('N9', '2026-03-01', '4000', '', '1.00'),
        row('E2', '2026-03-01', '1000', '1.00', ''),
        row('E2', '2026-03-01', '4000', '', '1.00'),
      ),
      { row: 4, column: 'entry', text: 'E2', code: 'entryInLedger' },
    ));
  it('the same file again', () => expectRefused(GOOD_LEDGER, { row: 0, code: 'sameFile' }));
  it('a header that is missing', () =>
    expectRefused(`${row('N1', '2026-03-01', '1000', '1.00', '')}\n`, { row: 1, code: 'missingColumn' }));
  it('a column missing from the header', () =>
    expectRefused('entry,date,debit,credit\nN1,2026-03-01,1.00,\n', { row: 1, column: 'account', code: 'missingColumn' }));
  it('a column under another name', () =>
    expectRefused('entry,posting date,account,debit,credit\nN1,2026-03-01,1000,1.00,\n', {
      row: 1,
      column: 'date',
      code: 'similarColumn',
    }));
  it('a column that stands twice', () =>
    expectRefused('entry,date,account,debit,credit,debit\nN1,2026-03-01,1000,1.00,,\n', {
      row: 1,
      column: 'debit',
      code: 'repeatedColumn',
    }));
  it('a row with a cell too many', () =>
    expectRefused(withFirst(`${row('N1', '2026-03-01', '1000', '10.00', '')},surplus`), { row: 2, code: 'cellCount' }));
  it('quotes that never close', () => expectRefused(file(row('N1', '2026-03-01', '1000', '10.00', '', '"open')), { code: 'brokenQuotes' }));
  it('an entry whose rows have two dates', () =>
    expectRefused(file(row('N1', '2026-03-01', '1000', '10.00', ''), row('N1', '2026-03-02', '4000', '', '10.00')), {
      row: 3,
      column: 'date',
      code: 'entryDateDiffers',
    }));
  it('an empty file', () => expectRefused('', { row: 0, code: 'emptyFile' }));
  it('a header without rows', () => expectRefused(`${HEADER}\n`, { code: 'noRows' }));
  it('a picture named .csv', () =>
    expectRefused(new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]), {
      row: 0,
      code: 'notText',
      reason: expect.stringContaining('PNG') as string,
    }));
  it('lists every bad row, and all of them in the download', async () => {
    const bad = Array.from({ length: 450 }, (_, index) => row(`B${index}`, '2026-03-01', '9999', '1.00', ''));
    const made = await refusal(file(...bad), { row: 2, code: 'unknownAccount' });
    expect(made.issueCount).toBe(450);
    expect(made.issues).toHaveLength(200);
    const download = await (await fetch(`${server.base}/imports/${made.id}/issues.csv`)).text();
    expect(download.trim().split('\r\n')).toHaveLength(451);
    expect(download).toContain('ledger,451,account,9999,No such account');
  });
});

describe('texts as programs write them', () => {
  let number = 0;
  /** Posts one entry of 10.00 in March written in some form, and takes the sums of the ledger. */
  async function posting(make: (entry: string) => string | Uint8Array): Promise<ImportDto> {
    number += 1;
    const made = await upload(make(`T${number}`));
    expect(made.issues).toEqual([]);
    expect(made.state).toBe('ready');
    const posted = (await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto;
    expect(posted.state).toBe('posted');
    const balance = await trialBalance();
    expect(balance.sides!.debits).toBe(balance.sides!.credits);
    const cash = ({ rows }: ReportDto) => Number(rows.find(({ cells }) => cells[0] === '1000')!.cells[6]);
    expect(cash(balance)).toBe(cash(before) + 1000 * number);
    return posted;
  }
  const expectPosted = async (make: Parameters<typeof posting>[0]): Promise<void> => void (await posting(make));
  const text = (entry: string, memo = 'Sale') =>
    file(row(entry, '2026-03-05', '1000', '10.00', '', memo), row(entry, '2026-03-05', '4000', '', '10.00', memo));
  const utf16 = (content: string) => new Uint8Array(Buffer.from(`\ufeff${content}`, 'utf16le'));

  it('quotes and line breaks inside a field', async () => {
    const posted = await posting((entry) => text(entry, '"He said ""two"",\nthen left"'));
    const [line] = (
      await server.get<{ lines: { memo: string; entryId: number }[] }>(
        `/companies/${company}/accounts/4000/entries?from=2026-03&to=2026-03`,
      )
    ).lines;
    expect(line!.memo).toBe('He said "two",\nthen left');
    expect(posted.preview!.rows).toBe(2);
  });
  it('CRLF line ends', () => expectPosted((entry) => text(entry).replaceAll('\n', '\r\n')));
  it('a byte order mark', () => expectPosted((entry) => `\ufeff${text(entry)}`));
  it('semicolons', async () => {
    const posted = await posting((entry) => text(entry).replaceAll(',', ';'));
    expect(posted.preview!.notices.join(' ')).toContain('semicolons');
  });
  it('UTF-16', async () => {
    const posted = await posting((entry) => utf16(text(entry, 'Größe')));
    expect(posted.files[0]!.encoding).toBe('utf-16le');
  });
  it('Latin-1', async () => {
    const posted = await posting((entry) => new Uint8Array(Buffer.from(text(entry, 'Größe'), 'latin1')));
    expect(posted.files[0]!.encoding).toBe('windows-1252');
    const { lines } = await server.get<{ lines: { memo: string }[] }>(
      `/companies/${company}/accounts/4000/entries?from=2026-03&to=2026-03`,
    );
    expect(lines.filter(({ memo }) => memo === 'Größe')).toHaveLength(2);
  });
  it('one signed amount in place of debit and credit', () =>
    expectPosted((entry) => `entry,date,account,amount\n${entry},2026-03-05,1000,10.00\n${entry},2026-03-05,4000,-10.00\n`));
  it('a draft entry is kept and stands in no figure', async () => {
    const made = await upload(
      `entry,date,account,debit,credit,state\nD1,2026-03-05,1000,500.00,,draft\nD1,2026-03-05,4000,,500.00,draft\n`,
    );
    expect(made.preview!.drafts).toBe(1);
    const balance = await trialBalance();
    await server.send('POST', `/imports/${made.id}/post`, {});
    expect(await trialBalance()).toEqual(balance);
  });
});

describe('accounts files', () => {
  it('refuses an unknown class, a repeated account and a changed class', async () => {
    const made = await server.upload(
      { company: String(company) },
      {
        accounts:
          'account,name,class,active\n1000,Cash,Revenue,yes\n7000,New,Nonsense,yes\n7100,One,Other income,yes\n7100,Two,Other income,perhaps\n',
      },
    );
    expect(made.issues.map(({ row: at, code }) => [at, code])).toEqual([
      [2, 'classDiffers'],
      [3, 'unknownClass'],
      [5, 'accountRepeated'],
      [5, 'badFlag'],
    ]);
  });
  it('takes new accounts in by themselves', async () => {
    const made = await server.upload(
      { company: String(company) },
      { accounts: 'account,name,class,active\n7000,Interest,Other income,yes\n1000,Cash at bank,Cash,yes\n' },
    );
    expect(made).toMatchObject({ state: 'ready', preview: { entries: 0, changedAccounts: 1, newAccounts: [{ number: '7000' }] } });
    expect((await server.send('POST', `/imports/${made.id}/post`, {})).status).toBe(200);
    const { accounts } = await server.get<{ accounts: { number: string; name: string }[] }>(`/companies/${company}/accounts?year=2026`);
    expect(accounts).toContainEqual(expect.objectContaining({ number: '1000', name: 'Cash at bank' }));
  });
});

describe('two imports checked side by side', () => {
  it('the second is checked again when the first was posted in between', async () => {
    const entry = (name: string) => file(row(name, '2026-04-01', '1000', '1.00', ''), row(name, '2026-04-01', '4000', '', '1.00'));
    const [first, second, clash] = [
      await upload(entry('S1')),
      await upload(entry('S2')),
      await upload(file(row('S1', '2026-04-02', '1000', '2.00', ''), row('S1', '2026-04-02', '4000', '', '2.00'))),
    ];
    expect((await server.send('POST', `/imports/${first.id}/post`, {})).status).toBe(200);
    expect((await server.send('POST', `/imports/${second.id}/post`, {})).status).toBe(200);
    expect((await server.send('POST', `/imports/${clash.id}/post`, {})).status).toBe(409);
    expect((await server.get<ImportDto>(`/imports/${clash.id}`)).issues[0]).toMatchObject({ code: 'entryInLedger', text: 'S1' });
    const balance = await trialBalance();
    expect(balance.sides!.debits).toBe(balance.sides!.credits);
  });
});
