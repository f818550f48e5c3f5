import type { CompanyDto, CompanyListDto } from '@wise-margin/contract';
import {
  CASH_FLOW,
  CASH_FLOW_PARTS,
  type DimensionFilter,
  longPeriodName,
  nearMatches,
  periodAt,
  type PeriodIndex,
  periodOfKey,
  shortPeriodName,
} from '@wise-margin/core';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';
import { type Books, knownDimensions } from './books.ts';
import type { BooksCache } from './books-cache.ts';
import { LogoStore } from './logo.ts';

/** Companies in the order they were made. */
export async function listCompanies(database: Database): Promise<CompanyListDto> {
  return (await database.models.companies.findAll({ order: [['id', 'ASC']] })).map(({ id, name, isDemo }) => ({
    id,
    name,
    isDemo: Boolean(isDemo),
  }));
}

export async function describeCompany(database: Database, books: Books): Promise<CompanyDto> {
  const [counts] = await database.select<{ entries: number; drafts: number }>(
    `SELECT count(*) AS entries, coalesce(sum(state = 'draft'), 0) AS drafts FROM entries WHERE company_id = $1 AND state <> 'discarded'`,
    [books.id],
  );
  const logo = await new LogoStore(database).of(books.id);
  const keyOf = (index: PeriodIndex | null) => (index === null ? null : periodAt(books.calendar, index).key);
  return {
    id: books.id,
    version: books.version,
    name: books.name,
    currency: books.currency.code,
    currencyWords: books.currency.words,
    exponent: books.currency.exponent,
    startMonth: books.startMonth,
    hasAdjustmentPeriod: books.calendar.hasAdjustmentPeriod,
    years: [...books.years],
    periods: books.calendar.periods.map((period) => ({
      key: period.key,
      year: period.year,
      number: period.number,
      name: shortPeriodName(books.calendar, period.index),
      longName: longPeriodName(books.calendar, period.index),
    })),
    lastPosted: keyOf(books.lastPosted),
    firstPosted: keyOf(books.firstPosted),
    lastActual: keyOf(books.lastActual),
    actuals: {
      basis: books.actuals.basis,
      proposed: keyOf(books.actuals.proposed),
      unclear: books.actuals.unclear && { ...books.actuals.unclear, month: keyOf(books.actuals.unclear.month)! },
    },
    dimensions: books.dimensions.map(({ name, values }) => ({ name, values: [...values] })),
    furtherDimensions: [...knownDimensions(books).keys()].filter((name) => books.dimensions.every((each) => each.name !== name)),
    statistics: [...books.statistics.series],
    aggregations: Object.fromEntries(books.statistics.series.map((series) => [series, books.statistics.aggregation(series)])),
    currencySign: books.currency.sign,
    logo: logo ? `/api/companies/${books.id}/logo?version=${logo.version}` : null,
    accountCount: books.chart.accounts.length,
    entryCount: counts!.entries,
    draftCount: counts!.drafts,
  };
}

/**
 * Opens the fiscal year after the last or before the first one held.
 * @throws ProblemError 422 when the year would leave a gap
 */
export async function openFiscalYear(
  database: Database,
  booksCache: BooksCache,
  options: { companyId: number; year: number; actor: Actor },
): Promise<void> {
  const { companyId, year, actor } = options;
  const { years } = await booksCache.of(companyId);
  if (years.includes(year)) return;
  const first = years[0];
  const last = years.at(-1);
  if (first !== undefined && last !== undefined && year !== first - 1 && year !== last + 1) {
    throw refused(
      `Fiscal years follow one another. ${last - first > 0 ? `After FY${first} to FY${last}` : `Next to FY${first}`}, add FY${last + 1} or FY${first - 1}, not FY${year}.`,
      'year',
    );
  }
  await database.write(async (transaction) => {
    // another request may have added the year since
    if (await database.models.fiscalYears.findOne({ where: { companyId, year }, transaction })) return;
    await database.models.fiscalYears.create({ companyId, year }, { transaction });
    await database.models.companies.increment('version', { where: { id: companyId }, transaction });
    await recordAudit(database, { companyId, actor, action: 'fiscalYear.open', subject: `FY${year}`, details: {} }, transaction);
  });
}

/** The period a key names in a company's calendar. @throws ProblemError 422 when no fiscal year holds it */
export function periodOf(books: Books, key: string): PeriodIndex {
  const period = periodOfKey(books.calendar, key);
  if (period === null) {
    const { firstYear, lastYear } = books.calendar;
    throw refused(`${key} is outside the fiscal years of ${books.name}, FY${firstYear} to FY${lastYear}.`, 'asOf');
  }
  return period;
}

/** Rejects a filter that can match nothing, and lists the values there are. @throws ProblemError 422 */
export function refuseUnknownFilter(books: Books, filter: DimensionFilter): void {
  const known = new Map<string, readonly string[]>([...knownDimensions(books), [CASH_FLOW, Object.keys(CASH_FLOW_PARTS)]]);
  for (const [name, values] of Object.entries(filter)) {
    const there = known.get(name);
    if (!there)
      throw refused(`The ledger has no dimension "${name}". It has: ${[...knownDimensions(books).keys()].join(', ') || 'none'}.`, 'filter');
    const unknown = values.find((value) => value !== '' && !there.includes(value));
    if (unknown === undefined) continue;
    const near = nearMatches(
      unknown,
      there.filter((value) => value !== ''),
    );
    throw refused(
      near.length > 0
        ? `No line has the ${name} "${unknown}". Did you mean ${near.map((value) => `"${value}"`).join(' or ')}?`
        : `No line has the ${name} "${unknown}". There are: ${listed(there.filter((value) => value !== ''))}.`,
      'filter',
    );
  }
}

const MOST_LISTED = 12;
const listed = (values: readonly string[]): string =>
  values.length <= MOST_LISTED ? values.join(', ') : `${values.slice(0, MOST_LISTED).join(', ')} and ${values.length - MOST_LISTED} more`;
