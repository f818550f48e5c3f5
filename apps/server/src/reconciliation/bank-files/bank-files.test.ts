import { describe, expect, it } from 'vitest';

import { readBankAmount } from './bank-amount.ts';
import { BankFileError } from './bank-file.ts';
import { type BankCsvMapping, proposeMapping, readBankDate, readBankRows } from './read-bank-csv.ts';
import { readCamt } from './read-camt.ts';
import { readOfx } from './read-ofx.ts';

const faultsOf = (read: () => unknown): readonly string[] => {
  try {
    read();
  } catch (error) {
    if (error instanceof BankFileError) return error.faults;
    throw error;
  }
  return [];
};
const brief = ({ lines, ...rest }: ReturnType<typeof readOfx>) => ({
  ...rest,
  lines: lines.map(({ date, amount, text }) => [date, amount, text]),
});

describe('amounts of banks', () => {
  it.each([
    ['1,234.50', '.', 123_450],
    ['1.234,50', ',', 123_450],
    ['1 234,5', ',', 123_450],
    ["1'234.50", '.', 123_450],
    ['(12.00)', '.', -1200],
    ['12.00-', '.', -1200],
    ['-$12.00', '.', -1200],
    ['12.00 DR', '.', -1200],
    ['USD 12', '.', 1200],
    ['12.5000', '.', 1250],
    ['0.00', '.', 0],
    ['12.345', '.', null],
    ['1,23', '.', null],
    ['12,34.50', '.', null],
    ['1.2.3', '.', null],
    ['', '.', null],
    ['n/a', '.', null],
    ['9'.repeat(70), '.', null],
  ] as const)('%s with %s is %s', (text, decimal, amount) => expect(readBankAmount(text, decimal, 2)).toBe(amount));
});

// structure after the OFX specification 2.2, sections 11.3 and 11.4, from memory
const OFX1 = `OFXHEADER:100
DATA:OFXSGML
VERSION:102

<OFX><SIGNONMSGSRSV1><SONRS><STATUS><CODE>0<SEVERITY>INFO</STATUS><DTSERVER>20261101</SONRS></SIGNONMSGSRSV1>
<BANKMSGSRSV1><STMTTRNRS><TRNUID>1<STATUS><CODE>0<SEVERITY>INFO</STATUS>
<STMTRS><CURDEF>usd<BANKACCTFROM><BANKID>1<ACCTID>77-12<ACCTTYPE>CHECKING</BANKACCTFROM>
<BANKTRANLIST><DTSTART>20261001<DTEND>20261031120000[-5:EST]
<STMTTRN><TRNTYPE>DEBIT<DTPOSTED>20261030<TRNAMT>-48.50<FITID>b<NAME>FEE &amp; CHARGE<MEMO>
</STMTTRN>
<STMTTRN><TRNTYPE>CHECK<DTPOSTED>20261005120000.000[-5]<TRNAMT>-1,200.00<FITID>a<CHECKNUM>5101<NAME>CHECK</STMTTRN>
<STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20261005<TRNAMT>300,25<FITID>c</STMTTRN>
</BANKTRANLIST><LEDGERBAL><BALAMT>9051.75<DTASOF>20261031</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>`;

describe('OFX', () => {
  it('is read with or without end tags, in order of date, with the balance before its first line', () => {
    const expected = {
      format: 'ofx',
      account: '77-12',
      currency: 'USD',
      from: '2026-10-01',
      to: '2026-10-31',
      opening: 1_000_000,
      closing: 905_175,
      lines: [
        ['2026-10-05', -120_000, 'CHECK'],
        ['2026-10-05', 30_025, 'CREDIT'],
        ['2026-10-30', -4850, 'FEE & CHARGE'],
      ],
    };
    expect(brief(readOfx(OFX1, 2))).toEqual(expected);
    const closed = OFX1.replace(/<(\w+)>([^<\n]+)/g, '<$1>$2</$1>').replace('<MEMO>\n', '<MEMO></MEMO>\n');
    expect(brief(readOfx(closed, 2))).toEqual(expected);
    expect(readOfx(OFX1, 2).lines[0]!.reference).toBe('5101');
  });
  it('says what of a transaction cannot be read', () =>
    expect(faultsOf(() => readOfx(OFX1.replace('20261030', 'soon').replace('-1,200.00', 'much'), 2))).toEqual([
      'Transaction 1 (b): the date (DTPOSTED) is "soon". It should begin like 20261031.',
      'Transaction 2 (a): the amount (TRNAMT) is "much", which is not an amount.',
    ]));
  it.each([
    ['<OFX></OFX>', 'no statement of an account'],
    [OFX1.replace('</OFX>', '<STMTRS><CURDEF>USD</STMTRS></OFX>'), 'statements of 2 accounts'],
    [`<OFX>${'<A>'.repeat(100)}`, 'its elements do not end'],
    ['<OFX><STMTRS><CURDEF>USD</STMTRS></OFX>', 'no dates'],
  ])('refuses what is no one statement', (text, why) => expect(faultsOf(() => readOfx(text, 2))[0]).toContain(why));
  it('takes time in proportion to a text without end', () =>
    expect(faultsOf(() => readOfx(`<OFX>${'<'.repeat(200_000)}`, 2))).toHaveLength(1));
});

