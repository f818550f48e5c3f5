import { type BalanceAccountDto, type balanceRuleChangeSchema, type PackedBalancePlan } from '@wise-margin/contract';
import {
  BALANCE_LINES,
  type BalanceRule,
  balanceRuleIssue,
  balanceRulesFor,
  balanceRuleWords,
  CASH_FLOW_LINES,
  type ColumnSet,
  type LineSet,
  lowestCash,
  periodAt,
  periodOfYear,
  PERIODS_PER_YEAR,
  plannedBalanceColumns,
  plannedCashColumns,
  type RolledForward,
} from '@wise-margin/core';
import { balancePlanIssueWords, balanceRuleIssueWords, gridDto, packGrid } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';

import { ChangeLog, ruleFormat, type StoredBudget } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { BudgetWriter } from '../budget-writer.ts';
import { describeBudget } from '../describe.ts';
import { rolledForward } from './rolled-forward.ts';

/** Budgets carried into balance sheet and cash, and the rules by which they are. */
export class BalancePlanService {
  readonly #parts: BudgetContext;
  readonly #log: ChangeLog;
  readonly #writer: BudgetWriter;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
    this.#log = new ChangeLog(parts.database);
    this.#writer = new BudgetWriter(parts, this.#log);
  }

  /** Cash and balance sheet of a budget, by month, and how every account gets there. @throws ProblemError 404 */
  async plan({ company: companyId, budget: budgetId }: BudgetPlace, session: string): Promise<PackedBalancePlan> {
    const books = await this.#parts.booksCache.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const rolled = await rolledForward(books, this.#parts.store, budget);
    const { row } = budget;
    const { exponent } = books.currency;
    const keyOf = (period: Parameters<typeof periodAt>[1]) => periodAt(books.calendar, period).key;
    const [undo, redo] = await Promise.all([this.#log.undoable(budgetId, session), this.#log.redoable(budgetId, session)]);
    const lowest = lowestCash(rolled.cash.opening, rolled.cash.months);
    return {
      budget: await describeBudget({ books, budget, evaluator: this.#parts.evaluator }),
      version: row.version,
      opensFrom: rolled.opensFrom === null ? null : keyOf(rolled.opensFrom),
      months: rolled.cash.months.map((cash, month) => ({
        key: keyOf(periodOfYear(books.calendar, row.year, month + 1)!),
        cash,
      })),
      openingCash: rolled.cash.opening,
      lowest,
      accounts: accountsOf(books, row.year, rolled),
      days: rolled.days.map(({ of, months }) => ({ of, months: [...months] })),
      notices: rolled.issues.map((issue) => balancePlanIssueWords(issue, { calendar: books.calendar, exponent, year: row.year })),
      interest: interestOf(books, rolled),
      cashFlow: await this.#grid(books, budget, { lineSet: CASH_FLOW_LINES, columnSet: plannedCashColumns(`budget:${budgetId}`) }),
      balanceSheet: await this.#grid(books, budget, { lineSet: BALANCE_LINES, columnSet: plannedBalanceColumns(`budget:${budgetId}`) }),
      steps: { undo: undo?.words ?? null, redo: redo?.words ?? null },
    };
  }

  /**
   * Gives an account a rule, or takes it back to what history gives.
   * @throws ProblemError 422 when the account cannot have it; 409 when the budget is locked, or another session
   * gave the account a rule since the version that was looked at
   */
  async setRule(
    { company: companyId, budget: budgetId }: BudgetPlace,
    request: z.output<typeof balanceRuleChangeSchema>,
    actor: Actor,
  ): Promise<PackedBalancePlan> {
    const { account, rule, base, session, key } = request;
    const books = await this.#parts.booksCache.of(companyId);
    await this.#writer.change(books, budgetId, async ({ budget, transaction }) => {
      if (key !== undefined && (await this.#log.has(budgetId, key, transaction))) return null;
      if (base !== undefined && base < budget.row.version) await this.#refuseOthers(budgetId, { account, base, session, transaction });
      const { rules, opensFrom } = await rolledForward(books, this.#parts.store, budget);
      const next = rule ?? rules.get(account)?.fromHistory;
      const issue =
        next === undefined ? ({ code: 'unknownAccount', account } as const) : balanceRuleIssue(books.chart, rules, { account, rule: next });
      if (issue) throw refused(balanceRuleIssueWords(issue), 'rule');
      const before = budget.rules.get(account) ?? null;
      const after: BalanceRule | null =
        rule?.kind === 'loan' && opensFrom !== null ? { ...rule, countedFrom: periodAt(books.calendar, opensFrom).key } : rule;
      if (JSON.stringify(before) === JSON.stringify(after)) return null;
      const words = wordsOf(books, budget.row.year);
      const was = rules.get(account)!.rule;
      return {
        result: { changes: [], notes: [], refusals: [], cells: [] },
        rules: [{ account, before, after }],
        entry: {
          kind: 'edit' as const,
          of: null,
          words: `Balance of ${account}: ${words(next!)}${after === null ? ', as history gives it' : ''} (was: ${words(was)})`,
          session,
          actor,
          key: key ?? null,
        },
      };
    });
    return this.plan({ company: companyId, budget: budgetId }, session);
  }

  /** @throws ProblemError 409 when another session gave the account a rule since the version that was looked at */
  async #refuseOthers(
    budgetId: number,
    at: { readonly account: string; readonly base: number; readonly session: string; readonly transaction: Transaction },
  ): Promise<void> {
    const { account, base, session, transaction } = at;
    const other = (await this.#log.since(budgetId, base, transaction))
      .filter((change) => change.session !== session && change.rules.some((each) => each.account === account))
      .at(-1);
    if (other)
      throw new ProblemError(
        409,
        'Changed by someone else',
        `${other.actor} changed this since you opened it: ${other.words}. The page now shows it. Apply your change again to replace it.`,
      );
  }

  async #grid(
    books: Books,
    { row }: StoredBudget,
    { lineSet, columnSet }: { readonly lineSet: LineSet; readonly columnSet: ColumnSet },
  ): Promise<PackedBalancePlan['cashFlow']> {
    const asOf = periodOfYear(books.calendar, row.year, PERIODS_PER_YEAR)!;
    const { grid, issues } = await this.#parts.evaluator.evaluate(books, { lineSet, columnSet, asOf, filter: {} });
    const view = { key: columnSet.key, name: lineSet.name, note: '', openAll: false };
    return packGrid(gridDto(grid, { budget: row.name, view, issues }));
  }
}

const wordsOf =
  (books: Books, year: number): ((rule: BalanceRule) => string) =>
  (rule) =>
    balanceRuleWords(rule, ruleFormat(books, year));

function accountsOf(books: Books, year: number, rolled: RolledForward): BalanceAccountDto[] {
  const words = wordsOf(books, year);
  const loans = new Map(rolled.loans.map(({ account, months }) => [account, months]));
  return books.chart.accounts
    .flatMap((account) => {
      const planned = rolled.rules.get(account.number);
      if (!planned) return [];
      const days = rolled.accountDays.get(account.number);
      return [
        {
          account: account.number,
          name: account.name,
          rule: planned.rule,
          words: words(planned.rule),
          fromHistory: planned.fromHistory,
          historyWords: words(planned.fromHistory),
          isSet: planned.isSet,
          kinds: [...balanceRulesFor(account.class)],
          loan: loans.get(account.number)?.map(({ period, of }) => ({ month: periodAt(books.calendar, period).key, ...of })) ?? null,
          days: days ? { of: days.of, months: [...days.months] } : null,
        },
      ];
    })
    .sort((a, b) => a.account.localeCompare(b.account, 'en', { numeric: true }));
}

/** Interest that schedules and budget do not agree on, and the account it is budgeted on; null where they agree or no such account is there. */
function interestOf(books: Books, { interest, first }: RolledForward): PackedBalancePlan['interest'] {
  const account = books.chart.accounts.find((each) => each.class === 'interestExpense' && each.active);
  const months = interest.flatMap(({ period, scheduled, budgeted }) =>
    scheduled === budgeted ? [] : [{ month: period - first, scheduled, budgeted }],
  );
  return account && months.length > 0 ? { account: account.number, months } : null;
}
