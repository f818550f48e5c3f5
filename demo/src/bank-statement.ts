/** A statement of the demo's bank, before it is written in a format. Amounts in cents, money in positive. */
export type DemoStatement = {
  readonly from: string;
  readonly to: string;
  readonly opening: number;
  readonly lines: readonly DemoBankLine[];
};
export type DemoBankLine = {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
  /** of a check; empty for others */
  readonly check: string;
  readonly party: string;
};

export const DEMO_BANK = { name: 'Skerry Point Bank', routing: '000000517', account: '0048812' } as const;

const decimal = (cents: number): string =>
  `${cents < 0 ? '-' : ''}${Math.floor(Math.abs(cents) / 100)}.${String(Math.abs(cents) % 100).padStart(2, '0')}`;
const closingOf = ({ opening, lines }: DemoStatement): number => lines.reduce((sum, { amount }) => sum + amount, opening);
const american = (date: string): string => `${date.slice(5, 7)}/${date.slice(8, 10)}/${date.slice(0, 4)}`;
const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** As a spreadsheet download: two lines of heading, money in and out in columns of their own, a running balance. */
export function statementCsv(statement: DemoStatement): string {
  let balance = statement.opening;
  const rows = statement.lines.map(({ date, amount, text, check }) => {
    balance += amount;
    const [out, into] = amount < 0 ? [decimal(-amount), ''] : ['', decimal(amount)];
    return [american(date), /[",]/.test(text) ? `"${text}"` : text, check, out, into, decimal(balance)].join(',');
  });
  return [
    `${DEMO_BANK.name},Operating account ${DEMO_BANK.account}`,
    '',
    'Posting date,Description,Check number,Withdrawals,Deposits,Balance',
    ...rows,
    '',
  ].join('\n');
}

/** As OFX 1 (SGML, values without end tags) or OFX 2 (XML). */
export function statementOfx(statement: DemoStatement, version: 1 | 2): string {
  const end = (name: string): string => (version === 1 ? '' : `</${name}>`);
  const value = (name: string, text: string): string => `<${name}>${escaped(text)}${end(name)}`;
  const day = (date: string): string => `${date.replaceAll('-', '')}120000`;
  const lines = statement.lines.map(({ date, amount, text, check }, at) =>
    [
      '<STMTTRN>',
      value('TRNTYPE', check === '' ? (amount < 0 ? 'DEBIT' : 'CREDIT') : 'CHECK'),
      value('DTPOSTED', day(date)),
      value('TRNAMT', decimal(amount)),
      value('FITID', `${date.replaceAll('-', '')}${String(at + 1).padStart(4, '0')}`),
      ...(check === '' ? [] : [value('CHECKNUM', check)]),
      value('NAME', text.slice(0, 32)),
      ...(text.length > 32 ? [value('MEMO', text)] : []),
      '</STMTTRN>',
    ].join('\n'),
  );
  const header =
    version === 1
      ? [
          'OFXHEADER:100',
          'DATA:OFXSGML',
          'VERSION:160',
          'SECURITY:NONE',
          'ENCODING:UTF-8',
          'CHARSET:NONE',
          'COMPRESSION:NONE',
          'OLDFILEUID:NONE',
          'NEWFILEUID:NONE',
          '',
        ]
      : [
          '<?xml version="1.0" encoding="UTF-8"?>',
          '<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>',
        ];
  return [
    ...header,
    '<OFX>',
    `<SIGNONMSGSRSV1><SONRS><STATUS>${value('CODE', '0')}${value('SEVERITY', 'INFO')}</STATUS>${value('DTSERVER', day(statement.to))}${value('LANGUAGE', 'ENG')}</SONRS></SIGNONMSGSRSV1>`,
    `<BANKMSGSRSV1><STMTTRNRS>${value('TRNUID', '1')}<STATUS>${value('CODE', '0')}${value('SEVERITY', 'INFO')}</STATUS>`,
    `<STMTRS>${value('CURDEF', 'USD')}<BANKACCTFROM>${value('BANKID', DEMO_BANK.routing)}${value('ACCTID', DEMO_BANK.account)}${value('ACCTTYPE', 'CHECKING')}</BANKACCTFROM>`,
    `<BANKTRANLIST>${value('DTSTART', day(statement.from))}${value('DTEND', day(statement.to))}`,
    ...lines,
    '</BANKTRANLIST>',
    `<LEDGERBAL>${value('BALAMT', decimal(closingOf(statement)))}${value('DTASOF', day(statement.to))}</LEDGERBAL>`,
    '</STMTRS></STMTTRNRS></BANKMSGSRSV1>',
    '</OFX>',
    '',
  ].join('\n');
}

/** As ISO 20022 camt.053, version 08. */
export function statementCamt(statement: DemoStatement): string {
  const money = (cents: number): string =>
    `<Amt Ccy="USD">${decimal(Math.abs(cents))}</Amt><CdtDbtInd>${cents < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd>`;
  const balance = (kind: string, cents: number, date: string): string =>
    `<Bal><Tp><CdOrPrtry><Cd>${kind}</Cd></CdOrPrtry></Tp>${money(cents)}<Dt><Dt>${date}</Dt></Dt></Bal>`;
  const lines = statement.lines.map(({ date, amount, text, check, party }, at) => {
    const side = amount < 0 ? 'Cdtr' : 'Dbtr';
    const parties = party === '' ? '' : `<RltdPties><${side}><Pty><Nm>${escaped(party)}</Nm></Pty></${side}></RltdPties>`;
    const references = check === '' ? '<EndToEndId>NOTPROVIDED</EndToEndId>' : `<ChqNb>${check}</ChqNb>`;
    return `<Ntry><NtryRef>${at + 1}</NtryRef>${money(amount)}<Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>${date}</Dt></BookgDt><ValDt><Dt>${date}</Dt></ValDt><AcctSvcrRef>SPB${date.replaceAll('-', '')}${String(at + 1).padStart(4, '0')}</AcctSvcrRef><BkTxCd><Prtry><Cd>NTRF</Cd></Prtry></BkTxCd><NtryDtls><TxDtls><Refs>${references}</Refs>${parties}<RmtInf><Ustrd>${escaped(text)}</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt>',
    `<GrpHdr><MsgId>SPB-${statement.to}</MsgId><CreDtTm>${statement.to}T23:00:00</CreDtTm></GrpHdr>`,
    `<Stmt><Id>${statement.to}</Id><CreDtTm>${statement.to}T23:00:00</CreDtTm><FrToDt><FrDtTm>${statement.from}T00:00:00</FrDtTm><ToDtTm>${statement.to}T23:59:59</ToDtTm></FrToDt>`,
    `<Acct><Id><Othr><Id>${DEMO_BANK.account}</Id></Othr></Id><Ccy>USD</Ccy></Acct>`,
    balance('OPBD', statement.opening, statement.from),
    balance('CLBD', closingOf(statement), statement.to),
    ...lines,
    '</Stmt></BkToCstmrStmt></Document>',
    '',
  ].join('\n');
}
