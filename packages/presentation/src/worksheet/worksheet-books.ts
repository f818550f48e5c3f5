import type { FactsDto, WorksheetDto, WorksheetLineDto } from '@wise-margin/contract';
import {
  type Account,
  BalanceCube,
  type BalanceFact,
  type BudgetBooks,
  type Chart,
  type DimensionCombination,
  type FiscalCalendar,
  isIncomeAccount,
  type Minor,
  monthCalendar,
  passes,
  type PeriodIndex,
  periodOfYear,
  type PlacedLine,
  sliceKey,
  type Slot,
  slotCount,
} from '@wise-margin/core';

/**
 * Facts for the wire: of income accounts, added up over every dimension a budget does not have.
 * @param dimensions those that stay apart
 */
export function packFacts(chart: Chart, facts: Iterable<BalanceFact>, dimensions: readonly string[]): FactsDto {
  const combinations: DimensionCombination[] = [];
  const known = new Map<string, number>();
  const packed = new Map<DimensionCombination, number>();
  const place = (combination: DimensionCombination): number => {
    const already = packed.get(combination);
    if (already !== undefined) return already;
    const slice = Object.fromEntries(dimensions.flatMap((name) => (combination[name] ? [[name, combination[name]]] : [])));
    const key = sliceKey(slice);
    const index = known.get(key) ?? combinations.push(slice) - 1;
    known.set(key, index);
    packed.set(combination, index);
    return index;
  };
  const sums = new Map<string, { account: number; slot: number; combination: number; amount: number }>();
  for (const { account, slot, combination, layer, amount } of facts) {
    if (layer !== 'ordinary' || !isIncomeAccount(chart.accounts[account]!)) continue;
    const index = place(combination);
    const key = `${account}:${slot}:${index}`;
    const sum = sums.get(key);
    if (sum) sum.amount += amount;
    else sums.set(key, { account, slot, combination: index, amount });
  }
  const rows = [...sums.values()].filter(({ amount }) => amount !== 0);
  return {
    combinations: [...combinations],
    account: rows.map((row) => row.account),
    slot: rows.map((row) => row.slot),
    combination: rows.map((row) => row.combination),
    amount: rows.map((row) => row.amount),
  };
}

/** A cube of packed facts. */
export function cubeOfFacts(
  { chart, calendar }: { readonly chart: Chart; readonly calendar: FiscalCalendar },
  facts: FactsDto,
): BalanceCube {
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(
    facts.account.map((account, index) => ({
      account,
      slot: facts.slot[index] as Slot,
      combination: facts.combinations[facts.combination[index]!]!,
      layer: 'ordinary' as const,
      amount: facts.amount[index] as Minor,
    })),
  );
  return cube;
}

/** The books a budget draws on, as they were sent with it. */
export function booksOfWorksheet({ budget, books }: Pick<WorksheetDto, 'budget' | 'books'>): BudgetBooks {
  const chart: Chart = { accounts: books.accounts as Account[] };
  const calendar = monthCalendar(books.calendar);
  const place = { chart, calendar };
  const first = periodOfYear(calendar, budget.year, 1)!;
  return {
    chart,
    calendar,
    exponent: books.exponent,
    firstPosted: books.firstPosted as PeriodIndex | null,
    lastActual: books.lastActual as PeriodIndex | null,
    cube: cubeOfFacts(place, books.actual),
    nonrecurring: { entries: cubeOfFacts(place, books.nonrecurring.entries), months: new Set(books.nonrecurring.months) },
    approved: new Map(books.approved.map(({ year, dimensions, facts }) => [year, { cube: cubeOfFacts(place, facts), dimensions }])),
    statistics: {
      value: (series, filter, period) => {
        const passing = books.statistics.filter(
          (figure) => figure.series === series && first + figure.period - 1 === period && passes(filter, figure.dimensions),
        );
        return passing.length === 0 ? null : passing.reduce((sum, { value }) => sum + value, 0);
      },
    },
  };
}

export const packLine = ({ id, account, dimensions, basis, months }: PlacedLine): WorksheetLineDto => ({
  id,
  account,
  dimensions: { ...dimensions },
  basis,
  amounts: months.map(({ amount }) => amount),
  held: months.flatMap(({ held }, month) => (held ? [month] : [])),
  fromTotal: months.flatMap(({ fromTotal }, month) => (fromTotal ? [month] : [])),
});

/** @param positions places of accounts in the chart, by number */
export function unpackLine(line: WorksheetLineDto, positions: ReadonlyMap<string, number>): PlacedLine {
  const { id, account, dimensions, basis, amounts, held, fromTotal } = line;
  return {
    id,
    account,
    dimensions,
    basis,
    position: positions.get(account)!,
    slice: sliceKey(dimensions),
    months: amounts.map((amount, month) => ({
      amount: amount as Minor,
      held: held.includes(month),
      ...(fromTotal.includes(month) ? { fromTotal: true as const } : {}),
    })),
  };
}
