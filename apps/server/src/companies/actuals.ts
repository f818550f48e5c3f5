import {
  BalanceCube,
  type BalanceFact,
  type DimensionCombination,
  isIncomeAccount,
  minor,
  periodAt,
  type PeriodIndex,
  slotCount,
  slotOfYear,
} from '@wise-margin/core';
import type { Transaction } from 'sequelize';

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

/** What some entries add up to, apart by everything that actuals can be apart by. */
export type DetailedSum = {
  readonly position: number;
  readonly period_code: number;
  readonly combination_id: number;
  readonly closing: number;
  readonly isDraft: number;
  readonly party: string;
  readonly source: string;
  readonly net: number;
};

/** The sums of some entries in full detail, drafts included. */
export const detailedSums = (database: Database, entries: readonly number[], transaction?: Transaction): Promise<DetailedSum[]> =>
  database.select<DetailedSum>(
    `SELECT a.position, l.period_code, l.combination_id, e.kind = 'closing' AS closing, e.state = 'draft' AS isDraft, coalesce(p.name, '') AS party, e.source, sum(l.amount) AS net
     FROM lines l JOIN entries e ON e.id = l.entry_id JOIN accounts a ON a.id = l.account_id LEFT JOIN parties p ON p.id = l.party_id
     WHERE l.entry_id IN (SELECT value FROM json_each($1)) GROUP BY a.position, l.period_code, l.combination_id, closing, isDraft, l.party_id, e.source`,
    [JSON.stringify(entries)],
    transaction,
  );

/** Brings actuals that are held up to date with a change of entries, without reading the ledger again; their cube is changed in place. */
export function followedActuals(
  books: Books,
  { cube, last }: Actuals,
  {
    needs,
    before,
    after,
  }: { readonly needs: ActualsDetail; readonly before: readonly DetailedSum[]; readonly after: readonly DetailedSum[] },
): Actuals {
  const counted = (sums: readonly DetailedSum[]) => sums.filter(({ isDraft }) => needs.drafts || isDraft === 0);
  const facts = [...factsOf(books, counted(before), { needs, sign: -1 }), ...factsOf(books, counted(after), { needs, sign: 1 })];
  cube.post(facts.filter(({ amount }) => amount !== 0));
  const latest = counted(after).map(({ period_code }) => periodOfCode(books, period_code));
  return {
    cube,
    last: latest.reduce<PeriodIndex | null>((latestYet, each) => (latestYet === null || each > latestYet ? each : latestYet), last),
  };
}

const periodOfCode = ({ calendar }: Books, code: number): PeriodIndex =>
  periodAt(calendar, ((Math.floor(code / 100) - calendar.firstYear) * 12 + Math.min(code % 100, 12) - 1) as PeriodIndex).index;

/** Sums as facts of a cube, customers and source journals among the dimensions where they are needed. */
function factsOf(
  books: Books,
  sums: readonly Omit<DetailedSum, 'isDraft'>[],
  { needs, sign }: { readonly needs: ActualsDetail; readonly sign: 1 | -1 },
): BalanceFact[] {
  const combinations = new Map<string, DimensionCombination>();
  return sums.map((row) => {
    const key = `${row.combination_id}\n${row.party}\n${row.source}`;
    let combination = combinations.get(key);
    if (!combination) {
      const further = { ...(needs.party ? { [PARTY]: row.party } : {}), ...(needs.source ? { [SOURCE]: row.source } : {}) };
      combinations.set(key, (combination = { ...books.combinations.get(row.combination_id)!, ...further }));
    }
    const slot = slotOfYear(books.calendar, Math.floor(row.period_code / 100), row.period_code % 100);
    if (slot === null) throw new RangeError(`a line is in period ${row.period_code}, outside the fiscal years of ${books.name}`);
    return { account: row.position, slot, combination, layer: row.closing ? 'closing' : 'ordinary', amount: minor(sign * row.net) };
  });
}

async function sumLines(database: Database, books: Books, needs: ActualsDetail): Promise<Actuals> {
  const rows = await database.select<Omit<DetailedSum, 'isDraft'>>(
    `SELECT a.position, l.period_code, l.combination_id, e.kind = 'closing' AS closing, ${needs.source ? 'e.source' : "''"} AS source,
       ${needs.party ? "coalesce(p.name, '')" : "''"} AS party, sum(l.amount) AS net
     FROM lines l JOIN entries e ON e.id = l.entry_id JOIN accounts a ON a.id = l.account_id ${needs.party ? 'LEFT JOIN parties p ON p.id = l.party_id' : ''}
     WHERE e.company_id = $1 ${needs.drafts ? '' : "AND e.state = 'posted'"}
     GROUP BY a.position, l.period_code, l.combination_id, closing ${needs.source ? ', e.source' : ''} ${needs.party ? ', l.party_id' : ''}`,
    [books.id],
  );
  const periods = rows.map(({ period_code }) => periodOfCode(books, period_code));
  const last = periods.reduce((latest, each) => (latest === null || each > latest ? each : latest), books.lastPosted);
  const cube = new BalanceCube({ isIncome: books.chart.accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  cube.post(factsOf(books, rows, { needs, sign: 1 }));
  return { cube, last };
}
