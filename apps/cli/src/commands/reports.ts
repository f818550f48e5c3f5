import { REPORT_QUERIES, type ReportKey } from '@wise-margin/contract';
import { isFigureColumn, reportCellText, reportCellValue } from '@wise-margin/presentation';
import type { Application, ReportQueries } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

/** The options of all reports, as typed. */
export type ReportOptions = Readonly<Record<string, string | boolean | undefined>>;
const ROWS_A_PART = 2000;

const text = (options: ReportOptions, name: string): string | undefined => (typeof options[name] === 'string' ? options[name] : undefined);
const yes = (options: ReportOptions, name: string): 'yes' | undefined => (options[name] === true ? 'yes' : undefined);

/** The range the options name: `--range`, `--from` and `--to`, or the fiscal year to `--as-of`. */
async function rangeOf(application: Application, companyId: number, options: ReportOptions): Promise<string> {
  const [range, from, to, asOf] = ['range', 'from', 'to', 'as-of'].map((name) => text(options, name));
  if (range !== undefined) return range;
  if (from !== undefined && to !== undefined) return `${from} to ${to}`;
  if (from !== undefined || to !== undefined) return (from ?? to)!;
  if (asOf === undefined)
    throw new UsageError('name the months by --from 2026-04 --to 2026-06, by --range "Q1 FY2027", or by --as-of 2026-10');
  const { calendar } = await application.booksCache.of(companyId);
  const period = calendar.periods.find(({ key }) => key === asOf);
  if (!period) return asOf;
  return `${calendar.periods[period.index - (period.number - 1)]!.key} to ${asOf}`;
}

function filterOf(options: ReportOptions): Record<string, string[]> {
  const filter: Record<string, string[]> = {};
  for (const [option, name] of [
    ['department', 'department'],
    ['journal', 'source'],
  ] as const) {
    const value = text(options, option);
    if (value !== undefined) filter[name] = [value === 'none' ? '' : value];
  }
  return filter;
}

const kindOf = (options: ReportOptions, kinds: readonly [string, string]): string => {
  const kind = text(options, 'kind') ?? kinds[0];
  if (!kinds.includes(kind)) throw new UsageError(`--kind is ${kinds.join(' or ')}, not ${kind}`);
  return kind;
};

/** A report's query from the options, without those that were not given. */
async function queryOf(
  key: ReportKey,
  options: ReportOptions,
  { application, companyId }: { readonly application: Application; readonly companyId: number },
): Promise<object> {
  const ranged = async () => ({
    range: await rangeOf(application, companyId, options),
    filter: filterOf(options),
    drafts: yes(options, 'drafts'),
  });
  switch (key) {
    case 'trial-balance':
      return { ...(await ranged()), compare: text(options, 'compare'), zero: yes(options, 'zero'), inactive: yes(options, 'inactive') };
    case 'account-detail':
      return {
        ...(await ranged()),
        accounts: text(options, 'accounts'),
        class: text(options, 'class'),
        find: text(options, 'find'),
        idle: yes(options, 'idle'),
      };
    case 'journals':
      return { ...(await ranged()), detail: yes(options, 'detail') };
    case 'activity':
      return { ...(await ranged()), kind: kindOf(options, ['customers', 'vendors']) };
    case 'aging': {
      const months = text(options, 'months');
      return {
        kind: kindOf(options, ['receivables', 'payables']),
        asOf: text(options, 'as-of'),
        by: text(options, 'by'),
        per: months === undefined ? 'days' : 'months',
        size: months ?? text(options, 'days'),
        count: text(options, 'buckets'),
        detail: yes(options, 'detail'),
        percents: text(options, 'percents'),
      };
    }
  }
}

/** Prints a report: figures exact for CSV and JSON, as read for a table. */
export async function printReport(key: ReportKey, application: Application, options: ReportOptions): Promise<Answer> {
  const company = await chosenCompany(application, text(options, 'company'));
  const asked = Object.fromEntries(
    Object.entries(await queryOf(key, options, { application, companyId: company.id })).filter(([, value]) => value !== undefined),
  );
  const query = REPORT_QUERIES[key].parse(asked) as ReportQueries[typeof key];
  const { books, report } = await application.reports.report(company.id, key, query);
  const { exponent } = books.currency;
  const rows = [];
  for (let from = 0; from < report.count; from += ROWS_A_PART) rows.push(...(await report.rows(from, from + ROWS_A_PART)));
  const figures = new Set(report.columns.flatMap((column, at) => (isFigureColumn(column) ? [at] : [])));
  const exact = rows
    .filter(({ kind }) => kind !== 'section')
    .map(({ cells }) => report.columns.map((column, at) => reportCellValue(cells[at]!, column, exponent)));
  const headings = report.columns.map(({ heading }) => heading);
  return {
    title: [company.name, report.title, ...report.words, ...report.notes.map((note) => note.text)].join('\n'),
    headings,
    rows: rows.map(({ cells }) => report.columns.map((column, at) => reportCellText(cells[at]!, column, { unit: report.unit, exponent }))),
    figures,
    csv: { headings, rows: exact, figures },
    json: {
      company: company.name,
      report: report.title,
      words: report.words,
      currency: books.currency.code,
      rows: exact.map((row) => Object.fromEntries(report.columns.map((column, at) => [column.key, row[at]]))),
      notes: report.notes.map((note) => note.text),
    },
  };
}
