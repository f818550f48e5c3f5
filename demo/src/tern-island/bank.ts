import { type DemoBankLine, type DemoStatement, statementCamt, statementCsv, statementOfx } from '../bank-statement.ts';
import { daysLater } from '../months.ts';
import { VENDORS } from './parties.ts';
import type { Setting } from './setting.ts';

const CASH = '1010';
const MONTHS = [
  { from: '2026-09-01', to: '2026-09-30' },
  { from: '2026-10-01', to: '2026-10-31' },
] as const;
/** Lines of August that the bank saw in September. */
const LATE_FROM = '2026-08-25';
const FIRST_CHECK = 5101;
const LATE_CHECK = 'Payment of FR-2607';
/** Checks of October that the vendors have not cashed yet. */
const OUTSTANDING = ['Payment of FR-2609', 'Deposit for carbon cloth'];
/** Rent is drawn by standing order, like payroll and loans: on its day, or the Friday before. */
const STANDING = /^P[NA]-/;
/** A deposit of 3,585.75 that was entered as 3,855.75. */
const TRANSPOSED = { memo: 'Receipt for D-260902', amount: 358_575 };
/** Receipts of one day that went to the bank as one deposit. */
const DEPOSITED_TOGETHER = ['2026-09-07', '2026-10-09'];
const FEE: DemoBankLine = { date: '2026-10-30', amount: -4850, text: 'ACCOUNT ANALYSIS FEE', check: '', party: '' };
/** What the difference forced in September really was. */
const FORCED_MEMO = 'Difference in bank reconciliation';

export const BANK_STATEMENT_NAMES: readonly string[] = MONTHS.flatMap(({ to }) =>
  ['csv', 'ofx', 'xml'].map((ending) => `bank-${to.slice(0, 7)}.${ending}`),
);

/** The operating account as its bank shows it in September and October 2026: each statement as CSV, OFX and camt.053. */
export function bankStatements({ journal }: Setting): Record<string, string> {
  const ledger = journal.linesOf(CASH).filter(({ date }) => date >= LATE_FROM);
  const lines: DemoBankLine[] = [FEE];
  let check = FIRST_CHECK;
  const together = new Map<string, number>();
  for (const { date, amount, memo, party, document, source } of ledger) {
    const isLate = memo === LATE_CHECK;
    if (date < MONTHS[0].from && !isLate) continue;
    if (source === 'receipts' && DEPOSITED_TOGETHER.includes(date)) {
      together.set(date, (together.get(date) ?? 0) + amount);
      continue;
    }
    if (OUTSTANDING.includes(memo)) continue;
    if (memo === 'Payroll taxes paid' && date.startsWith('2026-10')) {
      // federal and state leave the bank apart
      const state = 1_218_332;
      lines.push({ date, amount: amount + state, text: 'EFTPS PAYROLL TAX FEDERAL', check: '', party: '' });
      lines.push({ date: businessDay(daysLater(date, 1)), amount: -state, text: 'STATE PAYROLL TAX', check: '', party: '' });
      continue;
    }
    const isStanding = STANDING.test(document) || !['payments', 'receipts'].includes(source);
    const isCheck = source === 'payments' && !isStanding && (isLate || document.length % 2 === 0);
    const days = isLate ? 8 : isCheck ? 4 : 1;
    lines.push({
      date: isStanding ? businessDay(date, -1) : businessDay(daysLater(date, days)),
      amount: memo === TRANSPOSED.memo ? TRANSPOSED.amount : amount,
      text: bankWords({ memo, party, document, source, isCheck }),
      check: isCheck ? String(check) : '',
      party: isCheck || source === 'bank' ? '' : party,
    });
    if (isCheck) check += 1;
  }
  for (const [date, amount] of together)
    lines.push({ date: businessDay(daysLater(date, 1)), amount, text: 'DEPOSIT, SEVERAL ITEMS', check: '', party: '' });
  const ordered = lines
    .map((line, at) => ({ line, at }))
    .sort((a, b) => (a.line.date === b.line.date ? a.at - b.at : a.line.date < b.line.date ? -1 : 1));
  const late = ledger.find(({ memo }) => memo === LATE_CHECK)!;
  let opening = journal.balance(CASH, '2026-08-31') - late.amount;
  const files: Record<string, string> = {};
  for (const [at, { from, to }] of MONTHS.entries()) {
    const own = ordered.flatMap(({ line }) => (line.date >= from && line.date <= to ? [line] : []));
    const statement: DemoStatement = { from, to, opening, lines: own };
    const name = `bank-${to.slice(0, 7)}`;
    files[`${name}.csv`] = statementCsv(statement);
    files[`${name}.ofx`] = statementOfx(statement, at === 0 ? 1 : 2);
    files[`${name}.xml`] = statementCamt(statement);
    opening = own.reduce((sum, { amount }) => sum + amount, opening);
  }
  return files;
}

/** The day itself, or of a weekend the Monday after it, with -1 the Friday before it. */
function businessDay(date: string, step: 1 | -1 = 1): string {
  const weekday = new Date(`${date}T00:00:00Z`).getUTCDay();
  if (weekday !== 0 && weekday !== 6) return date;
  return businessDay(daysLater(date, step), step);
}

/** How a bank words a line: capitals, references without their hyphens, names cut short. */
function bankWords({
  memo,
  party,
  document,
  source,
  isCheck,
}: {
  readonly memo: string;
  readonly party: string;
  readonly document: string;
  readonly source: string;
  readonly isCheck: boolean;
}): string {
  if (isCheck) return 'CHECK';
  const reference = document.replaceAll('-', '');
  const name = party.toUpperCase();
  if (source === 'payments')
    return party === VENDORS.freight ? `ACH DEBIT ${reference} ${name}` : `ACH DEBIT ${name} ${reference}`.slice(0, 60);
  if (source === 'receipts') return `ACH CREDIT ${name} ${reference}`.trim();
  if (memo === FORCED_MEMO) return 'CARD TERMINAL RENTAL Q3';
  return memo.toUpperCase();
}
