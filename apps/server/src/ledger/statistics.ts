import type { StatisticsAnswerDto, StatisticsDto, StatisticsPreviewDto } from '@wise-margin/contract';
import {
  compareNaturally,
  type DimensionCombination,
  nearMatches,
  NO_FILTER,
  periodAt,
  type PeriodIndex,
  proposedAggregation,
  readStatisticsFile,
  type StatisticFact,
  type StatisticOver,
} from '@wise-margin/core';
import { statisticIssueWords } from '@wise-margin/presentation';

import { type Books, type BooksCache, periodCode } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { inspectFile } from '../formats/inspect-file.ts';
import { BrokenCsvError, readCsv } from '../formats/read-csv.ts';
import { notFound, ProblemError } from '../http/problem.ts';

const MOST_ROWS = 200_000;

/** Headcount, visits, guests: imports them from a file, all or nothing, and shows them by month. */
export class StatisticsService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /**
   * Looks at a file and tells what it would change; with the fingerprint of that look its values replace
   * those kept for the same series, period and slice.
   * @throws ProblemError 422 listing every bad row, or when the file is another than was looked at; nothing is changed then
   */
  async importFile(
    companyId: number,
    { path, fingerprint, actor }: { readonly path: string; readonly fingerprint?: string | undefined; readonly actor: Actor },
  ): Promise<StatisticsAnswerDto> {
    const { preview, facts } = await this.preview(companyId, path);
    if (fingerprint === undefined) return { kind: 'preview', preview };
    if (fingerprint !== preview.fingerprint)
      throw new ProblemError(422, 'Another file', 'This file is not the one that was previewed. Look at its preview first.');
    return { kind: 'imported', statistics: await this.#write(companyId, facts, actor) };
  }

  /** What a file holds and what of it is new. @throws ProblemError 422 listing every bad row */
  async preview(
    companyId: number,
    path: string,
  ): Promise<{ readonly preview: StatisticsPreviewDto; readonly facts: readonly StatisticFact[] }> {
    const books = await this.#booksCache.of(companyId);
    const { rows, sha256 } = await rowsOf(path);
    const { facts, issues } = readStatisticsFile(rows, books.calendar);
    if (issues.length > 0) {
      const errors = issues.map((issue) => ({ path: issue.row > 0 ? `row ${issue.row}` : 'file', message: statisticIssueWords(issue) }));
      const more = errors.length > 20 ? ` And ${errors.length - 20} more.` : '';
      const first = errors.slice(0, 20).map(({ message }) => message);
      throw new ProblemError(422, 'Statistics rejected', `Nothing was imported. ${first.join(' ')}${more}`).at(...errors);
    }
    return { preview: previewOf(books, facts, sha256), facts };
  }

  async #write(companyId: number, facts: readonly StatisticFact[], actor: Actor): Promise<StatisticsDto> {
    const books = await this.#booksCache.of(companyId);
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `INSERT INTO statistics (company_id, series, period_code, dimension_values, value)
         SELECT $1, value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($2) WHERE true ON CONFLICT DO UPDATE SET value = excluded.value`,
        [
          companyId,
          JSON.stringify(
            facts.map(({ series, period, dimensions, value }) => {
              const { year, number } = periodAt(books.calendar, period);
              const sorted = Object.fromEntries(Object.entries(dimensions).sort(([a], [b]) => (a < b ? -1 : 1)));
              return [series, periodCode(year, number), JSON.stringify(sorted), value];
            }),
          ),
        ],
        transaction,
      );
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'statistics.import', subject: 'statistics', details: { values: facts.length } },
        transaction,
      );
    });
    return this.byMonth(companyId);
  }

  /** Chooses how a series goes over several months. @throws ProblemError 404 for no such series */
  async setAggregation(
    companyId: number,
    { series, aggregation }: { readonly series: string; readonly aggregation: StatisticOver },
    actor: Actor,
  ): Promise<StatisticsDto> {
    const books = await this.#booksCache.of(companyId);
    if (!books.statistics.series.includes(series)) throw notFound(`statistic ${series}`);
    const before = books.statistics.aggregation(series);
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `INSERT INTO statistic_series (company_id, series, aggregation) VALUES ($1, $2, $3) ON CONFLICT DO UPDATE SET aggregation = excluded.aggregation`,
        [companyId, series, aggregation],
        transaction,
      );
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      const changes = [{ what: 'over several months', from: before, to: aggregation }];
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'statistics.aggregation', subject: series, details: {}, changes },
        transaction,
      );
    });
    return this.byMonth(companyId);
  }

  /** Every series by month, from the first month that has a value to the last. */
  async byMonth(companyId: number): Promise<StatisticsDto> {
    const books = await this.#booksCache.of(companyId);
    const { series, value } = books.statistics;
    const periods = books.calendar.periods.filter(({ index }) => series.some((name) => value(name, NO_FILTER, index) !== null));
    return {
      periods: periods.map(({ key }) => key),
      series: series.map((name) => ({
        name,
        aggregation: books.statistics.aggregation(name),
        values: periods.map(({ index }) => value(name, NO_FILTER, index)),
      })),
    };
  }
}

