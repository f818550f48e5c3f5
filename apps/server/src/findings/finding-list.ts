import type { FindingDto, FindingsDto, findingsQuerySchema, MaterialityDto, MaterialityPreviewDto } from '@wise-margin/contract';
import {
  type Comparison,
  findingColumns,
  type FindingSpan,
  longPeriodName,
  type Materiality,
  type MaterialVariance,
  materialVariances,
  periodAt,
  type PeriodIndex,
  periodOfYear,
  PERIODS_PER_YEAR,
  shortPeriodName,
  type StatementGrid,
} from '@wise-margin/core';
import { comparisonWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import { type Books, type BooksCache, periodOf } from '../companies/index.ts';
import type { StatementService } from '../statements/index.ts';
import type { FindingRecords, FindingRow } from './finding-records.ts';
import { materialityOf, type MaterialityStore } from './materiality-store.ts';

/** More than a person will read; a limit is wrong then. */
const MOST_LISTED = 500;
const SPANS: readonly FindingSpan[] = ['month', 'yearToDate'];
const REVERSED = 0.5;

type Asked = { readonly view: string; readonly comparison: Comparison; readonly budget?: number | undefined };
type Found = MaterialVariance & { readonly span: FindingSpan };
/** What is past its limit in one month, by line. */
type MonthFound = { readonly month: PeriodIndex; readonly grid: StatementGrid; readonly byLine: ReadonlyMap<string, readonly Found[]> };

/** The variances past their limits, with what was said about them. */
export class FindingList {
  readonly #booksCache: BooksCache;
  readonly #statements: StatementService;
  readonly #materiality: MaterialityStore;
  readonly #records: FindingRecords;

  constructor(options: {
    readonly booksCache: BooksCache;
    readonly statements: StatementService;
    readonly materiality: MaterialityStore;
    readonly records: FindingRecords;
  }) {
    this.#booksCache = options.booksCache;
    this.#statements = options.statements;
    this.#materiality = options.materiality;
    this.#records = options.records;
  }

  /**
   * Findings as of a month: those of the month and its year to date, and those of earlier months of the year that nobody
   * answered and whose line is no finding now. The largest effect on operating income first.
   */
  async list(companyId: number, query: z.infer<typeof findingsQuerySchema>): Promise<FindingsDto> {
    const books = await this.#booksCache.of(companyId);
    const asOf = periodOf(books, query.asOf);
    const { materiality } = await this.#materiality.of(books);
    const from = Math.max(0, asOf - PERIODS_PER_YEAR + 1);
    const months: MonthFound[] = [];
    for (let month = from; month <= asOf; month += 1)
      months.push(await this.#month(books, month as PeriodIndex, { ...query, materiality }));
    const rows = await this.#records.all({ companyId, view: query.view, comparison: query.comparison });
    const rowOf = new Map(rows.map((row) => [`${row.line} ${row.month}`, row]));
    const now = months.at(-1)!;
    const yearStart = periodOfYear(books.calendar, periodAt(books.calendar, asOf).year, 1)!;
    const findings = [...now.byLine].map(([line, found]) => findingOf(books, { line, found, at: now, months, rowOf, isEarlier: false }));
    const listed = new Set(now.byLine.keys());
    for (const earlier of months.slice(0, -1).reverse()) {
      if (earlier.month < yearStart) break;
      for (const [line, found] of earlier.byLine) {
        // a subtotal of a month gone by adds nothing to its lines
        const own = found.filter(({ span, line: index }) => span === 'month' && earlier.grid.plan.lines[index]!.kind === 'accounts');
        if (
          own.length === 0 ||
          listed.has(line) ||
          !isUnanswered(rowOf.get(`${line} ${keyOf(books, earlier.month)}`), { books, months, line })
        )
          continue;
        const largest = largestOpen(line, { months, yearStart, asOf, rowOf, books });
        if (largest === null) continue;
        listed.add(line);
        findings.push(findingOf(books, { line, ...largest, months, rowOf, isEarlier: true }));
      }
    }
    findings.sort(
      (a, b) =>
        Math.abs(b.spans[0]!.effect) - Math.abs(a.spans[0]!.effect) ||
        Math.abs(b.spans[0]!.unexplained) - Math.abs(a.spans[0]!.unexplained),
    );
    return {
      asOf: query.asOf,
      asOfWords: longPeriodName(books.calendar, asOf),
      comparison: query.comparison,
      against: comparisonWords(query.comparison),
      findings: findings.slice(0, MOST_LISTED),
      count: findings.length,
      missing: missingOf(now.grid, query.comparison),
    };
  }

  /** How many findings some limits give in each of the twelve months to an as-of month. Earlier ones without an answer are not counted. */
  async preview(
    companyId: number,
    { materiality, ...query }: z.infer<typeof findingsQuerySchema> & { readonly materiality: MaterialityDto },
  ): Promise<MaterialityPreviewDto> {
    const books = await this.#booksCache.of(companyId);
    const asOf = periodOf(books, query.asOf);
    const months: MaterialityPreviewDto['months'] = [];
    for (let month = Math.max(books.firstPosted ?? 0, asOf - PERIODS_PER_YEAR + 1); month <= asOf; month += 1) {
      const { byLine } = await this.#month(books, month as PeriodIndex, { ...query, materiality: materialityOf(materiality) });
      months.push({
        month: keyOf(books, month as PeriodIndex),
        name: shortPeriodName(books.calendar, month as PeriodIndex),
        findings: byLine.size,
      });
    }
    return { months };
  }

  /** Lines of the income statement that a limit of their own can be set for. */
  async lines(companyId: number): Promise<{ readonly key: string; readonly name: string }[]> {
    const books = await this.#booksCache.of(companyId);
    if (books.lastActual === null) return [];
    const { grid } = await this.#statements.evaluated(companyId, 'income', {
      asOf: keyOf(books, books.lastActual),
      filter: {},
      columnSet: findingColumns('budget'),
    });
    const { lines } = grid.plan;
    const isListed = ({ kind, hidden, parent }: (typeof lines)[number]): boolean =>
      !hidden && (kind === 'total' || kind === 'formula' || (kind === 'accounts' && lines[parent]?.kind !== 'accounts'));
    return lines.filter(isListed).map(({ key, name }) => ({ key, name }));
  }

  async #month(
    books: Books,
    month: PeriodIndex,
    { view, comparison, budget, materiality }: Asked & { readonly materiality: Materiality },
  ): Promise<MonthFound> {
    const { grid } = await this.#statements.evaluated(books.id, view, {
      asOf: keyOf(books, month),
      budget,
      filter: {},
      columnSet: findingColumns(comparison),
    });
    const byLine = new Map<string, Found[]>();
    for (const span of SPANS) {
      const at = (key: string) => grid.plan.columns.findIndex((column) => column.key === `${span}.${key}`);
      const columns = { compared: at('compared'), base: at('base') };
      if (columns.compared < 0) continue;
      for (const found of materialVariances(grid, { columns, span, view, materiality })) {
        const { key } = grid.plan.lines[found.line]!;
        byLine.set(key, [...(byLine.get(key) ?? []), { ...found, span }]);
      }
    }
    return { month, grid, byLine };
  }
}

