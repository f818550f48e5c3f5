import type { DimensionCombination, DimensionFilter } from '../ledger/dimension.ts';
import { passes } from '../ledger/dimension.ts';
import type { LineTable } from '../ledger/line-table.ts';
import { slotSpanOf } from '../statements/account-values.ts';
import type { FigureLeaf } from '../statements/figure-groups.ts';
import type { StatementPlan } from '../statements/statement-plan.ts';

/** Dimensions that stand in the lines themselves rather than in their combination. */
export type FurtherDimensions = {
  /** name under which a filter holds customers and vendors */
  readonly party: string;
  readonly source: string;
  readonly parties: readonly string[];
  readonly sources: readonly string[];
};
export type LedgerLines = {
  readonly table: LineTable;
  readonly combinations: ReadonlyMap<number, DimensionCombination>;
  readonly further: FurtherDimensions;
};
/** Lines of the ledger that a figure adds up, each in the figure's sign. */
export type LedgerSide = { readonly positions: Int32Array; readonly amounts: Float64Array };

/**
 * The lines behind the part of a figure that the ledger holds; leaves of other scenarios are left out. Draft and closing
 * entries never count. A closing balance takes every line up to its end.
 */
export function ledgerSide(plan: StatementPlan, { table, combinations, further }: LedgerLines, leaves: readonly FigureLeaf[]): LedgerSide {
  const kept: number[] = [];
  const amounts: number[] = [];
  for (const pass of passesOf(plan, leaves)) {
    const isIn = filterOf({ combinations, further, table }, pass.filter);
    for (let position = 0; position < table.count; position += 1) {
      const slot = table.slot[position]!;
      const account = table.account[position]!;
      const weight = pass.weights[account]!;
      if (weight === 0 || slot < (plan.isBalanceSheet[account] ? pass.balancesFrom : pass.from) || slot > pass.to) continue;
      if (table.isDraft(position) || (table.isClosing(position) && !plan.isBalanceSheet[account])) continue;
      if (!isIn(position)) continue;
      kept.push(position);
      amounts.push(weight * table.amount[position]!);
    }
  }
  return { positions: Int32Array.from(kept), amounts: Float64Array.from(amounts) };
}

type Pass = {
  readonly filter: DimensionFilter;
  readonly from: number;
  /** first slot of balance-sheet accounts: 0 where their closing balance is shown */
  readonly balancesFrom: number;
  readonly to: number;
  /** by account: how often, and in which sign, its lines count; 0 for not at all */
  readonly weights: Float64Array;
};

/** Leaves over the same months and filter are taken in one pass. */
function passesOf(plan: StatementPlan, leaves: readonly FigureLeaf[]): Pass[] {
  const held = new Map<string, Pass>();
  for (const { factor, source } of leaves) {
    if (source.scenario !== 'actual') continue;
    const { from, to } = slotSpanOf(plan.calendar, source.span);
    const [balancesFrom, until] = source.measure === 'opening' ? [0, from - 1] : [source.measure === 'change' ? from : 0, to];
    const key = JSON.stringify([from, balancesFrom, until, source.filter]);
    const pass = held.get(key) ?? {
      filter: source.filter,
      from,
      balancesFrom,
      to: until,
      weights: new Float64Array(plan.chart.accounts.length),
    };
    held.set(key, pass);
    for (const { account } of source.accounts) pass.weights[account]! += factor * source.sign;
  }
  return [...held.values()];
}

/** Whether a line passes a filter by dimension, customer or vendor, and source journal. */
export function filterOf({ table, combinations, further }: LedgerLines, filter: DimensionFilter): (position: number) => boolean {
  const { [further.party]: parties, [further.source]: sources, ...rest } = filter;
  if (Object.keys(filter).length === 0) return () => true;
  const kept = new Set([...combinations].filter(([, combination]) => passes(rest, combination)).map(([id]) => id));
  const places = (all: readonly string[], wanted: readonly string[] | undefined) =>
    wanted && new Set(wanted.map((value) => (value === '' && !all.includes('') ? -1 : all.indexOf(value))));
  const [ofParty, ofSource] = [places(further.parties, parties), places(further.sources, sources)];
  return (position) =>
    kept.has(table.combination[position]!) &&
    (ofParty === undefined || ofParty.has(table.party[position]!)) &&
    (ofSource === undefined || ofSource.has(table.source[position]!));
}
