import { figureText } from '@wise-margin/presentation';

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
