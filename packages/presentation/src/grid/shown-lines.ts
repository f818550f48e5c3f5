import type { GridDto } from '@wise-margin/contract';

export type GridLine = GridDto['lines'][number];
/** A line in view with its place in the grid. */
export type ShownLine = { readonly line: GridLine; readonly index: number; readonly canOpen: boolean; readonly isOpen: boolean };

/**
 * The lines in view: accounts only beneath open lines, zero lines left out where asked. A section
 * whose lines are all left out goes too.
 */
export function shownLines(
  grid: GridDto,
  options: { readonly open: ReadonlySet<string> | 'all'; readonly hideZero: boolean },
): ShownLine[] {
  const isOpen = (key: string) => options.open === 'all' || options.open.has(key);
  const children = new Map<string, number>();
  for (const line of grid.lines)
    if (line.parent !== null && !(options.hideZero && line.isZero)) children.set(line.parent, (children.get(line.parent) ?? 0) + 1);
  return grid.lines.flatMap((line, index) => {
    if ((line.kind === 'account' || line.kind === 'slice') && !isOpen(line.parent ?? '')) return [];
    if (options.hideZero && line.isZero && line.kind !== 'total') return [];
    if (line.kind === 'section' && options.hideZero && !children.has(line.key)) return [];
    const canOpen = line.kind === 'accounts' && (line.opens || (children.get(line.key) ?? 0) > 0);
    return [{ line, index, canOpen, isOpen: isOpen(line.key) }];
  });
}

/** Keys of the lines whose amounts bear the currency sign: the first with amounts, and every line under a rule. */
export function signedLines(grid: GridDto, lines: readonly ShownLine[]): ReadonlySet<string> {
  const withAmounts = lines.filter(({ index }) => grid.cells[index]!.some(({ kind }) => kind === 'amount'));
  return new Set(withAmounts.flatMap(({ line }, position) => (position === 0 || line.rule !== null ? [line.key] : [])));
}

/** The lines of each side in account form; one side where no line begins a second one, or the form is not asked for. */
export function sidesOfForm(grid: GridDto, lines: readonly ShownLine[]): readonly (readonly ShownLine[])[] {
  const second = grid.display.form === 'account' ? lines.findIndex(({ line }) => line.startsSide) : -1;
  return second <= 0 ? [lines] : [lines.slice(0, second), lines.slice(second)];
}
