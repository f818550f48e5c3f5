import { MEASURES } from '@wise-margin/contract';
import {
  ACCOUNT_CLASSES,
  type Comparison,
  COMPARISONS,
  type DateRule,
  type FindingSpan,
  type Section,
  type SectionCondition,
  spanOfComparison,
  spansOfComparison,
} from '@wise-margin/core';
import { comparisonWords } from '@wise-margin/presentation';

import { useCompany } from '../data/company.ts';
import { MEASURE_NAMES } from '../data/measure-names.ts';
import { plainChoices } from '../data/statement-choices.ts';
import { useStatement } from '../data/use-statement.ts';
import { useViews } from '../data/use-views.ts';
import { DimensionField } from '../filters/index.ts';
import { CheckField, SelectField, TextField } from '../ui/labeled-field.tsx';
import { UNITS } from '../ui/units.ts';
import { linesWithFigures } from './figure-picker.tsx';

const DATES: readonly (readonly [Exclude<DateRule['kind'], 'fixed'>, string])[] = [
  ['month', 'The pack’s month'],
  ['monthBefore', 'Month before'],
  ['sameMonthLastYear', 'Same month last year'],
  ['quarterToDate', 'Quarter to date'],
  ['meeting', 'As of the meeting'],
];
const WITHOUT_DATE: readonly Section['kind'][] = ['cover', 'contents', 'notes'];
const MEASURE_LINES = MEASURES.map((measure) => [measure, MEASURE_NAMES[measure]] as const);
/** What a comparison is over, in words. */
const spanNames = (comparison: Comparison): Readonly<Record<FindingSpan, string>> => ({
  month: 'The month',
  yearToDate: comparison === 'projection' ? 'The full year' : 'Year to date',
});
const BASES = COMPARISONS.map((comparison) => [comparison, comparisonWords(comparison)] as const);
type Of<Kind extends Section['kind']> = Extract<Section, { readonly kind: Kind }>;
type Props<Kind extends Section['kind']> = { readonly section: Of<Kind>; readonly month: string; readonly set: (section: Section) => void };

/** Everything that can be chosen for a section. */
export function SectionFields({ section, month, set }: Props<Section['kind']>) {
  return (
    <div className="flex flex-col gap-2 text-[13px]">
      <TextField label="Title" value={section.title} set={(title) => set({ ...section, title })} />
      <OwnFields section={section} month={month} set={set} />
      {WITHOUT_DATE.includes(section.kind) ? null : <DateField section={section} month={month} set={set} />}
      <ConditionField section={section} month={month} set={set} />
      <div className="flex gap-2">
        <SelectField
          label="Page"
          value={section.orientation}
          options={[
            ['auto', 'Automatic'],
            ['portrait', 'Portrait'],
            ['landscape', 'Landscape'],
          ]}
          set={(orientation) => set({ ...section, orientation })}
        />
      </div>
      <CheckField label="Start on a new page" checked={section.startsPage} set={(startsPage) => set({ ...section, startsPage })} />
    </div>
  );
}

function DateField({ section, set }: Props<Section['kind']>) {
  const { periods } = useCompany();
  const { date } = section;
  return (
    <SelectField
      label="Date"
      value={date.kind === 'fixed' ? date.month : date.kind}
      options={[...DATES, ...[...periods].reverse().map(({ key, name }) => [key, `Always ${name}`] as const)]}
      set={(kind) => {
        const moving = DATES.find(([key]) => key === kind)?.[0];
        set({ ...section, date: moving === undefined ? { kind: 'fixed', month: kind } : { kind: moving } });
      }}
    />
  );
}

function ConditionField({ section, month, set }: Props<Section['kind']>) {
  const { condition } = section;
  const conditions: Readonly<Record<SectionCondition['kind'], SectionCondition>> = {
    always: { kind: 'always' },
    findings: { kind: 'findings' },
    activity: { kind: 'activity', view: 'view' in section ? section.view : 'income', line: 'revenue' },
  };
  return (
    <>
      <SelectField
        label="Include"
        value={condition.kind}
        options={[
          ['always', 'Always'],
          ['findings', 'Only if findings remain'],
          ['activity', 'Only if a line has activity'],
        ]}
        set={(kind) => set({ ...section, condition: conditions[kind] })}
      />
      {condition.kind === 'activity' ? (
        <div className="flex gap-2">
          <ViewField value={condition.view} set={(view) => set({ ...section, condition: { ...condition, view } })} />
          <LineField
            view={condition.view}
            month={month}
            value={condition.line}
            set={(line) => set({ ...section, condition: { ...condition, line } })}
          />
        </div>
      ) : null}
    </>
  );
}