const keyOf = (books: Books, month: PeriodIndex): string => periodAt(books.calendar, month).key;

/** The earlier month of the year, still without an answer, in which a line had its largest variance. */
function largestOpen(
  line: string,
  {
    months,
    yearStart,
    asOf,
    rowOf,
    books,
  }: {
    readonly months: readonly MonthFound[];
    readonly yearStart: number;
    readonly asOf: number;
    readonly rowOf: ReadonlyMap<string, FindingRow>;
    readonly books: Books;
  },
): { readonly at: MonthFound; readonly found: readonly Found[] } | null {
  let best: { readonly at: MonthFound; readonly found: readonly Found[] } | null = null;
  for (const at of months) {
    if (at.month < yearStart || at.month >= asOf) continue;
    const found = (at.byLine.get(line) ?? []).filter(({ span }) => span === 'month');
    if (found.length === 0 || !isUnanswered(rowOf.get(`${line} ${keyOf(books, at.month)}`), { books, months, line })) continue;
    if (best === null || Math.abs(found[0]!.unexplained) > Math.abs(best.found[0]!.unexplained)) best = { at, found };
  }
  return best;
}

/** Whether a finding waits for an answer: it is open, or was explained as timing and the month after it did not take it back. */
function isUnanswered(
  row: FindingRow | undefined,
  of: { readonly books: Books; readonly months: readonly MonthFound[]; readonly line: string },
): boolean {
  if (!row || row.status === 'open' || row.status === 'needsCorrection') return true;
  return isNotReversed(row, of);
}

