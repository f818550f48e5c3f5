import type {
  BudgetDto,
  budgetStateChangeSchema,
  BudgetStateDto,
  CheckListDto,
  ComparisonDto,
  comparisonQuerySchema,
} from '@wise-margin/contract';
import {
  BudgetWorksheet,
  checkKey,
  type ColumnSet,
  INCOME_LINES,
  monthOfYearName,
  periodOfYear,
  PERIODS_PER_YEAR,
  type ScenarioRef,
} from '@wise-margin/core';
import { checkWords, gridDto, lineBasisWords, overrideWords, packGrid, STATE_WORDS } from '@wise-margin/presentation';
import type { z } from 'zod';

import { budgetBooksOf, headOf, type StoredBudget } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import { ProblemError } from '../../http/problem.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { BUDGET_CHECKS } from '../budget-tasks.ts';
import { describeBudget } from '../describe.ts';

/** Where a budget can go from each state. Approved ones are amended by a new version alone. */
const NEXT_STATES: Readonly<Record<BudgetStateDto, readonly BudgetStateDto[]>> = {
  draft: ['inReview', 'approved'],
  inReview: ['draft', 'approved'],
  approved: ['superseded'],
  superseded: [],
};
const WAY_ON: Readonly<Record<BudgetStateDto, string>> = {
  draft: 'Submit it for review, or approve it',
  inReview: 'Return it to draft, or approve it',
  approved: 'Create a new version and approve that',
  superseded: 'Create a new version to use it again',
};

