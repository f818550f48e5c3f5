import type { StatisticIssue } from '@wise-margin/core';

const WORDS: Readonly<Record<StatisticIssue['code'], readonly [reason: string, fix: string]>> = {
  emptyFile: ['The file is empty', 'Choose a file with the header series,period,value and a row for each value'],
  missingColumn: ['The header has no such column', 'Write the header series,period,value, then any dimensions'],
  repeatedColumn: ['The header has this column twice', 'Leave one of the two out'],
  cellCount: ['The row has more or fewer cells than the header', 'Write one cell for each column'],
  required: ['The cell is empty', 'Write a value'],
  notANumber: ['This is not a plain number below 9 quadrillion', 'Write digits with at most a decimal point, such as 1250 or 12.5'],
  tooLong: ['The text is longer than 200 characters', 'Shorten it'],
  controlCharacter: ['The text has a control character', 'Remove it; it cannot be seen on the screen'],
  unnamedColumn: ['The header leaves a column without a name', 'Name the column, or delete it with its cells'],
  periodLayout: ['This is no fiscal period', 'Write the fiscal year and the period number, such as 2027-07'],
  outsideYears: ['The period lies in no fiscal year that is open', 'Open the year first, or correct the period'],
  repeated: ['The value of this series, period and slice is on an earlier row', 'Keep one of the two'],
};

/** A fault of a statistics file in words: row, column, text, reason and fix. */
export function statisticIssueWords({ row, column, text, code }: StatisticIssue): string {
  const [reason, fix] = WORDS[code];
  const place = [row > 0 ? `Row ${row}` : 'The file', column === '' ? '' : `column ${column}`].filter((part) => part !== '').join(', ');
  return `${place}${text === '' ? '' : `, "${text}"`}: ${reason}. ${fix}.`;
}
