import { type BankLine, type CashLine, isoDate, minor, proposeMatches } from '@wise-margin/core';
import { expect, it } from 'vitest';

import { runTask } from '../work/task.ts';
import { inlinePool, type WorkPool } from '../work/work-pool.ts';
import { matchesOf, type OpenLines, RECONCILIATION_TASKS } from './match-task.ts';

/** A pool that hands work over as plain data, as one of threads does, and says what it was asked for. */
function copyingPool(): { readonly pool: WorkPool; readonly asked: string[] } {
  const asked: string[] = [];
  const run = async (task: { readonly name: string }, input: unknown): Promise<never> => {
    asked.push(task.name);
    const outcome = await runTask(RECONCILIATION_TASKS, structuredClone({ name: task.name, input }));
    if (!outcome.ok) throw new Error(outcome.problem.detail);
    return outcome.result as never;
  };
  return { pool: { ...inlinePool(), run }, asked };
}
/** Deposits of two checks each, so many of them, on the days of October. */
function deposits(count: number): OpenLines {
  const date = (at: number) => isoDate(2026, 10, 1 + (at % 28));
  const bank = Array.from({ length: count }, (_, id): BankLine => ({
    id,
    date: date(id),
    amount: minor(10_000 + 7 * id),
    text: `D-${5000 + id}`,
    reference: '',
    party: '',
  }));
  const ledger = bank.flatMap(({ id, amount }): CashLine[] => {
    const check = { date: date(id), entry: `E-${id}`, document: `D-${5000 + id}`, memo: '', party: `Club ${id}` };
    return [
      { ...check, id: 2 * id, amount: minor(3000) },
      { ...check, id: 2 * id + 1, amount: minor(amount - 3000) },
    ];
  });
  return { bank, ledger };
}

it('compares the lines of a month where it is asked, and very many in a worker thread, alike', async () => {
  const { pool, asked } = copyingPool();
  const few = deposits(20);
  expect(await matchesOf(pool, few)).toEqual(proposeMatches(few));
  expect(asked).toEqual([]);
  const many = deposits(400);
  const found = await matchesOf(pool, many);
  expect(asked).toEqual(['matches']);
  expect(found).toEqual(proposeMatches(many));
  expect(found.matches.every(({ isSure, ledger }) => isSure && ledger.length === 2)).toBe(true);
  expect(found.matches).toHaveLength(400);
});
