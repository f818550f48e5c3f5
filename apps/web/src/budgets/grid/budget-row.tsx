import { figureText, type CellDto, type GridDto } from '@wise-margin/contract';
import { memo } from 'react';
import { CellFigure } from '../../ui/figure.tsx';
import type { BudgetColumn } from './grid-columns.ts';
import type { BudgetLineShown } from './grid-lines.ts';

export type RowProps = {
  readonly shown: BudgetLineShown;
  readonly row: number;
  readonly cells: readonly CellDto[];
  readonly columns: readonly BudgetColumn[];
  readonly words: readonly string[];
  readonly dtoColumns: GridDto['columns'];
  readonly exponent: number;
  /** bit 0 is the first month */
  readonly heldBits: number;
  /** months with a note; bit 12 is the line's own */
  readonly noteBits: number;
  readonly isSelected: boolean;
  /** first and last selected column; null when none of the row is selected */
  readonly span: readonly [from: number, to: number] | null;
  /** the column that is typed into, with the text it begins with */
  readonly editing: { readonly column: number; readonly text: string } | null;
  readonly on: RowHandlers;
};
export type RowHandlers = {
  readonly down: (event: React.MouseEvent, row: number, column: number) => void;
  readonly enter: (event: React.MouseEvent, row: number, column: number) => void;
  readonly focus: (row: number, column: number) => void;
  readonly open: (row: number, column: number) => void;
  readonly key: (event: React.KeyboardEvent, row: number, column: number) => void;
  readonly inputKey: (event: React.KeyboardEvent<HTMLInputElement>, row: number, column: number) => void;
  readonly commit: (row: number, column: number, text: string) => void;
};

const sameCell = (a: CellDto, b: CellDto | undefined): boolean =>
  b !== undefined && a.kind === b.kind && ('value' in a ? 'value' in b && a.value === b.value : 'reason' in b && a.reason === b.reason);
const sameSpan = (a: RowProps['span'], b: RowProps['span']): boolean => a === b || (a?.[0] === b?.[0] && a?.[1] === b?.[1]);

/** A line of the month grid; drawn anew only when something of it changed. */
export const BudgetRow = memo(
  function BudgetRow({
    shown,
    row,
    cells,
    columns,
    words,
    dtoColumns,
    exponent,
    heldBits,
    noteBits,
    isSelected,
    span,
    editing,
    on,
  }: RowProps) {
    const { line, inGroup, accounts } = shown;
    const rule = line.rule === 'single' ? 'rule-single' : line.rule === 'double' ? 'rule-double' : '';
    const weight =
      line.emphasis === 'bold' || line.kind === 'section'
        ? 'font-semibold'
        : line.emphasis === 'italic'
          ? 'italic text-ink-soft'
          : line.kind === 'accounts'
            ? 'text-ink-soft'
            : '';
    return (
      <tr className={`group ${isSelected ? 'bg-wash' : ''}`} aria-rowindex={row + 2}>
        <th
          scope="row"
          className={`sticky left-0 z-10 max-w-60 truncate border-r border-hairline text-[13px] ${isSelected ? 'bg-wash' : 'bg-sheet group-hover:bg-wash'} ${weight || 'font-normal!'}`}
          style={{ paddingLeft: 12 + (inGroup ? 22 : line.kind === 'account' || line.kind === 'accounts' ? 10 : 0) }}
          title={line.name}
        >
          {line.account ? (
            <>
              <span className="mr-0.5 text-ink-soft">{line.account}</span>{' '}
            </>
          ) : null}
          {line.name}
          {(noteBits >> 12) & 1 ? <NoteMark words="The line has a note" /> : null}
        </th>
        {line.kind === 'section' || line.kind === 'spacer' ? (
          <td colSpan={columns.length} />
        ) : (
          columns.map(({ position, kind, months }, column) => {
            const cell = cells[position]!;
            const dto = dtoColumns[position]!;
            const isSoft = kind === 'beside' || line.kind === 'accounts' || line.emphasis === 'italic';
            const bold = (line.emphasis === 'bold' || (kind === 'year' && line.account !== null)) && !isSoft ? 'font-semibold' : '';
            const edge = kind === 'quarter' ? 'bg-paper/60' : kind === 'year' ? 'pl-3!' : '';
            const format = { exponent, unit: 'dollars' as const, withUnit: line.kind === 'formula' && dto.kind === 'amount' };
            const isRuled = dto.kind !== 'percentDifference' && dto.kind !== 'share';
            if (months.length === 0 || accounts.length === 0)
              return (
                <td key={dto.key} className={`figure ${isRuled ? rule : ''} ${bold} ${isSoft ? 'text-ink-soft' : ''} ${edge}`}>
                  <CellFigure cell={cell} format={format} />
                </td>
              );
            const held = kind === 'month' && ((heldBits >> months[0]!) & 1) === 1;
            const isIn = span !== null && span[0] <= column && column <= span[1];
            const note = kind === 'month' && (noteBits >> months[0]!) & 1;
            const name = `${line.name}, ${words[position]}`;
            return (
              <td
                key={dto.key}
                className={`figure relative p-0! ${held ? 'border-b-2 border-prior bg-wash' : ''} ${isIn ? 'bg-copper/10' : ''} ${isRuled ? rule : ''} ${bold} ${isSoft ? 'text-ink-soft' : ''} ${edge}`}
              >
                {editing?.column === column ? (
                  <input
                    autoFocus
                    aria-label={name}
                    className="h-[26px] w-20 border-2 border-copper bg-white px-1 text-right"
                    defaultValue={editing.text}
                    onKeyDown={(event) => on.inputKey(event, row, column)}
                    onBlur={(event) => on.commit(row, column, event.currentTarget.value)}
                  />
                ) : (
                  <button
                    type="button"
                    data-row={row}
                    data-column={column}
                    aria-label={`${name}${held ? ', held by hand' : ''}${note ? ', with a note' : ''}: ${figureText(cell, { exponent, unit: 'cents' })}`}
                    title={held ? 'Held: typed by hand' : undefined}
                    className="h-[26px] w-full min-w-[66px] px-1.5 text-right hover:bg-wash"
                    onMouseDown={(event) => on.down(event, row, column)}
                    onMouseEnter={(event) => on.enter(event, row, column)}
                    onFocus={() => on.focus(row, column)}
                    onDoubleClick={() => on.open(row, column)}
                    onKeyDown={(event) => on.key(event, row, column)}
                  >
                    <CellFigure cell={cell} format={format} />
                    {note ? <NoteMark words="The month has a note" /> : null}
                  </button>
                )}
              </td>
            );
          })
        )}
      </tr>
    );
  },
  (a, b) =>
    a.shown.line.key === b.shown.line.key &&
    a.shown.line.name === b.shown.line.name &&
    a.shown.accounts.length === b.shown.accounts.length &&
    a.row === b.row &&
    a.columns === b.columns &&
    a.exponent === b.exponent &&
    a.heldBits === b.heldBits &&
    a.noteBits === b.noteBits &&
    a.isSelected === b.isSelected &&
    a.editing === b.editing &&
    sameSpan(a.span, b.span) &&
    a.cells.length === b.cells.length &&
    a.cells.every((cell, index) => sameCell(cell, b.cells[index])),
);

const NoteMark = ({ words }: { readonly words: string }) => (
  <span
    title={words}
    aria-hidden="true"
    className="absolute top-0 right-0 h-0 w-0 border-t-[7px] border-l-[7px] border-t-copper border-l-transparent"
  />
);
