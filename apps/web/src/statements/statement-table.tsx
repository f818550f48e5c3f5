import { useVirtualizer } from '@tanstack/react-virtual';
import { max, scaleLinear } from 'd3';
import { cellReasonWords, type CellDto, type GridDto, type ShownLine } from '@wise-margin/contract';
import type { DisplayUnit } from '@wise-margin/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useRef, type KeyboardEvent } from 'react';
import { CellFigure, cellText, favorColor, favorOf } from '../ui/figure.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';

export type CellPlace = { readonly line: string; readonly column: string };
const BAR = 46;
const ROW = 25;
const CELLS_DRAWN_WHOLE = 3000;

/**
 * A statement: block headings over their columns, one row a line, every figure a button into its
 * trail. Arrow keys move, Enter opens.
 */
export function StatementTable({
  grid,
  lines,
  exponent,
  unit,
  unitWords,
  chosen,
  toggle,
  openTrail,
}: {
  readonly grid: GridDto;
  readonly lines: readonly ShownLine[];
  readonly exponent: number;
  readonly unit: DisplayUnit;
  readonly unitWords: string;
  readonly chosen: CellPlace | null;
  readonly toggle: (line: string) => void;
  /** null where figures lead nowhere, as in a preview */
  readonly openTrail: ((place: CellPlace) => void) | null;
}) {
  const body = useRef<HTMLTableSectionElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  // a small statement is drawn whole, so that the browser finds in it; of a large one only the rows in view
  const isLarge = lines.length * grid.columns.length > CELLS_DRAWN_WHOLE;
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
    enabled: isLarge,
  });
  const items = virtual.getVirtualItems();
  const rows = isLarge ? items.map(({ index }) => index) : lines.map((_, index) => index);
  const above = isLarge ? (items[0]?.start ?? 0) : 0;
  const below = isLarge ? virtual.getTotalSize() - (items.at(-1)?.end ?? 0) : 0;
  const sizes = grid.columns.map((column, position) =>
    column.bar ? (max(lines, ({ index }) => Math.abs(amountOf(grid.cells[index]![position]!))) ?? 0) : 0,
  );
  const move = (event: KeyboardEvent<HTMLTableSectionElement>) => {
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    const from = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!step || !from) return;
    event.preventDefault();
    for (
      let row = Number(from.dataset.row) + step[0], column = Number(from.dataset.column) + step[1];
      row >= 0 && row < lines.length && column >= 0 && column < grid.columns.length;
      row += step[0], column += step[1]
    ) {
      const next = body.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`);
      if (next) {
        next.focus();
        next.scrollIntoView({ block: 'nearest', inline: 'nearest' });
        return;
      }
    }
  };
  const tellsWords = lines.some(({ line }) => line.words !== null);
  const startsBlock = (position: number) => position > 0 && grid.columns[position]!.block !== grid.columns[position - 1]!.block;
  return (
    <div
      ref={scroller}
      className="min-h-0 flex-1 overflow-auto border border-hairline bg-sheet"
      tabIndex={0}
      role="region"
      aria-label="Statement"
    >
      <table className="ledger-table">
        <thead className="sticky top-0 z-20 bg-sheet">
          <tr>
            <td className="sticky left-0 z-10 bg-sheet" />
            {grid.blocks.map((block, index) => {
              const width = grid.columns.filter((column) => column.block === index).length;
              return width === 0 ? null : (
                <th key={block.key} scope="colgroup" colSpan={width} className={`px-2 pt-1 ${index > 0 ? 'pl-5' : ''}`}>
                  <div className="border-b border-ink-soft pb-0.5 text-center font-serif text-[14px] font-semibold">{block.heading}</div>
                </th>
              );
            })}
            {tellsWords ? <td className="bg-sheet" /> : null}
          </tr>
          <tr>
            <th
              scope="col"
              className="sticky left-0 z-10 w-60 min-w-60 border-r border-b border-hairline border-b-ink max-w-60 bg-sheet px-3 py-1 leading-4 font-normal! whitespace-normal! text-ink-soft"
            >
              {unitWords}
            </th>
            {grid.columns.map((column, position) => (
              <th
                key={column.key}
                scope="col"
                title={column.words}
                className={`border-b border-b-ink px-1.5 py-1 text-right! text-[12.5px] ${startsBlock(position) ? 'pl-5' : ''} ${column.bar ? 'pr-[62px]' : column.kind === 'difference' ? 'pr-4' : ''} ${column.kind === 'share' || column.kind === 'percentDifference' ? 'font-normal! text-ink-soft' : ''}`}
              >
                {column.scenario ? <ScenarioSwatch scenario={column.scenario} /> : null}
                {column.heading}
                {column.isPinned ? <span title="Pinned: it stays when the month moves"> (pinned)</span> : null}
              </th>
            ))}
            {tellsWords ? (
              <th scope="col" className="border-b border-b-ink px-1.5 py-1 pl-5 text-left! text-[12.5px] font-normal! text-ink-soft">
                How it is made
              </th>
            ) : null}
          </tr>
        </thead>
        <tbody ref={body} onKeyDown={move}>
          {above > 0 ? <tr style={{ height: above }} /> : null}
          {rows.map((row) => {
            const { line, index, canOpen, isOpen } = lines[row]!;
            const rule = line.rule === 'single' ? 'rule-single' : line.rule === 'double' ? 'rule-double' : '';
            const weight =
              line.emphasis === 'bold' || line.kind === 'section'
                ? 'font-semibold'
                : line.emphasis === 'italic'
                  ? 'italic text-ink-soft'
                  : '';
            const isChosenLine = chosen?.line === line.key;
            return (
              <tr
                key={line.key}
                className={`group ${isChosenLine ? 'bg-wash' : 'hover:bg-wash/60'}`}
                style={isLarge ? { height: ROW } : undefined}
              >
                <th
                  scope="row"
                  className={`sticky left-0 z-10 max-w-60 border-r border-hairline text-[13px] ${isChosenLine ? 'bg-wash' : 'bg-sheet group-hover:bg-wash'} ${weight || 'font-normal!'} ${line.kind === 'section' ? 'pt-1' : ''}`}
                  style={{ paddingLeft: 12 + indent(line.kind, line.depth) }}
                >
                  <span className="flex items-center">
                    {canOpen ? (
                      <button
                        type="button"
                        aria-expanded={isOpen}
                        onClick={() => toggle(line.key)}
                        className="flex min-w-0 items-center gap-0.5 text-left"
                        title={`${isOpen ? 'Close' : 'Open'} the parts of ${line.name}`}
                      >
                        {isOpen ? (
                          <ChevronDown size={13} className="shrink-0" aria-hidden="true" />
                        ) : (
                          <ChevronRight size={13} className="shrink-0" aria-hidden="true" />
                        )}
                        <span className="truncate" title={line.name}>
                          {line.name}
                        </span>
                      </button>
                    ) : (
                      <span className="truncate" title={line.words ? `${line.name}: ${line.words}` : line.name}>
                        {line.account ? (
                          <>
                            <span className="mr-0.5 text-ink-soft">{line.account}</span>{' '}
                          </>
                        ) : null}
                        {line.name}
                      </span>
                    )}
                  </span>
                </th>
                {line.kind === 'section' || line.kind === 'spacer' ? (
                  <td colSpan={grid.columns.length} />
                ) : (
                  grid.columns.map((column, position) => {
                    const cell = grid.cells[index]![position]!;
                    const text = cellText(cell, { exponent, unit, withSign: true, decimals: column.decimals });
                    // a mark beside what is shown as zero would tell of nothing that can be seen
                    const favor = /[1-9]/.test(text) ? favorOf(cell) : null;
                    const isChosen = isChosenLine && chosen?.column === column.key;
                    const soft = column.kind === 'share' || column.kind === 'percentDifference' || line.emphasis === 'italic';
                    const label = `${line.name}, ${column.words}: ${text || cellReasonWords(cell) || 'nothing'}`;
                    return (
                      <td
                        key={column.key}
                        className={`figure ${cell.kind !== 'blank' && (column.kind === 'amount' || column.kind === 'difference') ? rule : ''} ${line.emphasis === 'bold' && !soft ? 'font-semibold' : ''} ${soft ? 'text-ink-soft' : ''} ${startsBlock(position) ? 'pl-5!' : ''}`}
                      >
                        {cell.kind === 'blank' && cell.reason === 'ratioLine' ? null : (
                          <span className="flex items-center justify-end">
                            {openTrail ? (
                              <button
                                type="button"
                                data-row={row}
                                data-column={position}
                                aria-label={label}
                                title={column.words}
                                onClick={() => openTrail({ line: line.key, column: column.key })}
                                className={`min-h-6 min-w-8 flex-1 text-right ${column.kind === 'difference' ? favorColor(favor) : ''} ${isChosen ? 'outline-2 outline-copper' : ''}`}
                              >
                                <CellFigure
                                  cell={cell}
                                  exponent={exponent}
                                  unit={unit}
                                  decimals={column.decimals}
                                  withSign={line.kind === 'formula' && column.kind === 'amount'}
                                />
                              </button>
                            ) : (
                              <span className={`flex-1 text-right ${column.kind === 'difference' ? favorColor(favor) : ''}`}>
                                <CellFigure
                                  cell={cell}
                                  exponent={exponent}
                                  unit={unit}
                                  decimals={column.decimals}
                                  withSign={line.kind === 'formula' && column.kind === 'amount'}
                                />
                              </span>
                            )}
                            {column.kind === 'difference' ? (
                              <span className={`inline-block w-3 text-center text-[10px] font-semibold ${favorColor(favor)}`}>
                                {favor ?? ''}
                              </span>
                            ) : null}
                            {column.bar && cell.kind === 'amount' ? (
                              <DifferenceBar cell={cell} largest={sizes[position]!} favor={favor} />
                            ) : column.bar ? (
                              <span className="ml-0.5 w-[46px] shrink-0" />
                            ) : null}
                          </span>
                        )}
                      </td>
                    );
                  })
                )}
                {line.words === null ? null : <td className="pl-5! text-[12.5px] text-ink-soft">{line.words}</td>}
              </tr>
            );
          })}
          {below > 0 ? <tr style={{ height: below }} /> : null}
        </tbody>
      </table>
    </div>
  );
}

const indent = (kind: string, depth: number): number =>
  kind === 'account' || kind === 'slice' ? 16 + depth * 10 : kind === 'section' ? depth * 10 : Math.max(0, depth) * 10;
const amountOf = (cell: CellDto): number => (cell.kind === 'amount' ? cell.value : 0);

/** The difference as a bar from a zero line in the middle, in proportion to the column's largest. */
function DifferenceBar({ cell, largest, favor }: { readonly cell: CellDto; readonly largest: number; readonly favor: 'F' | 'U' | null }) {
  const scale = scaleLinear([-largest || -1, largest || 1], [0, BAR]);
  const value = amountOf(cell);
  return (
    <svg width={BAR} height="12" aria-hidden="true" className="ml-0.5 shrink-0">
      {cell.kind === 'amount' ? (
        <rect
          x={Math.min(scale(0), scale(value))}
          width={Math.abs(scale(value) - scale(0))}
          y="3"
          height="7"
          className={favor === 'F' ? 'fill-pine' : 'fill-brick'}
        />
      ) : null}
      <line x1={scale(0)} x2={scale(0)} y1="1" y2="12" className="stroke-prior" />
    </svg>
  );
}
