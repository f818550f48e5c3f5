import type { Block, Column, LineSet } from '@wise-margin/core';

import { Field, Select } from './field.tsx';
import { lineChoices } from './line-names.ts';

type Share = Column & { readonly kind: 'share' };
const DEFAULT_BASE = '@default';
const GROUP = '@group';
const SAME_LINE = '@line';

function withBase(share: Share, value: string): Share {
  const { baseLine: _line, ownGroup: _group, ownLine: _own, ...plain } = share;
  switch (value) {
    case DEFAULT_BASE:
      return plain;
    case GROUP:
      return { ...plain, ownGroup: true };
    case SAME_LINE:
      return { ...plain, ownLine: true };
    default:
      return { ...plain, baseLine: value };
  }
}

/** What a percentage column is a percentage of: a line, and the column its amount is read in. */
export function ShareForm({
  share,
  block,
  others,
  lineSet,
  change,
}: {
  readonly share: Share;
  readonly block: Block;
  /** other columns by formula name and heading */
  readonly others: readonly (readonly [string, string])[];
  readonly lineSet: LineSet;
  readonly change: (share: Share) => void;
}) {
  const inTotal = `${block.key}.total.${share.of}`;
  const columns: (readonly [string, string])[] = [
    ['', 'Same column'],
    ...(block.repeat && block.total ? [[inTotal, 'Total of the block'] as const] : []),
    ...others.filter(([key]) => key !== share.of),
  ];
  const { baseColumn = '' } = share;
  return (
    <div className="grid grid-cols-2 gap-x-2">
      <Field label="Percent of">
        <Select
          value={share.ownLine ? SAME_LINE : share.ownGroup ? GROUP : (share.baseLine ?? DEFAULT_BASE)}
          options={[
            [DEFAULT_BASE, lineSet.percentBase === undefined ? 'Default for the lines: none' : 'Default for the lines'],
            [GROUP, 'Total of its own group'],
            [SAME_LINE, 'Same line'],
            ...lineChoices(lineSet),
          ]}
          choose={(value) => change(withBase(share, value))}
        />
      </Field>
      <Field label="In column">
        <Select
          value={baseColumn}
          options={columns.some(([key]) => key === baseColumn) ? columns : [...columns, [baseColumn, 'A column that was removed'] as const]}
          choose={(value) => {
            const { baseColumn: _before, ...plain } = share;
            change(value === '' ? plain : { ...plain, baseColumn: value });
          }}
        />
      </Field>
    </div>
  );
}
