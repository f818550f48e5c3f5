import { group } from 'd3';
import { useVirtualizer } from '@tanstack/react-virtual';
import { minor, selectionFigures, toDecimalText, type Spread } from '@wise-margin/core';
import type { BudgetEditDto } from '@wise-margin/contract';
import { memo, useEffect, useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent } from 'react';
import { ScenarioSwatch } from '../../ui/scenario-swatch.tsx';
import { useStable } from '../../ui/use-stable.ts';
import type { DeskView } from '../desk/desk-session.ts';
import type { RowHandlers } from './budget-cell.tsx';
import { BudgetRow } from './budget-row.tsx';
import { budgetColumns } from './grid-columns.ts';
import {
  changeAll,
  editAt,
  fillRight,
  isTyped,
  pasteBlock,
  placesBetween,
  shapeOf,
  spreadAgain,
  totalOver,
  type Place,
} from './grid-edits.ts';
import { budgetLines } from './grid-lines.ts';
import { SelectionBar } from './selection-bar.tsx';

const ROW = 27;
/** Beyond so many lines only those in view are drawn. */
const MOST_DRAWN = 150;
const NONE: readonly string[] = [];
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

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
  locked,
  selected,
  select,
  picked,
  apply,
  tell,
  currencyWords,
  shared,
}: {
  readonly dto: DeskView['grid'];
  /** by account, which months are held: bit 0 is the first month */
  readonly held: DeskView['held'];
  /** by account, months with a note; bit 12 is the line's own */
  readonly noteBits: Readonly<Record<string, number>>;
  readonly exponent: number;
  readonly spread: Spread;
  readonly showAll: boolean;
  readonly withQuarters: boolean;
  readonly locked: boolean;
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
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const columns = useMemo(() => budgetColumns(dto, withQuarters), [columnKeys, withQuarters]);
  const words = useMemo(() => dto.columns.map((column) => column.words), [dto.columns]);
  const grid = { lines, columns, spread };
  const scroller = useRef<HTMLDivElement>(null);
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [at, setAt] = useState<Place | null>(null);
  const [shape, setShape] = useState<{ readonly account: string; readonly spread: Spread } | null>(null);
  const [editing, setEditing] = useState<(Place & { readonly text: string }) | null>(null);
  const isDragging = useRef(false);
  /** focus is moved by a key: what is selected was set by it already */
  const isGoing = useRef(false);
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
  const places = at === null ? [] : placesBetween(anchor ?? at, at).filter((place) => isTyped(grid, place));
  const valueAt = ({ row, column }: Place): number => {
    const cell = dto.cells[lines[row]!.index]![columns[column]!.position]!;
    return cell.kind === 'amount' ? cell.value : 0;
  };
  const textAt = (place: Place): string => toDecimalText(minor(valueAt(place)), exponent);
  const figures = places.length > 1 ? selectionFigures(places.map((place) => minor(valueAt(place)))) : null;

  const focusAt = (place: Place, tries = 5): void => {
    const cell = scroller.current?.querySelector<HTMLElement>(`[data-row="${place.row}"][data-column="${place.column}"]`);
    if (cell) {
      isGoing.current = true;
      cell.focus();
      isGoing.current = false;
      cell.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    } else if (tries > 0) {
      rows.scrollToIndex(place.row);
      requestAnimationFrame(() => focusAt(place, tries - 1));
    }
  };
  const step = (from: Place, [down, right]: readonly [number, number]): Place | null => {
    for (
      let row = from.row + down, column = from.column + right;
      row >= 0 && row < lines.length && column >= 0 && column < columns.length;
      row += down, column += right
    ) {
      if (isTyped(grid, { row, column })) return { row, column };
    }
    return null;
  };
  const go = (to: Place | null, extend: boolean): void => {
    if (!to) return;
    setAnchor(extend ? (anchor ?? at) : to);
    setAt(to);
    focusAt(to);
  };
  const send = (edits: readonly BudgetEditDto[]): void => {
    if (locked || edits.length === 0) return;
    tell(null);
    apply(edits);
  };
  const commit = (place: Place, text: string): void => {
    setEditing(null);
    if (text.trim() === '' || text.trim() === textAt(place)) return;
    const edit = editAt(grid, place, text.trim());
    if (edit) send([edit]);
  };
  const handlers: RowHandlers = {
    down: useStable((event: MouseEvent, row: number, column: number) => {
      isDragging.current = event.button === 0;
      if (event.shiftKey) {
        event.preventDefault();
        setAt({ row, column });
      } else {
        setAnchor({ row, column });
        setAt({ row, column });
      }
    }),
    enter: useStable((event: MouseEvent, row: number, column: number) => {
      if (isDragging.current && event.buttons === 1) setAt({ row, column });
    }),
    focus: useStable((row: number, column: number) => {
      const { line } = lines[row]!;
      if (line.account !== null) select(line.account, columns[column]!.kind === 'month' ? columns[column]!.months[0]! : null);
      if (isGoing.current) return;
      if (at === null) {
        setAnchor({ row, column });
        setAt({ row, column });
      } else if (at.row !== row || at.column !== column) {
        if (!isDragging.current) setAnchor({ row, column });
        setAt({ row, column });
      }
    }),
    open: useStable((row: number, column: number) => {
      if (!locked) setEditing({ row, column, text: textAt({ row, column }) });
    }),
    key: useStable((event: KeyboardEvent, row: number, column: number) => {
      const place = { row, column };
      const move = MOVES[event.key];
      if (move && !event.ctrlKey && !event.metaKey && !event.altKey) {
        event.preventDefault();
        return go(step(place, move), event.shiftKey);
      }
      if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
        event.preventDefault();
        return send(fillRight(grid, places, textAt));
      }
      if (event.key === 'Enter') {
        event.preventDefault();
        return go(step(place, [event.shiftKey ? -1 : 1, 0]), false);
      }
      if (event.key === 'Escape') return setAnchor(place);
      if (locked || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'Delete' || event.key === 'Backspace') {
        event.preventDefault();
        return send(changeAll(grid, places, '0'));
      }
      if (event.key === 'F2') {
        event.preventDefault();
        return setEditing({ ...place, text: textAt(place) });
      }
      if (/^[0-9.+\-*/(]$/.test(event.key)) {
        event.preventDefault();
        setEditing({ ...place, text: event.key });
      }
    }),
    inputKey: useStable((event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
      event.stopPropagation();
      const place = { row, column };
      if (event.key === 'Escape') {
        setEditing(null);
        requestAnimationFrame(() => focusAt(place));
        return;
      }
      if (event.key !== 'Enter' && event.key !== 'Tab') return;
      event.preventDefault();
      commit(place, event.currentTarget.value);
      const direction = event.shiftKey ? -1 : 1;
      const next = event.key === 'Enter' ? step(place, [direction, 0]) : step(place, [0, direction]);
      requestAnimationFrame(() => go(next ?? place, false));
    }),
    commit: useStable((row: number, column: number, text: string) => commit({ row, column }, text)),
  };
  const on = useRef(handlers);
  const reveal = useStable((account: string) => {
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
  useEffect(() => {
    const end = () => {
      isDragging.current = false;
    };
    window.addEventListener('mouseup', end);
    return () => window.removeEventListener('mouseup', end);
  }, []);

  const paste = (event: ClipboardEvent): void => {
    const text = event.clipboardData.getData('text/plain');
    const [first] = places;
    if (locked || text === '' || !first || (event.target as HTMLElement).tagName === 'INPUT') return;
    event.preventDefault();
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
        className="min-h-0 flex-1 overflow-auto border border-hairline bg-sheet"
        tabIndex={0}
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
          if (edits.length === 0) tell('A total is for two months or more of one account, or of several. Select them first.');
        }}
        fill={() => send(fillRight(grid, places, textAt))}
        spread={() => send(spreadAgain(grid, places, yearText))}
        account={atLine?.line.account ?? null}
        shape={shape?.account ?? null}
        copyShape={copyShape}
        giveShape={() => send(shape ? spreadAgain(grid, places, yearText, shape.spread) : [])}
      />
    </div>
  );
});

const between = (row: number, a: number, b: number): boolean => Math.min(a, b) <= row && row <= Math.max(a, b);
