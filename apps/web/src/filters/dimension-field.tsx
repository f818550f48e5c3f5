import { useQuery } from '@tanstack/react-query';
import type { DimensionValuesDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { ValuePicker } from '../ui/value-picker.tsx';
import { dimensionName } from './dimension-name.ts';

const valueName = (value: string): string => (value === '' ? 'None' : value);

/** Values of a dimension picked out of all that the ledger has. */
export function DimensionField({
  dimension,
  values,
  choose,
}: {
  readonly dimension: string;
  readonly values: readonly string[];
  readonly choose: (values: string[]) => void;
}) {
  const company = useCompany();
  const known = useQuery({
    queryKey: ['dimension', company.id, dimension],
    queryFn: ({ signal }) => getJson<DimensionValuesDto>(`/companies/${company.id}/dimensions/${encodeURIComponent(dimension)}`, signal),
  });
  const label = dimensionName(dimension);
  return (
    <div className="flex items-start gap-2">
      <span className="w-32 pt-1 shrink-0 text-ink-soft" aria-hidden="true">
        {label}
      </span>
      {known.isError ? (
        <span role="alert" className="text-brick">
          {known.error.message}
        </span>
      ) : (
        <ValuePicker label={label} all={known.data?.values ?? []} values={values} nameOf={valueName} choose={choose} />
      )}
      {values.length > 0 ? (
        <button type="button" className="link" onClick={() => choose([])}>
          All
        </button>
      ) : null}
    </div>
  );
}
