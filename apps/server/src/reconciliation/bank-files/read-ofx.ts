import { type IsoDate, parseIsoDate } from '@wise-margin/core';

import { readBankAmount } from './bank-amount.ts';
import { type BankFile, BankFileError, type BankFileLine, inDateOrder } from './bank-file.ts';

/** An element of an OFX file: its value, or what is in it. */
type Element = { readonly name: string; value: string; readonly children: Element[] };

const MOST_DEEP = 60;
const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', quot: '"', apos: "'" };

/**
 * Reads a statement in OFX 1 (SGML, elements without end tags) or OFX 2 (XML), of a bank account or a card. Structure:
 * OFX specification 2.2, sections 11.3 and 11.4 (BANKTRANLIST, STMTTRN, LEDGERBAL).
 * @param exponent decimals of the currency
 * @throws BankFileError naming the transactions at fault
 */
export function readOfx(text: string, exponent: number): BankFile {
  const root = elementsOf(text);
  const statements = [...allOf(root, 'STMTRS'), ...allOf(root, 'CCSTMTRS')];
  const [statement] = statements;
  if (!statement) throw new BankFileError(['The file has no statement of an account (STMTRS). Download it from the bank again.']);
  if (statements.length > 1)
    throw new BankFileError([`The file has statements of ${statements.length} accounts. Download one account at a time.`]);
  const faults: string[] = [];
  const list = first(statement, 'BANKTRANLIST');
  const lines = (list ? allOf(list, 'STMTTRN') : []).flatMap((transaction, at) => lineOf(transaction, { at, exponent, faults }));
  const dateOf = (name: string) => (list ? readDate(textOf(list, name)) : null);
  const ordered = inDateOrder(lines);
  const from = dateOf('DTSTART') ?? ordered[0]?.date ?? null;
  const balance = first(statement, 'LEDGERBAL');
  const closing = balance ? readBankAmount(textOf(balance, 'BALAMT'), '.', exponent) : null;
  if (balance && closing === null) faults.push(`The ledger balance (BALAMT) is "${textOf(balance, 'BALAMT')}", which is not an amount.`);
  const to = dateOf('DTEND') ?? (balance ? readDate(textOf(balance, 'DTASOF')) : null) ?? ordered.at(-1)?.date ?? null;
  if (from === null || to === null) faults.push('The file has no dates (DTSTART and DTEND). Download it from the bank again.');
  if (faults.length > 0) throw new BankFileError(faults);
  const sum = lines.reduce((total, { amount }) => total + amount, 0);
  return {
    format: 'ofx',
    account: textOf(statement, 'ACCTID'),
    currency: textOf(statement, 'CURDEF').toUpperCase(),
    from: from!,
    to: ordered.at(-1) && ordered.at(-1)!.date > to! ? ordered.at(-1)!.date : to!,
    // the standard has the closing balance only
    opening: closing === null ? null : ((closing - sum) as typeof closing),
    closing,
    lines: ordered,
  };
}

function lineOf(
  transaction: Element,
  { at, exponent, faults }: { readonly at: number; readonly exponent: number; readonly faults: string[] },
): BankFileLine[] {
  const posted = textOf(transaction, 'DTPOSTED');
  const written = textOf(transaction, 'TRNAMT');
  const date = readDate(posted);
  // both signs are allowed before the decimals
  const amount = readBankAmount(written, /,\d{1,2}$/.test(written) ? ',' : '.', exponent);
  const where = `Transaction ${at + 1}${textOf(transaction, 'FITID') === '' ? '' : ` (${textOf(transaction, 'FITID')})`}`;
  if (date === null) faults.push(`${where}: the date (DTPOSTED) is "${posted}". It should begin like 20261031.`);
  if (amount === null) faults.push(`${where}: the amount (TRNAMT) is "${written}", which is not an amount.`);
  if (date === null || amount === null || amount === 0) return [];
  const [name, memo] = [textOf(transaction, 'NAME'), textOf(transaction, 'MEMO')];
  // a name holds 32 characters; many banks repeat it whole in the memo
  const text = (memo.startsWith(name) ? memo : [name, memo].filter(Boolean).join(' ')) || textOf(transaction, 'TRNTYPE');
  return [
    {
      date,
      amount,
      text,
      reference: textOf(transaction, 'CHECKNUM') || textOf(transaction, 'REFNUM'),
      party: textOf(transaction, 'PAYEE'),
    },
  ];
}

/** `20261031120000[-5:EST]` begins with the day, which is the bank's own. */
const readDate = (text: string): IsoDate | null =>
  /^\d{8}/.test(text) ? parseIsoDate(`${text.slice(0, 4)}-${text.slice(4, 6)}-${text.slice(6, 8)}`) : null;

/**
 * The elements of a file. A tag with a value after it is closed by the next tag, whether it has an end tag or not; one
 * without a value holds what follows until its end tag. Takes time in proportion to the text.
 */
function elementsOf(text: string): Element {
  const root: Element = { name: '', value: '', children: [] };
  const open: Element[] = [root];
  for (let at = text.indexOf('<'); at >= 0;) {
    const end = text.indexOf('>', at);
    if (end < 0) break;
    const tag = text.slice(at + 1, end).trim();
    const next = text.indexOf('<', end);
    const value = unescaped(text.slice(end + 1, next < 0 ? undefined : next).trim());
    at = next;
    if (tag.startsWith('?') || tag.startsWith('!')) continue;
    if (tag.startsWith('/')) {
      const name = tag.slice(1).toUpperCase();
      const depth = open.findLastIndex((element) => element.name === name);
      // the end tag of a value was closed already
      if (depth > 0) open.length = depth;
      continue;
    }
    const element: Element = { name: tag.split(/\s/)[0]!.toUpperCase(), value, children: [] };
    open.at(-1)!.children.push(element);
    if (value !== '' || tag.endsWith('/')) continue;
    if (open.length > MOST_DEEP)
      throw new BankFileError(['The file cannot be read: its elements do not end. Download it from the bank again.']);
    open.push(element);
  }
  return root;
}

const unescaped = (text: string): string =>
  text.replace(/&(amp|lt|gt|nbsp|quot|apos);/g, (_, name: string) => ENTITIES[name]!).replace(/\s{1,50}/g, ' ');

/** Elements of a name at any depth, in the order of the file. */
function allOf(element: Element, name: string): Element[] {
  return element.children.flatMap((child) => (child.name === name ? [child] : allOf(child, name)));
}
const first = (element: Element, name: string): Element | undefined => allOf(element, name)[0];
const textOf = (element: Element, name: string): string => first(element, name)?.value ?? '';
