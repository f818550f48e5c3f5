import { columnSetSchema, lineSetSchema, type NewView, type Scope } from '@wise-margin/contract';
import { type ColumnSet, type LineSet, shippedView } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Database } from '../../database/database.ts';
import { refused } from '../../http/problem.ts';
import { ReadOnce } from './read-once.ts';
import { scopeOf, viewKeyOf, type ViewRow } from './view-row.ts';
import type { ViewRows } from './view-rows.ts';

/** What a view can take from another one. */
type ViewPart = 'lines' | 'columns';
const STORED = { lines: 'line_set', columns: 'column_set' } as const;
const SOURCE = { lines: 'lines_of', columns: 'columns_of' } as const;
type Shipped = NonNullable<ReturnType<typeof shippedView>>;
type Holder = Shipped | ViewRow;
const isShipped = (holder: Holder): holder is Shipped => 'lineSet' in holder;
const textOf = (holder: Holder, part: ViewPart): string =>
  isShipped(holder) ? JSON.stringify(part === 'lines' ? holder.lineSet : holder.columnSet) : holder[STORED[part]];

/** A view as it is being saved: its row as it was, null for a new one, and for whom it will be kept. */
export type Saving = {
  readonly row: ViewRow | null;
  readonly parts: Partial<NewView>;
  readonly companyId: number;
  readonly scope: Scope;
  /** who saves it */
  readonly person: string;
};
/** What is stored of lines or columns: themselves, and the key of the view they are taken from. */
type StoredPart = { readonly set: string; readonly of: string | null };

/**
 * Whose lines and columns a view has. A view that takes them from another one shows what that one has now, in the version of
 * the company that looks; what it had when it was saved is kept with it, for the day the other one goes.
 */
export class ViewSources {
  readonly #database: Database;
  readonly #rows: ViewRows;
  readonly #lineSets = new ReadOnce((text): LineSet => lineSetSchema.parse(JSON.parse(text)));
  readonly #columnSets = new ReadOnce((text): ColumnSet => columnSetSchema.parse(JSON.parse(text)));

  constructor(database: Database, rows: ViewRows) {
    this.#database = database;
    this.#rows = rows;
  }

  async lineSet(row: ViewRow, companyId: number): Promise<LineSet> {
    const holder = await this.#holder({ row, companyId }, 'lines');
    return isShipped(holder) ? holder.lineSet : this.#lineSets.of(holder.line_set);
  }

  async columnSet(row: ViewRow, companyId: number): Promise<ColumnSet> {
    const holder = await this.#holder({ row, companyId }, 'columns');
    return isShipped(holder) ? holder.columnSet : this.#columnSets.of(holder.column_set);
  }

