import type { ViewListDto } from '@wise-margin/contract';
import { type ColumnSet, type LineSet, walkLines } from '@wise-margin/core';
import { Link } from 'react-router';

import { Choice } from '../../ui/choice.tsx';
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
  return (
    <div className="mb-2 text-[13px] [&_select]:max-w-64">
      <Choice
        label={part === 'lines' ? 'Lines of' : 'Columns of'}
        value={of ?? ''}
        options={[['', 'This view'], ...views.filter(({ key }) => key !== own).map(({ key, name }) => [key, name] as const)]}
        choose={(key) => choose(key === '' ? null : key)}
      />
      {usedBy.length === 0 ? null : <p className="mt-0.5 text-[12px] text-ink-soft">A change here also changes {inRow(usedBy)}.</p>}
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
