import { spanDefinitionWords, STATISTIC, type Column, type ColumnSet, type LineSet } from '@wise-margin/core';
import type { BudgetDto } from '@wise-margin/contract';
import { useCompany } from '../../shell/company.ts';
import { COLUMN_KINDS, columnOfKind, MEASURES } from './column-kinds.ts';
import { Check, Field, Select } from './field.tsx';
import { SpanField } from './span-field.tsx';
import { TextInput } from './text-input.tsx';

const STATISTIC_MEASURES = [
  ['closing', 'The last month’s'],
  ['average', 'The average'],
  ['change', 'Added up'],
] as const;
const RESULTS = [
  ['amount', 'Amount'],
  ['percent', 'Percent'],
  ['times', 'Plain ratio'],
  ['days', 'Days'],
] as const;

/** Columns another one may refer to, by key: those of its block, and those of blocks that stand once. */
function referable(set: ColumnSet, block: string, besides: string): (readonly [string, string])[] {
  return set.blocks.flatMap((each) =>
    each.columns.flatMap((column) => {
      if (each.key === block) return column.key === besides ? [] : [[column.key, column.heading || column.key] as const];
      return each.repeat ? [] : [[`${each.key}.${column.key}`, `${each.heading}: ${column.heading || column.key}`] as const];
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
  const dimensions = company.dimensions;
  const nameOf = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  const withKnown = (value: string): (readonly [string, string])[] =>
    others.some(([key]) => key === value) ? others : [...others, [value, `${value} (no longer there)`]];
  const lines = lineSet.lines.flatMap(function keys(line): (readonly [string, string])[] {
    return line.kind === 'section' ? line.lines.flatMap(keys) : line.kind === 'spacer' ? [] : [[line.key, line.name] as const];
  });
  return (
    <div>
      <Field label="Kind">
        <Select value={column.kind} options={COLUMN_KINDS} choose={(kind) => change(columnOfKind(kind, column, others))} />
      </Field>
      <Field label="Heading" hint="{span} is filled in with its months">
        <TextInput value={column.heading} commit={(heading) => change({ ...column, heading })} />
      </Field>
      {column.kind === 'amount' ? (
        <>
          <Field label="Figures">
            <Select
              value={column.scenario}
              options={[
                ['actual', 'Actual'],
                ['budget', 'Budget (the approved one, or the one chosen)'],
                ['projection', 'Projection: actual to date, then budget'],
                ...budgets.map(({ id, year, name }) => [`budget:${id}`, `FY${year} ${name}`] as const),
                ...company.statistics.map((series) => [`${STATISTIC}${series}`, `Statistic: ${series}`] as const),
              ]}
              choose={(scenario) => change({ ...column, scenario: scenario as typeof column.scenario })}
            />
          </Field>
          <SpanField span={column.span} choose={(span) => change({ ...column, span })} />
          <p className="mt-1 text-[12px] text-ink-soft">{spanDefinitionWords(column.span, nameOf)}</p>
          <Field label={column.scenario.startsWith(STATISTIC) ? 'Over its months' : 'Balance-sheet accounts show'}>
            <Select
              value={column.measure ?? 'closing'}
              options={column.scenario.startsWith(STATISTIC) ? STATISTIC_MEASURES : MEASURES}
              choose={(measure) => change({ ...column, measure })}
            />
          </Field>
          {dimensions.map(({ name, values }) => (
            <Field key={name} label={`Only ${name}`}>
              <Select
                value={column.filter?.[name]?.[0] ?? '*'}
                options={[['*', 'All'], ...values.map((value) => [value, value || 'None given'] as const)]}
                choose={(value) => {
                  const { [name]: _before, ...rest } = column.filter ?? {};
                  const { filter: _filter, ...plain } = column;
                  const filter = value === '*' ? rest : { ...rest, [name]: [value] };
                  change(Object.keys(filter).length === 0 ? plain : { ...plain, filter });
                }}
              />
            </Field>
          ))}
        </>
      ) : null}
      {column.kind === 'difference' || column.kind === 'percentDifference' ? (
        <>
          <Field label="Of">
            <Select value={column.compared} options={withKnown(column.compared)} choose={(compared) => change({ ...column, compared })} />
          </Field>
          <Field label={column.kind === 'difference' ? 'Less' : 'Against'}>
            <Select value={column.base} options={withKnown(column.base)} choose={(base) => change({ ...column, base })} />
          </Field>
        </>
      ) : null}
      {column.kind === 'difference' ? (
        <Check label="With bars" checked={column.bar ?? false} choose={(bar) => change({ ...column, bar })} />
      ) : null}
      {column.kind === 'share' || column.kind === 'runningTotal' ? (
        <Field label="Of">
          <Select value={column.of} options={withKnown(column.of)} choose={(of) => change({ ...column, of })} />
        </Field>
      ) : null}
      {column.kind === 'share' ? (
        <Field label="As a percentage of">
          <Select
            value={column.ownGroup ? '@group' : (column.baseLine ?? '@base')}
            options={[['@base', 'The base of the lines'], ['@group', 'The total of its own group'], ...lines]}
            choose={(value) => {
              const { baseLine: _line, ownGroup: _group, ...plain } = column;
              change(value === '@base' ? plain : value === '@group' ? { ...plain, ownGroup: true } : { ...plain, baseLine: value });
            }}
          />
        </Field>
      ) : null}
      {column.kind === 'formula' ? (
        <>
          <Field label="Formula" hint={`Columns by key: ${others.map(([key]) => key).join(', ') || 'none yet'}; + - * / ( ) min max abs`}>
            <TextInput value={column.expression} commit={(expression) => change({ ...column, expression })} className="font-mono" />
          </Field>
          <Field label="Shown as">
            <Select
              value={column.result}
              options={RESULTS as readonly (readonly [typeof column.result, string])[]}
              choose={(result) => change({ ...column, result })}
            />
          </Field>
        </>
      ) : null}
      <Field label="Decimals of percentages and ratios">
        <Select
          value={String(column.decimals ?? '')}
          options={[['', 'As usual'], ...[0, 1, 2, 3].map((count) => [String(count), String(count)] as const)]}
          choose={(value) => {
            const { decimals: _decimals, ...plain } = column;
            change((value === '' ? plain : { ...plain, decimals: Number(value) }) as Column);
          }}
        />
      </Field>
      <Field label="Width in characters" hint="Empty: what its figures need">
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
        label="Left out while it is empty"
        checked={column.ifFilled ?? false}
        choose={(on) => {
          const { ifFilled: _ifFilled, ...plain } = column;
          change((on ? { ...plain, ifFilled: true } : plain) as Column);
        }}
      />
      <Check label="Hidden: computed, not shown" checked={column.hidden ?? false} choose={(hidden) => change({ ...column, hidden })} />
    </div>
  );
}