  /** The key of the view that lines or columns are taken from; null when they are the view's own or the other view was deleted. */
  async source(row: ViewRow, part: ViewPart, companyId: number): Promise<string | null> {
    const key = row[SOURCE[part]];
    const isThere = key !== null && (shippedView(key) ?? (await this.#rows.find({ company: companyId, view: key }, row.owner))) !== null;
    return isThere ? key : null;
  }

  /**
   * Lines and columns as a save stores them: those of the view they are taken from, those sent with it, or as they were. Sent
   * without saying where they are from, they are its own.
   * @throws ProblemError 422 when the other view is not there, is kept for one company only, or takes them from this one
   */
  async saved(saving: Saving, transaction: Transaction): Promise<Pick<ViewRow, 'line_set' | 'column_set' | 'lines_of' | 'columns_of'>> {
    const lines = await this.#saved(saving, 'lines', transaction);
    const columns = await this.#saved(saving, 'columns', transaction);
    return { line_set: lines.set, lines_of: lines.of, column_set: columns.set, columns_of: columns.of };
  }

  async #saved(saving: Saving, part: ViewPart, transaction: Transaction): Promise<StoredPart> {
    const { row, parts, companyId, scope } = saving;
    const [sent, from] = part === 'lines' ? [parts.lineSet, parts.linesOf] : [parts.columnSet, parts.columnsOf];
    const before = row?.[SOURCE[part]] ?? null;
    const of = from === undefined ? (sent === undefined ? before : null) : from;
    if (of === null) {
      const set = sent === undefined ? textOf(await this.#holder({ row: row!, companyId, transaction }, part), part) : JSON.stringify(sent);
      return { set, of };
    }
    const isAsItWas = from === undefined && row !== null && scope === scopeOf(row);
    return isAsItWas ? { set: row[STORED[part]], of } : this.#taken(saving, { part, of }, transaction);
  }

  async #taken(
    { row: taker, companyId, scope, person }: Saving,
    { part, of }: { readonly part: ViewPart; readonly of: string },
    transaction: Transaction,
  ): Promise<StoredPart> {
    const refuse = (detail: string) => refused(detail, `${part}Of`);
    const shipped = shippedView(of);
    if (shipped) return { set: textOf(shipped, part), of };
    const key = taker && viewKeyOf(taker);
    if (of === key) throw refuse(`A view cannot take its ${part} from itself.`);
    const place = { company: companyId, view: of };
    const isSeen = (await this.#rows.find(place, person, transaction)) !== null;
    const row = await this.#rows.find(place, taker?.owner ?? person, transaction);
    if (!row || !isSeen) throw refuse(`The view to take ${part} from is not there. Choose another view, or own ${part}.`);
    const isForOne = row.company_id !== null && (row.version_of === null || !(await this.#rows.isThere(row.version_of, transaction)));
    if (scope === 'all' && isForOne)
      throw refuse(`${row.name} is kept for this company only. Keep it for all companies first, or copy its ${part}.`);
    const through: ViewRow[] = [];
    const holder = await this.#holder({ row, companyId, transaction }, part, through);
    if (through.some((each) => viewKeyOf(each) === key))
      throw refuse(`${row.name} takes its ${part} from this view. Choose another view, or own ${part}.`);
    return { set: textOf(holder, part), of };
  }

  /** Leaves the lines and columns of a view that is deleted with the views that take them from it, as their own. */
  async leave(row: ViewRow, companyId: number, transaction: Transaction): Promise<void> {
    // a company's own version goes back to the view for all companies, and so do they
    if (row.version_of !== null && (await this.#rows.isThere(row.version_of, transaction))) return;
    for (const part of ['lines', 'columns'] as const) {
      const holder = await this.#holder({ row, companyId, transaction }, part);
      await this.#database.run(
        `UPDATE views SET ${STORED[part]} = $1, ${SOURCE[part]} = CASE WHEN EXISTS
           (SELECT 1 FROM views own WHERE own.version_of = $2 AND own.id <> $2 AND (views.company_id IS NULL OR own.company_id = views.company_id))
           THEN ${SOURCE[part]} END
         WHERE ${SOURCE[part]} = $3 AND ($4 IS NULL OR company_id = $4)`,
        [textOf(holder, part), row.id, viewKeyOf(row), row.company_id],
        transaction,
      );
    }
  }

  /** The last of the views that take a part from one another, as the owner of the first one sees them in a company. */
  async #holder(
    { row, companyId, transaction }: { readonly row: ViewRow; readonly companyId: number; readonly transaction?: Transaction | undefined },
    part: ViewPart,
    through: ViewRow[] = [],
  ): Promise<Holder> {
    let at = row;
    through.push(at);
    for (let of = at[SOURCE[part]]; of !== null; of = at[SOURCE[part]]) {
      const shipped = shippedView(of);
      if (shipped) return shipped;
      const next = await this.#rows.find({ company: companyId, view: of }, row.owner, transaction);
      // gone, or in a circle that versions of different companies make: what it had last
      if (!next || through.some(({ id }) => id === next.id)) return at;
      at = next;
      through.push(at);
    }
    return at;
  }
}
