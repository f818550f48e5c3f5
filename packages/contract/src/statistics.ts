import type { StatisticIssue } from '@wise-margin/core';
import { z } from 'zod';
import { periodKeySchema } from './common.ts';

export const statisticsSchema = z
  .object({
    periods: z.array(periodKeySchema),
    series: z.array(
      z.object({
        name: z.string(),
        /** one for each period, all slices together; null where none is kept */
        values: z.array(z.number().nullable()),
      }),
    ),
  })
  .meta({ id: 'Statistics' });
export type StatisticsDto = z.infer<typeof statisticsSchema>;

/** What a statistics file would change, before it is imported: all that is new in it is listed. */
export const statisticsPreviewSchema = z
  .object({
    /** of the file; sent back to import just this one */
    fingerprint: z.string(),
    values: z.number().int(),
    replaced: z.number().int(),
    firstPeriod: periodKeySchema.nullable(),
    lastPeriod: periodKeySchema.nullable(),
    series: z.array(z.object({ name: z.string(), isNew: z.boolean() })),
    /** columns that are no dimension of the ledger */
    newDimensions: z.array(z.string()),
    /** values the ledger does not have, each with those it may stand for */
    newValues: z.array(z.object({ dimension: z.string(), value: z.string(), near: z.array(z.string()) })),
  })
  .meta({ id: 'StatisticsPreview' });
export type StatisticsPreviewDto = z.infer<typeof statisticsPreviewSchema>;
export const statisticsAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('preview'), preview: statisticsPreviewSchema }),
  z.object({ kind: z.literal('imported'), statistics: statisticsSchema }),
]);
export type StatisticsAnswerDto = z.infer<typeof statisticsAnswerSchema>;
/** Without a fingerprint a file is looked at alone; with one it is imported. */
export const statisticsImportSchema = z.object({ fingerprint: z.string().max(64).optional() });

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
  repeated: ['The value of this series, period and slice stands further up', 'Keep one of the two'],
};

/** A fault of a statistics file in words: row, column, text, reason and fix. */
export function statisticIssueWords({ row, column, text, code }: StatisticIssue): string {
  const [reason, fix] = WORDS[code];
  const place = [row > 0 ? `Row ${row}` : 'The file', column === '' ? '' : `column ${column}`].filter((part) => part !== '').join(', ');
  return `${place}${text === '' ? '' : `, "${text}"`}: ${reason}. ${fix}.`;
}
