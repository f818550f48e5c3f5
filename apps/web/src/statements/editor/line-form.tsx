import {
  ACCOUNT_CLASSES,
  ACCOUNT_CLASS_KEYS,
  accountListText,
  parseAccountList,
  parseExpression,
  type AccountSelection,
  type Line,
} from '@wise-margin/core';
import { useState } from 'react';
import { useCompany } from '../../shell/company.ts';
import { Check, Field, Select } from './field.tsx';
import { TextInput } from './text-input.tsx';

export const LINE_KINDS: readonly (readonly [Line['kind'], string])[] = [
  ['accounts', 'Accounts as one line'],
  ['groups', 'Accounts, a line for each group'],
  ['breakOut', 'Accounts broken out'],
  ['section', 'Section with a heading'],
  ['total', 'Total of a section'],
  ['formula', 'Formula'],
  ['earnings', 'Result in equity'],
  ['statistic', 'Statistic'],
  ['spacer', 'Empty line'],
];
type Selecting = Line & { readonly kind: 'accounts' | 'groups' | 'breakOut' };
const isSelecting = (line: Line): line is Selecting => line.kind === 'accounts' || line.kind === 'groups' || line.kind === 'breakOut';

/** A line of a kind, with what it needs to begin with; name and look stay. */
export function lineOfKind(kind: Line['kind'], before: Line, sections: readonly string[]): Line {
  const { key, name, emphasis, rule, hidden, polarity } = before;
  const common = {
    key,
    name,
    ...(emphasis ? { emphasis } : {}),
    ...(rule ? { rule } : {}),
    ...(hidden ? { hidden } : {}),
    ...(polarity ? { polarity } : {}),
  };
  const selecting = isSelecting(before) ? { selection: before.selection, sign: before.sign } : { selection: {}, sign: 'credit' as const };
  switch (kind) {
    case 'accounts':
    case 'groups':
      return { ...common, kind, ...selecting };
    case 'breakOut':
      return { ...common, kind, ...selecting, by: 'account' };
    case 'section':
      return { ...common, kind, lines: before.kind === 'section' ? before.lines : [] };
    case 'total':
      return { ...common, kind, of: sections[0] ?? '', sign: 'credit' };
    case 'formula':
      return { ...common, kind, expression: '0', result: 'amount' };
    case 'earnings':
      return { ...common, kind, years: 'current' };
    case 'statistic':
      return { ...common, kind, series: 'headcount', over: 'average' };
    case 'spacer':
      return { ...common, kind };
  }
}

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
                  ['party', 'Customer or vendor'],
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
            <TextInput value={line.series} commit={(series) => change({ ...line, series })} />
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
      <div className="grid grid-cols-2 gap-x-2">
        <Field label="Emphasis">
          <Select
            value={line.emphasis ?? ''}
            options={[
              ['', 'Plain'],
              ['bold', 'Bold'],
              ['italic', 'Italic'],
            ]}
            choose={(emphasis) => {
              const { emphasis: _emphasis, ...plain } = line;
              change((emphasis === '' ? plain : { ...plain, emphasis }) as Line);
            }}
          />
        </Field>
        <Field label="Rule">
          <Select
            value={line.rule ?? ''}
            options={[
              ['', 'None'],
              ['single', 'Above'],
              ['double', 'Double below'],
            ]}
            choose={(rule) => {
              const { rule: _rule, ...plain } = line;
              change((rule === '' ? plain : { ...plain, rule }) as Line);
            }}
          />
        </Field>
        <Field label="Better when">
          <Select
            value={line.polarity ?? ''}
            options={[
              ['', 'As its accounts'],
              ['higherIsBetter', 'Higher'],
              ['lowerIsBetter', 'Lower'],
              ['neutral', 'Neither'],
            ]}
            choose={(polarity) => {
              const { polarity: _polarity, ...plain } = line;
              change((polarity === '' ? plain : { ...plain, polarity }) as Line);
            }}
          />
        </Field>
        <Field label="Shares are of">
          <Select
            value={line.percentOf ?? ''}
            options={[['', 'The column’s base'], ...keys.map((key) => [key, key] as const)]}
            choose={(percentOf) => {
              const { percentOf: _percentOf, ...plain } = line;
              change((percentOf === '' ? plain : { ...plain, percentOf }) as Line);
            }}
          />
        </Field>
      </div>
      <Check label="Hidden: computed, not shown" checked={line.hidden ?? false} choose={(hidden) => change({ ...line, hidden })} />
    </div>
  );
}

/** Accounts by classes and by numbers, less exceptions. */
function SelectionField({
  selection,
  choose,
}: {
  readonly selection: AccountSelection;
  readonly choose: (selection: AccountSelection) => void;
}) {
  const [refusal, setRefusal] = useState<string | null>(null);
  const take = (text: string, of: 'own' | 'except'): void => {
    const parsed = parseAccountList(text);
    if (!parsed.ok) return setRefusal(`"${parsed.part}" is no account or range. Write 4000-4999, 6100.`);
    setRefusal(null);
    const { ranges: _ranges, accounts: _accounts, except: _except, ...rest } = selection;
    const except = of === 'except' ? parsed.list : selection.except;
    const own = of === 'own' ? parsed.list : pick(selection);
    choose({ ...rest, ...own, ...(except && Object.keys(except).length > 0 ? { except } : {}) });
  };
  const classes = selection.classes ?? [];
  return (
    <fieldset className="mt-2 border-t border-hairline pt-1 text-[13px]">
      <legend className="text-ink-soft">Accounts</legend>
      <details>
        <summary className="cursor-pointer">
          {classes.length === 0
            ? 'By class: none'
            : `By class: ${classes.map((key) => ACCOUNT_CLASSES[key].name.toLowerCase()).join(', ')}`}
        </summary>
        <div className="grid grid-cols-2 gap-x-2">
          {ACCOUNT_CLASS_KEYS.map((key) => (
            <Check
              key={key}
              label={ACCOUNT_CLASSES[key].name}
              checked={classes.includes(key)}
              choose={(on) => {
                const { classes: _classes, ...rest } = selection;
                const next = on ? [...classes, key] : classes.filter((each) => each !== key);
                choose(next.length === 0 ? rest : { ...rest, classes: next });
              }}
            />
          ))}
        </div>
      </details>
      <Field label="By number, with ranges" hint={refusal ?? undefined}>
        <TextInput value={accountListText(selection)} commit={(text) => take(text, 'own')} placeholder="4000-4999, 6100" />
      </Field>
      <Field label="Less these">
        <TextInput value={accountListText(selection.except ?? {})} commit={(text) => take(text, 'except')} placeholder="4810, 4820" />
      </Field>
    </fieldset>
  );
}

const pick = ({ ranges, accounts }: AccountSelection): AccountSelection => ({
  ...(ranges ? { ranges } : {}),
  ...(accounts ? { accounts } : {}),
});
