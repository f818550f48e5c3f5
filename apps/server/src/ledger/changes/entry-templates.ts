import type { EntryTemplateDto, SaveTemplate } from '@wise-margin/contract';
import { nextMonth, parseIsoDate } from '@wise-margin/core';

import { type BooksCache } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { notFound, refused } from '../../http/problem.ts';
import { contentOf, refuseIssues } from './corrected-content.ts';
import type { EntryMaking } from './entry-making.ts';

type Row = {
  readonly id: number;
  readonly name: string;
  readonly content: string;
  readonly next_date: string | null;
  readonly day: number | null;
};
const templateOf = ({ id, name, content, next_date }: Row): EntryTemplateDto => ({
  id,
  name,
  content: JSON.parse(content) as EntryTemplateDto['content'],
  nextDate: next_date,
});

/** Entries kept to be made again: by hand, or every month. */
export class EntryTemplates {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #making: EntryMaking;

  constructor(database: Database, booksCache: BooksCache, making: EntryMaking) {
    this.#database = database;
    this.#booksCache = booksCache;
    this.#making = making;
  }

  /** In order of name. */
  async list(companyId: number): Promise<EntryTemplateDto[]> {
    await this.#booksCache.of(companyId);
    const rows = await this.#database.select<Row>('SELECT * FROM entry_templates WHERE company_id = $1 ORDER BY name', [companyId]);
    return rows.map(templateOf);
  }

  /** Keeps a template under its name; one there is replaced. @throws ProblemError 422 for an entry that cannot be posted */
  async save(companyId: number, { name, content, nextDate }: SaveTemplate, actor: Actor): Promise<EntryTemplateDto[]> {
    const books = await this.#booksCache.of(companyId);
    refuseIssues(books, contentOf(content), null);
    if (nextDate !== null && parseIsoDate(nextDate) === null)
      throw refused(`“${nextDate}” is not a date. Enter it as YYYY-MM-DD.`, 'nextDate');
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `INSERT INTO entry_templates (company_id, name, content, next_date, day) VALUES ($1, $2, $3, $4, $5)
         ON CONFLICT (company_id, name) DO UPDATE SET content = excluded.content, next_date = excluded.next_date, day = excluded.day`,
        [companyId, name, JSON.stringify(content), nextDate, nextDate === null ? null : Number(nextDate.slice(8))],
        transaction,
      );
      const changes = [{ what: 'next date', from: null, to: nextDate }];
      await recordAudit(this.#database, { companyId, actor, action: 'template.save', subject: name, details: {}, changes }, transaction);
    });
    return this.list(companyId);
  }

  async remove(companyId: number, id: number, actor: Actor): Promise<EntryTemplateDto[]> {
    const { name } = await this.#template(companyId, id);
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM entry_templates WHERE id = $1', [id], transaction);
      await recordAudit(this.#database, { companyId, actor, action: 'template.remove', subject: name, details: {} }, transaction);
    });
    return this.list(companyId);
  }

  /** Makes the next entry of a monthly template as a draft; its following one is a month later. @throws ProblemError 422 for one that does not recur */
  async createNext(companyId: number, id: number, actor: Actor): Promise<{ id: number; number: string }[]> {
    const books = await this.#booksCache.of(companyId);
    const { name, content, next_date: date, day } = await this.#template(companyId, id);
    if (date === null) throw refused(`“${name}” does not recur. Use it for a new entry instead.`, 'template');
    const next = { ...contentOf(JSON.parse(content) as EntryTemplateDto['content']), date, state: 'draft' as const };
    refuseIssues(books, next, null);
    const following = nextMonth(parseIsoDate(date)!, day ?? Number(date.slice(8)));
    return this.#making.make(books, {
      made: [{ content: next }],
      reason: `Recurring: ${name}`,
      actor,
      subject: 'draft entry',
      also: async (transaction) => {
        const [now] = await this.#database.select<{ next_date: string | null }>(
          'SELECT next_date FROM entry_templates WHERE id = $1',
          [id],
          transaction,
        );
        if (now?.next_date !== date) throw refused(`The draft of “${name}” for ${date} was just made.`, 'template');
        await this.#database.run('UPDATE entry_templates SET next_date = $1 WHERE id = $2', [following, id], transaction);
      },
    });
  }

  async #template(companyId: number, id: number): Promise<Row> {
    const [row] = await this.#database.select<Row>('SELECT * FROM entry_templates WHERE id = $1 AND company_id = $2', [id, companyId]);
    if (!row) throw notFound(`template ${id}`);
    return row;
  }
}
