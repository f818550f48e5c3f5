import type { Currency, EntryDifference, EntryIssue } from '@wise-margin/core';
import { formatAmount, minor } from '@wise-margin/core';

/** Why an entry cannot be posted, with what to do. */
export function entryIssueWords({ code, text, near = [], difference }: EntryIssue, { exponent }: Currency): string {
  switch (code) {
    case 'impossibleDate':
      return `“${text}” is not a date. Enter it as YYYY-MM-DD, such as 2026-10-31.`;
    case 'dateOutsideYears':
      return `${text} is outside the fiscal years. Add the fiscal year first, or enter another date.`;
    case 'tooFewLines':
      return 'An entry needs at least two lines.';
    case 'unknownAccount':
      return near.length > 0 ? `There is no account ${text}. Did you mean ${near.join(' or ')}?` : `There is no account ${text}.`;
    case 'inactiveAccount':
      return `Account ${text} is inactive. Choose an active account.`;
    case 'zeroAmount':
      return 'The line has no amount. Enter a debit or a credit, or remove the line.';
    case 'tooLarge':
      return 'The amount is too large to be kept exactly. Check it for extra digits.';
    case 'unbalanced': {
      const amount = formatAmount(minor(Math.abs(difference!)), { exponent, unit: 'cents' });
      return `Debits and credits differ by ${amount}: ${difference! > 0 ? 'credits' : 'debits'} are short. Correct an amount or add a line.`;
    }
  }
}

/** Where in the request an issue stands. */
export const issuePath = ({ line, field }: EntryIssue): string => (line === null ? `content.${field}` : `content.lines.${line}.${field}`);

/** A changed field for the record: amounts on their side, `Debit 22,143.00`. */
export function differenceWords({ line, field, from, to }: EntryDifference, { exponent }: Currency) {
  const text = (value: EntryDifference['from']): string => (value === null ? '' : typeof value === 'number' ? side(value) : value);
  function side(value: number): string {
    return `${value < 0 ? 'Credit' : 'Debit'} ${formatAmount(minor(Math.abs(value)), { exponent, unit: 'cents' })}`;
  }
  return { line, field, from: text(from), to: text(to) };
}