function OwnFields({ section, month, set }: Props<Section['kind']>) {
  switch (section.kind) {
    case 'cover':
      return (
        <>
          <TextField label="Subtitle" value={section.subtitle} set={(subtitle) => set({ ...section, subtitle })} />
          <TextField label="Prepared by" value={section.preparedBy} set={(preparedBy) => set({ ...section, preparedBy })} />
        </>
      );
    case 'text':
      return (
        <SelectField
          label="Written"
          value={section.written}
          options={[
            ['monthly', 'Each month'],
            ['once', 'Same text every month'],
          ]}
          set={(written) => set({ ...section, written })}
        />
      );
    case 'statement':
      return <StatementFields section={section} month={month} set={set} />;
    case 'charts':
      return (
        <>
          <ViewField value={section.view} set={(view) => set({ ...section, view, lines: [] })} />
          <LinesField view={section.view} month={month} value={section.lines} set={(lines) => set({ ...section, lines })} />
        </>
      );
    case 'measures':
      return <LinesOf lines={MEASURE_LINES} value={section.lines} set={(lines) => set({ ...section, lines })} />;
    case 'bridge':
      return <BridgeFields section={section} month={month} set={set} />;
    case 'findings':
      return (
        <>
          <SelectField
            label="Compared with"
            value={section.comparison}
            options={BASES}
            set={(comparison) => set({ ...section, comparison })}
          />
          <CheckField
            label="Only findings with a comment"
            checked={section.onlyCommented}
            set={(onlyCommented) => set({ ...section, onlyCommented })}
          />
        </>
      );
    case 'aging':
      return (
        <>
          <SelectField
            label="Of"
            value={section.of}
            options={[
              ['receivables', 'Receivables'],
              ['payables', 'Payables'],
            ]}
            set={(of) => set({ ...section, of })}
          />
          <CheckField label="Each document" checked={section.detail} set={(detail) => set({ ...section, detail })} />
        </>
      );
    case 'parties':
      return (
        <div className="flex gap-2">
          <SelectField
            label="Of"
            value={section.of}
            options={[
              ['customers', 'Customers'],
              ['vendors', 'Vendors'],
            ]}
            set={(of) => set({ ...section, of })}
          />
          <SelectField
            label="How many"
            value={String(section.count)}
            options={['5', '10', '20', '50', '100'].map((count) => [count, count] as const)}
            set={(count) => set({ ...section, count: Number(count) })}
          />
        </div>
      );
    case 'trialBalance':
      return (
        <SelectField
          label="Compare with"
          value={section.compare}
          options={[
            ['none', 'Nothing'],
            ['prior-year', 'Prior year'],
            ['budget', 'Budget'],
          ]}
          set={(compare) => set({ ...section, compare })}
        />
      );
    case 'accountDetail':
      return (
        <SelectField
          label="Account class"
          value={section.accountClass}
          options={Object.entries(ACCOUNT_CLASSES).map(([key, { name }]) => [key, name] as const)}
          set={(accountClass) => set({ ...section, accountClass })}
        />
      );
    case 'contents':
    case 'budgetChecks':
    case 'notes':
      return null;
  }
}

