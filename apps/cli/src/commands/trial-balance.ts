import { trialBalanceQuerySchema } from '@wise-margin/contract';
import { type Minor, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

/** The trial balance at a month end. */
export async function printTrialBalance(
  application: Application,
  options: { readonly company?: string | undefined; readonly 'as-of'?: string | undefined },
): Promise<Answer> {
  if (options['as-of'] === undefined) throw new UsageError('trial-balance needs --as-of YYYY-MM');
  const company = await chosenCompany(application, options.company);
  const { currency } = await application.booksCache.of(company.id);
  const { asOf } = trialBalanceQuerySchema.parse({ asOf: options['as-of'] });
  const { rows, debits, credits } = await application.ledger.trialBalance(company.id, asOf, {});
  const text = (amount: number | null) => (amount === null ? '' : toDecimalText(amount as Minor, currency.exponent));
  const headings = ['account', 'name', 'opening', 'month', 'yearToDate', 'debit', 'credit'] as const;
  const cells = rows.map((row) => [
    row.number ?? '',
    row.name,
    text(row.opening),
    text(row.month),
    text(row.yearToDate),
    text(row.debit),
    text(row.credit),
  ]);
  return {
    title: `${company.name}\nTrial balance at the end of ${asOf}, ${currency.words}`,
    headings,
    rows: [...cells, ['', 'Total', '', '', '', text(debits), text(credits)]],
    figures: new Set([2, 3, 4, 5, 6]),
    json: {
      company: company.name,
      asOf,
      currency: currency.code,
      rows: cells.map((row) => Object.fromEntries(headings.map((name, index) => [name, row[index]]))),
      debits: text(debits),
      credits: text(credits),
    },
  };
}
