import type { Column, ColumnSet, LineSet } from '@wise-margin/core';
import type { BudgetDto } from '@wise-margin/contract';
import { useCompany } from '../../shell/company.ts';
import { Check, Field, Select } from './field.tsx';
import { SpanField } from './span-field.tsx';
import { TextInput } from './text-input.tsx';

export const COLUMN_KINDS: readonly (readonly [Column['kind'], string])[] = [
  ['amount', 'Amount'],
  ['difference', 'Difference of two columns'],
  ['percentDifference', 'Percent difference of two columns'],
  ['share', 'Share of a line'],
  ['formula', 'Formula over columns'],
  ['runningTotal', 'Running total'],
];
const MEASURES = [
  ['closing', 'Closing balance'],
  ['change', 'Net change'],
  ['opening', 'Opening balance'],
  ['average', 'Average of opening and closing'],
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

/** A column of a kind, with what it needs to begin with. */
export function columnOfKind(kind: Column['kind'], before: Column, others: readonly (readonly [string, string])[]): Column {
  const { key, heading } = before;
  const first = others[0]?.[0] ?? 'actual';
  const second = others[1]?.[0] ?? first;
  const common = { key, heading, ...(before.hidden ? { hidden: true } : {}) };
  switch (kind) {
    case 'amount':
      return { ...common, kind, scenario: 'actual', span: { kind: 'month' } };
    case 'difference':
    case 'percentDifference': {
      const from = before.kind === 'difference' || before.kind === 'percentDifference' ? before : { compared: first, base: second };
      return { ...common, kind, compared: from.compared, base: from.base };
    }
    case 'share':
      return { ...common, kind, of: first };
    case 'formula':
      return { ...common, kind, expression: `${first} - ${second}`, result: 'amount' };
    case 'runningTotal':
      return { ...common, kind, of: first };
  }
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
              ]}
              choose={(scenario) => change({ ...column, scenario: scenario as typeof column.scenario })}
            />
          </Field>
          <SpanField span={column.span} choose={(span) => change({ ...column, span })} />
          <Field label="Balance-sheet accounts show">
            <Select value={column.measure ?? 'closing'} options={MEASURES} choose={(measure) => change({ ...column, measure })} />
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
      <Check label="Hidden: computed, not shown" checked={column.hidden ?? false} choose={(hidden) => change({ ...column, hidden })} />
    </div>
  );
}
