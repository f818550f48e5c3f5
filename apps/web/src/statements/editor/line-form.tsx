import { parseExpression, type Line } from '@wise-margin/core';
import { useState } from 'react';
import { useCompany } from '../../shell/company.ts';
import { dimensionName } from '../filters-panel.tsx';
import { MEASURES } from './column-kinds.ts';
import { Check, Field, Select } from './field.tsx';
import { isSelecting, LINE_KINDS, lineOfKind } from './line-kinds.ts';
import { LineLook } from './line-look.tsx';
import { SelectionField } from './selection-field.tsx';
import { TextInput } from './text-input.tsx';

/** Everything of one line. */
export function LineForm({
  line,
  keys,
  sections,
  change,
  rename,
}: {
  readonly line: Line;
  readonly keys: readonly string[];
  readonly sections: readonly string[];
  readonly change: (line: Line) => void;
  readonly rename: (key: string) => void;
}) {
  const company = useCompany();
  const [refusal, setRefusal] = useState<string | null>(null);
  const takeKey = (text: string): void => {
    if (!/^[a-z_][a-z0-9_.]*$/.test(text)) return setRefusal('A key is of small letters, digits and _, and begins with a letter.');
    if (text !== line.key && keys.includes(text)) return setRefusal(`Another line has the key ${text}.`);
    setRefusal(null);
    rename(text);
  };
  const formula = line.kind === 'formula' ? parseExpression(line.expression) : null;
  return (
    <div>
      <Field label="Name">
        <TextInput value={line.name} commit={(name) => change({ ...line, name })} />
      </Field>
      <Field label="Key in formulas" hint={refusal ?? undefined}>
        <TextInput value={line.key} commit={takeKey} className="font-mono" />
      </Field>
      <Field label="Kind">
        <Select value={line.kind} options={LINE_KINDS} choose={(kind) => change(lineOfKind(kind, line, sections))} />
      </Field>
      {isSelecting(line) ? (
        <>
          <SelectionField selection={line.selection} choose={(selection) => change({ ...line, selection })} />
          {line.kind === 'breakOut' ? (
            <Field label="Broken out by">
              <Select
                value={line.by}
                options={[
                  ['account', 'Account'],
                  ...company.dimensions.map(({ name }) => [name, name[0]!.toUpperCase() + name.slice(1)] as const),
                  ...company.furtherDimensions.map((name) => [name, dimensionName(name)] as const),
                ]}
                choose={(by) => change({ ...line, by })}
              />
            </Field>
          ) : null}
          <Field label="Shown positive">
            <Select
              value={line.sign}
              options={[
                ['credit', 'When credit, as revenue and liabilities'],
                ['debit', 'When debit, as expenses and assets'],
              ]}
              choose={(sign) => change({ ...line, sign })}
            />
          </Field>
          <Check
            label="Numbers beside its accounts"
            checked={line.accountNumbers ?? true}
            choose={(on) => {
              const { accountNumbers: _numbers, ...plain } = line;
              change(on ? plain : { ...plain, accountNumbers: false });
            }}
          />
          <Field label="Balance-sheet accounts show">
            <Select
              value={line.measure ?? ''}
              options={[['', 'As the column says'], ...MEASURES]}
              choose={(measure) => {
                const { measure: _measure, ...plain } = line;
                change(measure === '' ? plain : { ...plain, measure });
              }}
            />
          </Field>
          <Field label="Order of its parts">
            <Select
              value={line.order ?? 'number'}
              options={[
                ['number', 'By account number'],
                ['name', 'By name'],
                ['amount', 'By amount, largest first'],
              ]}
              choose={(order) => change({ ...line, order })}
            />
          </Field>
          {company.dimensions.map(({ name, values }) => (
            <Field key={name} label={`Only ${name}`}>
              <Select
                value={line.filter?.[name]?.[0] ?? '*'}
                options={[['*', 'All'], ...values.map((value) => [value, value || 'None given'] as const)]}
                choose={(value) => {
                  const { [name]: _before, ...rest } = line.filter ?? {};
                  const { filter: _filter, ...plain } = line;
                  const filter = value === '*' ? rest : { ...rest, [name]: [value] };
                  change(Object.keys(filter).length === 0 ? plain : { ...plain, filter });
                }}
              />
            </Field>
          ))}
        </>
      ) : null}
      {line.kind === 'total' ? (
        <Field label="Of the section">
          <Select
            value={line.of}
            options={(sections.includes(line.of) ? sections : [...sections, line.of]).map((key) => [key, key] as const)}
            choose={(of) => change({ ...line, of })}
          />
        </Field>
      ) : null}
      {line.kind === 'formula' ? (
        <>
          <Field
            label="Formula over keys"
            hint={
              formula && !formula.ok
                ? `Cannot be read at character ${formula.issue.at + 1}: "${formula.issue.token || 'end'}"`
                : '+ - * / ( ) min max abs; a number beside an amount is in whole units of the currency; days and months of the column'
            }
          >
            <TextInput value={line.expression} commit={(expression) => change({ ...line, expression })} className="font-mono" />
          </Field>
          <Field label="Shown as">
            <Select
              value={line.result}
              options={[
                ['amount', 'Amount'],
                ['percent', 'Percent'],
                ['times', 'Plain ratio'],
                ['days', 'Days'],
              ]}
              choose={(result) => change({ ...line, result: result as typeof line.result })}
            />
          </Field>
        </>
      ) : null}
      {line.kind === 'earnings' ? (
        <Field label="Which result">
          <Select
            value={line.years}
            options={[
              ['current', 'Of the year to date'],
              ['earlier', 'Of earlier years, as far as not closed'],
              ['closed', 'What closing entries moved'],
            ]}
            choose={(years) => change({ ...line, years })}
          />
        </Field>
      ) : null}
      {line.kind === 'statistic' ? (
        <>
          <Field label="Series">
            <Select
              value={line.series}
              options={[...new Set([...company.statistics, line.series])].map((series) => [series, series] as const)}
              choose={(series) => change({ ...line, series })}
            />
          </Field>
          <Field label="Over a span">
            <Select
              value={line.over}
              options={[
                ['sum', 'Added up'],
                ['average', 'Average'],
                ['last', 'The last one'],
              ]}
              choose={(over) => change({ ...line, over })}
            />
          </Field>
        </>
      ) : null}
      <LineLook line={line} keys={keys} change={change} />
      <Check
        label="Begins the second side in account form"
        checked={line.startsSide ?? false}
        choose={(on) => {
          const { startsSide: _startsSide, ...plain } = line;
          change((on ? { ...plain, startsSide: true } : plain) as Line);
        }}
      />
      <Check label="Hidden: computed, not shown" checked={line.hidden ?? false} choose={(hidden) => change({ ...line, hidden })} />
    </div>
  );
}
