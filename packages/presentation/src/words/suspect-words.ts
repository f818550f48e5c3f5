import type { PostingAnswer } from '@wise-margin/contract';
import { minor, type Reason } from '@wise-margin/core';

export type SuspectNames = {
  readonly account: (account: number) => string;
  readonly money: (amount: number) => string;
  /** number of the entry that a line is in, or its document, and its day */
  readonly bill: (line: number) => string;
};
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];
const percent = (part: number): string => `${Math.floor(part * 100)}%`;

/** Why a posting deserves a look, in words. */
export function suspectWords(reason: Reason, { account, money, bill }: SuspectNames): string {
  switch (reason.kind) {
    case 'tenfold':
      return `About ten times the usual ${money(reason.usual)}`;
    case 'tenth':
      return `About a tenth of the usual ${money(reason.usual)}`;
    case 'digitsSwapped':
      return `Two digits may be transposed; usually ${money(reason.usual)}`;
    case 'large':
      return `${reason.times.toLocaleString('en-US', { maximumFractionDigits: 1 })} times the usual ${money(reason.usual)}`;
    case 'repeatedDocument':
      return `Same document and amount as ${bill(reason.of)}, ${reason.days === 0 ? 'on the same day' : `${reason.days} ${reason.days === 1 ? 'day' : 'days'} later`}`;
    case 'repeatedAmount':
      return `Same amount as ${bill(reason.of)}, ${reason.days === 0 ? 'on the same day' : `${reason.days} ${reason.days === 1 ? 'day' : 'days'} later`}`;
    case 'unfamiliarAccount':
      return `First posting to this account; usually on ${account(reason.usualAccount)}`;
    case 'missingDimension':
      return `No ${reason.dimension}; ${percent(reason.usually)} of the account’s lines have one`;
    case 'unusualDimension':
      return `${reason.dimension.charAt(0).toUpperCase()}${reason.dimension.slice(1)} ${reason.value} is on ${reason.times} of ${reason.of.toLocaleString('en-US')} lines of the account`;
    case 'otherMonth':
      return `Memo refers to ${MONTHS[reason.named - 1]}`;
    case 'missingBill':
      return `No entry this month; it came in each of ${reason.months} months before, usually ${money(reason.usual)}`;
    case 'roundAtPeriodEnd':
      return 'A round amount at the end of a month';
    case 'manualAtPeriodEnd':
      return 'Entered by hand at the end of a month';
    case 'watchedAccount':
      return 'A posting to a watched account';
    case 'weekend':
      return 'Dated on a weekend';
    case 'wrongSide':
      return `Unusual ${reason.balance < 0 ? 'credit' : 'debit'} balance: ${money(minor(Math.abs(reason.balance)))}`;
  }
}

const ANSWERS: Readonly<Record<PostingAnswer, string>> = {
  fine: 'No action needed',
  needsCorrection: 'Needs correction',
  corrected: 'Corrected',
};
export const postingAnswerWords = (answer: PostingAnswer): string => ANSWERS[answer];
