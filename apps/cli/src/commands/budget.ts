import { newBudgetSchema, proposedNonrecurring } from '@wise-margin/contract';
import {
  ACCOUNT_CLASS_KEYS,
  type Minor,
  minor,
  parseTypedAmount,
  periodAt,
  type PeriodIndex,
  periodOfYear,
  PERIODS_PER_YEAR,
  toDecimalText,
} from '@wise-margin/core';
import type { Application, Books } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type BudgetOptions = Readonly<Record<string, string | boolean | undefined>>;

/** Creates a budget from another year's actuals. */
export async function createBudget(application: Application, options: BudgetOptions): Promise<Answer> {
  const text = (name: string) => options[name] as string | undefined;
  for (const name of ['year', 'from', 'name']) if (text(name) === undefined) throw new UsageError(`budget create needs --${name}`);
  const company = await chosenCompany(application, text('company'));
  const books = await application.booksCache.of(company.id);
  const { exponent } = books.currency;
  const rounding = parseTypedAmount(text('round-to') ?? '0', exponent);
  if (!rounding.ok) throw new UsageError(`--round-to ${text('round-to')} is not an amount`);
  const changeByClass = Object.fromEntries(
    ACCOUNT_CLASS_KEYS.flatMap((key) => (text(`change-${key}`) === undefined ? [] : [[key, text(`change-${key}`)]])),
  );
  const from = Number(text('from'));
  const missing = unpostedMonths(books, from);
  const annualize = options.annualize === true;
  const projected = options.projected === true;
  if (missing.length > 0 && !annualize && !projected && options['unposted-as-zero'] !== true)
    throw new RefusedError(
      `FY${from} has no actuals for ${missing.length} of its 12 months (${missing.join(', ')}), which would be budgeted at zero. Add --projected to use its approved budget, --annualize to annualize the posted months, or --unposted-as-zero.`,
    );
  if (projected && missing.length > 0 && !(await hasApproved(application, company.id, from)))
    throw new RefusedError(`FY${from} has no approved budget for its remaining months. Add --annualize or --unposted-as-zero instead.`);
  const proposal =
    options['exclude-nonrecurring'] === true ? await application.budgetCreation.proposal(company.id, { from, projected }) : null;
  const request = newBudgetSchema.parse({
    name: text('name'),
    year: text('year'),
    from: text('from'),
    change: text('change') ?? '0',
    changeByClass,
    roundTo: rounding.value,
    projected,
    ...(annualize ? { basisByClass: Object.fromEntries(ACCOUNT_CLASS_KEYS.map((key) => [key, 'annualized'])) } : {}),
    exclude: proposedNonrecurring(proposal?.candidates ?? []),
  });
  const budget = await application.budgetCreation.create(company.id, request, application.actor);
  if (options.approve === true)
    await application.budgetReview.enterState({ company: company.id, budget: budget.id }, { state: 'approved' }, application.actor);
  const facts = [
    ['budget', String(budget.id)],
    ['name', budget.name],
    ['year', `FY${budget.year}`],
    ['lines', String(budget.lineCount)],
    ['revenue', toDecimalText(minor(budget.revenue), exponent)],
    ['operating income', toDecimalText(budget.operatingIncome as Minor, exponent)],
  ];
  return {
    title: `Budget ${budget.name} of ${company.name}`,
    headings: ['fact', 'value'],
    rows: facts,
    figures: new Set([1]),
    json: Object.fromEntries(facts),
  };
}

/** Keys of the months of a fiscal year without actuals: before the ledger begins, or not posted yet. None for a year it does not know. */
function unpostedMonths({ calendar, firstPosted, lastActual }: Books, year: number): string[] {
  const first = periodOfYear(calendar, year, 1);
  if (first === null) return [];
  return Array.from({ length: PERIODS_PER_YEAR }, (_, month) => (first + month) as PeriodIndex)
    .filter((period) => firstPosted === null || lastActual === null || period < firstPosted || period > lastActual)
    .map((period) => periodAt(calendar, period).key);
}

const hasApproved = async (application: Application, companyId: number, year: number): Promise<boolean> =>
  (await application.budgets.list(companyId)).some((budget) => budget.year === year && budget.state === 'approved');
