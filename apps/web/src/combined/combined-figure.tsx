import type { CompanyGroupDto, GridDto } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { useState } from 'react';
import { Link } from 'react-router';

import { queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { type CombinedChoices, combinedPath } from '../data/use-combined.ts';
import { DrillDownPanel, FigureGroups, groupsProof, Proof, useFigureGroups } from '../drill-down/index.ts';
import type { CellPlace } from '../statements/index.ts';
import { Choice } from '../ui/choice.tsx';

const LAYOUTS = [
  ['company', 'Companies'],
  ['account', 'Accounts'],
  ['month', 'Months'],
] as const;

/** What a combined figure is made of: the companies, their accounts or the months; each company's own statement is one step away. */
export function CombinedFigure({
  group,
  view,
  choices,
  grid,
  figure,
  close,
}: {
  readonly group: CompanyGroupDto;
  readonly view: string;
  readonly choices: CombinedChoices;
  readonly grid: GridDto;
  readonly figure: CellPlace;
  readonly close: () => void;
}) {
  const { exponent } = useCompany();
  const [by, setBy] = useState<string>('company');
  const groups = useFigureGroups(`${combinedPath(group.id, view)}/figure-groups${queryText({ ...choices, ...figure, by })}`);
  const line = grid.lines.findIndex(({ key }) => key === figure.line);
  const column = grid.columns.findIndex(({ key }) => key === figure.column);
  const cell = grid.cells[line]?.[column];
  return (
    <DrillDownPanel
      crumbs={grid.blocks[grid.columns[column]?.block ?? 0]?.heading ?? ''}
      title={
        <>
          {grid.lines[line]?.name} <span className="figure">{cell ? figureText(cell, { exponent, unit: 'cents' }) : ''}</span>
        </>
      }
      close={close}
      foot={groups.data ? <Proof {...groupsProof(groups.data, exponent)} /> : null}
    >
      <Choice label="Break down by" value={by} options={LAYOUTS} choose={setBy} />
      <FigureGroups groups={groups} />
      <h3 className="mt-4 text-[13px] font-semibold">Statements of the companies</h3>
      <ul className="text-[13px]">
        {group.members.map(({ company, name }) => (
          <li key={company}>
            <Link className="link inline-block py-1" to={`/c/${company}/statements/${view}?asOf=${choices.asOf}`}>
              {name}
            </Link>
          </li>
        ))}
      </ul>
    </DrillDownPanel>
  );
}
