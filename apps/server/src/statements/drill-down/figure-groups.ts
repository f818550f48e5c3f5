import type { FigureGroupsDto } from '@wise-margin/contract';
import {
  type CellDrillDown,
  columnWords,
  type FigureGroup,
  type FigureLeaf,
  figureSides,
  type GroupBy,
  groupLeaves,
  minor,
  partsOf,
  periodAt,
  type PeriodIndex,
  shortPeriodName,
  type StatementGrid,
  sumOfLeaves,
} from '@wise-margin/core';

import { type Books, knownDimensions } from '../../companies/index.ts';
import { notFound, refused } from '../../http/problem.ts';

type Place = { readonly line: string; readonly column: string };
type Side = { readonly leaves: readonly FigureLeaf[]; readonly words: string };
const NOT_A_SUM = 'This amount is not a sum of accounts, so it cannot be laid out. Open one of its parts.';

/** The sides of a figure: one, or the two of a difference. Null for what is no sum of accounts. */
function sidesOf(grid: StatementGrid, line: number, column: number): { readonly compared: Side; readonly base: Side | null } | null {
  const sides = figureSides(grid, line, column);
  if (sides === null) return null;
  const side = (leaves: readonly FigureLeaf[], at: number): Side => ({ leaves, words: columnWords(grid, at) });
  const { compared, base, columns } = sides;
  return { compared: side(compared, columns.compared), base: base && side(base, columns.base!) };
}

/** What a figure can be laid out by; empty for none. */
export function groupsOffered(
  books: Books,
  grid: StatementGrid,
  { line, column }: { readonly line: number; readonly column: number },
): string[] {
  const sides = sidesOf(grid, line, column);
  if (sides === null) return [];
  return [
    ...(isProjection(sides.compared) || (sides.base && isProjection(sides.base)) ? ['part'] : []),
    ...fixedGroups,
    ...knownDimensions(books).keys(),
  ];
}

/**
 * A figure laid out, the largest part first; months in order. A difference has both of its sides.
 * @throws ProblemError 404 when the grid has no such line or column; 422 for what cannot be laid out so
 */
export function figureGroupsOf(books: Books, grid: StatementGrid, { by, ...place }: Place & { readonly by: string }): FigureGroupsDto {
  const { plan } = grid;
  const line = plan.lines.find(({ key }) => key === place.line);
  const column = plan.columns.find(({ key }) => key === place.column);
  if (!line || !column) throw notFound(`figure at ${place.line}, ${place.column}`);
  const sides = sidesOf(grid, line.index, column.index);
  if (sides === null) throw refused(NOT_A_SUM, 'by');
  const group = groupBy(books, by);
  if (group === null) throw refused(`The ledger has no dimension "${by}". It has: ${[...knownDimensions(books).keys()].join(', ')}.`, 'by');
  const compared = groupLeaves(grid, sides.compared.leaves, group);
  const base = sides.base && groupLeaves(grid, sides.base.leaves, group);
  if (compared === null || (sides.base && base === null))
    throw refused('An opening or average balance has no months. Choose another way.', 'by');
  const rows = joined(compared, base).map(({ key, ...amounts }) => ({
    key,
    name: nameOf(key),
    ...amounts,
    entries: entriesOf(key),
  }));
  if (by === 'month') rows.sort((a, b) => Number(a.key === 'opening' ? -1 : a.key) - Number(b.key === 'opening' ? -1 : b.key));
  else rows.sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount) || a.name.localeCompare(b.name, 'en', { numeric: true }));
  return {
    by,
    sides: sides.base && { compared: sides.compared.words, base: sides.base.words },
    rows,
    sum: minor(rows.reduce((sum, { amount }) => sum + amount, 0)),
    figure: minor(sumOfLeaves(sides.compared.leaves) - (sides.base ? sumOfLeaves(sides.base.leaves) : 0)),
  };

  function nameOf(key: string): string {
    if (by === 'account') {
      const { number, name } = plan.chart.accounts[Number(key)]!;
      return `${number} ${name}`;
    }
    if (by === 'part') return key === 'actual' ? 'Actual' : 'Budget for the months to come';
    if (by !== 'month') return key || 'None';
    if (key === 'opening') return 'Opening balance';
    const name = shortPeriodName(plan.calendar, Number(key) as PeriodIndex);
    if (!isProjection(sides!.compared)) return name;
    return `${name}, ${Number(key) <= (plan.through ?? plan.asOf) ? 'actual' : 'budget'}`;
  }

  /** The entries of a group, of the side that the ledger has; null where it has none, or would have too many accounts to name. */
  function entriesOf(key: string): FigureGroupsDto['rows'][number]['entries'] {
    const side = [sides!.compared, sides!.base].find((each) => each?.leaves.some(({ source }) => source.scenario === 'actual'));
    const leaves = side?.leaves.filter(({ source }) => source.scenario === 'actual') ?? [];
    const [first] = leaves;
    if (!first || key === 'opening' || leaves.some(({ source }) => !sameEntries(source, first.source))) return null;
    const { span, filter } = first.source;
    // what comes to zero in all may have an amount in one department or company
    const isPart = group!.kind === 'dimension';
    const held = leaves.flatMap(({ source }) =>
      source.accounts.filter(({ amount }) => isPart || amount !== 0).map(({ account }) => account),
    );
    const accounts =
      by === 'account' ? [plan.chart.accounts[Number(key)]!.number] : [...new Set(held)].map((at) => plan.chart.accounts[at]!.number);
    const text = accounts.join(', ');
    const month = by === 'month' ? periodAt(plan.calendar, Number(key) as PeriodIndex).key : null;
    const own = isPart ? { [by]: [key] } : {};
    if (text.length > 2000) return null;
    return {
      accounts: text,
      from: month ?? periodAt(plan.calendar, span.from).key,
      to: month ?? periodAt(plan.calendar, span.to).key,
      filter: { ...Object.fromEntries(Object.entries(filter).map(([name, values]) => [name, [...values]])), ...own },
    };
  }
}

const fixedGroups = ['account', 'month'] as const;
/** Null for a dimension that the ledger does not have. */
function groupBy(books: Books, by: string): GroupBy | null {
  if (by === 'account' || by === 'month') return { kind: by };
  if (by === 'part') return { kind: by };
  return knownDimensions(books).has(by) ? { kind: 'dimension', name: by } : null;
}
const isProjection = ({ leaves }: Side): boolean => leaves.some(({ source }) => source.scenario === 'projection');

const sameEntries = (a: CellDrillDown & { readonly kind: 'accounts' }, b: CellDrillDown & { readonly kind: 'accounts' }): boolean =>
  a.span.from === b.span.from && a.span.to === b.span.to && JSON.stringify(a.filter) === JSON.stringify(b.filter);

const amountsOf = (groups: readonly FigureGroup[]): Map<string, number> => new Map(groups.map(({ key, amount }) => [key, amount]));

/** Groups of one figure, or of the two sides of a difference. */
const joined = (compared: readonly FigureGroup[], base: readonly FigureGroup[] | null) =>
  base === null
    ? compared.map(({ key, amount }) => ({ key, compared: null, base: null, amount }))
    : partsOf(amountsOf(compared), amountsOf(base)).parts;
