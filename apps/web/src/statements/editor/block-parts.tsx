import type { CompanyDto } from '@wise-margin/contract';
import { type Block, type LineSet, type ReadyColumn, readyColumns, type Repeat } from '@wise-margin/core';

import { ActionSelect } from './action-select.tsx';
import { Field } from './field.tsx';
import { textAsName } from './tokens.ts';

/** Columns made ready from the block's amounts, added by choosing one. */
export function ReadyColumns({
  block,
  lineSet,
  add,
}: {
  readonly block: Block;
  readonly lineSet: LineSet;
  readonly add: (column: ReadyColumn) => void;
}) {
  const ready = readyColumns(block, lineSet);
  if (ready.length === 0) return null;
  return (
    <ActionSelect
      label={`Add a ready-made column to block ${textAsName(block.heading) || block.key}`}
      prompt="Add a ready-made column"
      className="field mt-1 min-h-7 w-full py-0 text-[13px]"
      options={ready.map(({ words }, index) => [String(index), words])}
      act={(index) => add(ready[Number(index)]!)}
    />
  );
}

type ChosenRepeat = Extract<Repeat, { readonly chosen: readonly string[] }>;
const PARTS = { months: 1, quarters: 3, years: 12 } as const;

/** The months, quarters or years a block stands for: a list in which one is clicked, and the last of a range with Shift. */
export function ChosenParts({
  repeat,
  periods,
  choose,
}: {
  readonly repeat: ChosenRepeat;
  readonly periods: CompanyDto['periods'];
  readonly choose: (chosen: readonly string[]) => void;
}) {
  const size = PARTS[repeat.over];
  const partOf = (index: number) => Math.floor(index / size);
  const held = new Set(repeat.chosen.map((key) => partOf(periods.findIndex((period) => period.key === key))));
  // a part is named by its first month and stands for all of its months
  const parts = periods.flatMap((period, index) => (index % size === 0 ? [{ ...period, part: partOf(index) }] : []));
  const nameOf = ({ name, year, number }: (typeof parts)[number]) =>
    repeat.over === 'months' ? name : repeat.over === 'years' ? `FY${year}` : `Q${Math.ceil(number / size)} FY${year}`;
  return (
    <Field label={`Chosen ${repeat.over}`} hint="Shift-click selects a range. Ctrl-click adds one.">
      <select
        multiple
        size={6}
        className="field w-full text-[13px]"
        aria-label={`Chosen ${repeat.over}`}
        value={parts.filter(({ part }) => held.has(part)).map(({ key }) => key)}
        onChange={(event) => {
          const chosen = [...event.target.selectedOptions].map(({ value }) => value);
          if (chosen.length > 0) choose(chosen);
        }}
      >
        {parts.map((part) => (
          <option key={part.key} value={part.key}>
            {nameOf(part)}
          </option>
        ))}
      </select>
    </Field>
  );
}
