import { useVirtualizer } from '@tanstack/react-virtual';
import type { GridDto } from '@wise-margin/contract';
import type { ShownLine } from '@wise-margin/presentation';
import { type KeyboardEvent, useMemo, useRef } from 'react';

import { useCompany } from '../data/company.ts';
import { gridKeyTarget, type GridPlace } from '../ui/grid-keys.ts';
import { usePrinting } from '../ui/use-printing.ts';
import { useStableCallback } from '../ui/use-stable-callback.ts';
import { useTabStop } from '../ui/use-tab-stop.ts';
import { columnWidths } from './column-widths.ts';
import { largestBar } from './statement-cell.tsx';
import { statementFigures } from './statement-figures.ts';
import { StatementHead } from './statement-head.tsx';
import { StatementRow } from './statement-row.tsx';

export type CellPlace = { readonly line: string; readonly column: string };
const ROW = 25;
const NAMES = 240;

/**
 * A statement: block headings over their columns, one row a line, every figure a button into its
 * drill-down. Arrow keys move, Enter opens. A small statement is drawn whole, so that the browser finds in it;
 * of a large one only the rows and columns in view are.
 */
export function StatementTable({
  grid,
  lines,
  unitWords,
  label = 'Statement',
  cellsDrawnWhole = 3000,
  chosen,
  toggle,
  openDrillDown,
  resize = null,
}: {
  readonly grid: GridDto;
  readonly lines: readonly ShownLine[];
  readonly unitWords: string;
  readonly label?: string;
  /** a statement with more cells than these is drawn as far as it is in view */
  readonly cellsDrawnWhole?: number;
  readonly chosen: CellPlace | null;
  readonly toggle: (line: string) => void;
  /** null where figures lead nowhere, as in a preview */
  readonly openDrillDown: ((place: CellPlace) => void) | null;
  /** sets the width of a column in characters, in an editor */
  readonly resize?: ((column: string, width: number) => void) | null;
}) {
  const { exponent, currencySign } = useCompany();
  const isPrinting = usePrinting();
  const body = useRef<HTMLTableSectionElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const isLarge = !isPrinting && lines.length * grid.columns.length > cellsDrawnWhole;
  const figures = useMemo(() => statementFigures(grid, lines, { exponent, currencySign }), [grid, lines, exponent, currencySign]);
  const widths = useMemo(() => (isLarge ? columnWidths(grid, lines, figures) : []), [isLarge, grid, lines, figures]);
  const largest = useMemo(() => grid.columns.map((_, position) => largestBar(grid, lines, position)), [grid, lines]);
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const rowsInView = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 4,
    enabled: isLarge,
  });
  const columnsInView = useVirtualizer({
    horizontal: true,
    count: grid.columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: (position) => widths[position] ?? 80,
    // the names stand over what scrolls beneath them
    scrollPaddingStart: NAMES,
    overscan: 2,
    enabled: isLarge,
  });
  const rowItems = rowsInView.getVirtualItems();
  const columnItems = columnsInView.getVirtualItems();
  const rows = isLarge ? rowItems.map(({ index }) => index) : lines.map((_, index) => index);
  const firstColumn = isLarge ? (columnItems[0]?.index ?? 0) : 0;
  const lastColumn = isLarge ? (columnItems.at(-1)?.index ?? -1) : grid.columns.length - 1;
  const positions = useMemo(
    () => Array.from({ length: lastColumn - firstColumn + 1 }, (_, index) => firstColumn + index),
    [firstColumn, lastColumn],
  );
  const above = isLarge ? (rowItems[0]?.start ?? 0) : 0;
  const below = isLarge ? rowsInView.getTotalSize() - (rowItems.at(-1)?.end ?? 0) : 0;
  const before = isLarge ? (columnItems[0]?.start ?? 0) : 0;
  const after = isLarge ? columnsInView.getTotalSize() - (columnItems.at(-1)?.end ?? 0) : 0;

  const spaces = `${before > 0 ? 'b' : ''}${after > 0 ? 'a' : ''}` as const;
  const stableToggle = useStableCallback(toggle);
  const stableOpen = useStableCallback((place: CellPlace) => openDrillDown?.(place));

  const focus = (row: number, column: number, tries = 12): void => {
    const target = body.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`);
    if (target) {
      target.focus({ preventScroll: isLarge });
      if (!isLarge) target.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    } else if (tries > 0) requestAnimationFrame(() => focus(row, column, tries - 1));
  };
  const move = (event: KeyboardEvent<HTMLTableSectionElement>) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!from) return;
    const has = ({ row, column }: GridPlace): boolean => {
      const { line, index, canOpen } = lines[row]!;
      if (column === -1) return canOpen;
      const cell = grid.cells[index]![column]!;
      return line.kind !== 'section' && line.kind !== 'spacer' && !(cell.kind === 'blank' && cell.reason === 'ratioLine');
    };
    const place = { row: Number(from.dataset.row), column: Number(from.dataset.column) };
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / ROW) - 3);
    const target = gridKeyTarget({ key: event.key, isCtrl: event.ctrlKey || event.metaKey }, place, {
      rows: lines.length,
      columns: grid.columns.length,
      page,
      has,
    });
    if (!target) return;
    event.preventDefault();
    if (isLarge) {
      rowsInView.scrollToIndex(target.row);
      if (target.column >= 0) columnsInView.scrollToIndex(target.column);
    }
    focus(target.row, target.column);
  };
  useTabStop(body);
  // A column of words is worth its room where a good part of the lines has words, as among ratios; elsewhere a name's hover tells them.
  const tellsWords = !isLarge && lines.filter(({ line }) => line.words !== null).length * 4 >= lines.length;
  const startsBlock = (position: number) => position > 0 && grid.columns[position]!.block !== grid.columns[position - 1]!.block;
  return (
    <div
      ref={scroller}
      className="printed-whole min-h-0 flex-1 overflow-auto border border-hairline bg-sheet"
      tabIndex={openDrillDown ? undefined : 0}
      role="region"
      aria-label={label}
    >
      <table
        className="ledger-table"
        aria-rowcount={isLarge ? lines.length + 2 : undefined}
        aria-colcount={isLarge ? grid.columns.length + 1 : undefined}
        style={isLarge ? { tableLayout: 'fixed', width: NAMES + columnsInView.getTotalSize() } : undefined}
      >
        {isLarge ? (
          <colgroup>
            <col style={{ width: NAMES }} />
            {before > 0 ? <col style={{ width: before }} /> : null}
            {positions.map((position) => (
              <col key={position} style={{ width: widths[position] }} />
            ))}
            {after > 0 ? <col style={{ width: after }} /> : null}
          </colgroup>
        ) : null}
        <StatementHead
          grid={grid}
          positions={positions}
          unitWords={unitWords}
          spaces={{ before: before > 0, after: after > 0 }}
          tellsWords={tellsWords}
          startsBlock={startsBlock}
          resize={resize}
        />
        <tbody ref={body} onKeyDown={move}>
          {above > 0 ? <tr style={{ height: above }} /> : null}
          {rows.map((row) => {
            const shown = lines[row]!;
            return (
              <StatementRow
                key={shown.line.key}
                grid={grid}
                shown={shown}
                row={row}
                positions={positions}
                spaces={spaces}
                figures={figures}
                largest={largest}
                height={isLarge ? ROW : null}
                chosenColumn={chosen?.line === shown.line.key ? chosen.column : null}
                tellsWords={tellsWords}
                toggle={stableToggle}
                open={openDrillDown ? stableOpen : null}
              />
            );
          })}
          {below > 0 ? <tr style={{ height: below }} /> : null}
        </tbody>
      </table>
    </div>
  );
}
