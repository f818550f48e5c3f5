import { type FiscalCalendar, type PeriodIndex, periodOfYear } from '../calendar/fiscal-calendar.ts';
import { controlIn, MOST_IN_NAME, withoutControls } from '../text/plain-text.ts';
import type { DimensionCombination } from './dimension.ts';

/** A figure that is not money: a series' value in a period, for a combination of dimension values. */
export type StatisticFact = {
  readonly series: string;
  readonly period: PeriodIndex;
  readonly dimensions: DimensionCombination;
  readonly value: number;
};
export type StatisticIssue = {
  /** as a spreadsheet numbers them; the header is row 1, 0 is the whole file */
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly code:
    | 'emptyFile'
    | 'missingColumn'
    | 'repeatedColumn'
    | 'cellCount'
    | 'required'
    | 'notANumber'
    | 'tooLong'
    | 'controlCharacter'
    | 'unnamedColumn'
    | 'periodLayout'
    | 'outsideYears'
    | 'repeated';
};
export type StatisticsFileResult = { readonly facts: readonly StatisticFact[]; readonly issues: readonly StatisticIssue[] };

const OWN = ['series', 'period', 'value'] as const;
/** past it a number is no longer exact */
const LARGEST = Number.MAX_SAFE_INTEGER;
const NUMBER = /^[+-]?(\d+(\.\d+)?|\.\d+)$/;

/**
 * Reads a statistics file: `series,period,value` and any further columns, each taken as a dimension.
 * A period is a fiscal year and its number, `2027-07`. Every fault is listed; facts are the good rows.
 * @param rows cells of each row, the header first
 */
export function readStatisticsFile(rows: readonly (readonly string[])[], calendar: FiscalCalendar): StatisticsFileResult {
  const issues: StatisticIssue[] = [];
  const facts: StatisticFact[] = [];
  const header = (rows[0] ?? []).map((cell) => cell.trim().toLowerCase());
  if (header.every((cell) => cell === '')) return { facts, issues: [{ row: 0, column: '', text: '', code: 'emptyFile' }] };
  for (const name of OWN) if (!header.includes(name)) issues.push({ row: 1, column: name, text: header.join(','), code: 'missingColumn' });
  header.forEach((name, index) => {
    if (name === '') issues.push({ row: 1, column: `column ${index + 1}`, text: '', code: 'unnamedColumn' });
    else if (header.indexOf(name) !== index) issues.push({ row: 1, column: name, text: name, code: 'repeatedColumn' });
  });
  if (issues.length > 0) return { facts, issues };
  const dimensions = header.flatMap((name, index) => ((OWN as readonly string[]).includes(name) || name === '' ? [] : [{ name, index }]));
  const seen = new Set<string>();
  rows.slice(1).forEach((cells, position) => {
    const row = position + 2;
    const tell = (column: string, text: string, code: StatisticIssue['code']): null => {
      issues.push({ row, column, text, code });
      return null;
    };
    if (cells.length === 1 && cells[0]!.trim() === '') return;
    if (cells.length !== header.length) return void tell('', cells.join(',').slice(0, 200), 'cellCount');
    const strange = cells.findIndex((cell) => controlIn(cell) !== null || cell.length > MOST_IN_NAME);
    if (strange >= 0)
      return void tell(
        header[strange]!,
        withoutControls(cells[strange]!).slice(0, 80),
        controlIn(cells[strange]!) === null ? 'tooLong' : 'controlCharacter',
      );
    const text = (name: string): string => cells[header.indexOf(name)]!.trim();
    const series = text('series') || tell('series', '', 'required');
    const value =
      NUMBER.test(text('value')) && Math.abs(Number(text('value'))) <= LARGEST
        ? Number(text('value'))
        : tell('value', text('value'), text('value') === '' ? 'required' : 'notANumber');
    const period = periodOf(text('period'), calendar, tell);
    if (series === null || value === null || period === null) return;
    const own = Object.fromEntries(
      dimensions.flatMap(({ name, index }) => (cells[index]!.trim() === '' ? [] : [[name, cells[index]!.trim()] as const])),
    );
    const key = JSON.stringify([series, period, own]);
    if (seen.has(key)) return void tell('series', series, 'repeated');
    seen.add(key);
    facts.push({ series, period, dimensions: own, value });
  });
  return { facts, issues };
}

function periodOf(
  text: string,
  calendar: FiscalCalendar,
  tell: (column: string, text: string, code: StatisticIssue['code']) => null,
): PeriodIndex | null {
  if (text === '') return tell('period', '', 'required');
  const match = /^(\d{4})-(\d{2})$/.exec(text);
  if (!match || Number(match[2]) < 1 || Number(match[2]) > 12) return tell('period', text, 'periodLayout');
  return periodOfYear(calendar, Number(match[1]), Number(match[2])) ?? tell('period', text, 'outsideYears');
}
