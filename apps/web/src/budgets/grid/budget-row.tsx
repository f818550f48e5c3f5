import type { CellDto, GridDto } from '@wise-margin/contract';
import { memo } from 'react';

import { ruleClasses } from '../../ui/rule-classes.ts';
import { BudgetCell, NoteMark, type RowHandlers, sameCell } from './budget-cell.tsx';
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

const sameSpan = (a: RowProps['span'], b: RowProps['span']): boolean => a === b || (a?.[0] === b?.[0] && a?.[1] === b?.[1]);

/** A line of the month grid; drawn again only when something of it changed. */
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
    const rule = ruleClasses(line.rule);
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
            const dto = dtoColumns[position]!;
            const isSoft = kind === 'beside' || line.kind === 'accounts' || line.emphasis === 'italic';
            const bold = (line.emphasis === 'bold' || (kind === 'year' && line.account !== null)) && !isSoft ? 'font-semibold' : '';
            const edge = kind === 'quarter' ? 'bg-paper/60' : kind === 'year' ? 'pl-3!' : '';
            const ruled = dto.kind !== 'percentDifference' && dto.kind !== 'share' ? rule : '';
            return (
              <BudgetCell
                key={dto.key}
                cell={cells[position]!}
                row={row}
                column={column}
                name={`${line.name}, ${words[position]}`}
                exponent={exponent}
                withUnit={line.kind === 'formula' && dto.kind === 'amount'}
                look={`${ruled} ${bold} ${isSoft ? 'text-ink-soft' : ''} ${edge}`}
                isInput={months.length > 0 && accounts.length > 0}
                isHeld={kind === 'month' && ((heldBits >> months[0]!) & 1) === 1}
                hasNote={kind === 'month' && ((noteBits >> months[0]!) & 1) === 1}
                isIn={span !== null && span[0] <= column && column <= span[1]}
                editing={editing?.column === column ? editing.text : null}
                on={on}
              />
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
    (a.cells === b.cells || (a.cells.length === b.cells.length && a.cells.every((cell, index) => sameCell(cell, b.cells[index])))),
);
