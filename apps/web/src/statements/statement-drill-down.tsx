import { figureText } from '@wise-margin/presentation';
import { Link } from 'react-router';

import { queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { type StatementChoices, statementQuery } from '../data/statement-choices.ts';
import { useDrillDown } from '../data/use-statement.ts';
import {
  type DrillDownAddress,
  DrillDownPanel,
  DrillDownSteps,
  FigureGroups,
  figureProof,
  FigureStep,
  GroupChoice,
  groupsProof,
  Proof,
  useFigureGroups,
} from '../drill-down/index.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { LineTrend } from './line-trend.tsx';

/** Columns of the income statement that findings explain, by comparison and span. */
const EXPLAINED: Readonly<Record<string, readonly [comparison: string, span: string]>> = {
  'month.budget_difference': ['budget', 'month'],
  'ytd.budget_difference': ['budget', 'yearToDate'],
  'month.prior_difference': ['priorYear', 'month'],
  'ytd.prior_difference': ['priorYear', 'yearToDate'],
};
/** Where a variance is explained; null for other figures. */
function whyAddress(
  company: number,
  { line, column, asOf }: { readonly line: string; readonly column: string; readonly asOf: string },
): string | null {
  const found = EXPLAINED[column];
  if (!found) return null;
  const [comparison, span] = found;
  return `/c/${company}/findings/variances?${new URLSearchParams({ asOf, comparison, line, month: asOf, span }).toString()}`;
}

/** The drill-down of a statement's figure: the figure, its accounts, their entries, the entry. */
export function StatementDrillDown({
  view,
  choices,
  address,
}: {
  readonly view: string;
  readonly choices: StatementChoices;
  readonly address: DrillDownAddress;
}) {
  const company = useCompany();
  const { figures, by, account, entry } = address.state;
  const drillDown = useDrillDown({ company: company.id, view }, choices, figures.at(-1) ?? null);
  const { data } = drillDown;
  const inner = account !== null || entry !== null;
  const place = figures.at(-1);
  const why = place && !inner && view === 'income' ? whyAddress(company.id, { ...place, asOf: choices.asOf }) : null;
  const groups = useFigureGroups(
    by === null || !place || inner
      ? null
      : `/companies/${company.id}/statements/${view}/drill-down/groups${queryText({ ...statementQuery(choices), ...place, by })}`,
  );
  const crumbs = figures.map((figure, position) => (
    <span key={position}>
      {position > 0 ? ' / ' : ''}
      <button
        type="button"
        className="link"
        onClick={() => address.toFigure(position)}
        aria-current={position === figures.length - 1 && !inner ? 'step' : undefined}
      >
        {position === figures.length - 1 && data
          ? `${data.line.name}, ${data.column.heading.toLowerCase()}`
          : figure.line.split('.').at(-1)!.replaceAll('_', ' ')}
      </button>
    </span>
  ));
  if (inner) return <DrillDownSteps address={address} outerCrumbs={crumbs} />;
  const title = data
    ? `${data.line.name}${data.cell.kind === 'blank' ? '' : `, ${figureText(data.cell, { exponent: company.exponent, unit: 'cents', withUnit: true })}`}`
    : 'This figure';
  const proof =
    by === null ? (data ? figureProof(data, company.exponent) : null) : groups.data ? groupsProof(groups.data, company.exponent) : null;
  return (
    <DrillDownPanel
      key={`figure ${figures.length}`}
      crumbs={crumbs}
      title={title}
      close={address.close}
      foot={proof ? <Proof {...proof} /> : null}
    >
      {drillDown.isError ? <Failure error={drillDown.error} retry={() => void drillDown.refetch()} /> : null}
      {data ? <GroupChoice groups={data.groups} by={by} choose={address.layOut} /> : null}
      {why ? (
        <p className="mt-1 text-[13px]">
          <Link className="link" to={why}>
            Why it differs
          </Link>
        </p>
      ) : null}
      {by !== null ? (
        <FigureGroups groups={groups} />
      ) : data ? (
        <FigureStep
          drillDown={data}
          exponent={company.exponent}
          companyId={company.id}
          openFigure={address.addFigure}
          openAccount={address.openAccount}
        />
      ) : null}
      {data && by === null ? <LineTrend view={view} choices={choices} line={data.line.key} /> : null}
      {!data && !drillDown.isError ? <Loading what="what makes up the amount" /> : null}
    </DrillDownPanel>
  );
}
