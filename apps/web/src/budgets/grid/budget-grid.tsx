import { useVirtualizer } from '@tanstack/react-virtual';
import type { BudgetEditDto } from '@wise-margin/contract';
import { minor, selectionFigures, type Spread, toDecimalText } from '@wise-margin/core';
import { group } from 'd3';
import { type ClipboardEvent, memo, useEffect, useMemo, useRef, useState } from 'react';

import { ScenarioSwatch } from '../../ui/scenario-swatch.tsx';
import { useStableCallback } from '../../ui/use-stable-callback.ts';
import type { WorksheetView } from '../worksheet/worksheet-session.ts';
import { BudgetRow } from './budget-row.tsx';
import { budgetColumns } from './grid-columns.ts';
import { changeAll, fillRight, pasteBlock, type Place, shapeOf, spreadAgain, totalOver } from './grid-edits.ts';
import { budgetLines } from './grid-lines.ts';
import { SelectionBar } from './selection-bar.tsx';
import { useGridCursor } from './use-grid-cursor.ts';

const ROW = 27;
/** Beyond so many lines only those in view are drawn. */
const MOST_DRAWN = 150;
const NONE: readonly string[] = [];

/**
 * The month grid: type over a figure, arrows move, Shift extends, Enter goes down, Tab right, paste from a
 * spreadsheet. A quarter or the year typed is spread over its free months; a total is shared among the
 * accounts beneath it.
 */
