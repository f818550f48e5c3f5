import type { AmountIssue } from '../money/parse-amount.ts';

export type ImportIssueCode =
  | 'missingColumn'
  | 'repeatedColumn'
  | 'unnamedColumn'
  | 'amountAndDebitCredit'
  | 'noHeader'
  | 'similarColumn'
  | 'cellCount'
  | 'required'
  | 'unknownAccount'
  | 'inactiveAccount'
  | 'impossibleDate'
  | 'dateLayout'
  | 'dateOutsideYears'
  | 'periodClosed'
  | 'badAmount'
  | 'noAmount'
  | 'debitAndCredit'
  | 'negativeSide'
  | 'unknownKind'
  | 'unknownState'
  | 'entryDateDiffers'
  | 'entryFieldDiffers'
  | 'singleLine'
  | 'unbalanced'
  | 'entryRepeatedInFile'
  | 'entryInLedger'
  | 'brokenQuotes'
  | 'tooLong'
  | 'controlCharacter'
  | 'strayBytes'
  | 'newDimension'
  | 'rowTooLong'
  | 'noRows'
  | 'unknownClass'
  | 'accountRepeated'
  | 'classDiffers'
  | 'badFlag'
  | 'unknownPolarity'
  | 'sameFile'
  | 'emptyFile'
  | 'notText';

/**
 * One thing wrong in an imported file. `row` is the row as a spreadsheet numbers it (the header is
 * row 1; 0 stands for the file as a whole), `column` the header's name, `text` what stood there.
 */
export type ImportIssue = {
  readonly file: 'accounts' | 'ledger';
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly code: ImportIssueCode;
  readonly details?: Readonly<Record<string, string | number>>;
  readonly amount?: AmountIssue;
};
