import type { DimensionFilter } from '@wise-margin/core';

import { useCompany } from '../../data/company.ts';
import { Field, Select } from './field.tsx';

const ALL = '*';

/** Limits a line or a column to one value of each dimension; without any limit it has no filter. */
export function LimitFields({
  filter = {},
  choose,
}: {
  readonly filter: DimensionFilter | undefined;
  readonly choose: (filter: DimensionFilter | undefined) => void;
}) {
  const { dimensions } = useCompany();
  return dimensions.map(({ name, values }) => (
    <Field key={name} label={`Limit to ${name}`}>
      <Select
        value={filter[name]?.[0] ?? ALL}
        options={[[ALL, 'All'], ...values.map((value) => [value, value || `No ${name}`] as const)]}
        choose={(value) => {
          const { [name]: _before, ...others } = filter;
          const next = value === ALL ? others : { ...others, [name]: [value] };
          choose(Object.keys(next).length === 0 ? undefined : next);
        }}
      />
    </Field>
  ));
}
