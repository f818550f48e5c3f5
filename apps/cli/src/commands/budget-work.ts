import { writeFileSync } from 'node:fs';
import { basename, resolve } from 'node:path';

import type { BudgetDto } from '@wise-margin/contract';
import { minor, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type BudgetWorkOptions = {
  readonly company?: string | undefined;
  readonly budget?: string | undefined;
  readonly year?: string | undefined;
  readonly file?: string | undefined;
  readonly apply?: boolean | undefined;
};

/** The budgets of a company, newest year first. */
export async function listBudgets(application: Application, options: BudgetWorkOptions): Promise<Answer> {
  const company = await chosenCompany(application, options.company);
  const { currency } = await application.booksCache.of(company.id);
  const budgets = await application.budgets.list(company.id);
  const amount = (value: number) => toDecimalText(minor(value), currency.exponent);
  const headings = ['budget', 'year', 'name', 'state', 'lines', 'revenue', 'operating income'] as const;
  const rows = budgets.map((budget) => [
    String(budget.id),
    `FY${budget.year}`,
    budget.name,
    budget.state,
    String(budget.lineCount),
    amount(budget.revenue),
    amount(budget.operatingIncome),
  ]);
  return {
    title: `Budgets of ${company.name}, ${currency.words}`,
    headings,
    rows,
    figures: new Set([4, 5, 6]),
    json: rows.map((row) => Object.fromEntries(headings.map((name, index) => [name, row[index]]))),
  };
}

/** A budget's figures as a file: a spreadsheet to be filled in when its name ends in .xlsx, else CSV. */
export async function exportBudget(application: Application, options: BudgetWorkOptions): Promise<Answer> {
  const { company, budget } = await chosenBudget(application, options, 'budget export');
  if (options.file === undefined) throw new UsageError('budget export needs --file FILE.csv or FILE.xlsx');
  const path = resolve(options.file);
  if (/\.xlsx$/i.test(path))
    writeFileSync(path, (await application.budgetFiles.workbook({ company: company.id, budget: budget.id }, {})).content);
  else writeFileSync(path, (await application.budgetFiles.csv({ company: company.id, budget: budget.id }, {})).text);
  return facts(`${budget.name}, FY${budget.year}, written`, [['file', path]]);
}

/**
 * What a file that was filled in would change in a budget; with --apply, changes it.
 * @throws RefusedError listing every row at fault
 */
export async function importBudget(application: Application, options: BudgetWorkOptions): Promise<Answer> {
  const { company, budget } = await chosenBudget(application, options, 'budget import');
  if (options.file === undefined) throw new UsageError('budget import needs --file FILE.csv or FILE.xlsx');
  const { actor, budgetFiles } = application;
  const file = { path: resolve(options.file), name: basename(options.file) };
  const effect = await budgetFiles.read({ company: company.id, budget: budget.id }, file, { apply: false, session: 'command line', actor });
  if (effect.issues.length > 0)
    throw new RefusedError(
      `Nothing was changed.\n${effect.issues.map(({ row, column, text: typed, reason, fix }) => `row ${row}, ${column}: "${typed}": ${reason}. ${fix}.`).join('\n')}`,
    );
  if (options.apply === true)
    await budgetFiles.read({ company: company.id, budget: budget.id }, file, { apply: true, session: 'command line', actor });
  const rows = effect.changes.map(({ account, name, slice, month, from, to }) => [account, name, slice, month, text(from), text(to)]);
  const headings = ['account', 'name', 'slice', 'month', 'from', 'to'] as const;
  return {
    title: `${budget.name}, FY${budget.year}: ${effect.changes.length} figures ${options.apply === true ? 'changed' : 'would change. Add --apply to make the changes'}`,
    headings,
    rows,
    figures: new Set([4, 5]),
    json: { applied: options.apply === true, changes: rows.map((row) => Object.fromEntries(headings.map((name, at) => [name, row[at]]))) },
  };

  function text(value: number | null): string {
    return value === null ? '' : toDecimalText(minor(value), company.exponent);
  }
}

/** Planned cash at each month end of a budget, and how every balance that moves does. */
export async function printBalancePlan(application: Application, options: BudgetWorkOptions): Promise<Answer> {
  const { company, budget } = await chosenBudget(application, options, 'balance-plan');
  const plan = await application.balancePlans.plan({ company: company.id, budget: budget.id }, '');
  const text = (value: number) => toDecimalText(minor(value), company.exponent);
  const headings = ['month', 'cash', 'lowest'] as const;
  const rows = [
    ['opening', text(plan.openingCash), plan.lowest < 0 ? 'lowest' : ''],
    ...plan.months.map(({ key, cash }, index) => [key, text(cash), index === plan.lowest ? 'lowest' : '']),
  ];
  return {
    title: [`${company.name}: cash of ${budget.name}, FY${budget.year}`, ...plan.notices].join('\n'),
    headings,
    rows,
    figures: new Set([1]),
    json: {
      opensFrom: plan.opensFrom,
      opening: text(plan.openingCash),
      months: plan.months.map(({ key, cash }) => ({ month: key, cash: text(cash) })),
      lowest: plan.months[plan.lowest]?.key ?? 'opening',
      assumptions: Object.fromEntries(plan.accounts.map(({ account, words }) => [account, words])),
      notices: plan.notices,
    },
  };
}

async function chosenBudget(
  application: Application,
  options: BudgetWorkOptions,
  verb: string,
): Promise<{ readonly company: { readonly id: number; readonly name: string; readonly exponent: number }; readonly budget: BudgetDto }> {
  if (options.budget === undefined) throw new UsageError(`${verb} needs --budget NAME`);
  const company = await chosenCompany(application, options.company);
  const { currency } = await application.booksCache.of(company.id);
  const all = await application.budgets.list(company.id);
  const named = all.filter(
    ({ name, year }) =>
      name.toLowerCase() === options.budget!.toLowerCase() && (options.year === undefined || String(year) === options.year),
  );
  const names = all.map(({ name, year }) => `${name} (FY${year})`).join(', ') || 'none';
  const [budget] = named;
  if (!budget)
    throw new RefusedError(
      `There is no budget named ${options.budget}${options.year ? ` of FY${options.year}` : ''}. There are: ${names}.`,
    );
  if (named.length > 1)
    throw new UsageError(`several years have a budget named ${options.budget}: add --year (${named.map(({ year }) => year).join(', ')})`);
  return { company: { ...company, exponent: currency.exponent }, budget };
}

const facts = (title: string, rows: readonly (readonly [string, string])[]): Answer => ({
  title,
  headings: ['fact', 'value'],
  rows,
  figures: new Set(),
  json: Object.fromEntries(rows),
});
