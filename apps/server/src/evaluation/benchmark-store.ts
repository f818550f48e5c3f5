import type { BenchmarkChange, BenchmarkDto } from '@wise-margin/contract';
import { type Benchmark, type Benchmarks, NO_BENCHMARKS } from '@wise-margin/core';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';

/** The benchmarks of each company by the key of a line, for every view that has the line. */
export class BenchmarkStore {
  readonly #database: Database;
  /** the same map for as long as nothing changes, so that statements stay laid out */
  readonly #held = new Map<number, { readonly text: string; readonly benchmarks: Benchmarks }>();

  constructor(database: Database) {
    this.#database = database;
  }

  async list(companyId: number): Promise<BenchmarkDto[]> {
    return this.#database.select<BenchmarkDto>(
      'SELECT line_key AS line, kind, value FROM benchmarks WHERE company_id = $1 ORDER BY line_key',
      [companyId],
    );
  }

  async of(companyId: number): Promise<Benchmarks> {
    const list = await this.list(companyId);
    if (list.length === 0) return NO_BENCHMARKS;
    const text = JSON.stringify(list);
    const held = this.#held.get(companyId);
    if (held?.text === text) return held.benchmarks;
    const benchmarks = new Map(list.map(({ line, kind, value }): [string, Benchmark] => [line, { kind, value }]));
    this.#held.set(companyId, { text, benchmarks });
    return benchmarks;
  }

  /** Types a benchmark, or takes it away. */
  async change(companyId: number, { line, kind, value }: BenchmarkChange, actor: Actor): Promise<BenchmarkDto[]> {
    await this.#database.write(async (transaction) => {
      const [before] = await this.#database.select<{ value: number }>(
        'SELECT value FROM benchmarks WHERE company_id = $1 AND line_key = $2',
        [companyId, line],
        transaction,
      );
      if (value === null)
        await this.#database.run('DELETE FROM benchmarks WHERE company_id = $1 AND line_key = $2', [companyId, line], transaction);
      else
        await this.#database.run(
          'INSERT INTO benchmarks (company_id, line_key, kind, value) VALUES ($1, $2, $3, $4) ON CONFLICT (company_id, line_key) DO UPDATE SET kind = excluded.kind, value = excluded.value',
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
          details: { kind, value },
          changes: [{ what: 'value', from: before?.value ?? null, to: value }],
        },
        transaction,
      );
    });
    return this.list(companyId);
  }
}
