import type { SpanDefinition } from '../calendar/span.ts';
import type { Block, Column, ColumnSet } from '../statements/column-set.ts';

const overQuarter = (span: SpanDefinition): SpanDefinition => (span.kind === 'month' ? { ...span, kind: 'quarterToDate' } : span);
const columnOver = (column: Column): Column => (column.kind === 'amount' ? { ...column, span: overQuarter(column.span) } : column);

/** The columns with the quarter to date where they have a month. Blocks that repeat over months stay as they are. */
export function quarterColumns(columns: ColumnSet): ColumnSet {
  return {
    ...columns,
    blocks: columns.blocks.map((block): Block =>
      block.repeat ? block : { ...block, span: overQuarter(block.span), columns: block.columns.map(columnOver) },
    ),
  };
}
