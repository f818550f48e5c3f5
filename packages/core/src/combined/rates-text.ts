import type { MonthRates } from './exchange-rates.ts';

/** What is wrong in a pasted table of rates: where, and what to enter instead. */
export type RateIssue = {
  /** from 1 */
  readonly row: number;
  readonly field: 'month' | 'average' | 'closing';
  readonly value: string;
  readonly code: 'month' | 'repeated' | 'rate' | 'columns';
};
export type RatesOfText = { readonly rates: ReadonlyMap<string, MonthRates>; readonly issues: readonly RateIssue[] };

const MONTH = /^\d{4}-(0[1-9]|1[0-2])$/;
const RATE = /^\d{1,9}(\.\d{1,12})?$/;
const isRate = (text: string): boolean => RATE.test(text) && Number(text) > 0;

/**
 * Reads a table of rates as pasted from a spreadsheet or a CSV file: month, average rate, closing rate; separated by
 * tabs, commas or semicolons. Empty rows and a row of headings are passed over; rates are decimals above zero.
 * Rows with a fault are told and give no rates.
 */
export function ratesOfText(text: string): RatesOfText {
  const rates = new Map<string, MonthRates>();
  const issues: RateIssue[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    const row = index + 1;
    const fields = line.split(/[\t,;]/).map((field) => field.trim());
    const [month = '', average = '', closing = ''] = fields;
    if (line.trim() === '' || (rates.size === 0 && issues.length === 0 && /^month$/i.test(month))) return;
    if (!MONTH.test(month)) issues.push({ row, field: 'month', value: month, code: 'month' });
    else if (rates.has(month)) issues.push({ row, field: 'month', value: month, code: 'repeated' });
    else if (fields.length !== 3) issues.push({ row, field: 'closing', value: line.trim(), code: 'columns' });
    else if (!isRate(average)) issues.push({ row, field: 'average', value: average, code: 'rate' });
    else if (!isRate(closing)) issues.push({ row, field: 'closing', value: closing, code: 'rate' });
    else rates.set(month, { average: Number(average), closing: Number(closing) });
  });
  return { rates, issues };
}
