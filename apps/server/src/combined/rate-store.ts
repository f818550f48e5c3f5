import type { ExchangeRatesDto } from '@wise-margin/contract';
import { type MonthRates, type RateIssue, ratesOfText, type RateTable } from '@wise-margin/core';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';

type Row = { readonly month: string } & MonthRates;
/** From which currency to which. */
export type CurrencyPair = { readonly from: string; readonly to: string };

const ISSUE_WORDS: Readonly<Record<RateIssue['code'], (issue: RateIssue) => string>> = {
  month: ({ value }) => `"${value}" is not a month. Enter it as YYYY-MM, such as 2026-10.`,
  repeated: ({ value }) => `${value} is in an earlier row already. Keep one row for each month.`,
  rate: ({ field, value }) => `"${value}" is not a rate. Enter the ${field} rate as a decimal above zero, such as 1.0842.`,
  columns: ({ value }) => `"${value}" has no three columns. Enter month, average rate and closing rate.`,
};

/** Rates between currencies by month. */
export class RateStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async table({ from, to }: CurrencyPair): Promise<RateTable> {
    return new Map((await this.#rows({ from, to })).map(({ month, average, closing }) => [month, { average, closing }]));
  }

  async list(pair: CurrencyPair): Promise<ExchangeRatesDto> {
    return { ...pair, rates: (await this.#rows(pair)).map(({ month, average, closing }) => ({ month, average, closing })) };
  }

  /** Sets the whole table from pasted text. @throws ProblemError 422 naming each row at fault; nothing is changed then */
  async replace(pair: CurrencyPair, text: string, actor: Actor): Promise<ExchangeRatesDto> {
    const { rates, issues } = ratesOfText(text);
    if (issues.length > 0) {
      const words = issues.slice(0, 20).map((issue) => `Row ${issue.row}: ${ISSUE_WORDS[issue.code](issue)}`);
      const more = issues.length > words.length ? [`${issues.length - words.length} more rows are at fault.`] : [];
      throw refused([...words, ...more].join(' '), 'text');
    }
    const before = (await this.#rows(pair)).length;
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        'DELETE FROM exchange_rates WHERE from_currency = $1 AND to_currency = $2',
        [pair.from, pair.to],
        transaction,
      );
      for (const [month, { average, closing }] of rates)
        await this.#database.run(
          'INSERT INTO exchange_rates (from_currency, to_currency, month, average, closing) VALUES ($1, $2, $3, $4, $5)',
          [pair.from, pair.to, month, average, closing],
          transaction,
        );
      await recordAudit(
        this.#database,
        {
          companyId: null,
          actor,
          action: 'exchangeRates.change',
          subject: `${pair.from}-${pair.to}`,
          details: {},
          changes: [{ what: 'months', from: String(before), to: String(rates.size) }],
        },
        transaction,
      );
    });
    return this.list(pair);
  }

  #rows({ from, to }: CurrencyPair): Promise<Row[]> {
    return this.#database.select<Row>(
      'SELECT month, average, closing FROM exchange_rates WHERE from_currency = $1 AND to_currency = $2 ORDER BY month',
      [from, to],
    );
  }
}
