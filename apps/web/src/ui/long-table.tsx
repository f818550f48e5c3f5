import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useRef } from 'react';

/**
 * A table of any length with its headings and totals in place: only the rows in view are drawn. Every
 * row is a table row that `row` gives with the height asked for.
 */
export function LongTable<Row>({
  label,
  rows,
  rowHeight,
  headings,
  row,
  footer = null,
}: {
  readonly label: string;
  readonly rows: readonly Row[];
  /** in pixels */
  readonly rowHeight: number;
  readonly headings: ReactNode;
  readonly row: (row: Row, height: number) => ReactNode;
  readonly footer?: ReactNode;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 18,
  });
  const items = virtual.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  return (
    <div
      ref={scroller}
      tabIndex={0}
      role="region"
      aria-label={label}
      className="min-h-0 flex-1 overflow-auto border border-hairline bg-sheet"
    >
      <table className="ledger-table w-full">
        <thead className="sticky top-0 z-20 bg-sheet">{headings}</thead>
        <tbody>
          {above > 0 ? <tr style={{ height: above }} /> : null}
          {items.map((item) => row(rows[item.index]!, rowHeight))}
          {below > 0 ? <tr style={{ height: below }} /> : null}
        </tbody>
        {footer ? <tfoot className="sticky bottom-0 bg-sheet">{footer}</tfoot> : null}
      </table>
    </div>
  );
}
