import { useQuery } from '@tanstack/react-query';
import type { FigureGroupsDto } from '@wise-margin/contract';
import { filterParameters } from '@wise-margin/contract';
import { sideNames } from '@wise-margin/presentation';
import { Link } from 'react-router';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { dimensionName } from '../filters/index.ts';
import { Amount } from '../ui/figure.tsx';
import type { ListColumn } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Failure, Loading } from '../ui/states.tsx';

const FIXED: Readonly<Record<string, string>> = { account: 'Accounts', month: 'Months', part: 'Actual and budget' };

/** What a figure is laid out by, in words. */
export const groupName = (by: string): string => FIXED[by] ?? dimensionName(by);

/** The choice of what a figure is laid out by. */
export function GroupChoice({
  groups,
  by,
  choose,
}: {
  readonly groups: readonly string[];
  readonly by: string | null;
  readonly choose: (by: string | null) => void;
}) {
  if (groups.length === 0) return null;
  return (
    <label className="mt-2 flex items-center gap-2 text-[13px]">
      <span className="text-ink-soft">Break down by</span>
      <select className="field py-0.5 text-[13px]" value={by ?? ''} onChange={(event) => choose(event.target.value || null)}>
        <option value="">What it is made from</option>
        {groups.map((each) => (
          <option key={each} value={each}>
            {groupName(each)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** @param path of the groups, with the statement and figure in its query */
export const useFigureGroups = (path: string | null) =>
  useQuery({
    queryKey: ['figure-groups', path],
    enabled: path !== null,
    queryFn: ({ signal }) => getJson<FigureGroupsDto>(path!, signal),
  });

type Group = FigureGroupsDto['rows'][number];
/** What a file has of the groups. */
function fileColumns({ by, sides }: FigureGroupsDto, exponent: number): readonly ListColumn<Group>[] {
  const amount = (key: 'compared' | 'base' | 'amount', name: string): ListColumn<Group> => ({
    key,
    name,
    file: (row) => (row[key] === null ? null : row[key] / 10 ** exponent),
    cell: () => null,
  });
  return [
    { key: 'name', name: groupName(by), value: ({ name }) => name, cell: () => null },
    ...(sides ? [amount('compared', sides.compared), amount('base', sides.base)] : []),
    amount('amount', sides ? 'Difference' : 'Amount'),
  ];
}

/** A figure laid out: the largest part first; a difference with both of its sides. Each part leads to its entries. */
export function FigureGroups({ groups }: { readonly groups: ReturnType<typeof useFigureGroups> }) {
  const { id: company, exponent } = useCompany();
  if (groups.isError) return <Failure error={groups.error} retry={() => void groups.refetch()} />;
  if (!groups.data) return <Loading what="its parts" />;
  const { by, sides, rows } = groups.data;
  const addressOf = ({
    company: own = company,
    accounts,
    from,
    to,
    filter,
  }: NonNullable<FigureGroupsDto['rows'][number]['entries']>): string =>
    `/c/${own}/ledger/entries?${new URLSearchParams([
      ['accounts', accounts],
      ['fromMonth', from],
      ['toMonth', to],
      ...filterParameters(filter),
    ]).toString()}`;
  return (
    <>
      <p className="mt-2 text-[13px]">
        <ListExport name={`by-${by}`} columns={fileColumns(groups.data, exponent)} rows={rows} />
      </p>
      {sides ? (
        <p className="mt-1 text-[12px] text-ink-soft">
          {sides.compared}, less {sides.base}.
        </p>
      ) : null}
      <table className="ledger-table mt-2 w-full" aria-label={`By ${groupName(by).toLowerCase()}`}>
        <thead>
          <tr>
            <th scope="col" className="border-b border-ink">
              {groupName(by)}
            </th>
            {(sides ? [sideNames(sides).compared, sideNames(sides).base, 'Difference'] : ['Amount']).map((name) => (
              <th key={name} scope="col" className="border-b border-ink text-right!">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key} className="hover:bg-wash">
              <td className="border-b border-hairline whitespace-normal!">
                {row.entries ? (
                  <Link className="link" to={addressOf(row.entries)}>
                    {row.name}
                  </Link>
                ) : (
                  row.name
                )}
              </td>
              {(sides ? [row.compared!, row.base!, row.amount] : [row.amount]).map((amount, at) => (
                <td key={at} className="figure border-b border-hairline">
                  <Amount value={amount} exponent={exponent} unit={sides ? 'dollars' : 'cents'} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