function StatementFields({ section, set }: Props<'statement'>) {
  const company = useCompany();
  const { display } = section;
  return (
    <>
      <ViewField value={section.view} set={(view) => set({ ...section, view, open: [] })} />
      <SelectField
        label="Columns"
        value={section.comparison}
        options={[['asSaved', 'As the statement has them'], ...BASES.map(([key, name]) => [key, `Against ${name.toLowerCase()}`] as const)]}
        set={(comparison) => set({ ...section, comparison })}
      />
      <div className="flex gap-2">
        <SelectField
          label="Unit"
          value={display.unit ?? ''}
          options={[['', 'As the statement'], ...UNITS]}
          set={(unit) => {
            const { unit: _, ...others } = display;
            set({ ...section, display: unit === '' ? others : { ...others, unit } });
          }}
        />
        <SelectField
          label="Accounts"
          value={section.open === 'all' ? 'all' : ''}
          options={[
            ['', 'Collapsed'],
            ['all', 'Expanded'],
          ]}
          set={(open) => set({ ...section, open: open === 'all' ? 'all' : [] })}
        />
      </div>
      <CheckField
        label="Account numbers"
        checked={display.accountNumbers ?? true}
        set={(accountNumbers) => set({ ...section, display: { ...display, accountNumbers } })}
      />
      {company.dimensions.map(({ name }) => (
        <DimensionField
          key={name}
          dimension={name}
          values={section.filter[name] ?? []}
          choose={(values) => {
            const { [name]: _, ...others } = section.filter;
            set({ ...section, filter: values.length === 0 ? others : { ...others, [name]: values } });
          }}
        />
      ))}
    </>
  );
}

function BridgeFields({ section, month, set }: Props<'bridge'>) {
  const company = useCompany();
  return (
    <>
      <div className="flex gap-2">
        <ViewField value={section.view} set={(view) => set({ ...section, view })} />
        <LineField view={section.view} month={month} value={section.line} set={(line) => set({ ...section, line })} />
      </div>
      <SelectField label="From" value={section.comparison} options={BASES} set={(comparison) => set({ ...section, comparison })} />
      <div className="flex gap-2">
        <SelectField
          label="Over"
          value={spanOfComparison(section.comparison, section.span)}
          options={spansOfComparison(section.comparison).map((span) => [span, spanNames(section.comparison)[span]] as const)}
          set={(span) => set({ ...section, span })}
        />
        <SelectField
          label="Steps"
          value={section.by}
          options={[
            ['line', 'Lines'],
            ['account', 'Accounts'],
            ['party', 'Customers and vendors'],
            ...company.dimensions.map(({ name }) => [name, name] as const),
          ]}
          set={(by) => set({ ...section, by })}
        />
      </div>
    </>
  );
}

function ViewField({ value, set }: { readonly value: string; readonly set: (view: string) => void }) {
  const company = useCompany();
  const views = useViews(company.id);
  const options = (views.data ?? []).map(({ key, name }) => [key, name] as const);
  const known = options.some(([key]) => key === value);
  return <SelectField label="Statement" value={value} options={known ? options : [...options, [value, `${value} (deleted)`]]} set={set} />;
}

function useLines(view: string, month: string): readonly (readonly [string, string])[] {
  const company = useCompany();
  const grid = useStatement(company.id, view, plainChoices(month)).data;
  return grid?.view.key === view ? linesWithFigures(grid).map(({ key, name }) => [key, name] as const) : [];
}

function LineField({
  view,
  month,
  value,
  set,
}: {
  readonly view: string;
  readonly month: string;
  readonly value: string;
  readonly set: (line: string) => void;
}) {
  const lines = useLines(view, month);
  const known = lines.some(([key]) => key === value);
  return <SelectField label="Line" value={value} options={known ? lines : [...lines, [value, value]]} set={set} />;
}

function LinesField({
  view,
  month,
  value,
  set,
}: {
  readonly view: string;
  readonly month: string;
  readonly value: readonly string[];
  readonly set: (lines: readonly string[]) => void;
}) {
  return <LinesOf lines={useLines(view, month)} value={value} set={set} />;
}

function LinesOf({
  lines,
  value,
  set,
}: {
  readonly lines: readonly (readonly [string, string])[];
  readonly value: readonly string[];
  readonly set: (lines: readonly string[]) => void;
}) {
  return (
    <fieldset className="max-h-44 overflow-y-auto border border-hairline bg-sheet px-2 pb-1">
      <legend className="px-1 text-ink-soft">Lines</legend>
      {lines.map(([key, name]) => (
        <CheckField
          key={key}
          label={name}
          checked={value.includes(key)}
          set={(on) => set(on ? [...value, key] : value.filter((each) => each !== key))}
        />
      ))}
    </fieldset>
  );
}
