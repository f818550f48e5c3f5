import { firstSlot, lastSlot, periodAt, type PeriodIndex, periodOfYear, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { factorsIn, linePartsOf } from '../findings/line-parts.ts';
import { type Minor, minor } from '../money/minor.ts';
import { textsAt } from '../postings/bills.ts';
import { namedMonth } from '../postings/named-month.ts';
import type { StatementGrid } from '../statements/evaluate.ts';
import { type FigureLeaf, type FigureSides, sumOfLeaves } from '../statements/figure-groups.ts';
import type { FoundCause, Unexplained } from './bills-in-view.ts';
import type { Cause } from './cause.ts';
import { type DifferenceParts, differenceParts, OTHER, type PartsBy, partsOf } from './difference-parts.ts';
import { billCauses, rankCauses } from './find-causes.ts';
import { type LedgerLines, type LedgerSide, ledgerSide } from './ledger-side.ts';
import { monthVariances } from './month-variances.ts';
import { type MonthVariance, timingCauses } from './timing.ts';

/** A subtotal is laid out by the lines it adds up too; their key is that of the line. */
export type LayoutBy = PartsBy | { readonly kind: 'line' };
/** Why a figure differs from another: its parts in every layout, and what in the ledger stands out. */
export type Explanation = {
  readonly compared: Minor;
  readonly base: Minor;
  readonly variance: Minor;
  readonly layouts: readonly (DifferenceParts & { readonly by: LayoutBy })[];
  /** the variance of each month of the fiscal year that is posted */
  readonly months: readonly MonthVariance[];
  /** the most telling first */
  readonly causes: readonly Cause[];
};
const MOST_OF_IT = 0.6;

/**
 * Explains a difference of two sums of accounts, exactly: the parts of each layout add up to it.
 * @param options.dimensions names of the dimensions to lay it out by
 * @param options.lastPosted the last month with postings: causes are looked for in the whole ledger
 */
export function explainDifference(
  grid: StatementGrid,
  options: {
    readonly line: number;
    readonly sides: FigureSides;
    readonly ledger: LedgerLines;
    readonly dimensions: readonly string[];
    /** of a subtotal, the layout by lines is enough, which reads no entries */
    readonly byLinesAlone?: boolean;
    readonly lastPosted: PeriodIndex;
  },
): Explanation {
  const { sides, ledger, lastPosted } = options;
  const [compared, base] = [sumOfLeaves(sides.compared), sumOfLeaves(sides.base ?? [])];
  const ways: PartsBy[] = [
    { kind: 'account' },
    ...options.dimensions.map((name): PartsBy => ({ kind: 'dimension', name })),
    { kind: 'party' },
    { kind: 'month' },
    { kind: 'source' },
    { kind: 'entry' },
  ];
  const lines = lineParts(grid, options);
  const layouts: (DifferenceParts & { readonly by: LayoutBy })[] = lines === null ? [] : [{ by: { kind: 'line' }, ...lines }];
  const isByLinesAlone = options.byLinesAlone === true && lines !== null;
  const sideOf = (leaves: FigureSides['compared']): LedgerSide => ledgerSide(grid.plan, ledger, isByLinesAlone ? [] : leaves);
  const ledgerLines = { compared: sideOf(sides.compared), base: sideOf(sides.base ?? []) };
  for (const by of isByLinesAlone ? [] : ways) {
    const parts = differenceParts(grid, { sides, ledger, lines: ledgerLines, by });
    if (parts !== null) layouts.push({ by, ...parts });
  }
  const variance = compared - base;
  const months = monthsOfYear(grid, { sides, last: grid.plan.posted?.last ?? lastPosted });
  // a subtotal is explained by its lines, and each of those by its bills
  const found =
    lines === null ? [...causesInLedger(grid, { ...options, months, variance }), ...layouts.flatMap((layout) => largestPart(layout))] : [];
  return { compared: minor(compared), base: minor(base), variance: minor(variance), layouts, months, causes: rankCauses(found, variance) };
}

/** The months of the fiscal year in which the compared side ends, as far as actuals are shown. */
function monthsOfYear(grid: StatementGrid, { sides, last }: { readonly sides: FigureSides; readonly last: PeriodIndex }): MonthVariance[] {
  const { calendar } = grid.plan;
  const span = sides.compared[0]?.source.span;
  if (!span) return [];
  const from = periodOfYear(calendar, periodAt(calendar, span.to).year, 1)!;
  return monthVariances(grid, sides, { from, to: Math.min(from + PERIODS_PER_YEAR - 1, last) });
}

function causesInLedger(
  grid: StatementGrid,
  options: {
    readonly sides: FigureSides;
    readonly ledger: LedgerLines;
    readonly lastPosted: PeriodIndex;
    readonly months: readonly MonthVariance[];
    readonly variance: number;
  },
): FoundCause[] {
  const { sides, ledger, lastPosted, months, variance } = options;
  const { plan } = grid;
  const actual = sides.compared.filter(({ source }) => source.scenario === 'actual');
  const [first] = actual;
  if (!first || actual.some(({ source }) => source.accounts.some(({ account }) => plan.isBalanceSheet[account]))) return [];
  const { span } = first.source;
  const all = ledgerSide(
    plan,
    ledger,
    actual.map((leaf) => wholeHistory(leaf, lastPosted)),
  );
  const monthOfSlot = new Map(plan.calendar.periods.map(({ index }) => [firstSlot(plan.calendar, index) as number, index as number]));
  const unexplained: Unexplained = {
    variance: minor(variance),
    slots: { from: firstSlot(plan.calendar, span.from), to: lastSlot(plan.calendar, span.to) },
    lines: all,
    slotsInYear: PERIODS_PER_YEAR + (plan.calendar.hasAdjustmentPeriod ? 1 : 0),
    isMonth: (slot) => monthOfSlot.has(slot),
    isIncome: (account) => !plan.isBalanceSheet[account],
  };
  const naming = (posted: number, named: number) => lineNaming(grid, { ledger, lines: all, posted, named });
  return [...billCauses(ledger, unexplained), ...timingCauses(months, span, naming)];
}

const wholeHistory = (leaf: FigureLeaf, lastPosted: PeriodIndex): FigureLeaf => ({
  ...leaf,
  source: { ...leaf.source, span: { from: 0 as PeriodIndex, to: lastPosted } },
});

/** The largest line posted in a month whose text names another month; null for none. */
function lineNaming(
  { plan: { calendar } }: StatementGrid,
  {
    ledger: { table },
    lines,
    posted,
    named,
  }: { readonly ledger: LedgerLines; readonly lines: LedgerSide; readonly posted: number; readonly named: number },
): number | null {
  const slot = firstSlot(calendar, posted as PeriodIndex) as number;
  const month = Number(periodAt(calendar, named as PeriodIndex).key.slice(5));
  let found: number | null = null;
  for (const position of lines.positions) {
    if (table.slot[position] !== slot || namedMonth(textsAt(table, position).memo)?.month !== month) continue;
    if (found === null || Math.abs(table.amount[position]!) > Math.abs(table.amount[found]!)) found = position;
  }
  return found;
}

/** A part that makes most of a difference by itself; a layout of one part tells nothing. */
function largestPart({ by, parts, shown, total }: DifferenceParts & { readonly by: LayoutBy }): FoundCause[] {
  const [largest] = parts;
  if (by.kind === 'source' || by.kind === 'entry' || by.kind === 'line' || parts.length < 2 || !largest || largest.key === OTHER) return [];
  // against a scenario that does not know whose amounts are, every part stands by itself
  if (parts.some(({ key }) => key === OTHER) || shown === 0) return [];
  if (Math.abs(largest.amount) < MOST_OF_IT * Math.abs(total)) return [];
  const name = by.kind === 'dimension' ? by.name : '';
  return [{ kind: 'part', by: by.kind, name, key: largest.key, amount: largest.amount }];
}

/** A subtotal's difference by the lines of accounts it adds up; null for a line that is none. */
function lineParts(grid: StatementGrid, { line, sides }: { readonly line: number; readonly sides: FigureSides }): DifferenceParts | null {
  const { plan } = grid;
  const parts = [...factorsIn(plan, line)].filter(([index]) => index !== line && linePartsOf(plan, plan.lines[index]!)?.size === 0);
  if (parts.length === 0) return null;
  const sumsOf = (column: number | null): Map<string, number> =>
    new Map(
      parts.flatMap(([index, factor]): [string, number][] => {
        const cell = column === null ? null : grid.cells[index]![column]!;
        return cell?.kind === 'amount' ? [[plan.lines[index]!.key, factor * cell.value || 0]] : [];
      }),
    );
  return partsOf(sumsOf(sides.columns.compared), sumsOf(sides.columns.base));
}
