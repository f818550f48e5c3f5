import type { Cause, Comparison, FindingSpan } from '@wise-margin/core';

/** Names of what a cause is about. Lines are positions in the table of lines. */
export type CauseNames = {
  readonly bill: (line: number) => BillNames;
  /** number and name */
  readonly account: (account: number) => string;
  readonly party: (party: number) => string;
  readonly month: (month: number) => { readonly name: string; readonly key: string };
  /** a part by its layout and key */
  readonly part: (cause: Cause & { readonly kind: 'part' }) => string;
  /** an amount without its sign */
  readonly money: (amount: number) => string;
};
export type BillNames = {
  /** number of the entry */
  readonly number: string;
  /** as the document says it; '' for none */
  readonly document: string;
  readonly memo: string;
  /** `Oct 6`, with the year where it is another than the one in view */
  readonly day: string;
  readonly party: string;
  /** the field that shows its amount */
  readonly field: string;
};

const AGAINST: Readonly<Record<Comparison, readonly [over: string, under: string]>> = {
  budget: ['over budget', 'under budget'],
  projection: ['over budget', 'under budget'],
  priorYear: ['more than a year before', 'less than a year before'],
  priorMonth: ['more than the month before', 'less than the month before'],
};
/** Whether a line is above or below what it is compared with, in words. */
export const directionWords = (comparison: Comparison | null, variance: number): string =>
  comparison === null ? (variance < 0 ? 'less' : 'more') : AGAINST[comparison][variance < 0 ? 1 : 0];

/** What a difference is, as a sentence with fields. */
export function varianceTemplate(
  line: string,
  options: { readonly hasPercent: boolean; readonly span: FindingSpan | null; readonly month: string | null },
): string {
  const when = options.span === 'yearToDate' ? ' for the year to date' : options.month === null ? '' : ` in ${options.month}`;
  return `${line} is {variance}${options.hasPercent ? ' ({percent})' : ''} {direction}${when}.`;
}

/** What explains a difference, as a sentence with fields. */
export function causeTemplate(cause: Cause, names: CauseNames): string {
  switch (cause.kind) {
    case 'repeatedBill': {
      const [first, again] = [names.bill(cause.of), names.bill(cause.line)];
      return `Bill ${idOf(first)} of ${first.day}${from(first)} for ${first.field} was posted again as ${idOf(again)} on ${again.day}.`;
    }
    case 'unusualAmount': {
      const bill = names.bill(cause.line);
      const usual = names.money(cause.usual);
      const head = `${idOf(bill)} of ${bill.day}${from(bill)} is ${bill.field}`;
      switch (cause.as) {
        case 'tenfold':
          return `${head}, about ten times the usual ${usual}: there may be a digit too many.`;
        case 'tenth':
          return `${head}, about a tenth of the usual ${usual}: a digit may be missing.`;
        case 'digitsSwapped':
          return `${head} instead of the usual ${usual}: two digits may be transposed.`;
        case 'large':
          return `${head}; ${usual} is usual.`;
      }
      break;
    }
    case 'unfamiliarAccount': {
      const bill = names.bill(cause.line);
      return `${idOf(bill)} of ${bill.day}${from(bill)} for ${bill.field} is posted to ${names.account(cause.account)}; ${names.party(cause.party)} is usually posted to ${names.account(cause.usualAccount)}.`;
    }
    case 'newParty':
      return `${names.party(cause.party)} is new since ${names.bill(cause.line).day}, with {party:${names.party(cause.party)}} in ${cause.bills === 1 ? 'one entry' : `${cause.bills} entries`}.`;
    case 'stoppedParty':
      return `Nothing from ${names.party(cause.party)} since ${names.bill(cause.lastLine).day}; in the same months a year before it came to ${names.money(cause.amount)}.`;
    case 'missingBill':
      return `The monthly entry from ${names.party(cause.party)} on ${names.account(cause.account)}, usually ${names.money(cause.usual)}, did not come; the last is ${idOf(names.bill(cause.lastLine))} of ${names.bill(cause.lastLine).day}.`;
    case 'changedPrice':
      return `${names.party(cause.party)} comes at ${names.money(cause.now)} since ${names.bill(cause.line).day} instead of ${names.money(cause.before)}.`;
    case 'timing': {
      const neighbor = names.month(cause.neighbor);
      const opposite = `{month:${neighbor.key}} the other way in ${neighbor.name}`;
      if (cause.line === null) return `Timing: offset by ${opposite}.`;
      const bill = names.bill(cause.line);
      return `Timing: offset by ${opposite}. ${bill.number} of ${bill.day}, “${bill.memo}”, for ${bill.field} belongs to the other month. {yearToDate} remains for the year to date.`;
    }
    case 'part':
      return `${names.part(cause)} accounts for ${names.money(cause.amount)}.`;
  }
}

const idOf = ({ document, number }: BillNames): string => document || number;
const from = ({ party }: BillNames): string => (party === '' ? '' : ` from ${party}`);