/** Reviews a budget as a whole: its checks and their explanations, its states, and another version beside it. */
export class BudgetReview {
  readonly #parts: BudgetContext;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
  }

  /** The budget checks of a budget, with their explanations. */
  async checks({ company: companyId, budget: budgetId }: BudgetPlace): Promise<CheckListDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const answers = await this.#parts.database.select<{ finding: string; text: string; at: string; actor: string }>(
      'SELECT finding, text, at, actor FROM budget_answers WHERE budget_id = $1',
      [budgetId],
    );
    const answerOf = new Map(answers.map(({ finding, ...answer }) => [finding, answer]));
    const how = {
      exponent: books.currency.exponent,
      month: (month: number) => monthOfYearName(books.calendar, budget.row.year, month),
    };
    const head = headOf(budget.row);
    const found = await this.#parts.work.run(
      BUDGET_CHECKS,
      { directory: this.#parts.database.directory, companyId, budgetId },
      { what: 'Checking the budget', milliseconds: 60_000 },
    );
    const nameOf = new Map(books.chart.accounts.map(({ number, name }) => [number, name]));
    const items = found.map((finding) => {
      const key = checkKey(finding);
      const { account, slice: own } = finding;
      const name = nameOf.get(account) ?? '';
      const slice = own && Object.fromEntries(head.dimensions.map((dimension) => [dimension, own[dimension] ?? '']));
      return { key, account, name, slice, words: checkWords(finding, how), answer: answerOf.get(key) ?? null };
    });
    return { items, open: items.filter(({ answer }) => answer === null).length };
  }

  /** Explains a finding, or removes the explanation with an empty text. */
  async explain(
    { company: companyId, budget: budgetId }: BudgetPlace,
    { key, text }: { readonly key: string; readonly text: string },
    actor: Actor,
  ): Promise<CheckListDto> {
    const books = await this.#parts.booksCache.of(companyId);
    await this.#parts.store.of(books, budgetId);
    await this.#parts.database.write(async (transaction) => {
      if (text === '')
        await this.#parts.database.run('DELETE FROM budget_answers WHERE budget_id = $1 AND finding = $2', [budgetId, key], transaction);
      else
        await this.#parts.database.run(
          `INSERT INTO budget_answers (budget_id, finding, text, at, actor) VALUES ($1, $2, $3, $4, $5)
           ON CONFLICT DO UPDATE SET text = excluded.text, at = excluded.at, actor = excluded.actor`,
          [budgetId, key, text, actor.now().toISOString(), actor.name],
          transaction,
        );
      const details = { finding: key, text };
      await recordAudit(
        this.#parts.database,
        { companyId, actor, action: 'budget.answer', subject: `budget ${budgetId}`, details },
        transaction,
      );
    });
    return this.checks({ company: companyId, budget: budgetId });
  }

  /**
   * Takes a budget to another state. Approving one with open findings asks, and records how many there were.
   * @throws ProblemError 409 when findings are open and it was not said to approve anyway, or the step is not allowed
   */
  async setState(
    { company: companyId, budget: budgetId }: BudgetPlace,
    { state, anyway }: z.output<typeof budgetStateChangeSchema>,
    actor: Actor,
  ): Promise<BudgetDto> {
    const openFindings = state === 'approved' ? (await this.checks({ company: companyId, budget: budgetId })).open : 0;
    if (openFindings > 0 && !anyway)
      throw new ProblemError(
        409,
        'Open findings',
        `${openFindings === 1 ? 'One finding' : `${openFindings} findings`} of the budget checks ${openFindings === 1 ? 'has' : 'have'} no explanation. Explain them, or approve anyway; this is recorded.`,
      );
    return this.enterState({ company: companyId, budget: budgetId }, { state, openFindings }, actor);
  }

  /** A budget beside another version, or beside actuals, line by line with the reasons. @throws ProblemError 404 */
  async compare(
    { company: companyId, budget: budgetId }: BudgetPlace,
    other: z.output<typeof comparisonQuerySchema>['with'],
  ): Promise<ComparisonDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const right = await this.#parts.store.of(books, budgetId);
    const left = typeof other === 'number' ? await this.#parts.store.of(books, other) : null;
    const nameOf = ({ row }: StoredBudget) => `${row.name}, FY${row.year}`;
    const shift = left ? left.row.year - right.row.year : other === 'priorYear' ? -1 : 0;
    const leftName = left ? nameOf(left) : `${other === 'actual' ? 'Actual' : 'Projection'}, FY${right.row.year + shift}`;
    const scenario: ScenarioRef = typeof other === 'number' ? `budget:${other}` : other === 'actual' ? 'actual' : 'projection';
    const columnSet: ColumnSet = {
      key: `compare_${other}_${budgetId}`,
      name: 'Versions compared',
      blocks: [
        {
          key: 'year',
          heading: 'Year',
          span: { kind: 'fullYear' },
          columns: [
            {
              kind: 'amount',
              key: 'left',
              heading: leftName,
              scenario,
              span: { kind: 'fullYear', ...(shift === 0 ? {} : { shift: { years: shift } }) },
            },
            { kind: 'amount', key: 'right', heading: nameOf(right), scenario: `budget:${budgetId}`, span: { kind: 'fullYear' } },
            { kind: 'difference', key: 'difference', heading: 'Variance', compared: 'right', base: 'left', bar: true },
            { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'right', base: 'left' },
          ],
        },
      ],
    };
    const asOf = periodOfYear(books.calendar, right.row.year, PERIODS_PER_YEAR)!;
    const { grid, issues } = await this.#parts.evaluator.evaluate(books, { lineSet: INCOME_LINES, columnSet, asOf, filter: {} });
    const view = { key: 'comparison', name: 'Versions compared', note: '', openAll: true };
    const [leftReasons, rightReasons] = [
      left ? await this.#reasons(books, left) : new Map<string, string[]>(),
      await this.#reasons(books, right),
    ];
    const accounts = new Set([...leftReasons.keys(), ...rightReasons.keys()]);
    return {
      left: leftName,
      right: nameOf(right),
      grid: packGrid(gridDto(grid, { budget: nameOf(right), view, issues })),
      reasons: Object.fromEntries(
        [...accounts].map((account) => [account, { left: leftReasons.get(account) ?? [], right: rightReasons.get(account) ?? [] }]),
      ),
    };
  }

  /**
   * Takes a budget to another state, whatever its checks say. A year has one approved budget: the one before is superseded.
   * @param change.openFindings how many findings of the budget checks had no explanation, for the record
   * @throws ProblemError 409 when the step is not allowed from the state it is in
   */
  async enterState(
    { company: companyId, budget: budgetId }: BudgetPlace,
    { state, openFindings = 0 }: { readonly state: BudgetStateDto; readonly openFindings?: number },
    actor: Actor,
  ): Promise<BudgetDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const { row } = await this.#parts.store.of(books, budgetId);
    const from = row.state as BudgetStateDto;
    if (!NEXT_STATES[from].includes(state))
      throw new ProblemError(
        409,
        'Not from here',
        `${row.name} is ${STATE_WORDS[from].toLowerCase()} and cannot become ${STATE_WORDS[state].toLowerCase()}. ${WAY_ON[from]}.`,
      );
    await this.#parts.database.write(async (transaction) => {
      const { budgets } = this.#parts.database.models;
      if (state === 'approved') {
        const approved = { companyId, year: row.year, state: 'approved' };
        for (const { id } of await budgets.findAll({ where: approved, transaction })) {
          const subject = `budget ${id}`;
          await recordAudit(
            this.#parts.database,
            {
              companyId,
              actor,
              action: 'budget.superseded',
              subject,
              details: { by: budgetId },
              changes: [{ what: 'status', from: STATE_WORDS.approved, to: STATE_WORDS.superseded }],
            },
            transaction,
          );
        }
        await budgets.update({ state: 'superseded' }, { where: approved, transaction });
      }
      await budgets.update({ state }, { where: { id: budgetId }, transaction });
      await recordAudit(
        this.#parts.database,
        {
          companyId,
          actor,
          action: `budget.${state}`,
          subject: `budget ${budgetId}`,
          details: { from, openFindings },
          changes: [{ what: 'status', from: STATE_WORDS[from], to: STATE_WORDS[state] }],
        },
        transaction,
      );
    });
    return describeBudget({ books, budget: await this.#parts.store.of(books, budgetId), evaluator: this.#parts.evaluator });
  }

  /** How the lines of each account are derived, and what was noted on them. */
  async #reasons(books: Books, budget: StoredBudget): Promise<Map<string, string[]>> {
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const head = headOf(budget.row);
    const worksheet = new BudgetWorksheet({ books: budgetBooks, head, ...budget });
    const reasons = new Map<string, string[]>();
    const add = (account: string, words: string): void => {
      const known = reasons.get(account) ?? [];
      if (!known.includes(words)) reasons.set(account, [...known, words]);
    };
    for (const line of budget.lines) {
      add(line.account, `${lineBasisWords({ books: budgetBooks, head, worksheet }, line).sentence}${overrideWords(line)}`);
    }
    for (const note of budget.notes)
      add(note.account, `${note.month === null ? '' : `${monthOfYearName(books.calendar, budget.row.year, note.month)}: `}${note.text}`);
    return reasons;
  }
}
