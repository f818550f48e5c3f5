import { type ScheduleChange, scheduleChangeSchema, type ScheduleDto } from '@wise-margin/contract';
import type { ScheduledRun } from '@wise-margin/core';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound } from '../http/problem.ts';
import type { Holiday } from './holidays-file.ts';

type Row = {
  readonly id: number;
  readonly company_id: number;
  readonly content: string;
  readonly is_held: number;
  readonly handled_through: string;
};
export type StoredSchedule = ScheduleChange & { readonly id: number; readonly companyId: number; readonly handledThrough: number };
export type RunOutcome = { readonly state: 'done' | 'skipped' | 'failed'; readonly note: string; readonly issue: number | null };
const RUNS_LISTED = 12;
/** The note of a run that looked and found nothing. */
export const NOTHING_TO_REPORT = 'Nothing to report';

/** Schedules, what they did, and holidays, as they are stored. */
export class ScheduleStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Those of a company, or of all. */
  async list(companyId: number | null): Promise<StoredSchedule[]> {
    const rows = await this.#database.select<Row>('SELECT * FROM schedules WHERE $1 IS NULL OR company_id = $1 ORDER BY id', [companyId]);
    return rows.map(scheduleOf);
  }

  /** @throws ProblemError 404 */
  async of(companyId: number, id: number): Promise<StoredSchedule> {
    const found = (await this.list(companyId)).find((schedule) => schedule.id === id);
    if (!found) throw notFound('schedule with this number');
    return found;
  }

  /** Saves a schedule; runs count from now on when it is new, or was held and goes on. @param id null for a new one */
  async save(
    companyId: number,
    id: number | null,
    { change, actor }: { readonly change: ScheduleChange; readonly actor: Actor },
  ): Promise<number> {
    const before = id === null ? null : await this.of(companyId, id);
    const now = actor.now().toISOString();
    const { isHeld, ...content } = change;
    const saved = [JSON.stringify(content), isHeld ? 1 : 0] as const;
    return this.#database.write(async (transaction) => {
      let made = id;
      if (before === null) {
        const [next] = await this.#database.select<{ id: number }>('SELECT coalesce(max(id), 0) + 1 AS id FROM schedules', [], transaction);
        made = next!.id;
        await this.#database.run(
          'INSERT INTO schedules (id, company_id, content, is_held, handled_through) VALUES ($1, $2, $3, $4, $5)',
          [made, companyId, ...saved, now],
          transaction,
        );
      } else {
        const goesOn = before.isHeld && !isHeld;
        await this.#database.run('UPDATE schedules SET content = $2, is_held = $3 WHERE id = $1', [before.id, ...saved], transaction);
        if (goesOn)
          await this.#database.run(
            'UPDATE schedules SET handled_through = max(handled_through, $2) WHERE id = $1',
            [before.id, now],
            transaction,
          );
      }
      const details = { isHeld, what: change.what, to: change.to, lists: change.lists };
      await recordAudit(this.#database, { companyId, actor, action: 'schedule.save', subject: change.name, details }, transaction);
      return made!;
    });
  }

  /** @throws ProblemError 404 */
  async remove(companyId: number, id: number, actor: Actor): Promise<void> {
    const { name } = await this.of(companyId, id);
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM schedule_runs WHERE schedule_id = $1', [id], transaction);
      await this.#database.run('DELETE FROM schedules WHERE id = $1', [id], transaction);
      await recordAudit(this.#database, { companyId, actor, action: 'schedule.remove', subject: name, details: {} }, transaction);
    });
  }

  /** Takes a run, so that no other server takes it too. @returns false when it was taken before */
  claim({ id }: Pick<StoredSchedule, 'id'>, { at }: Pick<ScheduledRun, 'at'>): Promise<boolean> {
    const due = new Date(at).toISOString();
    return this.#database.write(async (transaction) => {
      const [known] = await this.#database.select<{ id: number }>(
        'SELECT id FROM schedule_runs WHERE schedule_id = $1 AND due_at = $2',
        [id, due],
        transaction,
      );
      await this.#database.run('UPDATE schedules SET handled_through = max(handled_through, $2) WHERE id = $1', [id, due], transaction);
      if (known) return false;
      await this.#database.run(`INSERT INTO schedule_runs (schedule_id, due_at, state) VALUES ($1, $2, 'running')`, [id, due], transaction);
      return true;
    });
  }

  async finish({ id }: Pick<StoredSchedule, 'id'>, { at }: Pick<ScheduledRun, 'at'>, { state, note, issue }: RunOutcome): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        'UPDATE schedule_runs SET state = $3, note = $4, issue_id = $5 WHERE schedule_id = $1 AND due_at = $2',
        [id, new Date(at).toISOString(), state, note, issue],
        transaction,
      ),
    );
  }

  /** The last run before a moment that reported, or had nothing to report: what came until then is known; null for the first. One whose condition was not met looked at nothing. */
  async lastKnown(id: number, before: number): Promise<number | null> {
    const [row] = await this.#database.select<{ at: string | null }>(
      `SELECT max(due_at) AS at FROM schedule_runs WHERE schedule_id = $1 AND (state = 'done' OR (state = 'skipped' AND note = $3)) AND due_at < $2`,
      [id, new Date(before).toISOString(), NOTHING_TO_REPORT],
    );
    return row?.at ? Date.parse(row.at) : null;
  }

  /** Runs that were under way when the server stopped. */
  async interrupted(): Promise<{ readonly schedule: StoredSchedule; readonly at: number }[]> {
    const rows = await this.#database.select<Row & { due_at: string }>(
      `SELECT s.*, r.due_at FROM schedule_runs r JOIN schedules s ON s.id = r.schedule_id WHERE r.state = 'running' ORDER BY r.due_at`,
    );
    return rows.map((row) => ({ schedule: scheduleOf(row), at: Date.parse(row.due_at) }));
  }

  async runs(id: number): Promise<ScheduleDto['runs']> {
    const rows = await this.#database.select<{
      due_at: string;
      state: ScheduleDto['runs'][number]['state'];
      note: string;
      issue_id: number | null;
    }>('SELECT due_at, state, note, issue_id FROM schedule_runs WHERE schedule_id = $1 ORDER BY due_at DESC LIMIT $2', [id, RUNS_LISTED]);
    return rows.map(({ due_at: due, state, note, issue_id: issue }) => ({ due, state, note, issue }));
  }

  holidays(companyId: number): Promise<Holiday[]> {
    return this.#database.select<Holiday>('SELECT date, name FROM holidays WHERE company_id = $1 ORDER BY date', [companyId]);
  }

  /** Takes the holidays of a file in place of those before. */
  async setHolidays(companyId: number, holidays: readonly Holiday[], actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM holidays WHERE company_id = $1', [companyId], transaction);
      for (const { date, name } of holidays)
        await this.#database.run('INSERT INTO holidays (company_id, date, name) VALUES ($1, $2, $3)', [companyId, date, name], transaction);
      const details = { days: holidays.length };
      await recordAudit(this.#database, { companyId, actor, action: 'holidays.import', subject: 'holidays', details }, transaction);
    });
  }
}

const scheduleOf = (row: Row): StoredSchedule => ({
  ...scheduleChangeSchema.parse({ ...(JSON.parse(row.content) as object), isHeld: row.is_held === 1 }),
  id: row.id,
  companyId: row.company_id,
  handledThrough: Date.parse(row.handled_through),
});