// structure after ISO 20022 camt.053.001.08 and .02, from memory
const camt = (
  entries: string,
  more = '',
) => `<?xml version="1.0"?><doc:Document xmlns:doc="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><doc:BkToCstmrStmt>
<doc:Stmt><doc:Id>1</doc:Id><doc:FrToDt><doc:FrDtTm>2026-10-01T00:00:00</doc:FrDtTm><doc:ToDtTm>2026-10-31T23:59:59</doc:ToDtTm></doc:FrToDt>
<doc:Acct><doc:Id><doc:IBAN>DE02120300000000202051</doc:IBAN></doc:Id><doc:Ccy>EUR</doc:Ccy></doc:Acct>
<doc:Bal><doc:Tp><doc:CdOrPrtry><doc:Cd>CLBD</doc:Cd></doc:CdOrPrtry></doc:Tp><doc:Amt Ccy="EUR">50.00</doc:Amt><doc:CdtDbtInd>DBIT</doc:CdtDbtInd><doc:Dt><doc:Dt>2026-10-31</doc:Dt></doc:Dt></doc:Bal>
<doc:Bal><doc:Tp><doc:CdOrPrtry><doc:Cd>PRCD</doc:Cd></doc:CdOrPrtry></doc:Tp><doc:Amt Ccy="EUR">100.00</doc:Amt><doc:CdtDbtInd>CRDT</doc:CdtDbtInd><doc:Dt><doc:Dt>2026-09-30</doc:Dt></doc:Dt></doc:Bal>
${entries}</doc:Stmt>${more}</doc:BkToCstmrStmt></doc:Document>`;
const entry = (amount: string, side: string, more: string) =>
  `<doc:Ntry><doc:Amt Ccy="EUR">${amount}</doc:Amt><doc:CdtDbtInd>${side}</doc:CdtDbtInd>${more}</doc:Ntry>`;
const BOOKED = '<doc:Sts><doc:Cd>BOOK</doc:Cd></doc:Sts><doc:BookgDt><doc:Dt>2026-10-05</doc:Dt></doc:BookgDt>';

describe('camt.053', () => {
  it('is read with its parties, references and remittance, whatever the prefix; pending entries are left out', () => {
    const details = `<doc:NtryDtls><doc:TxDtls><doc:Refs><doc:EndToEndId>INV-77</doc:EndToEndId></doc:Refs><doc:RltdPties><doc:Cdtr><doc:Pty><doc:Nm>Harrow &amp; Sons</doc:Nm></doc:Pty></doc:Cdtr></doc:RltdPties><doc:RmtInf><doc:Ustrd>Invoice 77</doc:Ustrd><doc:Ustrd>less discount</doc:Ustrd></doc:RmtInf></doc:TxDtls></doc:NtryDtls>`;
    const text = camt(
      entry('150.00', 'DBIT', `${BOOKED}${details}`) +
        // version 02 has the state and the party without elements of their own
        entry('7.00', 'CRDT', '<doc:Sts>PDNG</doc:Sts><doc:BookgDt><doc:Dt>2026-10-06</doc:Dt></doc:BookgDt>') +
        entry('0.00', 'CRDT', BOOKED),
    );
    expect(readCamt(text, 2)).toEqual({
      format: 'camt053',
      account: 'DE02120300000000202051',
      currency: 'EUR',
      from: '2026-10-01',
      to: '2026-10-31',
      opening: 10_000,
      closing: -5000,
      lines: [{ date: '2026-10-05', amount: -15_000, text: 'Invoice 77 less discount', reference: 'INV-77', party: 'Harrow & Sons' }],
    });
  });
  it('says which entry cannot be read', () =>
    expect(faultsOf(() => readCamt(camt(entry('much', 'DBIT', '<doc:AcctSvcrRef>R1</doc:AcctSvcrRef>')), 2))).toEqual([
      'Entry 1 (R1): it has no booking date (BookgDt).',
      'Entry 1 (R1): "much" is not an amount.',
    ]));
  it.each([
    [camt('').replace('</doc:Stmt>', ''), 'not complete XML: line'],
    [`<!DOCTYPE x [<!ENTITY a "b">]>${camt('')}`, 'document type declaration'],
    ['<Document><BkToCstmrDbtCdtNtfctn/></Document>', 'no account statement'],
    [camt('', '<doc:Stmt><doc:Acct><doc:Id><doc:IBAN>DE00</doc:IBAN></doc:Id></doc:Acct></doc:Stmt>'), 'statements of the accounts'],
  ])('refuses what is no one statement', (text, why) => expect(faultsOf(() => readCamt(text, 2))[0]).toContain(why));
});