export const BudgetGrid = memo(function BudgetGrid({
  dto,
  held,
  noteBits,
  exponent,
  spread,
  showAll,
  withQuarters,
  lock,
  selected,
  select,
  picked,
  apply,
  tell,
  currencyWords,
  shared,
}: {
  readonly dto: WorksheetView['grid'];
  /** by account, which months are held: bit 0 is the first month */
  readonly held: WorksheetView['held'];
  /** by account, months with a note; bit 12 is the line's own */
  readonly noteBits: Readonly<Record<string, number>>;
  readonly exponent: number;
  readonly spread: Spread;
  readonly showAll: boolean;
  readonly withQuarters: boolean;
  /** why nothing can be changed here; null where it can */
  readonly lock: string | null;
  readonly selected: string | null;
  readonly select: (account: string, month: number | null) => void;
  /** the accounts of the selected rows, where there are several */
  readonly picked: (accounts: readonly string[]) => void;
  readonly apply: (edits: readonly BudgetEditDto[]) => void;
  /** says what could not be done with a block */
  readonly tell: (words: string | null) => void;
  readonly currencyWords: string;
  /** dimensions among whose values a figure typed is shared; null when one slice is looked at */
  readonly shared: string | null;
}) {
  const always = dto.lines.some(({ account, isZero }) => isZero && account !== null && account === selected) ? selected : null;
  const lines = useMemo(() => budgetLines(dto.lines, { showAll, always }), [dto.lines, showAll, always]);
  // headings and order hang on the year alone, so that rows see the same columns from one edit to the next
  const columnKeys = dto.columns.map(({ key }) => key).join(' ');
  // oxlint-disable-next-line react/exhaustive-deps
  const columns = useMemo(() => budgetColumns(dto, withQuarters), [columnKeys, withQuarters]);
  const words = useMemo(() => dto.columns.map((column) => column.words), [dto.columns]);
  const grid = { lines, columns, spread };
  const scroller = useRef<HTMLDivElement>(null);
  const [shape, setShape] = useState<{ readonly account: string; readonly spread: Spread } | null>(null);
  const isLarge = lines.length > MOST_DRAWN;
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollPaddingStart: ROW,
    enabled: isLarge,
  });
  const items = rows.getVirtualItems();
  const before = isLarge ? (items[0]?.start ?? 0) : 0;
  const after = isLarge ? rows.getTotalSize() - (items.at(-1)?.end ?? 0) : 0;
  const drawn = isLarge ? items.map(({ index }) => index) : lines.map((_, index) => index);
  const valueAt = ({ row, column }: Place): number => {
    const cell = dto.cells[lines[row]!.index]![columns[column]!.position]!;
    return cell.kind === 'amount' ? cell.value : 0;
  };
  const locked = lock !== null;
  const refuse = (): void => tell(lock);
  const textAt = (place: Place): string => toDecimalText(minor(valueAt(place)), exponent);
  const send = (edits: readonly BudgetEditDto[]): void => {
    if (edits.length === 0) return;
    if (locked) return refuse();
    tell(null);
    apply(edits);
  };
  const { at, anchor, places, editing, handlers } = useGridCursor({
    grid,
    scroller,
    scrollToRow: (row) => rows.scrollToIndex(row),
    textAt,
    refuse: lock === null ? null : refuse,
    select,
    send,
  });
  const figures = places.length > 1 ? selectionFigures(places.map((place) => minor(valueAt(place)))) : null;
  const on = useRef(handlers);
  const reveal = useStableCallback((account: string) => {
    const row = lines.findIndex(({ line }) => line.account === account);
    if (row < 0 || (at !== null && lines[at.row]?.line.account === account)) return;
    if (isLarge) return rows.scrollToIndex(row, { align: 'center' });
    const sheet = scroller.current!;
    const shown = sheet.querySelector<HTMLElement>(`[aria-rowindex="${row + 2}"]`);
    if (shown) sheet.scrollTop = shown.offsetTop - sheet.clientHeight / 2;
  });
  // a line led to from elsewhere, such as a finding or a link, comes into view
  useEffect(() => {
    if (selected !== null) reveal(selected);
  }, [selected, reveal]);

  const paste = (event: ClipboardEvent): void => {
    const text = event.clipboardData.getData('text/plain');
    const [first] = places;
    if (text === '' || !first || (event.target as HTMLElement).tagName === 'INPUT') return;
    event.preventDefault();
    if (locked) return refuse();
    const { edits, left } = pasteBlock(grid, first, text);
    send(edits);
    tell(left);
  };
  const copy = (event: ClipboardEvent): void => {
    if (places.length === 0 || (event.target as HTMLElement).tagName === 'INPUT') return;
    const byRow = group(places, ({ row }) => row);
    event.clipboardData.setData('text/plain', [...byRow.values()].map((row) => row.map(textAt).join('\t')).join('\n'));
    event.preventDefault();
  };
  const pickedAccounts = [...new Set(places.map(({ row }) => row))].flatMap((row) => lines[row]!.line.account ?? []);
  const pickedText = pickedAccounts.length > 1 ? pickedAccounts.join('\n') : '';
  useEffect(() => picked(pickedText === '' ? NONE : pickedText.split('\n')), [picked, pickedText]);
  const atLine = at === null ? undefined : lines[at.row];
  const yearText = (row: number): string => textAt({ row, column: columns.findIndex(({ kind }) => kind === 'year') });
  const copyShape = (): void => {
    const account = atLine?.line.account;
    if (!account) return;
    const months = columns.flatMap(({ kind }, column) => (kind === 'month' ? [valueAt({ row: at!.row, column })] : []));
    setShape({ account, spread: shapeOf(months) });
  };

  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div
        ref={scroller}
        className={`min-h-0 flex-1 overflow-auto border border-hairline bg-sheet ${locked ? 'locked-grid' : ''}`}
        role="region"
        aria-label="Budget by month"
        onPaste={paste}
        onCopy={copy}
      >
        <table className="ledger-table" aria-rowcount={lines.length + 1}>
          <thead className="sticky top-0 z-20 bg-sheet">
            <tr>
              <th
                scope="col"
                className="sticky left-0 z-10 w-60 min-w-60 border-r border-b border-hairline border-b-ink bg-sheet px-3 py-1.5 font-normal! text-ink-soft"
              >
                {currencyWords}
              </th>
              {columns.map(({ position, heading, kind }) => {
                const column = dto.columns[position]!;
                return (
                  <th
                    key={column.key}
                    scope="col"
                    title={column.words}
                    className={`border-b border-ink px-1.5 text-right! ${kind === 'year' ? 'pl-4' : ''} ${kind === 'quarter' ? 'bg-paper/60' : ''}`}
                  >
                    {(kind === 'year' || kind === 'beside') && column.scenario ? <ScenarioSwatch scenario={column.scenario} /> : null}
                    {heading}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {before > 0 ? <tr style={{ height: before }} /> : null}
            {drawn.map((row) => {
              const shown = lines[row]!;
              const { account } = shown.line;
              const inRows = at !== null && places.length > 1 && between(row, (anchor ?? at).row, at.row);
              return (
                <BudgetRow
                  key={shown.line.key}
                  shown={shown}
                  row={row}
                  cells={dto.cells[shown.index]!}
                  columns={columns}
                  words={words}
                  dtoColumns={dto.columns}
                  exponent={exponent}
                  heldBits={account === null ? 0 : (held[account] ?? 0)}
                  noteBits={account === null ? 0 : (noteBits[account] ?? 0)}
                  isSelected={account !== null && account === selected}
                  span={inRows ? [Math.min((anchor ?? at).column, at.column), Math.max((anchor ?? at).column, at.column)] : null}
                  editing={editing?.row === row ? editing : null}
                  on={on.current}
                />
              );
            })}
            {after > 0 ? <tr style={{ height: after }} /> : null}
          </tbody>
        </table>
      </div>
      <SelectionBar
        figures={figures}
        exponent={exponent}
        locked={locked}
        shares={atLine && atLine.accounts.length > 1 ? atLine.accounts.length : 0}
        slices={shared}
        change={(text) => send(changeAll(grid, places, text))}
        total={(text) => {
          const edits = totalOver(grid, places, text);
          send(edits);
          if (edits.length === 0) tell('Select at least two months to set a total.');
        }}
        fill={() => send(fillRight(grid, places, textAt))}
        spread={() => send(spreadAgain(grid, places, { yearText }))}
        account={atLine?.line.account ?? null}
        shape={shape?.account ?? null}
        copyShape={copyShape}
        giveShape={() => send(shape ? spreadAgain(grid, places, { yearText, spread: shape.spread }) : [])}
      />
    </div>
  );
});

const between = (row: number, a: number, b: number): boolean => Math.min(a, b) <= row && row <= Math.max(a, b);
