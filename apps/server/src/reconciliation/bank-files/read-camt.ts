import { type IsoDate, type Minor, minor, parseIsoDate } from '@wise-margin/core';
import { XMLParser, XMLValidator } from 'fast-xml-parser';

import { readBankAmount } from './bank-amount.ts';
import { type BankFile, BankFileError, type BankFileLine, inDateOrder } from './bank-file.ts';

/** An element as the parser has it: text, or elements and attributes by name. */
type Node = { readonly [name: string]: unknown };

const LISTS: readonly string[] = ['Stmt', 'Bal', 'Ntry', 'TxDtls', 'Ustrd', 'NtryDtls'];
const parser = new XMLParser({
  ignoreAttributes: false,
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: (name) => LISTS.includes(name),
});

/**
 * Reads an account statement camt.053 of ISO 20022, versions 02 to 08: balances OPBD (or PRCD) and CLBD, booked entries.
 * Entries that the bank has not booked yet are left out. Several statements of one account that follow one another are one.
 * @param exponent decimals of the currency
 * @throws BankFileError naming the entries at fault
 */
export function readCamt(text: string, exponent: number): BankFile {
  if (/<!DOCTYPE/i.test(text)) throw new BankFileError(['The file has a document type declaration, which a bank statement never has.']);
  const valid = XMLValidator.validate(text);
  if (valid !== true)
    throw new BankFileError([`The file is not complete XML: line ${valid.err.line}: ${valid.err.msg} Download it from the bank again.`]);
  const statements = listOf(at(parser.parse(text) as Node, 'Document', 'BkToCstmrStmt'), 'Stmt');
  const [statement] = statements;
  if (!statement) throw new BankFileError(['The file has no account statement (BkToCstmrStmt). Download a camt.053 file from the bank.']);
  const accounts = new Set(statements.map(accountOf));
  if (accounts.size > 1)
    throw new BankFileError([`The file has statements of the accounts ${[...accounts].join(', ')}. Download one account at a time.`]);
  const faults: string[] = [];
  const lines = inDateOrder(
    statements.flatMap((each) => listOf(each, 'Ntry')).flatMap((entry, index) => lineOf(entry, { index, exponent, faults })),
  );
  const [opening, closing] = [
    balanceOf(statement, ['OPBD', 'PRCD'], { exponent, faults }),
    balanceOf(statements.at(-1)!, ['CLBD'], { exponent, faults }),
  ];
  const from = dateAt(statement, 'FrToDt', 'FrDtTm') ?? opening?.date ?? lines[0]?.date ?? null;
  const to = dateAt(statements.at(-1)!, 'FrToDt', 'ToDtTm') ?? closing?.date ?? lines.at(-1)?.date ?? null;
  if (from === null || to === null)
    faults.push('The file has no dates: neither FrToDt nor dated balances. Download it from the bank again.');
  if (faults.length > 0) throw new BankFileError(faults);
  return {
    format: 'camt053',
    account: accountOf(statement),
    currency: textAt(statement, 'Acct', 'Ccy').toUpperCase() || opening?.currency || '',
    from: from!,
    to: to!,
    opening: opening?.amount ?? null,
    closing: closing?.amount ?? null,
    lines,
  };
}

const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null && !Array.isArray(value);
/** What is below some names; the first where there are several. */
function at(node: unknown, ...names: readonly string[]): unknown {
  return names.reduce<unknown>((within, name) => {
    const value = isNode(within) ? within[name] : undefined;
    return Array.isArray(value) ? value[0] : value;
  }, node);
}
function listOf(node: unknown, name: string): unknown[] {
  const value = isNode(node) ? node[name] : undefined;
  return Array.isArray(value) ? value : value === undefined ? [] : [value];
}
/** The text of an element, with or without attributes; empty where there is none. */
function textAt(node: unknown, ...names: readonly string[]): string {
  const value = at(node, ...names);
  const text = isNode(value) ? value['#text'] : value;
  return typeof text === 'string' ? text.trim() : '';
}
const dateAt = (node: unknown, ...names: readonly string[]): IsoDate | null => parseIsoDate(textAt(node, ...names).slice(0, 10));
/** A date as the standard has it: a day, or a day with its time. */
const dayAt = (node: unknown, name: string): IsoDate | null => dateAt(node, name, 'Dt') ?? dateAt(node, name, 'DtTm');
const accountOf = (statement: unknown): string => textAt(statement, 'Acct', 'Id', 'IBAN') || textAt(statement, 'Acct', 'Id', 'Othr', 'Id');

type Reading = { readonly exponent: number; readonly faults: string[] };

function signedAmount(node: unknown, exponent: number): Minor | null {
  const amount = readBankAmount(textAt(node, 'Amt'), '.', exponent);
  if (amount === null) return null;
  return minor(textAt(node, 'CdtDbtInd') === 'DBIT' && amount !== 0 ? -amount : amount);
}

function balanceOf(
  statement: unknown,
  kinds: readonly string[],
  { exponent, faults }: Reading,
): { readonly amount: Minor; readonly date: IsoDate | null; readonly currency: string } | null {
  for (const kind of kinds) {
    const balance = listOf(statement, 'Bal').find((each) => textAt(each, 'Tp', 'CdOrPrtry', 'Cd') === kind);
    if (balance === undefined) continue;
    const amount = signedAmount(balance, exponent);
    if (amount !== null) return { amount, date: dayAt(balance, 'Dt'), currency: textAt(at(balance, 'Amt'), '@_Ccy').toUpperCase() };
    faults.push(`Balance ${kind}: "${textAt(balance, 'Amt')}" is not an amount.`);
  }
  return null;
}

function lineOf(entry: unknown, { index, exponent, faults }: Reading & { readonly index: number }): BankFileLine[] {
  const state = textAt(entry, 'Sts', 'Cd') || textAt(entry, 'Sts');
  // pending and informational entries are no money yet
  if (state !== '' && state !== 'BOOK') return [];
  const where = `Entry ${index + 1}${textAt(entry, 'AcctSvcrRef') === '' ? '' : ` (${textAt(entry, 'AcctSvcrRef')})`}`;
  const date = dayAt(entry, 'BookgDt') ?? dayAt(entry, 'ValDt');
  const amount = signedAmount(entry, exponent);
  if (date === null) faults.push(`${where}: it has no booking date (BookgDt).`);
  if (amount === null) faults.push(`${where}: "${textAt(entry, 'Amt')}" is not an amount.`);
  if (date === null || amount === null || amount === 0) return [];
  const details = listOf(entry, 'NtryDtls').flatMap((each) => listOf(each, 'TxDtls'));
  const side = amount < 0 ? 'Cdtr' : 'Dbtr';
  const unique = (texts: readonly string[]) => [...new Set(texts.filter(Boolean))].join(' ');
  return [
    {
      date,
      amount,
      text: unique([
        textAt(entry, 'AddtlNtryInf'),
        ...details.flatMap((each) => listOf(at(each, 'RmtInf'), 'Ustrd').filter((text) => typeof text === 'string')),
      ]),
      reference: unique(
        details
          .flatMap((each) => [textAt(each, 'Refs', 'ChqNb'), textAt(each, 'Refs', 'EndToEndId')])
          .filter((text) => text !== 'NOTPROVIDED'),
      ),
      party: unique(details.map((each) => textAt(each, 'RltdPties', side, 'Nm') || textAt(each, 'RltdPties', side, 'Pty', 'Nm'))),
    },
  ];
}
