import type { BudgetDto } from '@wise-margin/contract';
import { type Column, type ColumnSet, type LineSet, spanDefinitionWords, STATISTIC } from '@wise-margin/core';

import { useCompany } from '../../data/company.ts';
import { COLUMN_KINDS, columnOfKind, MEASURES, withFittingHeading } from './column-kinds.ts';
import { Check, Field, Select } from './field.tsx';
import { FieldText } from './field-text.tsx';
import { FormulaFields } from './formula-fields.tsx';
import { LimitFields } from './limit-fields.tsx';
import { ShareForm } from './share-form.tsx';
import { SpanField } from './span-field.tsx';
import { TextInput } from './text-input.tsx';
import { textAsName } from './tokens.ts';

const STATISTIC_MEASURES = [
  ['closing', 'Last month'],
  ['average', 'Average'],
  ['change', 'Sum'],
] as const;

/** Columns another one may refer to, by formula name: those of its block, and those of blocks that do not repeat. */
function referable(set: ColumnSet, block: string, except: string): (readonly [string, string])[] {
  return set.blocks.flatMap((each) =>
    each.columns.flatMap((column) => {
      if (each.key === block) return column.key === except ? [] : [[column.key, textAsName(column.heading) || column.key] as const];
      return each.repeat
        ? []
        : [[`${each.key}.${column.key}`, `${textAsName(each.heading)}: ${textAsName(column.heading) || column.key}`] as const];
    }),
  );
}

/** Everything of one column. */
export function ColumnForm({
  column,
  block,
  columnSet,
  lineSet,
  budgets,
  change,
}: {
  readonly column: Column;
  readonly block: string;
  readonly columnSet: ColumnSet;
  readonly lineSet: LineSet;
  readonly budgets: readonly BudgetDto[];
  readonly change: (column: Column) => void;
}) {
  const company = useCompany();
  const others = referable(columnSet, block, column.key);
  const own = columnSet.blocks.find(({ key }) => key === block);
  const nameOf = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  const withKnown = (value: string): readonly (readonly [string, string])[] => {
    if (value === '') return [['', others.length === 0 ? 'Add another column first' : 'Choose a column'], ...others];
    return others.some(([key]) => key === value) ? others : [...others, [value, 'A column that was removed']];
  };
  return (
    <div>
      <Field label="Type">
        <Select value={column.kind} options={COLUMN_KINDS} choose={(kind) => change(columnOfKind(kind, column, others))} />
      </Field>
      <FieldText label="Heading" value={column.heading} fields={['span', 'date']} commit={(heading) => change({ ...column, heading })} />
      {column.kind === 'amount' ? (
        <>
          <Field label="Scenario">
            <Select
              value={column.scenario}
              options={[
                ['actual', 'Actual'],
                ['budget', 'Budget (approved, unless another is chosen)'],
                ['projection', 'Projection: actual to date, then budget'],
                ...budgets.map(({ id, year, name }) => [`budget:${id}`, `FY${year} ${name}`] as const),
                ...company.statistics.map((series) => [`${STATISTIC}${series}`, `Statistic: ${series}`] as const),
              ]}
              choose={(scenario) => change(withFittingHeading(column, { ...column, scenario: scenario as typeof column.scenario }))}
            />
          </Field>
          <SpanField span={column.span} choose={(span) => change(withFittingHeading(column, { ...column, span }))} />
          <p className="mt-1 text-[12px] text-ink-soft">{spanDefinitionWords(column.span, nameOf)}</p>
          <Field label={column.scenario.startsWith(STATISTIC) ? 'Over several months' : 'Balance-sheet accounts show'}>
            <Select
              value={column.measure ?? 'closing'}
              options={column.scenario.startsWith(STATISTIC) ? STATISTIC_MEASURES : MEASURES}
              choose={(measure) => change({ ...column, measure })}
            />
          </Field>
          <LimitFields
            filter={column.filter}
            choose={(filter) => {
              const { filter: _filter, ...plain } = column;
              change(filter ? { ...plain, filter } : plain);
            }}
          />
        </>
      ) : null}
      {column.kind === 'difference' || column.kind === 'percentDifference' ? (
        <>
          <Field label="Compare">
            <Select value={column.compared} options={withKnown(column.compared)} choose={(compared) => change({ ...column, compared })} />
          </Field>
          <Field label="With">
            <Select value={column.base} options={withKnown(column.base)} choose={(base) => change({ ...column, base })} />
          </Field>
        </>
      ) : null}
      {column.kind === 'difference' ? (
        <Check label="Show bars" checked={column.bar ?? false} choose={(bar) => change({ ...column, bar })} />
      ) : null}
      {column.kind === 'share' || column.kind === 'runningTotal' ? (
        <Field label="Column">
          <Select value={column.of} options={withKnown(column.of)} choose={(of) => change({ ...column, of })} />
        </Field>
      ) : null}
      {column.kind === 'share' && own ? <ShareForm share={column} block={own} others={others} lineSet={lineSet} change={change} /> : null}
      {column.kind === 'formula' ? (
        <FormulaFields
          formula={column}
          what="column"
          example={`Such as ${others[0]?.[0] ?? 'actual'} - ${others[1]?.[0] ?? 'budget'}. Use + - * / ( ) min max abs.`}
          choices={others}
          change={(part) => change({ ...column, ...part })}
        />
      ) : null}
      <Field label="Decimals of percentages and ratios">
        <Select
          value={String(column.decimals ?? '')}
          options={[['', 'Default'], ...[0, 1, 2, 3].map((count) => [String(count), String(count)] as const)]}
          choose={(value) => {
            const { decimals: _decimals, ...plain } = column;
            change((value === '' ? plain : { ...plain, decimals: Number(value) }) as Column);
          }}
        />
      </Field>
      <Field label="Width in characters" hint="Blank fits the amounts. You can also drag the edge of its heading.">
        <TextInput
          value={column.width === undefined ? '' : String(column.width)}
          commit={(text) => {
            const { width: _width, ...plain } = column;
            const width = Math.round(Number(text));
            change((text.trim() === '' || !(width >= 4 && width <= 40) ? plain : { ...plain, width }) as Column);
          }}
        />
      </Field>
      <Check
        label="Hide when empty"
        checked={column.ifFilled ?? false}
        choose={(on) => {
          const { ifFilled: _ifFilled, ...plain } = column;
          change((on ? { ...plain, ifFilled: true } : plain) as Column);
        }}
      />
      <Check label="Hidden" checked={column.hidden ?? false} choose={(hidden) => change({ ...column, hidden })} />
    </div>
  );
}
