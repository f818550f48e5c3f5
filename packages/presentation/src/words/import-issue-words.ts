import { ACCOUNT_CLASSES, type AmountIssue, type ImportIssue, type ImportIssueCode } from '@wise-margin/core';

type Words = { readonly reason: string; readonly fix: string };
const say = (reason: string, fix: string): Words => ({ reason, fix });

export const AMOUNT_WORDS: Readonly<Record<AmountIssue['code'], (issue: AmountIssue, column: string) => Words>> = {
  empty: () => say('The amount is empty', 'Write the amount, such as 1250.00'),
  thousandsSeparator: (issue, column) =>
    say(
      'The amount has thousands separators',
      `${suggestion(issue, column)}. In a spreadsheet, format the column without them and export it again`,
    ),
  parentheses: (issue, column) => say('The amount is in parentheses', suggestion(issue, column)),
  trailingMinus: (issue, column) => say('The minus sign is after the amount', suggestion(issue, column)),
  currencySign: (issue, column) => say('The amount has a currency sign', suggestion(issue, column)),
  exponentNotation: () =>
    say('The amount is in exponent notation, as spreadsheets shorten long numbers', 'Format the column as a number and export again'),
  tooManyDecimals: ({ decimals }) =>
    say(`The amount has more than ${decimals} decimals, which the currency does not have`, `Round to ${decimals} decimals`),
  decimalComma: (issue, column) => say('The amount has a decimal comma', suggestion(issue, column)),
  tooLarge: () => say('The amount is past 90,000,000,000,000', 'Check for extra digits'),
  notANumber: () => say('This is not an amount', 'Write digits with a decimal point, such as 1250.00'),
};
/** What to write instead. A negative amount in a debit or credit column belongs on the other side. */
function suggestion({ suggestion: text }: AmountIssue, column: string): string {
  if (text === undefined) return 'Write digits with a decimal point, such as 1250.00';
  const other = column === 'debit' ? 'credit' : column === 'credit' ? 'debit' : null;
  return text.startsWith('-') && other ? `Write ${text.slice(1)} on the ${other} side` : `Write ${text}`;
}

