import type { GridDto } from '@wise-margin/contract';
import type { ShownLine } from '@wise-margin/presentation';
import { memo } from 'react';

import { LineName } from './line-name.tsx';
import { StatementCell } from './statement-cell.tsx';
import type { StatementFigures } from './statement-figures.ts';

/** One line with its figures in view. Drawn again only when something of it changes: a long table scrolls past thousands of them. */
export const StatementRow = memo(function StatementRow({
  grid,
  shown,
  row,
  positions,
  spaces,
  figures,
  largest,
  height,
  chosenColumn,
  tellsWords,
  toggle,
  open,
}: {
  readonly grid: GridDto;
  readonly shown: ShownLine;
  readonly row: number;
  readonly positions: readonly number[];
  /** whether a cell stands for the columns out of view at either side: b before, a after */
  readonly spaces: '' | 'b' | 'a' | 'ba';
  readonly figures: StatementFigures;
  readonly largest: readonly number[];
  /** of the row where only those in view are drawn; null lets it be as high as it is */
  readonly height: number | null;
  /** the column of the figure that is followed, when it is of this line */
  readonly chosenColumn: string | null;
  readonly tellsWords: boolean;
  readonly toggle: (line: string) => void;
  readonly open: ((place: { readonly line: string; readonly column: string }) => void) | null;
}) {
  const { line } = shown;
  const startsBlock = (position: number) => position > 0 && grid.columns[position]!.block !== grid.columns[position - 1]!.block;
  return (
    <tr
      aria-rowindex={height === null ? undefined : row + 3}
      className={`group ${chosenColumn === null ? 'hover:bg-wash/60' : 'bg-wash'}`}
      style={height === null ? undefined : { height }}
    >
      <LineName shown={shown} row={row} isChosen={chosenColumn !== null} toggle={toggle} />
      {spaces.startsWith('b') ? <td /> : null}
      {line.kind === 'section' || line.kind === 'spacer' ? (
        <td colSpan={positions.length} />
      ) : (
        positions.map((position) => {
          const { key } = grid.columns[position]!;
          return (
            <StatementCell
              key={key}
              grid={grid}
              shown={shown}
              row={row}
              position={position}
              figures={figures}
              largest={largest[position]!}
              startsBlock={startsBlock(position)}
              isChosen={chosenColumn === key}
              open={open}
            />
          );
        })
      )}
      {spaces.endsWith('a') ? <td /> : null}
      {tellsWords && line.words !== null && line.kind !== 'statistic' ? (
        <td className="pl-5! text-[12.5px] text-ink-soft">{line.words}</td>
      ) : null}
    </tr>
  );
});
