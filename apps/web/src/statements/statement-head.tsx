import type { GridDto } from '@wise-margin/contract';
import { useRef } from 'react';

import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { useTabStop } from '../ui/use-tab-stop.ts';
import { ColumnEdge } from './column-edge.tsx';

/** Characters of a line of a heading over one column. */
const MOST_HEADING = 18;
/** Semibold serif is wider than a digit. */
const WIDER = 1.15;
/** Room for the longest word of a heading, or for half of it where it has many. */
const roomFor = (heading: string): string => {
  const word = Math.max(...heading.split(' ').map(({ length }) => length));
  return `${Math.min(MOST_HEADING, Math.max(word, Math.ceil(heading.length / 2))) * WIDER}ch`;
};

/** Headings of blocks over those of their columns, for the columns in view. */
export function StatementHead({
  grid,
  positions,
  unitWords,
  spaces,
  tellsWords,
  startsBlock,
  resize,
}: {
  readonly grid: GridDto;
  readonly positions: readonly number[];
  readonly unitWords: string;
  /** whether a cell stands for the columns out of view at either side */
  readonly spaces: { readonly before: boolean; readonly after: boolean };
  readonly tellsWords: boolean;
  readonly startsBlock: (position: number) => boolean;
  /** sets the width of a column in characters; null where widths are not changed */
  readonly resize: ((column: string, width: number) => void) | null;
}) {
  const head = useRef<HTMLTableSectionElement>(null);
  useTabStop(head);
  return (
    <thead ref={head} className="sticky top-0 z-20 bg-sheet">
      <tr>
        <td className="sticky left-0 z-10 bg-sheet" />
        {spaces.before ? <td className="bg-sheet" /> : null}
        {grid.blocks.map((block, index) => {
          const width = positions.filter((position) => grid.columns[position]!.block === index).length;
          return width === 0 ? null : (
            <th key={block.key} scope="colgroup" colSpan={width} className={`bg-sheet px-2 pt-1 align-bottom ${index > 0 ? 'pl-5' : ''}`}>
              {/* over one column, such as a company's, a long name takes another line and not the room of its neighbors */}
              <div
                title={block.heading}
                style={width === 1 ? { minWidth: roomFor(block.heading) } : undefined}
                className={`border-b border-ink-soft pb-0.5 text-center font-serif text-[14px] font-semibold ${width === 1 ? 'line-clamp-3 max-w-44 leading-4.5 wrap-anywhere whitespace-normal' : 'truncate'}`}
              >
                {block.heading}
              </div>
            </th>
          );
        })}
        {spaces.after ? <td className="bg-sheet" /> : null}
        {tellsWords ? <td className="bg-sheet" /> : null}
      </tr>
      <tr>
        <th
          scope="col"
          className="sticky left-0 z-10 w-60 max-w-60 min-w-60 narrow:w-36 narrow:max-w-36 narrow:min-w-36 border-r border-b border-hairline border-b-ink bg-sheet px-3 py-1 leading-4 narrow:px-2 narrow:text-[11px] narrow:leading-3 font-normal! whitespace-normal! text-ink-soft"
        >
          {unitWords}
        </th>
        {spaces.before ? <td className="border-b border-b-ink bg-sheet" /> : null}
        {positions.map((position) => {
          const column = grid.columns[position]!;
          const isSoft = column.kind === 'share' || column.kind === 'percentDifference' || column.kind === 'benchmark';
          return (
            <th
              key={column.key}
              scope="col"
              title={column.words}
              style={column.width === null ? undefined : { minWidth: `${column.width}ch` }}
              className={`relative border-b border-b-ink bg-sheet px-1.5 py-1 text-right! text-[12.5px] ${startsBlock(position) ? 'pl-5' : ''} ${column.bar ? 'pr-4 min-[1440px]:pr-[62px]' : column.kind === 'difference' ? 'pr-4' : ''} ${isSoft ? 'leading-4 font-normal! whitespace-normal! text-ink-soft' : ''}`}
            >
              {column.scenario ? <ScenarioSwatch scenario={column.scenario} /> : null}
              {column.heading}
              {column.isPinned ? <span title="Pinned: does not follow the as-of month"> (pinned)</span> : null}
              {resize ? <ColumnEdge heading={column.heading} width={column.width} resize={(width) => resize(column.key, width)} /> : null}
            </th>
          );
        })}
        {spaces.after ? <td className="border-b border-b-ink bg-sheet" /> : null}
        {tellsWords ? (
          <th scope="col" className="border-b border-b-ink px-1.5 py-1 pl-5 text-left! text-[12.5px] font-normal! text-ink-soft">
            Definition
          </th>
        ) : null}
      </tr>
    </thead>
  );
}
