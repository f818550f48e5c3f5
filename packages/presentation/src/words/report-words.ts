import type { ReportColumnDto, ReportDto, ReportRowDto } from '@wise-margin/contract';
import {
  type FiscalCalendar,
  formatAmount,
  type Minor,
  periodOfDate,
  type RangeIssue,
  type ReportRange,
  spanWords,
  toDecimalText,
} from '@wise-margin/core';

import { figureText } from './cell-text.ts';

const DAY = new Intl.DateTimeFormat('en-US', { year: 'numeric', month: 'short', day: 'numeric', timeZone: 'UTC' });
/** `Nov 9, 2026` */
export const dayWords = (date: string): string => DAY.format(new Date(`${date}T00:00:00Z`));

/** `Apr to Oct 2026` for whole months, else `Oct 10, 2026 to Oct 20, 2026`. */
export function rangeWords(calendar: FiscalCalendar, { from, to, slots }: ReportRange): string {
  if (!slots) return from === to ? dayWords(from) : `${dayWords(from)} to ${dayWords(to)}`;
  return spanWords(calendar, { from: periodOfDate(calendar, from)!, to: periodOfDate(calendar, to)! });
}

/** Why a typed range cannot be taken, with what to enter. */
export function rangeIssueWords(
  { code, text }: RangeIssue,
  { firstYear, lastYear }: Pick<FiscalCalendar, 'firstYear' | 'lastYear'>,
): string {
  switch (code) {
    case 'unreadable':
      return `“${text}” is not a date or range. Enter a month (Oct 2026), a range (Apr 2026 to Jun 2026), a quarter (Q1 FY2027) or a year (FY2027).`;
    case 'outsideYears':
      return `“${text}” is outside the fiscal years, FY${firstYear} to FY${lastYear}.`;
    case 'reversed':
      return `“${text}” ends before it starts. Exchange the two dates.`;
  }
}

type Cell = ReportRowDto['cells'][number];
type Format = Pick<ReportDto, 'unit'> & { readonly exponent: number };

/** A cell of a report as it is read: amounts in the report's unit, dates in words, percentages with one decimal. */
export function reportCellText(cell: Cell, { kind }: Pick<ReportColumnDto, 'kind'>, { unit, exponent }: Format): string {
  if (cell === null || cell === '') return '';
  if (kind === 'date') return typeof cell === 'string' && /^\d{4}-\d\d-\d\d$/.test(cell) ? dayWords(cell) : String(cell);
  if (typeof cell === 'string') return cell;
  switch (kind) {
    case 'amount':
      return formatAmount(cell as Minor, { exponent, unit });
    case 'percent':
      return figureText({ kind: 'ratio', unit: 'percent', value: cell }, { exponent, unit });
    default:
      return cell.toLocaleString('en-US');
  }
}

/** A cell for files: exact decimals whatever the unit, dates as YYYY-MM-DD, percentages in percent with up to six decimals. */
export function reportCellValue(cell: Cell, { kind }: Pick<ReportColumnDto, 'kind'>, exponent: number): string {
  if (cell === null || typeof cell === 'string') return cell ?? '';
  if (kind === 'amount') return toDecimalText(cell as Minor, exponent);
  if (kind !== 'percent') return String(cell);
  const percent = Math.round(cell * 1e8) / 1e6;
  return String(percent === 0 ? 0 : percent);
}

/** Whether a column holds figures, which are set to the right. */
export const isFigureColumn = ({ kind }: Pick<ReportColumnDto, 'kind'>): boolean =>
  kind === 'amount' || kind === 'percent' || kind === 'count';
