import { NO_FILTER, periodAt, readStatisticsFile } from '@wise-margin/core';
import { statisticIssueWords, type StatisticsDto } from '@wise-margin/contract';
import { periodCode, type BooksKeeper } from '../companies/books.ts';
import { recordAudit, type Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { inspectFile } from '../formats/inspect-file.ts';
import { BrokenCsvError, readCsv } from '../formats/read-csv.ts';
import { ProblemError } from '../http/problem.ts';

const MOST_ROWS = 200_000;

/** Headcount, visits, guests: takes them in from a file, all or nothing, and shows them by month. */
export class StatisticsService {
  readonly #database: Database;
  readonly #keeper: BooksKeeper;

  constructor(database: Database, keeper: BooksKeeper) {
    this.#database = database;
    this.#keeper = keeper;
  }

  /**
   * Puts a file's values in place of those kept for the same series, period and slice.
   * @throws ProblemError 422 listing every bad row; nothing is changed then
   */
  async bringIn(companyId: number, path: string, actor: Actor): Promise<StatisticsDto> {
    const books = await this.#keeper.of(companyId);
    const { facts, issues } = readStatisticsFile(await rowsOf(path), books.calendar);
    if (issues.length > 0) {
      const told = issues.map((issue) => ({ path: issue.row > 0 ? `row ${issue.row}` : 'file', message: statisticIssueWords(issue) }));
      const more = told.length > 20 ? ` And ${told.length - 20} more.` : '';
      const first = told.slice(0, 20).map(({ message }) => message);
      throw new ProblemError(422, 'Statistics refused', `Nothing was taken in. ${first.join(' ')}${more}`, told);
    }
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
        { companyId, actor, action: 'statistics.bring', subject: 'statistics', details: { values: facts.length } },
        transaction,
      );
    });
    return this.byMonth(companyId);
  }

  /** Every series by month, from the first month that has a value to the last. */
  async byMonth(companyId: number): Promise<StatisticsDto> {
    const books = await this.#keeper.of(companyId);
    const { series, value } = books.statistics;
    const periods = books.calendar.periods.filter(({ index }) => series.some((name) => value(name, NO_FILTER, index) !== null));
    return {
      periods: periods.map(({ key }) => key),
      series: series.map((name) => ({ name, values: periods.map(({ index }) => value(name, NO_FILTER, index)) })),
    };
  }
}

async function rowsOf(path: string): Promise<string[][]> {
  const file = await inspectFile(path);
  const refuse = (detail: string) => new ProblemError(422, 'Statistics refused', `Nothing was taken in. ${detail}`);
  if (file.notText !== null) throw refuse(`The file is ${file.notText}. Choose a CSV file.`);
  const rows: string[][] = [];
  try {
    await readCsv(path, file, (cells, row) => {
      if (row > MOST_ROWS) throw refuse(`The file has more than ${MOST_ROWS.toLocaleString('en-US')} rows. Split it by year.`);
      rows.push(cells);
    });
  } catch (error) {
    if (error instanceof BrokenCsvError) throw refuse(`Row ${error.row}: its quotes do not close. Close them or double those inside.`);
    throw error;
  }
  return rows;
}
