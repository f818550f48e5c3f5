import { type PackMonthChange, type PackState, richTextSchema } from '@wise-margin/contract';
import type { RichText } from '@wise-margin/core';
import type { Transaction } from 'sequelize';
import { z } from 'zod';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { ProblemError } from '../http/problem.ts';
import type { PackPlace } from './pack-store.ts';

/** A pack of a company in a month. */
export type MonthPlace = PackPlace & { readonly month: string };
export type PackMonth = {
  readonly state: PackState;
  readonly meeting: string | null;
  readonly texts: Readonly<Record<string, RichText>>;
  /** 0 while nothing was said about the month */
  readonly version: number;
};
type Row = { readonly state: PackState; readonly meeting: string | null; readonly texts: string; readonly version: number };
const textsSchema = z.record(z.string(), richTextSchema);
const NOTHING: PackMonth = { state: 'draft', meeting: null, texts: {}, version: 0 };

/** What is written and decided for a pack in each month: texts, the day of the meeting, whether it is in review. */
export class PackMonths {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async of({ company, pack, month }: MonthPlace, transaction?: Transaction): Promise<PackMonth> {
    const [row] = await this.#database.select<Row>(
      'SELECT state, meeting, texts, version FROM pack_months WHERE company_id = $1 AND pack = $2 AND month = $3',
      [company, pack, month],
      transaction,
    );
    return row ? { ...row, texts: textsSchema.parse(JSON.parse(row.texts)) } : NOTHING;
  }

  /** The state of every pack of a company in a month, by the pack's key. */
  async states(companyId: number, month: string): Promise<ReadonlyMap<string, PackState>> {
    const rows = await this.#database.select<{ pack: string; state: PackState }>(
      'SELECT pack, state FROM pack_months WHERE company_id = $1 AND month = $2',
      [companyId, month],
    );
    return new Map(rows.map(({ pack, state }) => [pack, state]));
  }

  /**
   * Changes what is given; a text that is changed after the pack was issued makes it a draft again.
   * @throws ProblemError 409 when somebody else changed the month meanwhile; nothing is overwritten
   */
  async change(place: MonthPlace, change: PackMonthChange, actor: Actor): Promise<PackMonth> {
    return this.#database.write(async (transaction) => {
      const before = await this.of(place, transaction);
      if (before.version !== change.version)
        throw new ProblemError(
          409,
          'Changed meanwhile',
          'Somebody else changed this pack’s month. Your text is still here: copy it, reload, and enter it again.',
        );
      const state = change.state ?? (before.state === 'issued' && (change.texts || change.meeting !== undefined) ? 'draft' : before.state);
      const meeting = change.meeting === undefined ? before.meeting : change.meeting;
      const texts = { ...before.texts, ...change.texts };
      await this.#save(place, { state, meeting, texts, version: before.version + 1 }, transaction);
      const changes = [
        { what: 'state', from: STATE_WORDS[before.state], to: STATE_WORDS[state] },
        { what: 'meeting', from: before.meeting ?? '', to: meeting ?? '' },
      ].filter(({ from, to }) => from !== to);
      if (changes.length > 0)
        await recordAudit(
          this.#database,
          { companyId: place.company, actor, action: 'pack.month', subject: place.pack, details: { month: place.month }, changes },
          transaction,
        );
      return { state, meeting, texts, version: before.version + 1 };
    });
  }

  /** Marks a month as issued, inside the transaction that issues it. */
  async markIssued(place: MonthPlace, transaction: Transaction): Promise<void> {
    const before = await this.of(place, transaction);
    await this.#save(place, { ...before, state: 'issued', version: before.version + 1 }, transaction);
  }

  #save({ company, pack, month }: MonthPlace, { state, meeting, texts, version }: PackMonth, transaction: Transaction): Promise<void> {
    return this.#database.run(
      `INSERT INTO pack_months (company_id, pack, month, state, meeting, texts, version) VALUES ($1, $2, $3, $4, $5, $6, $7)
       ON CONFLICT DO UPDATE SET state = excluded.state, meeting = excluded.meeting, texts = excluded.texts, version = excluded.version`,
      [company, pack, month, state, meeting, JSON.stringify(texts), version],
      transaction,
    );
  }
}

export const STATE_WORDS: Readonly<Record<PackState, string>> = { draft: 'Draft', inReview: 'In review', issued: 'Issued' };
