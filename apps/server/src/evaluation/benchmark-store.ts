import type { benchmarkChangeSchema, BenchmarkDto } from '@wise-margin/contract';
import { type Benchmark, type Benchmarks, NO_BENCHMARKS } from '@wise-margin/core';
import type { z } from 'zod';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';

type Row = Omit<BenchmarkDto, 'changedBy'>;

/** The benchmarks of each company by the key of a line, for every view that has the line. */
export class BenchmarkStore {
  readonly #database: Database;
  /** the same map for as long as nothing changes, so that statements stay laid out */
  readonly #held = new Map<number, { readonly text: string; readonly benchmarks: Benchmarks }>();

  constructor(database: Database) {
    this.#database = database;
  }

  /** A company's benchmarks: its own, and for other lines those for all companies. */
  async list(companyId: number): Promise<BenchmarkDto[]> {
    const rows = await this.#database.select<Row>(
      `SELECT line_key AS line, kind, value, 'company' AS scope FROM benchmarks WHERE company_id = $1
       UNION ALL SELECT line_key, kind, value, 'all' FROM benchmarks_for_all WHERE line_key NOT IN (SELECT line_key FROM benchmarks WHERE company_id = $1)
       ORDER BY line`,
      [companyId],
    );
    const own = await this.#database.select<{ line: string; name: string }>(
      'SELECT b.line_key AS line, c.name FROM benchmarks b JOIN companies c ON c.id = b.company_id ORDER BY c.id',
    );
    return rows.map((row) => ({ ...row, changedBy: own.filter(({ line }) => line === row.line).map(({ name }) => name) }));
  }

  async of(companyId: number): Promise<Benchmarks> {
    const list = (await this.#database.remembered(`benchmarks of ${companyId}`, () => this.list(companyId))).map(
      ({ line, kind, value }) => ({ line, kind, value }),
    );
    if (list.length === 0) return NO_BENCHMARKS;
    const text = JSON.stringify(list);
    const held = this.#held.get(companyId);
    if (held?.text === text) return held.benchmarks;
    const benchmarks = new Map(list.map(({ line, kind, value }): [string, Benchmark] => [line, { kind, value }]));
    this.#held.set(companyId, { text, benchmarks });
    return benchmarks;
  }

  /**
   * Sets a benchmark, or takes it away: for one company, or for every company without its own; the company that sets it for
   * all has none of its own then.
   */
  async change(
    companyId: number,
    { line, kind, value, scope }: z.infer<typeof benchmarkChangeSchema>,
    actor: Actor,
  ): Promise<BenchmarkDto[]> {
    const before = (await this.list(companyId)).find((each) => each.line === line);
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM benchmarks WHERE company_id = $1 AND line_key = $2', [companyId, line], transaction);
      if (scope === 'all') await this.#database.run('DELETE FROM benchmarks_for_all WHERE line_key = $1', [line], transaction);
      if (value !== null && scope === 'all')
        await this.#database.run(
          'INSERT INTO benchmarks_for_all (line_key, kind, value) VALUES ($1, $2, $3)',
          [line, kind, value],
          transaction,
        );
      if (value !== null && scope === 'company')
        await this.#database.run(
          'INSERT INTO benchmarks (company_id, line_key, kind, value) VALUES ($1, $2, $3, $4)',
          [companyId, line, kind, value],
          transaction,
        );
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'benchmark.change',
          subject: line,
          details: { kind, value, scope },
          changes: [{ what: 'value', from: before?.value ?? null, to: value }],
        },
        transaction,
      );
    });
    return this.list(companyId);
  }
}
