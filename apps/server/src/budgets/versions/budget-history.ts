import type { BudgetChangeDto, BudgetHistoryDto } from '@wise-margin/contract';
import { budgetMilestoneWords } from '@wise-margin/presentation';

import { changeOf, type ChangeRow } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { changeDto } from '../worksheet/change-dto.ts';

const PAGE = 100;
type Event = { readonly event: number; readonly at: string; readonly actor: string; readonly action: string; readonly details: string };
type Found = { readonly [Column in keyof ChangeRow as `change_${Column}`]: ChangeRow[Column] | null } & Event;

/** Everything that happened to a budget: every change of its figures, how it was made, its states and answers. */
export class BudgetHistory {
  readonly #parts: BudgetContext;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
  }

  /**
   * A page of what happened, the newest first: who, when, from, to.
   * @param asked.before only what came before this one of them; all when left out
   * @param asked.account only changes of this account's lines and notes, and of them only its figures
   */
  async page(
    { company: companyId, budget: budgetId }: BudgetPlace,
    asked: { readonly before?: number | undefined; readonly account?: string | undefined } = {},
  ): Promise<BudgetHistoryDto> {
    const { before, account = null } = asked;
    const books = await this.#parts.booksCache.of(companyId);
    const { row } = await this.#parts.store.of(books, budgetId);
    const names = new Map((await this.#parts.store.list(companyId)).map(({ id, name }) => [id, name]));
    const found = await this.#parts.database.select<Found>(
      `SELECT e.id AS event, e.at, e.actor, e.action, e.details, ${CHANGE_COLUMNS.map((name) => `c.${name} AS change_${name}`).join(', ')}
         FROM audit_events e
         LEFT JOIN budget_changes c ON c.budget_id = $1 AND c.version = json_extract(e.details, '$.version')
        WHERE e.company_id = $2 AND e.subject = $3 AND e.id < $4
          AND ($6 IS NULL OR EXISTS (SELECT 1 FROM json_each(c.lines) WHERE json_extract(value, '$.after.account') = $6)
            OR EXISTS (SELECT 1 FROM json_each(c.notes) WHERE coalesce(json_extract(value, '$.after.account'), json_extract(value, '$.before.account')) = $6))
        ORDER BY e.id DESC LIMIT $5`,
      [budgetId, companyId, `budget ${budgetId}`, before ?? Number.MAX_SAFE_INTEGER, PAGE + 1, account],
    );
    const items = found
      .slice(0, PAGE)
      .map((each) => itemOf(each, { books, year: row.year, account, nameOf: (id) => names.get(id) ?? `${id}` }));
    return { items, next: found.length > PAGE ? items.at(-1)!.id : null };
  }
}

const CHANGE_COLUMNS = [
  'id',
  'version',
  'at',
  'actor',
  'session',
  'kind',
  'of_change',
  'words',
  'lines',
  'notes',
  'rules',
  'cells',
  'undone',
] as const satisfies readonly (keyof ChangeRow)[];

function itemOf(
  found: Found,
  {
    books,
    year,
    account,
    nameOf,
  }: { readonly books: Books; readonly year: number; readonly account: string | null; readonly nameOf: (budget: number) => string },
): BudgetChangeDto {
  const { event: id, actor, action, details } = found;
  if (found.change_id !== null) {
    const row = Object.fromEntries(CHANGE_COLUMNS.map((name) => [name, found[`change_${name}`]])) as ChangeRow;
    const change = changeOf(row);
    const lines = account === null ? change.lines : change.lines.filter(({ after }) => after.account === account);
    return { ...changeDto(books, year, { ...change, lines }), id };
  }
  const words = budgetMilestoneWords(action, JSON.parse(details) as Record<string, unknown>, nameOf);
  return { id, at: found.at, actor, words, kind: 'milestone', isUndone: false, cells: [], more: 0 };
}
