import {
  type ColumnDef,
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { TOTAL_RULE } from '@wise-margin/core';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';

import { gridKeyTarget } from './grid-keys.ts';
import { ruleClasses } from './rule-classes.ts';
import type { ListColumns } from './use-list-columns.ts';
import { useTabStop } from './use-tab-stop.ts';

export type ListSort = { readonly by: string; readonly descending: boolean };
export type ListColumn<Row> = {
  readonly key: string;
  readonly name: string;
  /** before the name: the mark of a scenario */
  readonly mark?: ReactNode;
  readonly isAmount?: boolean;
  /** what the column is sorted by; a column without it cannot be sorted */
  readonly value?: (row: Row) => string | number | null;
  /** what a file has of it, when not its value */
  readonly file?: (row: Row) => string | number | null;
  readonly cell: (row: Row) => ReactNode;
  /** at the foot of the list */
  readonly total?: ReactNode;
  /** shown only when a person chooses it */
  readonly isExtra?: boolean;
  /** the widest it becomes, in pixels; a longer text is cut and shown whole as its title */
  readonly most?: number;
};

/** A row as it is set: the heading of those below it, one of them, what some or all of them add up to. */
export type ListRowKind = 'section' | 'line' | 'subtotal' | 'total';

/** What opens from a row's name, and its name in full for who cannot see the row: an act (null opens nothing), or an address. */
export type ListOpening<Row> = { readonly words: (row: Row) => string } & (
  | { readonly act: (row: Row) => (() => void) | null; readonly to?: never }
  | { readonly to: (row: Row) => string; readonly act?: never }
);

export type ListSelection<Row> = {
  readonly isSelected: (row: Row) => boolean;
  readonly toggle: (row: Row) => void;
  /** every row that is listed so far, or none */
  readonly setAll: (isSelected: boolean) => void;
};

const ROW = 26;
const PAGE_ROWS = 15;
/** Frames in which a row that is scrolled to has to be drawn. */
const FOCUS_TRIES = 60;
const NEAR_END = 60;
const features = tableFeatures({ rowSortingFeature, columnVisibilityFeature, sortedRowModel: createSortedRowModel() });

/**
 * A list of any length: sorted by its headings, its columns chosen, totals at its foot, one tab stop for
 * all of its rows. Only the rows in view are drawn.
 * @param sort.isOfServer the rows come in order already, and a heading asks for another order
 */
export function List<Row extends object>({
  label,
  rows,
  rowKey,
  columns,
  chosen,
  sort,
  open,
  isMarked,
  selection,
  kindOf = () => 'line',
  foot,
  more,
}: {
  readonly label: string;
  readonly rows: readonly Row[];
  readonly rowKey: (row: Row) => string | number;
  /** the first one names the row */
  readonly columns: readonly ListColumn<Row>[];
  readonly chosen: ListColumns;
  readonly sort: { readonly now: ListSort; readonly set: (sort: ListSort) => void; readonly isOfServer: boolean };
  readonly open: ListOpening<Row>;
  /** rows of what is open beside the list */
  readonly isMarked?: (row: Row) => boolean;
  /** rows that can be selected, by a box before them or by the space bar */
  readonly selection?: ListSelection<Row>;
  readonly kindOf?: (row: Row) => ListRowKind;
  /** rows below the totals, of the columns shown */
  readonly foot?: (columns: readonly ListColumn<Row>[]) => ReactNode;
  /** asked for when the end is near */
  readonly more?: (() => void) | undefined;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const definitions = useMemo(
    () =>
      columns.map(({ key, value }): ColumnDef<typeof features, Row> => ({
        id: key,
        accessorFn: (row) => value?.(row) ?? '',
        enableSorting: value !== undefined,
        sortFn: (one, other) => compare(value?.(one.original) ?? null, value?.(other.original) ?? null),
      })),
    [columns],
  );
  const { now } = sort;
  const sorting = useMemo(() => [{ id: now.by, desc: now.descending }], [now.by, now.descending]);
  const visibility = useMemo(() => Object.fromEntries(columns.map(({ key }) => [key, chosen.isShown(key)])), [columns, chosen]);
  const table = useTable({
    features,
    columns: definitions,
    data: rows,
    state: { sorting, columnVisibility: visibility },
    onSortingChange: () => undefined,
    onColumnVisibilityChange: () => undefined,
    manualSorting: sort.isOfServer,
    getRowId: (row) => String(rowKey(row)),
  });
  const drawn = table.getRowModel().rows;
  const shown = table.getVisibleLeafColumns().map(({ id }) => columns.find(({ key }) => key === id)!);
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({ count: drawn.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 18 });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (more && last >= drawn.length - NEAR_END) more();
  }, [more, last, drawn.length]);
  useTabStop(scroller);
  // a row that keys lead to and that is not drawn yet: further keys go on from it
  const awaited = useRef<number | null>(null);
  const focusRow = (row: number, tries = FOCUS_TRIES): void => {
    // a list that was left, or a row that never comes, is given up
    if (!scroller.current || tries === 0) return void (awaited.current = null);
    awaited.current = row;
    const place = scroller.current.querySelector<HTMLElement>(`[data-row="${row}"]`);
    if (place) {
      awaited.current = null;
      place.focus();
      return;
    }
    virtual.scrollToIndex(row);
    requestAnimationFrame(() => (awaited.current === row ? focusRow(row, tries - 1) : undefined));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const at = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!at) return;
    const from = awaited.current ?? Number(at.dataset.row);
    if (event.key === ' ' && selection) {
      // the space bar would press the button, which opens the row
      event.preventDefault();
      selection.toggle(drawn[from]!.original);
      return;
    }
    const shape = { rows: drawn.length, columns: 1, has: () => true, page: PAGE_ROWS };
    const isCtrl = event.ctrlKey || event.metaKey;
    // a list has one place a row: its ends are those of the whole
    const isEnd = event.key === 'Home' || event.key === 'End';
    const target = gridKeyTarget({ key: event.key, isCtrl: isCtrl || isEnd }, { row: from, column: 0 }, shape);
    if (!target) return;
    event.preventDefault();
    focusRow(target.row);
  };
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const hasTotals = shown.some(({ total }) => total !== undefined);
  return (
    <div
      ref={scroller}
      role="region"
      aria-label={label}
      className="min-h-0 flex-1 scroll-py-8 overflow-auto border border-hairline bg-sheet"
      onKeyDown={onKeyDown}
    >
      <table className="ledger-table w-full" aria-rowcount={drawn.length}>
        <thead className="sticky top-0 z-20 bg-sheet">
          <tr>
            {selection ? (
              <th scope="col" className="w-8 border-b border-ink px-2!">
                <input
                  type="checkbox"
                  className="accent-copper"
                  aria-label="Select all rows listed"
                  checked={drawn.length > 0 && drawn.every(({ original }) => selection.isSelected(original))}
                  onChange={(event) => selection.setAll(event.target.checked)}
                />
              </th>
            ) : null}
            {shown.map((column, position) => (
              <Heading key={column.key} column={column} sort={sort} isFirst={position === 0} />
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 ? <tr style={{ height: above }} /> : null}
          {items.map((item) => {
            const row = drawn[item.index]!.original;
            const kind = kindOf(row);
            const isChosen = isMarked?.(row) === true || selection?.isSelected(row) === true;
            const first = (
              <Name
                index={item.index}
                words={open.words(row)}
                act={open.act?.(row) ?? null}
                to={open.to?.(row) ?? null}
                cell={shown[0]!.cell(row)}
              />
            );
            return (
              <tr
                key={rowKey(row)}
                className={`group ${kind === 'line' ? 'hover:bg-wash' : 'font-semibold'} ${isChosen ? 'bg-wash' : ''}`}
                style={{ height: ROW }}
              >
                {selection ? (
                  <td className="px-2!">
                    <input
                      type="checkbox"
                      tabIndex={-1}
                      className="accent-copper"
                      aria-label={`Select ${open.words(row)}`}
                      checked={selection.isSelected(row)}
                      onChange={() => selection.toggle(row)}
                    />
                  </td>
                ) : null}
                <th
                  scope={kind === 'section' ? 'rowgroup' : 'row'}
                  colSpan={kind === 'section' ? shown.length : 1}
                  className={`sticky left-0 z-10 truncate px-3! ${isChosen ? 'bg-wash' : 'bg-sheet'} ${kind === 'line' ? 'group-hover:bg-wash' : ''} ${kind === 'line' ? 'font-normal!' : ''}`}
                  style={kind === 'section' ? undefined : { maxWidth: shown[0]!.most }}
                >
                  {first}
                </th>
                {kind === 'section'
                  ? null
                  : shown.slice(1).map(({ key, cell, isAmount, most }) => (
                      <Cell key={key} isAmount={isAmount === true} most={most} kind={kind}>
                        {cell(row)}
                      </Cell>
                    ))}
              </tr>
            );
          })}
          {below > 0 ? <tr style={{ height: below }} /> : null}
        </tbody>
        {hasTotals ? (
          <tfoot className="sticky bottom-0 z-10 bg-sheet font-semibold">
            <tr>
              {selection ? <td className="border-t border-ink" /> : null}
              {shown.map(({ key, total, isAmount }) => (
                <td key={key} className={`border-t border-ink ${isAmount ? 'figure' : 'px-3!'}`}>
                  {total}
                </td>
              ))}
            </tr>
            {foot?.(shown)}
          </tfoot>
        ) : null}
      </table>
    </div>
  );
}

function Heading<Row>({
  column: { key, name, mark, value, isAmount },
  sort: { now, set },
  isFirst,
}: {
  readonly column: ListColumn<Row>;
  readonly sort: { readonly now: ListSort; readonly set: (sort: ListSort) => void };
  readonly isFirst: boolean;
}) {
  const isSorted = now.by === key;
  const side = isAmount ? 'text-right!' : '';
  const space = `${isAmount ? 'px-2' : 'px-3'} ${isFirst ? 'sticky left-0 z-10 bg-sheet' : ''}`;
  if (value === undefined)
    return (
      <th scope="col" className={`border-b border-ink py-1.5 ${space} ${side}`}>
        {mark}
        {name}
      </th>
    );
  const Arrow = now.descending ? ArrowDown : ArrowUp;
  return (
    <th
      scope="col"
      className={`border-b border-ink py-1.5 ${space} ${side}`}
      aria-sort={isSorted ? (now.descending ? 'descending' : 'ascending') : 'none'}
    >
      <button
        type="button"
        className="inline-flex items-center gap-1 font-semibold hover:text-copper"
        // figures are looked at from the largest, texts from the first
        onClick={() => set({ by: key, descending: isSorted ? !now.descending : isAmount === true })}
      >
        {mark}
        {name}
        {isSorted ? <Arrow size={12} aria-hidden="true" /> : null}
      </button>
    </th>
  );
}

/** The row's name, which opens what the row is about. */
function Name({
  index,
  words,
  act,
  to,
  cell,
}: {
  readonly index: number;
  readonly words: string;
  readonly act: (() => void) | null;
  readonly to: string | null;
  readonly cell: ReactNode;
}) {
  if (to !== null)
    return (
      <Link to={to} tabIndex={-1} data-row={index} className="link" aria-label={words}>
        {cell}
      </Link>
    );
  if (!act)
    return (
      <span data-row={index} tabIndex={-1} aria-label={words} role="note">
        {cell}
      </span>
    );
  return (
    <button type="button" tabIndex={-1} data-row={index} className="link" aria-label={words} onClick={act}>
      {cell}
    </button>
  );
}

function Cell({
  isAmount,
  most,
  kind,
  children,
}: {
  readonly isAmount: boolean;
  readonly most: number | undefined;
  readonly kind: ListRowKind;
  readonly children: ReactNode;
}) {
  const rule = kind === 'subtotal' || kind === 'total' ? ruleClasses(kind === 'total' ? TOTAL_RULE : { above: 'single' }) : '';
  if (isAmount) return <td className={`figure ${children === null || children === '' ? '' : rule}`}>{children}</td>;
  return (
    <td className="truncate px-3!" style={{ maxWidth: most }} title={typeof children === 'string' ? children : undefined}>
      {children}
    </td>
  );
}

function compare(one: string | number | null, other: string | number | null): number {
  if (typeof one === 'number' && typeof other === 'number') return one - other;
  return String(one ?? '').localeCompare(String(other ?? ''), 'en', { numeric: true });
}
