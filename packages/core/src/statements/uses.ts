import type { Column, ColumnSet } from './column-set.ts';
import { type ColumnPlace, removeBlock, removeColumn } from './edit-columns.ts';
import { changeLine, findLine, removeLine, walkLines } from './edit-lines.ts';
import { linesRead, parseExpression } from './expression.ts';
import type { Line, LineSet } from './line-set.ts';

/** What uses a line or a column, by its key and the name it is shown under. */
export type Use =
  | { readonly of: 'line'; readonly key: string; readonly name: string }
  | ({ readonly of: 'column'; readonly name: string } & ColumnPlace);
/** The lines and columns of a view. */
export type ViewSets = { readonly lineSet: LineSet; readonly columnSet: ColumnSet };

/** How many lines and columns a view has. */
export function lineAndColumnCount({ lineSet, columnSet }: ViewSets): number {
  let lines = 0;
  walkLines(lineSet.lines, () => {
    lines += 1;
  });
  return lines + columnSet.blocks.reduce((sum, { columns }) => sum + columns.length, 0);
}

/** The names a formula reads; none where it cannot be parsed. */
function namesRead(expression: string): readonly string[] {
  const parsed = parseExpression(expression);
  return parsed.ok ? linesRead(parsed.expression) : [];
}

/** Whether a name is the line's own, or that of a line it is laid out into: `fees` or `fees.4010`. */
const isOf = (name: string, keys: ReadonlySet<string>): boolean => {
  if (keys.has(name)) return true;
  for (let dot = name.indexOf('.'); dot > 0; dot = name.indexOf('.', dot + 1)) if (keys.has(name.slice(0, dot))) return true;
  return false;
};

/** The keys of a line and of all lines in it; none where there is no such line. */
function keysWithin(set: LineSet, key: string): ReadonlySet<string> {
  const line = findLine(set, key);
  const keys = new Set<string>();
  if (line) walkLines([line], (each) => keys.add(each.key));
  return keys;
}

/** Whether a line cannot be computed without one of these: a formula that reads it, or the total of a section. */
function needsLine(line: Line, keys: ReadonlySet<string>): boolean {
  if (line.kind === 'formula') return namesRead(line.expression).some((name) => isOf(name, keys));
  return line.kind === 'total' && keys.has(line.of);
}

const placesOf = (set: ColumnSet): readonly (ColumnPlace & { readonly own: Column })[] =>
  set.blocks.flatMap(({ key, columns }) => columns.map((own) => ({ block: key, column: own.key, own })));
const columnUse = ({ block, column, own }: ColumnPlace & { readonly own: Column }): Use => ({
  of: 'column',
  block,
  column,
  name: own.heading || own.key,
});

/**
 * What uses a line, or a line within it: formulas, totals, and columns that are a percentage of it. A total of the
 * section the line is in is none of these: it adds up what is left.
 */
export function usesOfLine({ lineSet, columnSet }: ViewSets, key: string): readonly Use[] {
  const keys = keysWithin(lineSet, key);
  const uses: Use[] = [];
  walkLines(lineSet.lines, (line) => {
    if (!keys.has(line.key) && needsLine(line, keys)) uses.push({ of: 'line', key: line.key, name: line.name || line.key });
  });
  const shares = placesOf(columnSet).filter(({ own }) => own.kind === 'share' && own.baseLine !== undefined && isOf(own.baseLine, keys));
  return [...uses, ...shares.map(columnUse)];
}

/** The references a column makes to others, as they are written. */
function columnNames(column: Column): readonly string[] {
  switch (column.kind) {
    case 'difference':
    case 'percentDifference':
      return [column.compared, column.base];
    case 'share':
      return [column.of, ...(column.baseColumn === undefined ? [] : [column.baseColumn])];
    case 'runningTotal':
      return [column.of];
    case 'formula':
      return namesRead(column.expression);
    case 'amount':
    case 'benchmark':
      return [];
  }
}

/** Whether a name is that of a column from outside its block: `months.actual`, or in a part of a repeat `months.total.actual`. */
const isColumnNamed = (name: string, { block, column }: ColumnPlace): boolean =>
  name.startsWith(`${block}.`) && name.endsWith(`.${column}`);

/** What uses columns, apart from those columns themselves. */
function usesOfPlaces(set: ColumnSet, removed: readonly ColumnPlace[]): readonly Use[] {
  const isRemoved = (place: ColumnPlace) => removed.some(({ block, column }) => block === place.block && column === place.column);
  return placesOf(set)
    .filter((place) => !isRemoved(place))
    .filter(({ block, own }) =>
      columnNames(own).some((name) => removed.some((each) => (each.block === block && name === each.column) || isColumnNamed(name, each))),
    )
    .map(columnUse);
}

/** What uses a column: differences, percentages, running totals and formulas, in its block and in others. */
export const usesOfColumn = (set: ColumnSet, place: ColumnPlace): readonly Use[] => usesOfPlaces(set, [place]);

/** What uses the columns of a block, in other blocks. */
export function usesOfBlock(set: ColumnSet, key: string): readonly Use[] {
  return usesOfPlaces(
    set,
    placesOf(set).filter(({ block }) => block === key),
  );
}

/** Takes out everything listed, and what uses it in turn. */
function withoutUses(sets: ViewSets, uses: readonly Use[]): ViewSets {
  return uses.reduce<ViewSets>(
    (left, use) =>
      use.of === 'line' ? removeLineAndUses(left, use.key) : { ...left, columnSet: removeColumnAndUses(left.columnSet, use) },
    sets,
  );
}

/** Removes a line with all lines in it, and everything that uses it; percentages of it go back to the base of their column. */
export function removeLineAndUses(sets: ViewSets, key: string): ViewSets {
  const keys = keysWithin(sets.lineSet, key);
  if (keys.size === 0) return sets;
  const uses = usesOfLine(sets, key);
  const { percentBase, ...rest } = removeLine(sets.lineSet, key);
  let lineSet: LineSet = { ...rest, ...(percentBase === undefined || isOf(percentBase, keys) ? {} : { percentBase }) };
  walkLines(lineSet.lines, (line) => {
    if (line.percentOf !== undefined && isOf(line.percentOf, keys)) lineSet = changeLine(lineSet, line.key, withoutPercentOf);
  });
  return withoutUses({ ...sets, lineSet }, uses);
}
function withoutPercentOf({ percentOf: _percentOf, ...line }: Line): Line {
  return line as Line;
}

/** Removes a column and everything that uses it. */
export function removeColumnAndUses(set: ColumnSet, place: ColumnPlace): ColumnSet {
  return usesOfColumn(set, place).reduce(
    (left, use) => (use.of === 'column' ? removeColumnAndUses(left, use) : left),
    removeColumn(set, place),
  );
}

/** Removes a block and everything in other blocks that uses its columns. */
export function removeBlockAndUses(set: ColumnSet, key: string): ColumnSet {
  return usesOfBlock(set, key).reduce((left, use) => (use.of === 'column' ? removeColumnAndUses(left, use) : left), removeBlock(set, key));
}

/** Hides a line with all lines in it: what uses them keeps its values. */
export function hideLine(set: LineSet, key: string): LineSet {
  return [...keysWithin(set, key)].reduce((left, each) => changeLine(left, each, (line) => ({ ...line, hidden: true })), set);
}
