import {
  BudgetWorksheet,
  INCOME_LINES,
  monthOfYearName,
  periodOfKey,
  periodOfYear,
  PERIODS_PER_YEAR,
  reforecast,
  checkKey,
  whatIf,
  type ColumnSet,
  type ScenarioRef,
} from '@wise-margin/core';
import {
  type budgetStateChangeSchema,
  type BudgetDto,
  type ComparisonDto,
  type comparisonQuerySchema,
  type reforecastSchema,
  type CheckListDto,
  type whatIfVersionSchema,
} from '@wise-margin/contract';
import { gridDto, lineBasisWords, packGrid, checkWords } from '@wise-margin/presentation';
import type { z } from 'zod';
import type { Books } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import { type StoredBudget, budgetBooksOf, headOf } from '../../budget-store/index.ts';
import { BUDGET_CHECKS } from './budget-checks.ts';
import type { BudgetService } from './budget-service.ts';
import type { BudgetContext } from '../budget-context.ts';

/** A plan as a whole: what wants a second look, versions side by side, reforecasts. */
export class PlanService {
  readonly #parts: BudgetContext;
  readonly #budgets: BudgetService;

  constructor(parts: BudgetContext, budgets: BudgetService) {
    this.#parts = parts;
    this.#budgets = budgets;
  }

  /** What of a budget wants a second look, with the answers given. */
  async checks(companyId: number, budgetId: number): Promise<CheckListDto> {
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

  /** Answers a finding, or takes the answer back with an empty text. */
  async answer(
    companyId: number,
    budgetId: number,
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
    return this.checks(companyId, budgetId);
  }

  /**
   * Takes a budget to another state. Approving one with open findings asks, and records how many there were.
   * @throws ProblemError 409 when findings are open and it was not said to approve anyway, or the step is not allowed
   */
  async setState(
    companyId: number,
    budgetId: number,
    { state, anyway }: z.output<typeof budgetStateChangeSchema>,
    actor: Actor,
  ): Promise<BudgetDto> {
    const openFindings = state === 'approved' ? (await this.checks(companyId, budgetId)).open : 0;
    if (openFindings > 0 && !anyway)
      throw new ProblemError(
        409,
        'Open findings',
        `${openFindings === 1 ? 'One finding' : `${openFindings} findings`} of the budget checks ${openFindings === 1 ? 'has' : 'have'} no explanation. Explain them, or approve anyway; this is recorded.`,
      );
    return this.#budgets.setState(companyId, budgetId, { state, openFindings }, actor);
  }

  /** A budget beside another version, or beside actuals, line by line with the reasons. @throws ProblemError 404 */
  async compare(companyId: number, budgetId: number, other: z.output<typeof comparisonQuerySchema>['with']): Promise<ComparisonDto> {
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

  /** A new version whose posted months are actuals. @throws ProblemError 422 for a month outside the budget's year */
  async reforecast(companyId: number, budgetId: number, request: z.output<typeof reforecastSchema>, actor: Actor): Promise<BudgetDto> {
    const { name, note, through: key, rest } = request;
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    const first = periodOfYear(books.calendar, from.row.year, 1)!;
    const through = key === undefined ? books.lastPosted : periodOfKey(books.calendar, key);
    if (through === null || through < first)
      throw refused(
        `Nothing of FY${from.row.year} is posted ${key === undefined ? 'yet' : `through ${key}`}, so there are no actuals to use. Copy the budget instead.`,
        'through',
      );
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const lines = reforecast({ books: budgetBooks, head: headOf(from.row), lines: from.lines, through, rest });
    return this.#budgets.addVersion(books, from, { name, note, lines }, actor);
  }

  /** A new version under changed assumptions; the months that changed are held, so that their bases leave them. */
  async whatIf(companyId: number, budgetId: number, request: z.output<typeof whatIfVersionSchema>, actor: Actor): Promise<BudgetDto> {
    const { name, note, tried } = request;
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const lines = whatIf({ books: budgetBooks, head: headOf(from.row), lines: from.lines, tried }).map((line, index) => ({
      ...line,
      months: line.months.map((month, at) => (month.amount === from.lines[index]!.months[at]!.amount ? month : { ...month, held: true })),
    }));
    return this.#budgets.addVersion(books, from, { name, note, lines }, actor);
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
      const held = line.months.filter((month) => month.held).length;
      add(
        line.account,
        `${lineBasisWords({ books: budgetBooks, head, worksheet }, line).sentence}${held > 0 ? `; ${held} ${held === 1 ? 'month' : 'months'} by hand` : ''}`,
      );
    }
    for (const note of budget.notes)
      add(note.account, `${note.month === null ? '' : `${monthOfYearName(books.calendar, budget.row.year, note.month)}: `}${note.text}`);
    return reasons;
  }
}