const WORDS: Readonly<Record<ImportIssueCode, (issue: ImportIssue, at: (name: string) => string | number) => Words>> = {
  missingColumn: ({ column }) => say(`The header has no column "${column}"`, `Add a column named ${column}; the header reads as shown`),
  similarColumn: ({ column }, at) =>
    say(`The header has no column "${column}", but one named "${at('similar')}"`, `Rename "${at('similar')}" to ${column}`),
  repeatedColumn: ({ column }) => say(`The column "${column}" appears twice in the header`, 'Keep one and rename or delete the other'),
  unnamedColumn: ({ column }) => say(`The header leaves ${column} without a name`, 'Name the column, or delete it with its cells'),
  amountAndDebitCredit: () => say('The header has amount beside debit and credit', 'Keep either one signed amount, or debit and credit'),
  noHeader: () => say('The first row has no column names', 'Start the file with its column names'),
  cellCount: (_, at) =>
    say(
      `The row has ${at('found')} cells where the header has ${at('expected')}`,
      'Look for a comma too many or too few, or text that needs quotes',
    ),
  required: ({ column }) => say(`The ${column} is empty`, `Fill in the ${column}`),
  unknownAccount: (_, at) =>
    say(
      'No such account',
      at('near') === ''
        ? 'Correct the number, or add the account with an accounts file'
        : `Did you mean ${at('near')}? Correct the number, or add the account with an accounts file`,
    ),
  inactiveAccount: () => say('The account is inactive', 'Use another account, or set it active in an accounts file'),
  impossibleDate: () => say('There is no such day', 'Correct the date'),
  dateLayout: () =>
    say(
      'The date is not written as YYYY-MM-DD',
      'Write it as 2026-10-31. In a spreadsheet, format the column as yyyy-mm-dd and export it again',
    ),
  dateOutsideYears: () => say('The date lies outside every fiscal year of the company', 'Correct the date, or open the fiscal year first'),
  periodClosed: () => say('The date lies in a closed period', 'Correct the date, or reopen the period first'),
  badAmount: ({ amount, column }) => AMOUNT_WORDS[amount?.code ?? 'notANumber'](amount ?? { code: 'notANumber' }, column),
  noAmount: () => say('The row has no amount', 'Write a debit or a credit, 0.00 included'),
  debitAndCredit: () => say('The row has both a debit and a credit', 'Write two rows, one for each side'),
  negativeSide: ({ column }) =>
    say(`The ${column} is negative`, `Write it without the minus on the ${column === 'debit' ? 'credit' : 'debit'} side`),
  unknownKind: (_, at) => say('No such kind of entry', `Write one of: ${at('allowed')}`),
  unknownState: (_, at) => say('No such state of an entry', `Write one of: ${at('allowed')}`),
  entryDateDiffers: (_, at) =>
    say(
      `The entry starts on row ${at('firstRow')} with the date ${at('first')}`,
      'Give all its rows one date, or this row another entry number',
    ),
  entryFieldDiffers: ({ column }, at) =>
    say(`The entry starts on row ${at('firstRow')} with the ${column} "${at('first')}"`, `Give all its rows one ${column}`),
  singleLine: () => say('The entry has a single row', 'An entry needs at least two rows that balance'),
  unbalanced: (_, at) =>
    say(
      `The entry does not balance: debits ${at('debits')}, credits ${at('credits')}, difference ${at('difference')} (rows ${at('firstRow')} to ${at('lastRow')})`,
      'Correct an amount or add the missing row',
    ),
  entryRepeatedInFile: (_, at) =>
    say(
      `The entry number was used before, from row ${at('before')}`,
      'Keep the rows of an entry together, or give the second one its own number',
    ),
  entryInLedger: () => say('The ledger already has an entry with this number', 'Leave the entry out, or give it its own number'),
  brokenQuotes: () => say('A quote is opened and not closed', 'Close each quoted text, and double the quotes inside it'),
  tooLong: (_, at) => say(`The text is longer than ${at('most')} characters`, 'Shorten it'),
  controlCharacter: (_, at) => say(`The text has a control character (${at('found')})`, 'Remove it; it cannot be seen on the screen'),
  strayBytes: (_, at) =>
    say(
      `The file is UTF-8 except for ${at('count')} ${at('count') === 1 ? 'byte' : 'bytes'}, on ${at('rows')}`,
      'Correct these characters and import the file again, or choose how to read it below',
    ),
  newDimension: ({ column }, at) =>
    say(
      `The column "${column}" is not a known column${at('near') === '' ? '' : ` (did you mean ${at('near')}?)`}`,
      `Correct the header, or confirm below that ${column} is a dimension`,
    ),
  rowTooLong: () => say('The row is longer than 1,000,000 characters', 'Look for a quote that is not closed, or shorten the text'),
  noRows: () => say('The file has a header and no rows', 'Export it again with its rows'),
  unknownClass: () =>
    say(
      'No such class of account',
      `Write one of: ${Object.values(ACCOUNT_CLASSES)
        .map(({ name }) => name)
        .join(', ')}`,
    ),
  accountRepeated: (_, at) => say(`The account is on row ${at('before')} already`, 'Keep one of the two rows'),
  classDiffers: (_, at) => say(`The account exists with the class ${at('held')}`, 'Keep that class, or use a new number'),
  badFlag: () => say('Active is neither yes nor no', 'Write yes or no'),
  unknownPolarity: (_, at) => say('No such polarity', `Write one of: ${at('allowed')}`),
  sameFile: (_, at) => say(`This very file was posted as import ${at('importId')} on ${at('date')}`, 'Choose the file that is new'),
  emptyFile: () => say('The file is empty', 'Export it again'),
  notText: ({ file }, at) => say(`The file is ${at('found')}, not text in columns`, `Export the ${file} as CSV`),
};

/** A fault of an import in words: the reason, and what to do about it. */
export function importIssueWords(issue: ImportIssue): Words {
  return WORDS[issue.code](issue, (name) => issue.details?.[name] ?? '');
}