function isNotReversed(
  row: FindingRow | undefined,
  { books, months, line }: { readonly books: Books; readonly months: readonly MonthFound[]; readonly line: string },
): boolean {
  if (!row || row.is_timing !== 1 || row.status !== 'explained') return false;
  const at = months.findIndex(({ month }) => keyOf(books, month) === row.month);
  const next = months[at + 1];
  if (at < 0 || !next) return false;
  const back = varianceIn(next.grid, line);
  return back === null || back > 0 === row.variance > 0 || Math.abs(back) < REVERSED * Math.abs(row.variance);
}

function varianceIn({ plan, cells }: StatementGrid, line: string): number | null {
  const row = plan.lineOfKey.get(line) ?? plan.lines.findIndex(({ key }) => key === line);
  const cell = cells[row]?.[plan.columns.findIndex(({ key }) => key === 'month.variance')];
  return cell?.kind === 'amount' ? cell.value : null;
}

function findingOf(
  books: Books,
  {
    line,
    found,
    at,
    months,
    rowOf,
    isEarlier,
  }: {
    readonly line: string;
    readonly found: readonly Found[];
    readonly at: MonthFound;
    readonly months: readonly MonthFound[];
    readonly rowOf: ReadonlyMap<string, FindingRow>;
    readonly isEarlier: boolean;
  },
): FindingDto {
  const planned = at.grid.plan.lines[found[0]!.line]!;
  const month = keyOf(books, at.month);
  const row = rowOf.get(`${line} ${month}`);
  const before = months[months.indexOf(at) - 1];
  const rowBefore = before && rowOf.get(`${line} ${keyOf(books, before.month)}`);
  const spans = [...found].sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect) || Math.abs(b.unexplained) - Math.abs(a.unexplained));
  const { variance } = spans[0]!;
  return {
    line,
    name: planned.name,
    isSubtotal: planned.kind !== 'accounts',
    month,
    monthName: shortPeriodName(books.calendar, at.month),
    isEarlier,
    spans: spans.map(({ span, compared, base, variance: own, unexplained, effect }) => ({
      span,
      compared,
      base,
      variance: own,
      unexplained,
      percent: base === 0 ? null : own / Math.abs(base),
      effect,
    })),
    favor: planned.polarity === 'neutral' ? null : variance > 0 === (planned.polarity === 'higherIsBetter') ? 'F' : 'U',
    monthsInRow: monthsInRow(line, { at, months }),
    notReversed: isNotReversed(rowBefore, { books, months, line }) || isNotReversed(row, { books, months, line }),
    status: row?.status ?? 'open',
    owner: row?.owner ?? '',
    due: row?.due ?? null,
    hasComment: (row?.comment ?? '') !== '',
    questions: row?.questions ?? 0,
  };
}

/** Months up to this one in which a line was a finding of its month on the same side, without a gap; of the year to date alone it is the first. */
function monthsInRow(line: string, { at, months }: { readonly at: MonthFound; readonly months: readonly MonthFound[] }): number {
  let count = 0;
  let side = 0;
  for (let index = months.indexOf(at); index >= 0; index -= 1) {
    const found = months[index]!.byLine.get(line)?.find(({ span }) => span === 'month');
    if (!found || (side !== 0 && Math.sign(found.variance) !== side)) break;
    side = Math.sign(found.variance);
    count += 1;
  }
  return Math.max(count, 1);
}

/** Why nothing is compared: no budget, no year before. Null when something is. */
function missingOf({ plan, cells }: StatementGrid, comparison: Comparison): string | null {
  const base = plan.columns.filter(({ key }) => key.endsWith('.base'));
  const has = plan.lines.some(({ index }) => base.some((column) => cells[index]![column.index]!.kind === 'amount'));
  if (has) return null;
  return {
    budget: 'There is no budget for this year. Create one on Budgets, or compare with the prior year.',
    priorYear: 'The ledger has no postings in the same months a year before.',
    priorMonth: 'The ledger has no postings in the month before.',
    projection: 'There is no budget to project the year with. Create one on Budgets.',
  }[comparison];
}
