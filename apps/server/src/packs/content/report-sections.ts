import { REPORT_QUERIES, type ReportKey, type ReportRowDto } from '@wise-margin/contract';
import type { Section } from '@wise-margin/core';

import { refused } from '../../http/problem.ts';
import { type ReportQueries, type WholeReport, wholeReport } from '../../ledger/index.ts';
import { type SectionContext, type SectionSources, statementQuery } from './section-context.ts';
import type { Filled } from './statement-sections.ts';

/** Rows of a report that a pack takes; a longer one is exported from the ledger. */
const MOST_ROWS = 4000;
type Of<Kind extends Section['kind']> = Extract<Section, { readonly kind: Kind }>;

/** Receivables or payables by age at the section's day. */
export async function agingSection(sources: SectionSources, section: Of<'aging'>, context: SectionContext): Promise<Filled> {
  const query = { kind: section.of, asOf: context.date.to, detail: section.detail ? 'yes' : 'no' };
  return filledReport(await reportOf(sources, { key: 'aging', query, context }), { context, ignoresSlice: true });
}

/** The largest customers or vendors of the section's month, the others together. */
export async function partiesSection(sources: SectionSources, section: Of<'parties'>, context: SectionContext): Promise<Filled> {
  const report = await reportOf(sources, { key: 'activity', query: { kind: section.of, range: rangeOf(context) }, context });
  const lines = report.rows.filter(({ kind }) => kind === 'line');
  const largest = [...lines].sort((a, b) => amountOf(b) - amountOf(a)).slice(0, section.count);
  const left = lines.filter((row) => !largest.includes(row));
  const sum = (at: number): number => left.reduce((total, { cells }) => total + (typeof cells[at] === 'number' ? cells[at] : 0), 0);
  const noun = section.of === 'customers' ? 'customers' : 'vendors';
  const others: ReportRowDto[] =
    left.length === 0
      ? []
      : [
          {
            kind: 'line',
            link: null,
            // a percentage of several is not shown: it is of the total below
            cells: report.columns.map(({ kind }, at) => (at === 0 ? `${left.length} other ${noun}` : kind === 'amount' ? sum(at) : null)),
          },
        ];
  const rows = [...largest, ...others, ...report.rows.filter(({ kind }) => kind === 'total')];
  return filledReport({ ...report, rows }, { context, ignoresSlice: false });
}

const amountOf = ({ cells }: ReportRowDto): number => (typeof cells[1] === 'number' ? cells[1] : 0);

export async function trialBalanceSection(sources: SectionSources, section: Of<'trialBalance'>, context: SectionContext): Promise<Filled> {
  const query = { range: rangeOf(context), compare: section.compare };
  return filledReport(await reportOf(sources, { key: 'trial-balance', query, context }), { context, ignoresSlice: false });
}

/** Every posting of the accounts of a class. */
export async function accountDetailSection(
  sources: SectionSources,
  section: Of<'accountDetail'>,
  context: SectionContext,
): Promise<Filled> {
  const query = { range: rangeOf(context), class: section.accountClass };
  const report = await reportOf(sources, { key: 'account-detail', query, context });
  return filledReport({ ...report, parts: null }, { context, ignoresSlice: false });
}

const rangeOf = ({ date }: SectionContext): string => `${date.from}..${date.to}`;

/** A report with the choices given, everything else as usual. */
async function reportOf<Key extends ReportKey>(
  { reports }: SectionSources,
  { key, query, context }: { readonly key: Key; readonly query: Readonly<Record<string, unknown>>; readonly context: SectionContext },
): Promise<WholeReport> {
  const { filter } = statementQuery(context);
  const asked = REPORT_QUERIES[key].parse(key === 'aging' ? query : { ...query, filter }) as ReportQueries[Key];
  const { books, report } = await reports.report(context.books.id, key, asked);
  return wholeReport(report, { name: books.name, exponent: books.currency.exponent }, { most: MOST_ROWS, what: 'pack' });
}

function filledReport(
  report: WholeReport,
  { context, ignoresSlice }: { readonly context: SectionContext; readonly ignoresSlice: boolean },
): Filled {
  if (report.rows.length === 0) throw refused(`${report.title}: the ledger has nothing for this date.`);
  const isSliced = Object.keys(context.slice).length > 0;
  return {
    blocks: [{ kind: 'report', report: { ...report, notes: report.notes.filter(({ isHint }) => isHint !== true) } }],
    notes: ignoresSlice && isSliced ? ['Open items are kept for the whole company, not by department.'] : [],
  };
}
