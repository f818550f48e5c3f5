import {
  type Account,
  type AccountClass,
  BalanceCube,
  type BalanceLayer,
  compareNaturally,
  currency,
  type DimensionCombination,
  type FiscalCalendar,
  isIncomeAccount,
  type LastActual,
  lastActualMonth,
  type Minor,
  monthCalendar,
  NO_FILTER,
  passes,
  periodAt,
  type PeriodIndex,
  periodOfYear,
  PERIODS_PER_YEAR,
  type Polarity,
  proposedAggregation,
  slotCount,
  slotOfYear,
  type StatisticOver,
} from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import type { CompanyRow } from '../database/models.ts';
import type { Books, StatisticSeries } from './books.ts';
import { loadNonrecurring } from './nonrecurring.ts';

/** Reads a company's books as the database has them now. */
export async function loadBooks(database: Database, company: CompanyRow): Promise<Books> {
  const accountRows = await database.models.accounts.findAll({ where: { companyId: company.id }, order: [['position', 'ASC']] });
  const accounts: Account[] = accountRows.map((row) => ({
    number: row.number,
    name: row.name,
    class: row.class as AccountClass,
    group: row.groupName,
    active: Boolean(row.active),
    polarity: row.polarity as Polarity | null,
    cashflow: row.cashflow,
  }));
  const years = (await database.models.fiscalYears.findAll({ where: { companyId: company.id }, order: [['year', 'ASC']] })).map(
    (row) => row.year,
  );
  const fallback = Number(company.createdAt.slice(0, 4));
  const calendar = monthCalendar({
    startMonth: company.startMonth,
    firstYear: years[0] ?? fallback,
    lastYear: years.at(-1) ?? fallback,
    hasAdjustmentPeriod: Boolean(company.hasAdjustmentPeriod),
  });
  const combinationRows = await database.select<{ id: number; dimension_values: string }>(
    'SELECT id, dimension_values FROM combinations WHERE company_id = $1',
    [company.id],
  );
  const combinations = new Map(combinationRows.map((row) => [row.id, JSON.parse(row.dimension_values) as DimensionCombination]));
  const dimensionRows = await database.select<{ name: string }>('SELECT name FROM dimensions WHERE company_id = $1 ORDER BY id', [
    company.id,
  ]);
  const parties = await database.select<{ name: string }>('SELECT name FROM parties WHERE company_id = $1 ORDER BY name COLLATE NOCASE', [
    company.id,
  ]);
  const sources = await database.select<{ source: string }>(
    `SELECT DISTINCT source FROM entries WHERE company_id = $1 ORDER BY source = '', source COLLATE NOCASE`,
    [company.id],
  );
  const cube = new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  const balances = await database.select<{ position: number; period_code: number; combination_id: number; layer: string; net: number }>(
    `SELECT a.position, b.period_code, b.combination_id, b.layer, b.debit - b.credit AS net FROM balances b JOIN accounts a ON a.id = b.account_id
     WHERE b.company_id = $1 AND b.layer <> 'draft'`,
    [company.id],
  );
  let first = Infinity;
  let last = -Infinity;
  cube.post(
    balances.map((row) => {
      const year = Math.floor(row.period_code / 100);
      const number = row.period_code % 100;
      const period = (year - calendar.firstYear) * 12 + Math.min(number, 12) - 1;
      first = Math.min(first, period);
      last = Math.max(last, period);
      const slot = slotOfYear(calendar, year, number);
      if (slot === null) throw new RangeError(`a balance is in period ${row.period_code}, outside the fiscal years of ${company.name}`);
      return {
        account: row.position,
        slot,
        combination: combinations.get(row.combination_id)!,
        layer: row.layer as BalanceLayer,
        amount: row.net as Minor,
      };
    }),
  );
  const valuesOf = (name: string) =>
    [...new Set([...combinations.values()].map((values) => values[name] ?? ''))].sort(
      (a, b) => Number(a === '') - Number(b === '') || compareNaturally(a, b),
    );
  const posted = {
    firstPosted: Number.isFinite(first) ? periodAt(calendar, first as PeriodIndex).index : null,
    lastPosted: Number.isFinite(last) ? periodAt(calendar, last as PeriodIndex).index : null,
  };
  const actuals = await lastActualOf(database, { id: company.id, calendar, cube, chart: { accounts }, ...posted });
  return {
    id: company.id,
    name: company.name,
    version: company.version,
    currency: currency(company.currency),
    startMonth: company.startMonth,
    chart: { accounts },
    accountIds: accountRows.map((row) => row.id),
    calendar,
    years,
    cube,
    dimensions: dimensionRows.map(({ name }) => ({ name, values: valuesOf(name) })),
    combinations,
    parties: parties.map(({ name }) => name).sort(compareNaturally),
    sourceJournals: sources.map(({ source }) => source).sort((a, b) => Number(a === '') - Number(b === '') || compareNaturally(a, b)),
    statistics: await loadStatistics(database, company.id, calendar),
    ...posted,
    lastActual: actuals.month,
    actuals,
    nonrecurring: await loadNonrecurring(database, { id: company.id, chart: { accounts }, calendar, combinations }),
  };
}