function previewOf(books: Books, facts: readonly StatisticFact[], fingerprint: string): StatisticsPreviewDto {
  const known = new Map(books.dimensions.map(({ name, values }) => [name, values]));
  const pairs = new Map(
    facts.flatMap(({ dimensions }) =>
      Object.entries(dimensions).map(([dimension, value]) => [JSON.stringify([dimension, value]), { dimension, value }]),
    ),
  );
  const newValues = [...pairs.values()].flatMap(({ dimension, value }) => {
    const values = known.get(dimension);
    return values === undefined || values.includes(value)
      ? []
      : [
          {
            dimension,
            value,
            near: nearMatches(
              value,
              values.filter((each) => each !== ''),
            ),
          },
        ];
  });
  const periods = facts.map(({ period }) => period).sort((a, b) => a - b);
  const keyOf = (period: PeriodIndex | undefined) => (period === undefined ? null : periodAt(books.calendar, period).key);
  const slices = new Map<PeriodIndex, Set<string>>();
  const heldAt = (period: PeriodIndex) => {
    const held =
      slices.get(period) ?? new Set(books.statistics.figures(period).map(({ series, dimensions }) => placeOf(series, dimensions)));
    slices.set(period, held);
    return held;
  };
  return {
    fingerprint,
    values: facts.length,
    replaced: facts.filter(({ series, period, dimensions }) => heldAt(period).has(placeOf(series, dimensions))).length,
    firstPeriod: keyOf(periods[0]),
    lastPeriod: keyOf(periods.at(-1)),
    series: [...new Set(facts.map(({ series }) => series))].sort(compareNaturally).map((name) => {
      const isNew = !books.statistics.series.includes(name);
      return { name, isNew, aggregation: isNew ? proposedAggregation(name, monthsOf(facts, name)) : books.statistics.aggregation(name) };
    }),
    newDimensions: [...new Set([...pairs.values()].map(({ dimension }) => dimension))].filter((name) => !known.has(name)),
    newValues,
  };
}

/** A series of a file by month, all slices together. */
function monthsOf(facts: readonly StatisticFact[], series: string): number[] {
  const months = new Map<PeriodIndex, number>();
  for (const fact of facts) if (fact.series === series) months.set(fact.period, (months.get(fact.period) ?? 0) + fact.value);
  return [...months.values()];
}

const placeOf = (series: string, dimensions: DimensionCombination): string =>
  JSON.stringify([series, Object.entries(dimensions).sort(([a], [b]) => (a < b ? -1 : 1))]);

async function rowsOf(path: string): Promise<{ readonly rows: string[][]; readonly sha256: string }> {
  const file = await inspectFile(path);
  const refuse = (detail: string) => new ProblemError(422, 'Statistics rejected', `Nothing was imported. ${detail}`);
  if (file.notText !== null) throw refuse(`The file is ${file.notText}. Choose a CSV file.`);
  const rows: string[][] = [];
  try {
    await readCsv(path, file, (cells, row) => {
      if (row > MOST_ROWS) throw refuse(`The file has more than ${MOST_ROWS.toLocaleString('en-US')} rows. Split it by year.`);
      rows.push(cells);
    });
  } catch (error) {
    if (error instanceof BrokenCsvError)
      throw refuse(`Row ${error.row} opens a quote that is not closed, or is longer than 1,000,000 characters.`);
    throw error;
  }
  return { rows, sha256: file.sha256 };
}
