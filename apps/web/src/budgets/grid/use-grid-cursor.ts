import type { BudgetEditDto } from '@wise-margin/contract';
import { type KeyboardEvent, type MouseEvent, type RefObject, useEffect, useRef, useState } from 'react';

import { gridKeyTarget } from '../../ui/grid-keys.ts';
import { useStableCallback } from '../../ui/use-stable-callback.ts';
import { useTabStop } from '../../ui/use-tab-stop.ts';
import type { RowHandlers } from './budget-cell.tsx';
import { changeAll, editAt, fillRight, type Grid, isInput, type Place, placesBetween } from './grid-edits.ts';

const ROW_HEIGHT = 26;

/** Keys that begin an amount. */
const TYPES = /^[0-9.+\-–*/($€£¥]$/;

/**
 * Where one is in the month grid, what is selected and what is typed: arrows move, Shift extends, Enter goes
 * down, Tab right, a digit begins an edit.
 */
export function useGridCursor({
  grid,
  scroller,
  scrollToRow,
  textAt,
  refuse,
  select,
  send,
}: {
  readonly grid: Grid;
  readonly scroller: RefObject<HTMLDivElement | null>;
  /** brings a row that is not drawn into view */
  readonly scrollToRow: (row: number) => void;
  /** what stands at a place, exactly */
  readonly textAt: (place: Place) => string;
  /** says why nothing can be changed; null where it can */
  readonly refuse: (() => void) | null;
  readonly select: (account: string, month: number | null) => void;
  readonly send: (edits: readonly BudgetEditDto[]) => void;
}): {
  /** null before anything was looked at */
  readonly at: Place | null;
  /** the other corner of what is selected */
  readonly anchor: Place | null;
  /** selected places that a figure can be typed at, row by row */
  readonly places: readonly Place[];
  readonly editing: (Place & { readonly text: string }) | null;
  readonly handlers: RowHandlers;
} {
  const { lines, columns } = grid;
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [at, setAt] = useState<Place | null>(null);
  const [editing, setEditing] = useState<(Place & { readonly text: string }) | null>(null);
  const isDragging = useRef(false);
  /** focus is moved by a key: what is selected was set by it already */
  const isGoing = useRef(false);
  /** where the cursor goes once the edited cell is drawn again; whoever goes elsewhere before that stays there */
  const goingSoon = useRef(0);
  const places = at === null ? [] : placesBetween(anchor ?? at, at).filter((place) => isInput(grid, place));

  const focusAt = (place: Place, tries = 5): void => {
    const cell = scroller.current?.querySelector<HTMLElement>(`[data-row="${place.row}"][data-column="${place.column}"]`);
    if (cell) {
      isGoing.current = true;
      cell.focus();
      isGoing.current = false;
      cell.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    } else if (tries > 0) {
      scrollToRow(place.row);
      requestAnimationFrame(() => focusAt(place, tries - 1));
    }
  };
  const step = (from: Place, [down, right]: readonly [number, number]): Place | null => {
    for (
      let row = from.row + down, column = from.column + right;
      row >= 0 && row < lines.length && column >= 0 && column < columns.length;
      row += down, column += right
    ) {
      if (isInput(grid, { row, column })) return { row, column };
    }
    return null;
  };
  const go = (to: Place | null, extend: boolean): void => {
    if (!to) return;
    setAnchor(extend ? (anchor ?? at) : to);
    setAt(to);
    focusAt(to);
  };
  const soon = (goThere: () => void): void => {
    goingSoon.current = requestAnimationFrame(goThere);
  };
  const commit = (place: Place, text: string): void => {
    setEditing(null);
    if (text.trim() === '' || text.trim() === textAt(place)) return;
    const edit = editAt(grid, place, text.trim());
    if (edit) send([edit]);
  };
  const handlers: RowHandlers = {
    down: useStableCallback((event: MouseEvent, row: number, column: number) => {
      isDragging.current = event.button === 0;
      if (event.shiftKey) {
        event.preventDefault();
        setAt({ row, column });
      } else {
        setAnchor({ row, column });
        setAt({ row, column });
      }
    }),
    enter: useStableCallback((event: MouseEvent, row: number, column: number) => {
      if (isDragging.current && event.buttons === 1) setAt({ row, column });
    }),
    focus: useStableCallback((row: number, column: number) => {
      const { line } = lines[row]!;
      if (line.account !== null) select(line.account, columns[column]!.kind === 'month' ? columns[column]!.months[0]! : null);
      if (isGoing.current) return;
      cancelAnimationFrame(goingSoon.current);
      if (at === null) {
        setAnchor({ row, column });
        setAt({ row, column });
      } else if (at.row !== row || at.column !== column) {
        if (!isDragging.current) setAnchor({ row, column });
        setAt({ row, column });
      }
    }),
    open: useStableCallback((row: number, column: number) => {
      if (refuse) refuse();
      else setEditing({ row, column, text: textAt({ row, column }) });
    }),
    key: useStableCallback((event: KeyboardEvent, row: number, column: number) => {
      const place = { row, column };
      const moved = gridKeyTarget({ key: event.key, isCtrl: event.ctrlKey || event.metaKey }, place, {
        rows: lines.length,
        columns: columns.length,
        page: Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / ROW_HEIGHT) - 2),
        has: (to) => to.column >= 0 && isInput(grid, to),
      });
      if (moved && !event.altKey) {
        event.preventDefault();
        return go(moved, event.shiftKey);
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
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const changes = event.key === 'Delete' || event.key === 'Backspace' || event.key === 'F2' || TYPES.test(event.key);
      if (changes && refuse) {
        event.preventDefault();
        return refuse();
      }
      if (event.key === 'Delete' || event.key === 'Backspace') {
        event.preventDefault();
        return send(changeAll(grid, places, '0'));
      }
      if (event.key === 'F2') {
        event.preventDefault();
        return setEditing({ ...place, text: textAt(place) });
      }
      if (TYPES.test(event.key)) {
        event.preventDefault();
        setEditing({ ...place, text: event.key });
      }
    }),
    inputKey: useStableCallback((event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
      event.stopPropagation();
      const place = { row, column };
      if (event.key === 'Escape') {
        setEditing(null);
        return soon(() => focusAt(place));
      }
      if (event.key !== 'Enter' && event.key !== 'Tab') return;
      event.preventDefault();
      commit(place, event.currentTarget.value);
      const direction = event.shiftKey ? -1 : 1;
      const next = event.key === 'Enter' ? step(place, [direction, 0]) : step(place, [0, direction]);
      soon(() => go(next ?? place, false));
    }),
    commit: useStableCallback((row: number, column: number, text: string) => commit({ row, column }, text)),
  };
  useTabStop(scroller);
  useEffect(() => {
    const end = () => {
      isDragging.current = false;
    };
    window.addEventListener('mouseup', end);
    return () => window.removeEventListener('mouseup', end);
  }, []);
  return { at, anchor, places, editing, handlers };
}