/** Books after a change of entries: version, posted months and nonrecurring items are read again; the rest is unchanged. */
export async function changedBooks(database: Database, books: Books): Promise<Books> {
  const [posted] = await database.select<{ first: number | null; last: number | null }>(
    `SELECT min(period_code) AS first, max(period_code) AS last FROM balances WHERE company_id = $1 AND layer <> 'draft'`,
    [books.id],
  );
  const periodOfCode = (code: number | null) =>
    code === null ? null : periodOfYear(books.calendar, Math.floor(code / 100), Math.min(code % 100, 12));
  const changed = { firstPosted: periodOfCode(posted!.first), lastPosted: periodOfCode(posted!.last) };
  const actuals = await lastActualOf(database, { ...books, ...changed });
  return {
    ...books,
    ...changed,
    version: books.version + 1,
    lastActual: actuals.month,
    actuals,
    nonrecurring: await loadNonrecurring(database, books),
  };
}

/** The last month of actuals, from the closed months, what a person chose, and what is posted. */
async function lastActualOf(
  database: Database,
  books: Pick<Books, 'id' | 'calendar' | 'cube' | 'chart' | 'firstPosted' | 'lastPosted'>,
): Promise<LastActual> {
  const { calendar } = books;
  const periodOfCode = (code: number | null) =>
    code === null ? null : periodOfYear(calendar, Math.floor(code / 100), Math.min(code % 100, PERIODS_PER_YEAR));
  const [row] = await database.select<{ closed: number | null; chosen: number | null; insteadOf: number | null }>(
    `SELECT (SELECT max(period_code) FROM period_states WHERE company_id = $1 AND state <> 'open' AND period_code % 100 <= $2) AS closed,
       last_actual AS chosen, last_actual_instead_of AS insteadOf FROM companies WHERE id = $1`,
    [books.id, PERIODS_PER_YEAR],
  );
  const chosen = periodOfCode(row?.chosen ?? null);
  const insteadOf = periodOfCode(row?.insteadOf ?? null);
  return lastActualMonth({
    ...books,
    slab: books.cube.slab(NO_FILTER),
    accounts: books.chart.accounts.length,
    closed: periodOfCode(row?.closed ?? null),
    chosen: chosen === null || insteadOf === null ? null : { month: chosen, insteadOf },
  });
}

async function loadStatistics(database: Database, companyId: number, calendar: FiscalCalendar): Promise<StatisticSeries> {
  const rows = await database.select<{ series: string; period_code: number; dimension_values: string; value: number }>(
    'SELECT series, period_code, dimension_values, value FROM statistics WHERE company_id = $1 ORDER BY series COLLATE NOCASE',
    [companyId],
  );
  const held = new Map<string, Map<number, { readonly dimensions: DimensionCombination; readonly value: number }[]>>();
  for (const row of rows) {
    const period = periodOfYear(calendar, Math.floor(row.period_code / 100), row.period_code % 100);
    if (period === null) continue;
    const series = held.get(row.series) ?? new Map();
    held.set(row.series, series);
    series.set(period, [
      ...(series.get(period) ?? []),
      { dimensions: JSON.parse(row.dimension_values) as DimensionCombination, value: row.value },
    ]);
  }
  const chosen = new Map(
    (
      await database.select<{ series: string; aggregation: StatisticOver }>(
        'SELECT series, aggregation FROM statistic_series WHERE company_id = $1',
        [companyId],
      )
    ).map(({ series, aggregation }) => [series, aggregation]),
  );
  const aggregations = new Map(
    [...held].map(([series, periods]) => {
      const months = [...periods.values()].map((figures) => figures.reduce((sum, { value }) => sum + value, 0));
      return [series, chosen.get(series) ?? proposedAggregation(series, months)];
    }),
  );
  return {
    series: [...held.keys()],
    aggregation: (series) => aggregations.get(series) ?? proposedAggregation(series, []),
    value: (series, filter, period) => {
      const passing = (held.get(series)?.get(period) ?? []).filter(({ dimensions }) => passes(filter, dimensions));
      return passing.length === 0 ? null : passing.reduce((sum, { value }) => sum + value, 0);
    },
    figures: (period) => [...held].flatMap(([series, periods]) => (periods.get(period) ?? []).map((figure) => ({ series, ...figure }))),
  };
}
