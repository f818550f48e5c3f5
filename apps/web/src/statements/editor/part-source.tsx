import type { ViewListDto } from '@wise-margin/contract';
import { type ColumnSet, type LineSet, walkLines } from '@wise-margin/core';
import { useId } from 'react';
import { Link } from 'react-router';

import { inRow } from '../../ui/in-row.ts';
import { blockName } from './block-head.tsx';
import { lineHint, lineName } from './line-names.ts';
import { textAsName } from './tokens.ts';

type Named = { readonly name: string; readonly hint: string; readonly depth: number };

const linesOf = (set: LineSet): Named[] => {
  const rows: Named[] = [];
  walkLines(set.lines, (line, around) => rows.push({ name: lineName(line), hint: lineHint(line, set), depth: around.length }));
  return rows;
};
const columnsOf = ({ blocks }: ColumnSet): Named[] =>
  blocks.flatMap((block) => [
    { name: blockName(block), hint: '', depth: 0 },
    ...block.columns.map(({ heading, key }) => ({ name: textAsName(heading) || key, hint: '', depth: 1 })),
  ]);

/** Whose lines or columns a view has: its own, or those of another view, which it follows. */
export function PartSource({
  part,
  of,
  own,
  views,
  usedBy,
  choose,
}: {
  readonly part: 'lines' | 'columns';
  /** key of the view they are taken from; null for own ones */
  readonly of: string | null;
  /** key of the view that is edited; null for a new one */
  readonly own: string | null;
  readonly views: ViewListDto;
  /** names of the views that take them from this one */
  readonly usedBy: readonly string[];
  readonly choose: (key: string | null) => void;
}) {
  const id = useId();
  const hint = usedBy.length > 0 ? `A change here also changes ${inRow(usedBy)}.` : null;
  return (
    <div className="mb-2 text-[13px]">
      <div className="flex items-center gap-2">
        <label htmlFor={id} className="shrink-0 text-ink-soft">
          {part === 'lines' ? 'Lines of' : 'Columns of'}
        </label>
        <select
          id={id}
          aria-describedby={hint === null ? undefined : `${id}-hint`}
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          value={of ?? ''}
          onChange={(event) => choose(event.target.value === '' ? null : event.target.value)}
        >
          <option value="">This view</option>
          {views
            .filter(({ key }) => key !== own)
            .map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
        </select>
      </div>
      {hint === null ? null : (
        <p id={`${id}-hint`} className="mt-0.5 text-[12px] text-ink-soft">
          {hint}
        </p>
      )}
    </div>
  );
}

/** Lines or columns that a view takes from another one: to be read, opened there, or made its own. */
export function TakenPart({
  part,
  sets,
  source,
  address,
  edit,
}: {
  readonly part: 'lines' | 'columns';
  readonly sets: { readonly lineSet: LineSet; readonly columnSet: ColumnSet };
  /** name of the view they are taken from */
  readonly source: string;
  readonly address: string;
  readonly edit: () => void;
}) {
  const rows = part === 'lines' ? linesOf(sets.lineSet) : columnsOf(sets.columnSet);
  return (
    <>
      <p className="text-[13px]">
        These {part} are those of{' '}
        <Link className="link" to={address}>
          {source}
        </Link>{' '}
        and change with it.
      </p>
      <button type="button" className="button my-2" onClick={edit}>
        Edit a copy here
      </button>
      <ul aria-label={part === 'lines' ? 'Lines' : 'Columns'} className="border-t border-hairline text-[13px] text-ink-soft">
        {rows.map(({ name, hint, depth }, index) => (
          <li key={index} className="truncate border-b border-hairline py-0.5" style={{ paddingLeft: depth * 12 }}>
            {name}
            <span className="ml-1.5 text-[11px]">{hint}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
