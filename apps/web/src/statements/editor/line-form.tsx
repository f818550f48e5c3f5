import type { Line, NaturalSign } from '@wise-margin/core';
import { useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { dimensionName } from '../../filters/index.ts';
import { MEASURES } from './column-kinds.ts';
import { Check, Field, Select } from './field.tsx';
import { FieldText } from './field-text.tsx';
import { FormulaFields } from './formula-fields.tsx';
import { LimitFields } from './limit-fields.tsx';
import { firstStatistic, isSelecting, LINE_KINDS, lineOfKind } from './line-kinds.ts';
import { LineLook } from './line-look.tsx';
import { SelectionField } from './selection-field.tsx';
import { TextInput } from './text-input.tsx';

/** Everything of one line. */
export function LineForm({
  line,
  keys,
  choices,
  sections,
  section,
  nearest,
  isNew,
  moveTo,
  change,
  rename,
}: {
  readonly line: Line;
  readonly keys: readonly string[];
  /** the other lines with figures, by key and name */
  readonly choices: readonly (readonly [key: string, name: string])[];
  /** the other sections, by key and name */
  readonly sections: readonly (readonly [key: string, name: string])[];
  /** the section the line is in; null at the top */
  readonly section: string | null;
  /** the section a total is of to begin with: the one around the line, or the last one */
  readonly nearest: Line | null;
  /** just added: its name is what comes next */
  readonly isNew: boolean;
  readonly moveTo: (section: string | null) => void;
  readonly change: (line: Line) => void;
  readonly rename: (key: string) => void;
}) {
  const company = useCompany();
  const [refusal, setRefusal] = useState<string | null>(null);
  const takeKey = (text: string): void => {
    if (!/^[a-z_][a-z0-9_.]*$/.test(text)) return setRefusal('Use lowercase letters, digits and _, starting with a letter.');
    if (text !== line.key && keys.includes(text)) return setRefusal(`Another line has the formula name ${text}.`);
    setRefusal(null);
    rename(text);
  };
  const holdsLines = line.kind === 'section' && line.lines.length > 0;
  return (
    <div>
      <FieldText
        label="Name"
        value={line.name}
        autoFocus={isNew}
        fields={line.kind === 'groups' ? ['group'] : []}
        commit={(name) => change({ ...line, name })}
      />
      <Field label="Formula name" hint={refusal ?? undefined}>
        <TextInput value={line.key} commit={takeKey} className="font-mono" maxLength={80} />
      </Field>
      <div className="grid grid-cols-2 gap-x-2">
        <Field label="Type" hint={holdsLines ? 'Move its lines out to change the type.' : undefined}>
          <Select
            value={line.kind}
            options={LINE_KINDS.filter(([kind]) =>
              holdsLines ? kind === 'section' : kind !== 'total' || sections.length > 0 || line.kind === 'total',
            )}
            choose={(kind) => change(lineOfKind(kind, line, { section: nearest, ...firstStatistic(company) }))}
          />
        </Field>
        <Field label="In section">
          <Select value={section ?? ''} options={[['', 'None'], ...sections]} choose={(to) => moveTo(to === '' ? null : to)} />
        </Field>
      </div>
      {isSelecting(line) ? (
        <>
          <SelectionField selection={line.selection} choose={(selection) => change({ ...line, selection })} />
          {line.kind === 'breakOut' ? (
            <Field label="Break out by">
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
          <NormalBalance sign={line.sign} choose={(sign) => change(withSign(line, sign))} />
          <Check
            label="Show account numbers"
            checked={line.accountNumbers ?? true}
            choose={(on) => {
              const { accountNumbers: _numbers, ...plain } = line;
              change(on ? plain : { ...plain, accountNumbers: false });
            }}
          />
          <Field label="Balance-sheet accounts show">
            <Select
              value={line.measure ?? ''}
              options={[['', 'Default for the column'], ...MEASURES]}
              choose={(measure) => {
                const { measure: _measure, ...plain } = line;
                change(measure === '' ? plain : { ...plain, measure });
              }}
            />
          </Field>
          <Field label="Sort accounts">
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
          <LimitFields
            filter={line.filter}
            choose={(filter) => {
              const { filter: _filter, ...plain } = line;
              change(filter ? { ...plain, filter } : plain);
            }}
          />
        </>
      ) : null}
      {line.kind === 'total' ? (
        <>
          <Field label="Total of">
            <Select
              value={line.of}
              options={
                sections.some(([key]) => key === line.of) ? sections : [...sections, [line.of, 'A section that was removed'] as const]
              }
              choose={(of) => change({ ...line, of })}
            />
          </Field>
          <NormalBalance sign={line.sign} choose={(sign) => change(withSign(line, sign))} />
        </>
      ) : null}
      {line.kind === 'formula' ? (
        <FormulaFields
          formula={line}
          what="line"
          example="Such as revenue - cost_of_sales. Use + - * / ( ) min max abs, and days or months of the column."
          choices={choices}
          change={(part) => change({ ...line, ...part })}
        />
      ) : null}
      {line.kind === 'earnings' ? (
        <Field label="Earnings">
          <Select
            value={line.years}
            options={[
              ['current', 'Year to date'],
              ['earlier', 'Earlier years, not closed'],
              ['closed', 'Moved by closing entries'],
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
              choose={(series) => change({ ...line, series, over: company.aggregations[series] ?? line.over })}
            />
          </Field>
          <Field label="Over several months">
            <Select
              value={line.over}
              options={[
                ['sum', 'Sum'],
                ['average', 'Average'],
                ['last', 'Last month'],
              ]}
              choose={(over) => change({ ...line, over })}
            />
          </Field>
        </>
      ) : null}
      <LineLook line={line} choices={choices} change={change} />
      <Check
        label="Begin second column"
        checked={line.startsSide ?? false}
        choose={(on) => {
          const { startsSide: _startsSide, ...plain } = line;
          change((on ? { ...plain, startsSide: true } : plain) as Line);
        }}
      />
      <Check label="Hidden" checked={line.hidden ?? false} choose={(hidden) => change({ ...line, hidden })} />
    </div>
  );
}

type Signed = Line & { readonly kind: 'accounts' | 'groups' | 'breakOut' | 'total' };

/** A line with a normal balance of its own, or with that of its accounts. */
function withSign(line: Signed, sign: NaturalSign | ''): Signed {
  const { sign: _sign, ...plain } = line;
  return sign === '' ? plain : { ...plain, sign };
}

/** The side on which a line shows positive: that of its accounts, unless one is chosen. */
function NormalBalance({ sign, choose }: { readonly sign: NaturalSign | undefined; readonly choose: (sign: NaturalSign | '') => void }) {
  return (
    <Field label="Normal balance">
      <Select
        value={sign ?? ''}
        options={[
          ['', 'From the accounts'],
          ['credit', 'Credit, such as revenue and liabilities'],
          ['debit', 'Debit, such as expenses and assets'],
        ]}
        choose={choose}
      />
    </Field>
  );
}
