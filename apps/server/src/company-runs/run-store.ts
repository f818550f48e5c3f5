import type { CompanyRunDto, CompanyRunRequest, CompanyRunResult } from '@wise-margin/contract';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound } from '../http/problem.ts';

type RunRow = {
  readonly id: number;
  readonly pack: string;
  readonly pack_name: string;
  readonly month: string;
  readonly started_at: string;
  readonly finished_at: string | null;
  readonly by: string;
};
type ResultRow = {
  readonly run_id: number;
  readonly company_id: number;
  readonly name: string;
  readonly state: CompanyRunResult['state'];
  readonly note: string;
  readonly issue_id: number | null;
  readonly summary: string | null;
};
/** What changes of a company's result. */
export type ResultChange = Partial<Pick<CompanyRunResult, 'state' | 'note' | 'issue' | 'summary'>>;
const RUNS_LISTED = 20;
const STOPPED = 'The server stopped before this company was finished. Look at its issues, then run it again.';

/** Runs over several companies, as they are stored. */
export class RunStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** Begins a run. @returns its number, and whether it is new: the same key begins nothing a second time */
  begin(
    request: CompanyRunRequest & { readonly packName: string },
    actor: Actor,
  ): Promise<{ readonly id: number; readonly isNew: boolean }> {
    const { key, pack, packName, month, companies } = request;
    return this.#database.write(async (transaction) => {
      const [known] = await this.#database.select<{ id: number }>('SELECT id FROM company_runs WHERE key = $1', [key], transaction);
      if (known) return { id: known.id, isNew: false };
      await this.#database.run(
        'INSERT INTO company_runs (key, pack, pack_name, month, started_at, by) VALUES ($1, $2, $3, $4, $5, $6)',
        [key, pack, packName, month, actor.now().toISOString(), actor.name],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM company_runs', [], transaction);
      for (const [position, company] of companies.entries())
        await this.#database.run(
          `INSERT INTO company_run_results (run_id, company_id, position, state) VALUES ($1, $2, $3, 'waiting')`,
          [made!.id, company, position],
          transaction,
        );
      const details = { pack, month, companies };
      await recordAudit(this.#database, { companyId: null, actor, action: 'companyRun.start', subject: pack, details }, transaction);
      return { id: made!.id, isNew: true };
    });
  }

  /** The latest first. */
  async list(): Promise<CompanyRunDto[]> {
    return this.#dtos(await this.#database.select<RunRow>('SELECT * FROM company_runs ORDER BY id DESC LIMIT $1', [RUNS_LISTED]));
  }

  /** @throws ProblemError 404 */
  async of(id: number): Promise<CompanyRunDto> {
    const [run] = await this.#dtos(await this.#database.select<RunRow>('SELECT * FROM company_runs WHERE id = $1', [id]));
    if (!run) throw notFound(`run ${id}`);
    return run;
  }

  async setResult(run: number, company: number, { state, note, issue, summary }: ResultChange): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run(
        `UPDATE company_run_results SET state = coalesce($3, state), note = coalesce($4, note), issue_id = coalesce($5, issue_id),
         summary = coalesce($6, summary) WHERE run_id = $1 AND company_id = $2`,
        [run, company, state ?? null, note ?? null, issue ?? null, summary ? JSON.stringify(summary) : null],
        transaction,
      ),
    );
  }

  async finish(run: number, at: Date): Promise<void> {
    await this.#database.write((transaction) =>
      this.#database.run('UPDATE company_runs SET finished_at = $2 WHERE id = $1', [run, at.toISOString()], transaction),
    );
  }

  /** Ends runs that were under way when the server stopped; what was not reached says so. */
  async recover(at: Date): Promise<void> {
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `UPDATE company_run_results SET state = 'failed', note = $1 WHERE state IN ('waiting', 'running')`,
        [STOPPED],
        transaction,
      );
      await this.#database.run('UPDATE company_runs SET finished_at = $1 WHERE finished_at IS NULL', [at.toISOString()], transaction);
    });
  }

  async #dtos(rows: readonly RunRow[]): Promise<CompanyRunDto[]> {
    const results = await this.#database.select<ResultRow>(
      `SELECT r.run_id, r.company_id, c.name, r.state, r.note, r.issue_id, r.summary FROM company_run_results r
       JOIN companies c ON c.id = r.company_id WHERE r.run_id IN (SELECT value FROM json_each($1)) ORDER BY r.run_id, r.position`,
      [JSON.stringify(rows.map(({ id }) => id))],
    );
    return rows.map((row) => ({
      id: row.id,
      pack: row.pack,
      packName: row.pack_name,
      month: row.month,
      startedAt: row.started_at,
      finishedAt: row.finished_at,
      by: row.by,
      results: results
        .filter(({ run_id: run }) => run === row.id)
        .map(({ company_id: company, name, state, note, issue_id: issue, summary }) => ({
          ...{ company, name, state, note, issue },
          summary: summary === null ? null : (JSON.parse(summary) as CompanyRunResult['summary']),
        })),
    }));
  }
}
