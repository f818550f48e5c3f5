import type { ChangeFinding, FindingNote, FindingRecordDto, FindingStatus } from '@wise-margin/contract';
import type { Comparison } from '@wise-margin/core';
import { fieldsOf, findingStatusWords, liveText } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';
import type { Explained } from './explainer.ts';

/** What a finding is kept under: its line, comparison and month. */
export type FindingKey = {
  readonly companyId: number;
  readonly view: string;
  readonly line: string;
  readonly comparison: Comparison;
  readonly month: string;
};
export type FindingRow = {
  readonly id: number;
  readonly line: string;
  readonly month: string;
  readonly status: FindingStatus;
  readonly owner: string;
  readonly due: string | null;
  readonly is_timing: number;
  readonly variance: number;
  readonly comment: string;
  readonly rejected: string;
  readonly figures: string;
  readonly questions: number;
};

const ROWS = `SELECT f.*, (SELECT count(*) FROM finding_notes q WHERE q.finding_id = f.id AND q.kind = 'question'
  AND NOT EXISTS (SELECT 1 FROM finding_notes a WHERE a.finding_id = f.id AND a.kind = 'answer' AND a.id > q.id)) AS questions FROM findings f`;

/** What people said about findings: status, owner, comment, questions and answers. The findings themselves are computed. */
export class FindingRecords {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Everything said about the lines of a view in a comparison. */
  all({ companyId, view, comparison }: Omit<FindingKey, 'line' | 'month'>): Promise<FindingRow[]> {
    return this.#database.select<FindingRow>(`${ROWS} WHERE f.company_id = $1 AND f.view = $2 AND f.comparison = $3`, [
      companyId,
      view,
      comparison,
    ]);
  }

  /** @param valueOf what the fields of its comment show now */
  async of(key: FindingKey, valueOf: Explained['valueOf']): Promise<FindingRecordDto> {
    const row = await this.#row(key);
    if (!row) return { status: 'open', owner: '', due: null, isTiming: false, rejected: '', comment: null, hasMoved: false, notes: [] };
    const notes = await this.#database.select<FindingRecordDto['notes'][number]>(
      'SELECT at, person, kind, text FROM finding_notes WHERE finding_id = $1 ORDER BY id',
      [row.id],
    );
    const comment = row.comment === '' ? null : liveText(row.comment, valueOf, JSON.parse(row.figures) as Record<string, string>);
    return {
      status: row.status,
      owner: row.owner,
      due: row.due,
      isTiming: row.is_timing === 1,
      rejected: row.rejected,
      comment,
      hasMoved: comment?.segments.some(({ was }) => was !== null) ?? false,
      notes,
    };
  }

  /**
   * Changes what is given, and leaves the rest as it is. A comment is accepted with the figures it shows now.
   * @throws ProblemError 422 for a comment with a field that means nothing
   */
  async change(
    key: FindingKey,
    change: ChangeFinding,
    { actor, explained, name }: { readonly actor: Actor; readonly explained: Explained; readonly name: string },
  ): Promise<void> {
    const { valueOf, explanation } = explained;
    const unknown = fieldsOf(change.comment ?? '').find((field) => valueOf(field) === null);
    if (unknown !== undefined)
      throw refused(
        `There is no figure {${unknown}}. Use {variance}, {percent}, {actual}, {base}, {direction}, {yearToDate}, {account:5210}, {party:Name} or {month:2026-09}.`,
        'comment',
      );
    await this.#database.write(async (transaction) => {
      const before = await this.#ensured(key, transaction);
      const status = change.status ?? before.status;
      const comment = change.comment ?? before.comment;
      const figures =
        change.comment === undefined
          ? before.figures
          : JSON.stringify(Object.fromEntries(fieldsOf(comment).map((field) => [field, valueOf(field)!])));
      const rejected = change.rejected ?? before.rejected;
      const isTiming = change.isTiming ?? before.is_timing === 1;
      const [owner, due] = [change.owner ?? before.owner, change.due === undefined ? before.due : change.due];
      await this.#database.run(
        'UPDATE findings SET status = $2, owner = $3, due = $4, is_timing = $5, comment = $6, figures = $7, variance = $8, rejected = $9 WHERE id = $1',
        [before.id, status, owner, due, isTiming ? 1 : 0, comment, figures, explanation.variance, rejected],
        transaction,
      );
      const changes = [
        { what: 'status', from: findingStatusWords(before.status), to: findingStatusWords(status) },
        { what: 'owner', from: before.owner, to: owner },
        { what: 'due', from: before.due ?? '', to: due ?? '' },
        { what: 'timing', from: before.is_timing === 1 ? 'yes' : 'no', to: isTiming ? 'yes' : 'no' },
        { what: 'comment', from: before.comment, to: comment },
        { what: 'drafted comment rejected', from: before.rejected === '' ? 'no' : 'yes', to: rejected === '' ? 'no' : 'yes' },
      ].filter(({ from, to }) => from !== to);
      if (changes.length === 0) return;
      for (const { what, from, to } of changes) {
        if (what === 'comment')
          await this.#note(
            before.id,
            { person: actor.name, kind: 'comment', text: to === '' ? 'Comment removed' : plain(to, valueOf) },
            { actor, transaction },
          );
        else
          await this.#note(
            before.id,
            { person: actor.name, kind: 'status', text: `${what}: ${from || 'none'} to ${to || 'none'}` },
            { actor, transaction },
          );
      }
      await recordAudit(
        this.#database,
        {
          companyId: key.companyId,
          actor,
          action: 'finding.change',
          subject: `${name}, ${key.month}`,
          details: { line: key.line, comparison: key.comparison },
          changes,
        },
        transaction,
      );
    });
  }

  /** A question to the owner, or the answer to one. */
  async note(
    key: FindingKey,
    { kind, person, text }: Pick<FindingNote, 'kind' | 'person' | 'text'>,
    { actor, name }: { readonly actor: Actor; readonly name: string },
  ): Promise<void> {
    await this.#database.write(async (transaction) => {
      const row = await this.#ensured(key, transaction);
      await this.#note(row.id, { person, kind, text }, { actor, transaction });
      if (kind === 'question') await this.#database.run('UPDATE findings SET owner = $2 WHERE id = $1', [row.id, person], transaction);
      await recordAudit(
        this.#database,
        {
          companyId: key.companyId,
          actor,
          action: 'finding.note',
          subject: `${name}, ${key.month}`,
          details: { kind },
          changes: [{ what: kind === 'question' ? `question to ${person}` : `answer of ${person}`, from: '', to: text }],
        },
        transaction,
      );
    });
  }

  async #note(
    id: number,
    { person, kind, text }: { readonly person: string; readonly kind: string; readonly text: string },
    { actor, transaction }: { readonly actor: Actor; readonly transaction: Transaction },
  ): Promise<void> {
    await this.#database.run(
      'INSERT INTO finding_notes (finding_id, at, person, kind, text) VALUES ($1, $2, $3, $4, $5)',
      [id, actor.now().toISOString(), person, kind, text],
      transaction,
    );
  }

  async #row({ companyId, view, line, comparison, month }: FindingKey, transaction?: Transaction): Promise<FindingRow | undefined> {
    const [row] = await this.#database.select<FindingRow>(
      `${ROWS} WHERE f.company_id = $1 AND f.view = $2 AND f.line = $3 AND f.comparison = $4 AND f.month = $5`,
      [companyId, view, line, comparison, month],
      transaction,
    );
    return row;
  }

  async #ensured(key: FindingKey, transaction: Transaction): Promise<FindingRow> {
    const { companyId, view, line, comparison, month } = key;
    await this.#database.run(
      'INSERT INTO findings (company_id, view, line, comparison, month) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING',
      [companyId, view, line, comparison, month],
      transaction,
    );
    return (await this.#row(key, transaction))!;
  }
}

const plain = (template: string, valueOf: Explained['valueOf']): string =>
  liveText(template, valueOf)
    .segments.map(({ text }) => text)
    .join('');
