import { type CellDto, type GridDto } from '@wise-margin/contract';
import { cellReasonWords, shownFavor, type ShownLine } from '@wise-margin/presentation';
import { max, scaleLinear } from 'd3';

import { CellFigure, favorColor } from '../ui/figure.tsx';
import { ruleClasses } from '../ui/rule-classes.ts';
import type { StatementFigures } from './statement-figures.ts';

const BAR = 46;
const amountOf = (cell: CellDto): number => (cell.kind === 'amount' ? cell.value : 0);

/** The largest difference of a column with bars, in size. */
export const largestBar = (grid: GridDto, lines: readonly ShownLine[], position: number): number =>
  grid.columns[position]!.bar ? (max(lines, ({ index }) => Math.abs(amountOf(grid.cells[index]![position]!))) ?? 0) : 0;

/** One figure of a statement: a button into its drill-down, its letter of favor, and its bar. */
export function StatementCell({
  grid,
  shown,
  row,
  position,
  figures,
  largest,
  startsBlock,
  isChosen,
  open,
}: {
  readonly grid: GridDto;
  readonly shown: ShownLine;
  readonly row: number;
  readonly position: number;
  readonly figures: StatementFigures;
  /** what the bars of the column are in proportion to */
  readonly largest: number;
  readonly startsBlock: boolean;
  readonly isChosen: boolean;
  /** null where figures lead nowhere, as in a preview */
  readonly open: ((place: { readonly line: string; readonly column: string }) => void) | null;
}) {
  const { line, index } = shown;
  const column = grid.columns[position]!;
  const cell = grid.cells[index]![position]!;
  const text = figures.text(shown, position);
  const favor = shownFavor(cell, text);
  const isDifference = column.kind === 'difference';
  const soft = column.kind === 'share' || column.kind === 'percentDifference' || column.kind === 'benchmark' || line.emphasis === 'italic';
  const isRuled = cell.kind !== 'blank' && ['amount', 'difference', 'formula', 'runningTotal'].includes(column.kind);
  const rule = isRuled ? ruleClasses(line.rule) : '';
  const figure = <CellFigure cell={cell} format={figures.format(shown, position)} redNegatives={grid.display.negatives === 'red'} />;
  return (
    <td
      className={`figure ${rule} ${line.emphasis === 'bold' && !soft ? 'font-semibold' : ''} ${soft ? 'text-ink-soft' : ''} ${startsBlock ? 'pl-5!' : ''}`}
    >
      {cell.kind === 'blank' && cell.reason === 'ratioLine' ? null : (
        <span className="flex items-center justify-end">
          {open ? (
            <button
              type="button"
              tabIndex={-1}
              data-row={row}
              data-column={position}
              data-figure={`${line.key}~${column.key}`}
              aria-label={`${line.name}, ${column.words}: ${text || cellReasonWords(cell) || 'nothing'}`}
              title={column.words}
              onClick={() => open({ line: line.key, column: column.key })}
              className={`min-h-6 min-w-8 flex-1 text-right ${isDifference ? favorColor(favor) : ''} ${isChosen ? 'outline-2 outline-copper' : ''}`}
            >
              {figure}
            </button>
          ) : (
            <span className={`flex-1 text-right ${isDifference ? favorColor(favor) : ''}`}>{figure}</span>
          )}
          {isDifference ? (
            <span className={`inline-block w-3 text-center text-[10px] font-semibold ${favorColor(favor)}`}>{favor ?? ''}</span>
          ) : null}
          {column.bar && cell.kind === 'amount' ? (
            <DifferenceBar value={cell.value} largest={largest} favor={favor} />
          ) : column.bar ? (
            <span className="ml-0.5 w-[46px] shrink-0 max-[1439px]:hidden" />
          ) : null}
        </span>
      )}
    </td>
  );
}

/** The difference as a bar from a zero line in the middle, in proportion to the column's largest. */
function DifferenceBar({ value, largest, favor }: { readonly value: number; readonly largest: number; readonly favor: 'F' | 'U' | null }) {
  const scale = scaleLinear([-largest || -1, largest || 1], [0, BAR]);
  return (
    <svg width={BAR} height="12" aria-hidden="true" className="ml-0.5 shrink-0 max-[1439px]:hidden">
      <rect
        x={Math.min(scale(0), scale(value))}
        width={Math.abs(scale(value) - scale(0))}
        y="3"
        height="7"
        className={favor === 'F' ? 'fill-pine' : favor === 'U' ? 'fill-brick' : 'fill-ink-soft'}
      />
      <line x1={scale(0)} x2={scale(0)} y1="1" y2="12" className="stroke-prior" />
    </svg>
  );
}
