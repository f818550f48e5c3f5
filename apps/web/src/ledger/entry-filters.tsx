import type { FilterDto } from '@wise-margin/contract';

import { useCompany } from '../data/company.ts';
import { AccountsField, DimensionField } from '../filters/index.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';
import { type EntryChoices, filterCount } from './entry-choices.ts';
import { boundOf } from './use-entries.ts';

/** What the list of entries keeps to beside its months and its text; the button counts what is chosen. */
export function EntryFilters({
  choices,
  choose,
}: {
  readonly choices: EntryChoices;
  readonly choose: (change: Partial<EntryChoices>) => void;
}) {
  const { dimensions, furtherDimensions, exponent } = useCompany();
  const { accounts, filter, least, most, origin, state } = choices;
  const wrong = [least, most].find((text) => boundOf(text, exponent) === null);
  return (
    <FloatingPanel label="Filters" count={filterCount(choices)} wide>
      <div className="flex flex-col gap-2">
        <AccountsField key={accounts} accounts={accounts} commit={(text) => choose({ accounts: text })} />
        <div className="flex gap-2">
          <TextField label="Amount from" value={least} placeholder="0.00" set={(text) => choose({ least: text })} />
          <TextField label="Amount to" value={most} placeholder="any" set={(text) => choose({ most: text })} />
        </div>
        {wrong === undefined ? null : (
          <p role="alert" className="text-brick">
            “{wrong}” is not an amount. Enter one such as 9466 or 1250.50.
          </p>
        )}
        {[...dimensions.map(({ name }) => name), ...furtherDimensions].map((name) => (
          <DimensionField
            key={name}
            dimension={name}
            values={filter[name] ?? []}
            choose={(values) => choose({ filter: withValues(filter, name, values) })}
          />
        ))}
        <div className="flex gap-2">
          <SelectField
            label="Status"
            value={state}
            options={[
              ['', 'Posted'],
              ['all', 'Posted and draft'],
              ['draft', 'Draft'],
            ]}
            set={(value) => choose({ state: value })}
          />
          <SelectField
            label="Origin"
            value={origin}
            options={[
              ['', 'All'],
              ['import', 'Imported'],
              ['manual', 'Manual'],
            ]}
            set={(value) => choose({ origin: value })}
          />
        </div>
        {filterCount(choices) > 0 ? (
          <button
            type="button"
            className="link self-start"
            onClick={() => choose({ accounts: '', least: '', most: '', origin: '', state: '', filter: {} })}
          >
            Clear filters
          </button>
        ) : null}
      </div>
    </FloatingPanel>
  );
}

function withValues(filter: EntryChoices['filter'], name: string, values: readonly string[]): FilterDto {
  const others = Object.entries(filter).filter(([each]) => each !== name);
  return Object.fromEntries([...others, ...(values.length > 0 ? [[name, values] as const] : [])].map(([each, of]) => [each, [...of]]));
}