describe('CSV', () => {
  const mapped = (rows: readonly string[][], change: Partial<BankCsvMapping> = {}) =>
    readBankRows(rows, { mapping: { ...proposeMapping(rows)!, ...change }, exponent: 2 });
  it('is mapped by its headings, below whatever stands above them', () => {
    const rows = [
      ['Some Bank', 'Account 12'],
      [],
      ['Posting Date', 'Description', 'Check #', 'Debit', 'Credit', 'Running balance'],
      ['10/05/2026', 'CHECK', '5101', '1,200.00', '', '8,800.00'],
      ['10/30/2026', 'DEPOSIT', '', '', '300.25', '9,100.25'],
    ];
    expect(proposeMapping(rows)).toEqual({
      headingRow: 3,
      date: 0,
      amount: null,
      moneyIn: 4,
      moneyOut: 3,
      text: 1,
      reference: 2,
      party: null,
      balance: 5,
      dateOrder: 'mdy',
      decimal: '.',
      isReversed: false,
    });
    expect(mapped(rows)).toMatchObject({
      opening: 1_000_000,
      closing: 910_025,
      from: '2026-10-05',
      to: '2026-10-30',
      lines: [{ amount: -120_000, reference: '5101' }, { amount: 30_025 }],
    });
  });
  it('may have one column of amounts, days before months, decimal commas, and the newest row first', () => {
    const rows = [
      ['Date', 'Details', 'Amount', 'Balance'],
      ['31.10.2026', 'Fee', '-48,50', '951,50'],
      ['05.10.26', 'Deposit', '1.000,00', '1.000,00'],
    ];
    const { lines, opening, closing } = mapped(rows);
    expect([lines.map(({ date, amount }) => [date, amount]), opening, closing]).toEqual([
      [
        ['2026-10-05', 100_000],
        ['2026-10-31', -4850],
      ],
      0,
      95_150,
    ]);
    expect(mapped(rows, { isReversed: true, balance: null }).lines.map(({ amount }) => amount)).toEqual([-100_000, 4850]);
  });
  it('skips rows without an amount, and names row, column and value of what cannot be read', () => {
    const rows = [
      ['Date', 'Description', 'Amount'],
      ['', 'Opening balance', ''],
      ['10/05/2026', 'A', 'much'],
      ['13/45/2026', 'B', '5.00'],
      ['', '', ''],
    ];
    expect(faultsOf(() => mapped(rows, { dateOrder: 'mdy' }))).toEqual([
      'Row 3, Amount: "much" is not an amount. Choose another column, or correct the file.',
      'Row 4, Date: "13/45/2026" is not a date. Choose the order of day, month and year, or correct the file.',
    ]);
  });
  it('finds a row that is missing by the running balance', () =>
    expect(
      faultsOf(() =>
        mapped([
          ['Date', 'Description', 'Amount', 'Balance'],
          ['2026-10-05', 'A', '5.00', '5.00'],
          ['2026-10-07', 'C', '5.00', '15.00'],
        ]),
      ),
    ).toEqual([
      'Row 3, Balance: the balance is not the one before with this amount. A row is missing, or the columns or their signs are others.',
    ]));
  it('says twenty faults, and how many more there are; and when there is nothing to read', () => {
    const rows = [['Date', 'Description', 'Amount'], ...Array.from({ length: 30 }, () => ['x', 'A', '1.00'])];
    expect(faultsOf(() => mapped(rows))).toHaveLength(21);
    expect(faultsOf(() => mapped([['Date', 'Description', 'Amount']]))).toEqual([
      'The file has no rows with a date and an amount. Choose other columns, or another file.',
    ]);
    expect(
      proposeMapping([
        ['a', 'b'],
        ['1', '2'],
      ]),
    ).toBeNull();
  });
  it.each([
    ['2026-10-31', 'ymd', '2026-10-31'],
    ['20261031', 'mdy', '2026-10-31'],
    ['10/31/2026', 'mdy', '2026-10-31'],
    ['31/10/26', 'dmy', '2026-10-31'],
    ['10/31/2026 13:05', 'mdy', '2026-10-31'],
    ['31/10/2026', 'mdy', null],
    ['02/30/2026', 'mdy', null],
    ['10-31', 'mdy', null],
  ] as const)('the date %s as %s is %s', (text, order, date) => expect(readBankDate(text, order)).toBe(date));
});
