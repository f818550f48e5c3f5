import type { AccountClass } from '../chart/account-class.ts';
import { multiplyByDecimal } from '../money/decimal.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { StatementGrid } from '../statements/evaluate.ts';
import { changeFactor } from './bases/percent.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import { followedLine, followOrder } from './follow.ts';
import { lineContext } from './line-context.ts';

/** What is tried on a budget: percent changes as decimal texts, `-10` for a tenth less. */
export type WhatIf = {
  /** of classes; those of revenue move the lines that follow them as well */
  readonly byClass: Partial<Readonly<Record<AccountClass, string>>>;
  /** a driver by its name: lines of that driver times a rate move with it */
  readonly driver?: { readonly name: string; readonly percent: string };
};

/** The drivers lines of a budget go by, in alphabetical order. */
export function driversOf(lines: Iterable<PlacedLine>): string[] {
  const names = new Set<string>();
  for (const { basis } of lines) if (basis.kind === 'driverRate') names.add(driverName(basis.driver));
  return [...names].sort();
}
const driverName = (driver: { readonly series: string } | { readonly name: string }): string =>
  'series' in driver ? driver.series : driver.name;

/**
 * The lines of a budget under changed assumptions; the budget itself stays. Each line moves by the change of
 * its driver and of its class, months held as well, rounded half away from zero; lines that follow others
 * follow them, and move by their class on top.
 * @throws RangeError when a percentage is no decimal number
 */
export function whatIf(options: {
  readonly books: BudgetBooks;
  readonly head: BudgetHead;
  readonly lines: readonly PlacedLine[];
  readonly tried: WhatIf;
}): PlacedLine[] {
  const { books, head, lines, tried } = options;
  const factorOf = (percent: string) => {
    const factor = changeFactor(percent);
    if (!factor) throw new RangeError(`"${percent}" is not a decimal number`);
    return factor;
  };
  const scaled = (line: PlacedLine, percents: readonly (string | undefined)[]): PlacedLine => {
    const factors = percents.flatMap((percent) => (percent === undefined ? [] : [factorOf(percent)]));
    if (factors.length === 0) return line;
    const months = line.months.map(({ amount, held }) => ({
      amount: factors.reduce((value, factor) => minor(multiplyByDecimal(value, factor)), amount),
      held,
    }));
    return { ...line, months };
  };
  const classPercent = (line: PlacedLine) => tried.byClass[books.chart.accounts[line.position]!.class];
  const driverPercent = ({ basis }: PlacedLine) =>
    tried.driver && basis.kind === 'driverRate' && driverName(basis.driver) === tried.driver.name ? tried.driver.percent : undefined;
  const { order } = followOrder(books.chart, lines);
  const followers = new Set(order.map(({ id }) => id));
  const now = new Map(
    lines.map((line) => [line.id, followers.has(line.id) ? line : scaled(line, [driverPercent(line), classPercent(line)])]),
  );
  for (const { id } of order) {
    const line = now.get(id)!;
    now.set(
      id,
      scaled(followedLine(line, lineContext(books, head, { line, lines: { [Symbol.iterator]: () => now.values() } })), [
        classPercent(line),
      ]),
    );
  }
  return lines.map(({ id }) => now.get(id)!);
}

/** A line of two budgets side by side, the year in its shown sign. */
export type YearCompared = {
  readonly key: string;
  readonly name: string;
  readonly before: Minor;
  readonly after: Minor;
  readonly difference: Minor;
};

/** The years of chosen lines in two grids of the same plan; lines without an amount are left out. @param column key of the year's column */
export function yearsCompared(
  { before, after }: { readonly before: StatementGrid; readonly after: StatementGrid },
  keys: readonly string[],
  column: string,
): YearCompared[] {
  const at = before.plan.columns.findIndex(({ key }) => key === column);
  return keys.flatMap((key) => {
    const index = before.plan.lineOfKey.get(key);
    if (index === undefined || at < 0) return [];
    const [was, is] = [before.cells[index]![at]!, after.cells[index]![at]!];
    if (was.kind !== 'amount' || is.kind !== 'amount') return [];
    const { name } = before.plan.lines[index]!;
    return [{ key, name, before: minor(was.value), after: minor(is.value), difference: minor(is.value - was.value) }];
  });
}
