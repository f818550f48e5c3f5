import {
  type AccountMovement,
  accruedAccounts,
  BalanceCube,
  type BalanceFact,
  capitalAccounts,
  cashFlowFacts,
  classifyEntries,
  type DimensionCombination,
  isIncomeAccount,
  type LedgerLine,
  type Minor,
  type PartFact,
  type Slot,
  slotCount,
  slotOfYear,
} from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import type { Books } from './books.ts';
import { PARTY, SOURCE } from './further-dimensions.ts';

/** A ledger line that the statement of cash flows read. */
export type CashFlowLine = LedgerLine & { readonly lineId: number; readonly slot: Slot; readonly combination: DimensionCombination };
/** The figures of the statement of cash flows, and the movements that entries gave, with their lines. */
export type CashFlowCube = { readonly cube: BalanceCube; readonly movements: readonly AccountMovement<CashFlowLine>[] };

type Row = {
  readonly entry_id: number;
  readonly line_id: number;
  readonly position: number;
  readonly amount: number;
  readonly period_code: number;
  readonly combination_id: number;
  readonly party: string;
  readonly document: string;
  readonly source: string;
};

/**
 * Reads the entries that touch investing or financing accounts, depreciation, interest or income tax,
 * and those that pay a bill of such an entry, and lays the ledger out by part of the statement.
 * @param facts the ledger's balances, with customers and source journals where they are asked for
 */
export async function loadCashFlow(
  database: Database,
  books: Books,
  { drafts, facts }: { readonly drafts: boolean; readonly facts: readonly BalanceFact[] },
): Promise<CashFlowCube> {
  const { accounts } = books.chart;
  const idsOf = (positions: readonly number[]) => positions.map((position) => books.accountIds[position]!);
  const positionsOf = (classes: readonly string[]) =>
    accounts.flatMap((account, index) => (classes.includes(account.class) ? [index] : []));
  const state = drafts ? '' : "AND e.state = 'posted'";
  const entriesWith = (condition: string, bindings: string[]) =>
    readEntries(database, books, { condition: `${condition} ${state}`, bindings });
  const touching = (positions: readonly number[]) =>
    entriesWith('e.id IN (SELECT l2.entry_id FROM lines l2 WHERE l2.account_id IN (SELECT value FROM json_each($2)))', [
      JSON.stringify(idsOf(positions)),
    ]);
  const capital = await touching(capitalAccounts(books.chart));
  const paying = await entriesWith(
    `e.id IN (SELECT l2.entry_id FROM lines l2 JOIN parties p2 ON p2.id = l2.party_id
       WHERE l2.account_id IN (SELECT value FROM json_each($2)) AND l2.amount > 0 AND l2.document <> ''
         AND (l2.document, p2.name) IN (SELECT value ->> 0, value ->> 1 FROM json_each($3)))`,
    [JSON.stringify(idsOf(positionsOf(['payables', 'otherCurrentLiabilities', 'otherLiabilities']))), JSON.stringify(billsOf(capital))],
  );
  const entries = new Map([...capital, ...paying].sort(([a], [b]) => a - b));
  const movements = classifyEntries(books.chart, entries.values());
  const accrued = {
    interest: await accruedOf('interestExpense'),
    incomeTax: await accruedOf('incomeTax'),
  };
  const parts = movements.map(({ line, account, part, amount }): PartFact => ({
    account,
    slot: line.slot,
    combination: line.combination,
    layer: 'ordinary',
    amount,
    part,
  }));
  const cube = new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  cube.post(cashFlowFacts(books.chart, facts, { movements: parts, accrued }));
  return { cube, movements };

  async function accruedOf(of: 'interestExpense' | 'incomeTax'): Promise<number[]> {
    const expensed = await touching(positionsOf([of]));
    const candidates = accruedAccounts(books.chart, of, expensed.values());
    return candidates.length === 0 ? [] : accruedAccounts(books.chart, of, (await touching(candidates)).values());
  }
}

/** Documents and parties that capital entries name. */
function billsOf(entries: ReadonlyMap<number, readonly CashFlowLine[]>): [string, string][] {
  const bills = new Map<string, [string, string]>();
  for (const lines of entries.values())
    for (const { document, party } of lines) if (document !== '' && party !== '') bills.set(`${document}\n${party}`, [document, party]);
  return [...bills.values()];
}

async function readEntries(
  database: Database,
  books: Books,
  { condition, bindings }: { readonly condition: string; readonly bindings: string[] },
): Promise<Map<number, CashFlowLine[]>> {
  const rows = await database.select<Row>(
    `SELECT e.id AS entry_id, l.id AS line_id, a.position, l.amount, l.period_code, l.combination_id, coalesce(p.name, '') AS party, l.document, e.source
     FROM entries e JOIN lines l ON l.entry_id = e.id JOIN accounts a ON a.id = l.account_id LEFT JOIN parties p ON p.id = l.party_id
     WHERE e.company_id = $1 AND e.kind <> 'closing' AND ${condition} ORDER BY e.id, l.id`,
    [books.id, ...bindings],
  );
  const entries = new Map<number, CashFlowLine[]>();
  const combinations = new Map<string, DimensionCombination>();
  for (const row of rows) {
    const key = `${row.combination_id}\n${row.party}\n${row.source}`;
    const combination = combinations.get(key) ?? {
      ...books.combinations.get(row.combination_id),
      [PARTY]: row.party,
      [SOURCE]: row.source,
    };
    combinations.set(key, combination);
    const slot = slotOfYear(books.calendar, Math.floor(row.period_code / 100), row.period_code % 100);
    if (slot === null) throw new RangeError(`a line is in period ${row.period_code}, outside the fiscal years of ${books.name}`);
    const line: CashFlowLine = {
      lineId: row.line_id,
      account: row.position,
      amount: row.amount as Minor,
      party: row.party,
      document: row.document,
      slot,
      combination,
    };
    entries.set(row.entry_id, [...(entries.get(row.entry_id) ?? []), line]);
  }
  return entries;
}
