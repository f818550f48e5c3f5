import { ACCOUNT_CLASS_KEYS, minor, parseAmount, toDecimalText, type Minor } from '@wise-margin/core';
import { newBudgetSchema } from '@wise-margin/contract';
import type { Application } from '@wise-margin/server';
import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

export type BudgetOptions = Readonly<Record<string, string | boolean | undefined>>;

/** Creates a budget from another year's actuals. */
export async function createBudget(application: Application, options: BudgetOptions): Promise<Answer> {
  const text = (name: string) => options[name] as string | undefined;
  for (const name of ['year', 'from', 'name']) if (text(name) === undefined) throw new UsageError(`budget create needs --${name}`);
  const company = await chosenCompany(application, text('company'));
  const books = await application.keeper.of(company.id);
  const { exponent } = books.currency;
  const rounding = parseAmount(text('round-to') ?? '0', exponent);
  if (!rounding.ok) throw new UsageError(`--round-to ${text('round-to')} is not an amount`);
  const changeByClass = Object.fromEntries(
    ACCOUNT_CLASS_KEYS.flatMap((key) => (text(`change-${key}`) === undefined ? [] : [[key, text(`change-${key}`)]])),
  );
  const request = newBudgetSchema.parse({
    name: text('name'),
    year: text('year'),
    from: text('from'),
    change: text('change') ?? '0',
    changeByClass,
    roundTo: rounding.value,
  });
  const budget = await application.budgets.create(company.id, request, application.actor);
  if (options.approve === true) await application.budgets.setState(company.id, budget.id, { state: 'approved' }, application.actor);
  const facts = [
    ['budget', String(budget.id)],
    ['name', budget.name],
    ['year', `FY${budget.year}`],
    ['lines', String(budget.lineCount)],
    ['revenue', toDecimalText(minor(budget.revenue), exponent)],
    ['operating result', toDecimalText(budget.operatingResult as Minor, exponent)],
  ];
  return {
    title: `Budget ${budget.name} of ${company.name}`,
    headings: ['fact', 'value'],
    rows: facts,
    figures: new Set([1]),
    json: Object.fromEntries(facts),
  };
}
