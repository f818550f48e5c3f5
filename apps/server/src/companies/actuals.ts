import {
  BalanceCube,
  type BalanceFact,
  type DimensionCombination,
  isIncomeAccount,
  type Minor,
  periodAt,
  type PeriodIndex,
  slotCount,
  slotOfYear,
} from '@wise-margin/core';

import type { Database } from '../database/database.ts';
import type { Books } from './books.ts';
import { type CashFlowCube, loadCashFlow } from './cash-flow-cube.ts';
import { PARTY, SOURCE } from './further-dimensions.ts';

/** What the balances kept by month do not hold: customers and vendors, source journals, draft entries, parts of the statement of cash flows. */
export type ActualsDetail = { readonly party: boolean; readonly source: boolean; readonly drafts: boolean; readonly cashFlow: boolean };
/** A cube and the last month it holds figures of. */
export type Actuals = { readonly cube: BalanceCube; readonly last: PeriodIndex | null; readonly cashFlow?: CashFlowCube };

/** The books as a statement needs them: the balances, or a cube summed from every line of the ledger where it needs more than they hold. */
export async function loadActuals(database: Database, books: Books, needs: ActualsDetail): Promise<Actuals> {
  const actuals = needs.party || needs.source || needs.drafts ? await sumLines(database, books, needs) : booksCube(books);
  if (!needs.cashFlow) return actuals;
  return { ...actuals, cashFlow: await loadCashFlow(database, books, { drafts: needs.drafts, facts: actuals.cube.facts }) };
}

const booksCube = ({ cube, lastPosted }: Books): Actuals => ({ cube, last: lastPosted });

async function sumLines(database: Database, books: Books, needs: ActualsDetail): Promise<Actuals> {
  const rows = await database.select<{
    position: number;
    period_code: number;
    combination_id: number;
    closing: number;
    party: string;
    source: string;
    net: number;
  }>(
    `SELECT a.position, l.period_code, l.combination_id, e.kind = 'closing' AS closing, ${needs.source ? 'e.source' : "''"} AS source,
       ${needs.party ? "coalesce(p.name, '')" : "''"} AS party, sum(l.amount) AS net
     FROM lines l JOIN entries e ON e.id = l.entry_id JOIN accounts a ON a.id = l.account_id ${needs.party ? 'LEFT JOIN parties p ON p.id = l.party_id' : ''}
     WHERE e.company_id = $1 ${needs.drafts ? '' : "AND e.state = 'posted'"}
     GROUP BY a.position, l.period_code, l.combination_id, closing ${needs.source ? ', e.source' : ''} ${needs.party ? ', l.party_id' : ''}`,
    [books.id],
  );
  const combinations = new Map<string, DimensionCombination>();
  let last = books.lastPosted;
  const facts = rows.map((row): BalanceFact => {
    const key = `${row.combination_id}\n${row.party}\n${row.source}`;
    let combination = combinations.get(key);
    if (!combination) {
      const further = { ...(needs.party ? { [PARTY]: row.party } : {}), ...(needs.source ? { [SOURCE]: row.source } : {}) };
      combinations.set(key, (combination = { ...books.combinations.get(row.combination_id)!, ...further }));
    }
    const year = Math.floor(row.period_code / 100);
    const slot = slotOfYear(books.calendar, year, row.period_code % 100);
    if (slot === null) throw new RangeError(`a line is in period ${row.period_code}, outside the fiscal years of ${books.name}`);
    const period = (year - books.calendar.firstYear) * 12 + Math.min(row.period_code % 100, 12) - 1;
    if (last === null || period > last) last = periodAt(books.calendar, period as PeriodIndex).index;
    return { account: row.position, slot, combination, layer: row.closing ? 'closing' : 'ordinary', amount: row.net as Minor };
  });
  const cube = new BalanceCube({ isIncome: books.chart.accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  cube.post(facts);
  return { cube, last };
}
