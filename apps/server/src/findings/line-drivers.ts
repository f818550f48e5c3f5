import type { LineDriverDto } from '@wise-margin/contract';
import { type DimensionFilter, type Driver, periodAt, type PeriodIndex } from '@wise-margin/core';

import type { BudgetStore } from '../budget-store/index.ts';
import type { Books } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';

/** Drivers of a fiscal year's budget by name, twelve numbers each. */
type Planned = ReadonlyMap<string, readonly number[]>;

/** Which statistic the volumes of a line are, and what budgets planned of it. */
export class LineDrivers {
  readonly #database: Database;
  readonly #budgetStore: BudgetStore;

  constructor(options: { readonly database: Database; readonly budgetStore: BudgetStore }) {
    this.#database = options.database;
    this.#budgetStore = options.budgetStore;
  }

  async of(companyId: number, line: string): Promise<LineDriverDto | null> {
    const [row] = await this.#database.select<LineDriverDto>(
      'SELECT series, planned, input, planned_input AS plannedInput FROM line_drivers WHERE company_id = $1 AND line = $2',
      [companyId, line],
    );
    return row ?? null;
  }

  /** @param driver null for a line that goes by none. @throws ProblemError 422 for a statistic there is not */
  async set(
    books: Books,
    { line, driver, actor }: { readonly line: string; readonly driver: LineDriverDto | null; readonly actor: Actor },
  ): Promise<void> {
    const { series, planned } = await this.choices(books);
    for (const [field, name, known] of [
      ['series', driver?.series, series],
      ['input', driver?.input, series],
      ['planned', driver?.planned, planned],
      ['plannedInput', driver?.plannedInput, planned],
    ] as const)
      if (name && !known.includes(name))
        throw refused(`There is no statistic or driver ${name}. Choose one of ${known.join(', ')}.`, field);
    const before = await this.of(books.id, line);
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM line_drivers WHERE company_id = $1 AND line = $2', [books.id, line], transaction);
      if (driver)
        await this.#database.run(
          'INSERT INTO line_drivers (company_id, line, series, planned, input, planned_input) VALUES ($1, $2, $3, $4, $5, $6)',
          [books.id, line, driver.series, driver.planned, driver.input, driver.plannedInput],
          transaction,
        );
      const words = (of: LineDriverDto | null) =>
        of &&
        [
          [of.series, of.planned],
          [of.input, of.plannedInput],
        ]
          .map((each) => each.filter(Boolean).join(', planned as '))
          .filter(Boolean)
          .join('; input ');
      const changes = [{ what: 'driver', from: words(before), to: words(driver) }];
      await recordAudit(
        this.#database,
        { companyId: books.id, actor, action: 'driver.change', subject: `line ${line}`, details: {}, changes },
        transaction,
      );
    });
  }

  /** Statistics that lines can go by, and what budgets plan: drivers of approved budgets, and statistics that are kept for it. */
  async choices(books: Books): Promise<{ readonly series: string[]; readonly planned: string[] }> {
    const planned = new Set<string>();
    for (const drivers of (await this.#planned(books, undefined)).values()) for (const name of drivers.keys()) planned.add(name);
    return { series: [...books.statistics.series], planned: [...[...planned].sort(), ...books.statistics.series] };
  }

  /** A line's driver with its volumes. @param budget the budget compared with; the approved ones when left out */
  async driver(books: Books, { series, planned, input, plannedInput }: LineDriverDto, budget: number | undefined): Promise<Driver> {
    const byYear = await this.#planned(books, budget);
    const { statistics, calendar } = books;
    const plannedOf = (name: string, month: PeriodIndex, filter: DimensionFilter): number | null => {
      const { year, number } = periodAt(calendar, month);
      const months = byYear.get(year)?.get(name);
      if (months) return Object.keys(filter).length === 0 ? months[number - 1]! : null;
      return statistics.series.includes(name) ? statistics.value(name, filter, month) : null;
    };
    const volumes =
      (actual: string, plan: string): Driver['volume'] =>
      (scenario, month, filter) =>
        scenario === 'actual'
          ? statistics.value(actual, filter, month)
          : scenario.startsWith('budget')
            ? plannedOf(plan, month, filter)
            : null;
    return {
      dimension: dimensionOf(books, series),
      volume: volumes(series, planned),
      input: input === '' ? null : volumes(input, plannedInput),
    };
  }

  /** Drivers with typed numbers, by fiscal year. */
  async #planned(books: Books, budget: number | undefined): Promise<Map<number, Planned>> {
    const rows = await this.#budgetStore.list(books.id);
    const found = new Map<number, Planned>();
    // a budget that was asked for stands for its year in place of the approved one
    for (const row of rows
      .filter(({ id, state }) => id === budget || state === 'approved')
      .sort((a, b) => Number(a.id === budget) - Number(b.id === budget))) {
      const { lines } = await this.#budgetStore.ofRow(books, row);
      const drivers = lines.flatMap(({ basis }): [string, readonly number[]][] =>
        basis.kind === 'driverRate' && 'name' in basis.driver ? [[basis.driver.name, basis.driver.months]] : [],
      );
      found.set(row.year, new Map(drivers));
    }
    return found;
  }
}

/** The dimension of which a statistic is kept for several values; null for none. */
function dimensionOf(books: Books, series: string): Driver['dimension'] {
  const values = new Map<string, Set<string>>();
  for (const { index } of books.calendar.periods)
    for (const figure of books.statistics.figures(index))
      if (figure.series === series)
        for (const [name, value] of Object.entries(figure.dimensions)) {
          const held = values.get(name) ?? new Set();
          values.set(name, held.add(value));
        }
  for (const { name } of books.dimensions) {
    const own = values.get(name);
    if (own && own.size > 1) return { name, values: [...own] };
  }
  return null;
}
