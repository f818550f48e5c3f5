import type { FilterDto, ReportKey } from '@wise-margin/contract';
import { ACCOUNT_CLASSES } from '@wise-margin/core';

import { useCompany } from '../data/company.ts';
import { useBudgets } from '../data/use-statement.ts';
import { DimensionField } from '../filters/index.ts';
import { Choice } from '../ui/choice.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { CheckField, SelectField } from '../ui/labeled-field.tsx';
import { UNITS } from '../ui/units.ts';
import { RangeField, TypedField } from './range-field.tsx';
import { CHOICES, type ReportChoices } from './report-choices.ts';

export type ToolbarProps = {
  readonly report: ReportKey;
  readonly choices: ReportChoices;
  readonly filter: FilterDto;
  readonly asOf: string;
  readonly set: (name: string, value: string) => void;
  readonly setFilter: (filter: FilterDto) => void;
};

/** The choices of a report: those asked for most in the open, the others behind a button that counts them. */
export function ReportToolbar(props: ToolbarProps) {
  const { report, choices, asOf, set } = props;
  return (
    <>
      {report === 'aging' ? (
        <AgingChoices {...props} />
      ) : (
        <RangeField value={choices.range!} asOf={asOf} commit={(text) => set('range', text || asOf)} />
      )}
      {report === 'trial-balance' ? <Comparison {...props} /> : null}
      {report === 'account-detail' ? <AccountChoices {...props} /> : null}
      {report === 'activity' ? (
        <Choice
          label="Of"
          value={choices.kind!}
          options={[
            ['customers', 'Customers'],
            ['vendors', 'Vendors'],
          ]}
          choose={(value) => set('kind', value)}
        />
      ) : null}
      {report === 'journals' || report === 'aging' ? (
        <Choice
          label="Show"
          value={choices.detail!}
          options={[
            ['no', 'Totals'],
            ['yes', report === 'aging' ? 'Every document' : 'Every entry'],
          ]}
          choose={(value) => set('detail', value)}
        />
      ) : null}
      <Choice label="Units" value={choices.unit!} options={UNITS} choose={(value) => set('unit', value)} />
      {report === 'account-detail' ? (
        <CheckField label="Files: a sheet or page each" checked={choices.apart === 'yes'} set={(on) => set('apart', on ? 'yes' : 'no')} />
      ) : null}
      <FurtherChoices {...props} />
    </>
  );
}

function Comparison({ choices, set }: ToolbarProps) {
  const company = useCompany();
  const budgets = useBudgets(company.id);
  const value = choices.compare === 'budget' ? `budget:${choices.budget}` : choices.compare!;
  return (
    <Choice
      label="Compare with"
      value={value}
      options={[
        ['none', 'Nothing'],
        ['prior-year', 'Prior year'],
        ['budget:', 'Approved budget'],
        ...(budgets.data ?? []).map(({ id, year, name }) => [`budget:${id}`, `FY${year} ${name}`] as const),
      ]}
      choose={(chosen) => {
        const [compare, budget = ''] = chosen.split(':');
        set('budget', budget);
        set('compare', compare!);
      }}
    />
  );
}

function AccountChoices({ choices, set }: ToolbarProps) {
  return (
    <>
      <TypedField
        label="Accounts"
        value={choices.accounts!}
        placeholder="All; or 6000-6999, 7110"
        commit={(text) => set('accounts', text)}
      />
      <TypedField label="Name" value={choices.find!} placeholder="Any; or such as freight" commit={(text) => set('find', text)} />
    </>
  );
}

function AgingChoices({ choices, set }: ToolbarProps) {
  return (
    <>
      <Choice
        label="Of"
        value={choices.kind!}
        options={[
          ['receivables', 'Receivables'],
          ['payables', 'Payables'],
        ]}
        choose={(value) => set('kind', value)}
      />
      <TypedField
        label="As of"
        value={choices.day!}
        presets={['today']}
        placeholder="today, or Nov 9, 2026"
        commit={(text) => set('day', text || 'today')}
      />
      <Choice
        label="By"
        value={choices.by!}
        options={[
          ['due', 'Due date'],
          ['document', 'Document date'],
        ]}
        choose={(value) => set('by', value)}
      />
      {choices.party === '' ? null : (
        <button type="button" className="link" onClick={() => set('party', '')}>
          All {choices.kind === 'receivables' ? 'customers' : 'vendors'}
        </button>
      )}
    </>
  );
}

/** What is chosen now and then: dimensions, drafts, accounts without figures, how ages are cut. */
function FurtherChoices({ report, choices, filter, set, setFilter }: ToolbarProps) {
  const { dimensions, furtherDimensions } = useCompany();
  const inPanel = ['drafts', 'zero', 'inactive', 'idle', 'class', 'per', 'size', 'count', 'percents'];
  const count =
    inPanel.filter((name) => name in CHOICES[report] && choices[name] !== CHOICES[report][name]).length + Object.keys(filter).length;
  const check = (name: string, label: string) =>
    name in CHOICES[report] ? (
      <CheckField label={label} checked={choices[name] === 'yes'} set={(on) => set(name, on ? 'yes' : 'no')} />
    ) : null;
  const names = report === 'aging' ? [] : [...dimensions.map(({ name }) => name), ...furtherDimensions];
  return (
    <FloatingPanel label={report === 'aging' ? 'Columns' : 'Filters'} count={count} wide>
      <div className="flex flex-col gap-2">
        {report === 'account-detail' ? (
          <SelectField
            label="Class"
            value={choices.class!}
            options={[['', 'All classes'], ...Object.entries(ACCOUNT_CLASSES).map(([key, { name }]) => [key, name] as const)]}
            set={(value) => set('class', value)}
          />
        ) : null}
        {report === 'aging' ? <BucketChoices choices={choices} set={set} /> : null}
        {names.map((name) => (
          <DimensionField
            key={name}
            dimension={name}
            values={filter[name] ?? []}
            choose={(values) =>
              setFilter({
                ...Object.fromEntries(Object.entries(filter).filter(([each]) => each !== name)),
                ...(values.length > 0 ? { [name]: values } : {}),
              })
            }
          />
        ))}
        {check('drafts', 'Include draft entries')}
        {check('zero', 'Show accounts without a balance or movement')}
        {check('inactive', 'Show inactive accounts')}
        {check('idle', 'Show accounts without movement')}
      </div>
    </FloatingPanel>
  );
}

function BucketChoices({ choices, set }: Pick<ToolbarProps, 'choices' | 'set'>) {
  return (
    <>
      <div className="flex gap-2">
        <TypedField
          label={`${choices.per === 'days' ? 'Days' : 'Months'} in a column`}
          value={choices.size!}
          placeholder="30"
          commit={(text) => set('size', text)}
        />
        <TypedField label="Columns before the last" value={choices.count!} placeholder="3" commit={(text) => set('count', text)} />
      </div>
      <SelectField
        label="Counted in"
        value={choices.per!}
        options={[
          ['days', 'Days'],
          ['months', 'Months'],
        ]}
        set={(value) => {
          set('size', value === 'days' ? '30' : '1');
          set('per', value);
        }}
      />
      {choices.kind === 'receivables' ? (
        <TypedField
          label="Allowance, %"
          value={choices.percents!}
          placeholder="1, 4, 10, 20, 40"
          commit={(text) => set('percents', text)}
        />
      ) : null}
    </>
  );
}
