import { type CellDto } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { memo } from 'react';

import { CellFigure } from '../../ui/figure.tsx';

export type RowHandlers = {
  readonly down: (event: React.MouseEvent, row: number, column: number) => void;
  readonly enter: (event: React.MouseEvent, row: number, column: number) => void;
  readonly focus: (row: number, column: number) => void;
  readonly open: (row: number, column: number) => void;
  readonly key: (event: React.KeyboardEvent, row: number, column: number) => void;
  readonly inputKey: (event: React.KeyboardEvent<HTMLInputElement>, row: number, column: number) => void;
  readonly commit: (row: number, column: number, text: string) => void;
};

type CellProps = {
  readonly cell: CellDto;
  readonly row: number;
  readonly column: number;
  /** of its line and column, to be read out */
  readonly name: string;
  readonly exponent: number;
  readonly withUnit: boolean;
  /** classes of its line and column */
  readonly look: string;
  /** whether a figure can be typed here */
  readonly isInput: boolean;
  readonly isHeld: boolean;
  readonly hasNote: boolean;
  readonly isIn: boolean;
  /** the text typing begins with; null while nothing is typed here */
  readonly editing: string | null;
  readonly on: RowHandlers;
};

/** Whether two cells show the same. */
export const sameCell = (a: CellDto, b: CellDto | undefined): boolean =>
  a === b ||
  (b !== undefined && a.kind === b.kind && ('value' in a ? 'value' in b && a.value === b.value : 'reason' in b && a.reason === b.reason));

/** A figure of the month grid; drawn again only when something of it changed. */
export const BudgetCell = memo(
  function BudgetCell({ cell, row, column, name, exponent, withUnit, look, isInput, isHeld, hasNote, isIn, editing, on }: CellProps) {
    const format = { exponent, unit: 'dollars' as const, withUnit };
    if (!isInput)
      return (
        <td className={`figure ${look}`}>
          <CellFigure cell={cell} format={format} />
        </td>
      );
    return (
      <td className={`figure relative p-0! ${isHeld ? 'border-b-2 border-prior bg-wash' : ''} ${isIn ? 'bg-copper/10' : ''} ${look}`}>
        {editing !== null ? (
          <input
            autoFocus
            aria-label={name}
            className="h-[26px] w-20 border-2 border-copper bg-white px-1 text-right"
            defaultValue={editing}
            onKeyDown={(event) => on.inputKey(event, row, column)}
            onBlur={(event) => on.commit(row, column, event.currentTarget.value)}
          />
        ) : (
          <button
            type="button"
            tabIndex={-1}
            data-row={row}
            data-column={column}
            aria-label={`${name}${isHeld ? ', manual override' : ''}${hasNote ? ', with a note' : ''}: ${figureText(cell, { exponent, unit: 'cents' })}`}
            title={isHeld ? 'Manual override' : undefined}
            className="h-[26px] w-full min-w-[66px] px-1.5 text-right hover:bg-wash"
            onMouseDown={(event) => on.down(event, row, column)}
            onMouseEnter={(event) => on.enter(event, row, column)}
            onFocus={() => on.focus(row, column)}
            onDoubleClick={() => on.open(row, column)}
            onKeyDown={(event) => on.key(event, row, column)}
          >
            <CellFigure cell={cell} format={format} />
            {hasNote ? <NoteMark words="The month has a note" /> : null}
          </button>
        )}
      </td>
    );
  },
  (a, b) => sameCell(a.cell, b.cell) && (Object.keys(a) as (keyof CellProps)[]).every((key) => key === 'cell' || a[key] === b[key]),
);

export const NoteMark = ({ words }: { readonly words: string }) => (
  <span
    title={words}
    aria-hidden="true"
    className="absolute top-0 right-0 h-0 w-0 border-t-[7px] border-l-[7px] border-t-copper border-l-transparent"
  />
);
