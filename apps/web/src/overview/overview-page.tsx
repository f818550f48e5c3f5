import { REPORTS } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { Link } from 'react-router';

import { useAsOf, useCompanies, useCompany } from '../data/company.ts';
import { plainChoices } from '../data/statement-choices.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { useStatement, useStrip } from '../data/use-statement.ts';
import { REPORT_NAMES } from '../reports/index.ts';
import { favorColor, favorOf } from '../ui/figure.tsx';
import { Page } from '../ui/page.tsx';
import { PeriodStrip } from '../ui/period-strip.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { DemoNotice } from './demo-notice.tsx';
import { MeasureChoice } from './measure-choice.tsx';
import { MeasureTiles } from './measure-tiles.tsx';
import { MonthFindings } from './month-findings.tsx';
import { MonthTasks } from './month-tasks.tsx';
import { RecentViews } from './recent-views.tsx';

const LINES = ['revenue', 'gross_profit', 'gross_margin', 'operating_income', 'net_income'] as const;

/** The month in one look, read from the income statement's own grid. */
export default function OverviewPage() {
  const company = useCompany();
  useMonthKeys();
  const [asOf, setAsOf] = useAsOf();
  if (asOf === null) {
    return (
      <Page title="Overview">
        <Empty
          title="No entries yet"
          action={
            <Link className="button button-primary" to={`/c/${company.id}/ledger/imports/new`}>
              Import a ledger
            </Link>
          }
        >
          Import a ledger to see this month’s results.
        </Empty>
      </Page>
    );
  }
  return <Month asOf={asOf} setAsOf={setAsOf} />;
}

function Month({ asOf, setAsOf }: { readonly asOf: string; readonly setAsOf: (period: string) => void }) {
  const company = useCompany();
  const choices = plainChoices(asOf);
  const statement = useStatement(company.id, 'income', choices);
  const strip = useStrip(company.id, choices);
  const companies = useCompanies();
  if (statement.isError) return <Failure error={statement.error} retry={() => void statement.refetch()} />;
  const grid = statement.data;
  // shown at once: what arrived later would push the rest down under the pointer
  if (!grid || strip.isPending || companies.isPending) return <Loading what="the month" />;
  const cell = (line: string, column: string) =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]![grid.columns.findIndex(({ key }) => key === column)]!;
  const text = (line: string, column: string) =>
    figureText(cell(line, column), { exponent: company.exponent, unit: 'dollars', withUnit: true }) || 'none';
  const income = (more = '') => `/c/${company.id}/statements/income?asOf=${asOf}${more}`;
  /** A figure that leads to its statement, with the drill-down open on it. */
  const figure = (line: string, column: string) => (
    <Link
      className="hover:underline"
      aria-label={`${grid.lines.find(({ key }) => key === line)?.name ?? line}, ${grid.columns.find(({ key }) => key === column)!.words}: ${text(line, column)}`}
      to={income(`&figure=${line}~${column}`)}
    >
      {text(line, column)}
    </Link>
  );
  return (
    <Page title={company.name} words={`${grid.asOfWords}, against ${grid.budgetWords} and prior year`} actions={<MeasureChoice />}>
      <DemoNotice />
      {strip.data ? <PeriodStrip strip={strip.data} asOf={asOf} exponent={company.exponent} choose={setAsOf} /> : null}
      <div className="mt-3 grid min-h-0 grid-cols-2 gap-4 overflow-auto pb-4 short:mt-1 narrow:grid-cols-1">
        <MeasureTiles asOf={asOf} />
        {grid.blocks.map((block) => (
          <section key={block.key} className="border border-hairline bg-sheet p-4" aria-label={block.heading}>
            <h2 className="border-b border-ink-soft pb-1 font-serif text-lg font-semibold">{block.heading}</h2>
            <table className="ledger-table mt-1 w-full">
              <thead>
                <tr className="text-[12.5px]">
                  <th scope="col" className="font-normal! text-ink-soft">
                    {company.currencyWords}
                  </th>
                  {(['actual', 'budget', 'prior'] as const).map((scenario) => (
                    <th key={scenario} scope="col" className="text-right!">
                      <ScenarioSwatch scenario={scenario} />
                      {scenario === 'prior' ? 'Prior year' : scenario === 'budget' ? 'Budget' : 'Actual'}
                    </th>
                  ))}
                  <th scope="col" className="text-right!">
                    vs. budget
                  </th>
                </tr>
              </thead>
              <tbody>
                {LINES.map((line) => {
                  const favor = favorOf(cell(line, `${block.key}.budget_difference`));
                  return (
                    <tr key={line}>
                      <th scope="row">{grid.lines.find(({ key }) => key === line)?.name}</th>
                      {['actual', 'budget', 'prior'].map((column) => (
                        <td key={column} className={`figure ${column === 'actual' ? 'text-[15px] font-semibold' : ''}`}>
                          {figure(line, `${block.key}.${column}`)}
                        </td>
                      ))}
                      <td className={`figure ${favorColor(favor)}`}>
                        {figure(line, `${block.key}.budget_difference`)} {favor ?? ''}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </section>
        ))}
        <MonthFindings asOf={asOf} />
        <MonthTasks asOf={asOf} />
        <p className="text-ink-soft">
          <Link className="link" to={income()}>
            Open the income statement
          </Link>
          .
          {company.draftCount > 0 ? (
            <>
              {' '}
              {company.draftCount.toLocaleString('en-US')} draft {company.draftCount === 1 ? 'entry' : 'entries'}{' '}
              {company.draftCount === 1 ? 'is' : 'are'} not included.{' '}
              <Link className="link" to={income('&drafts=yes')}>
                Include drafts
              </Link>
              .
            </>
          ) : null}
        </p>
        <RecentViews />
        <p className="text-ink-soft">
          Reports on the ledger:{' '}
          {REPORTS.map((report, at) => (
            <span key={report}>
              {at > 0 ? ', ' : ''}
              <Link className="link" to={`/c/${company.id}/ledger/reports/${report}`}>
                {REPORT_NAMES[report].toLowerCase()}
              </Link>
            </span>
          ))}
          .
        </p>
      </div>
    </Page>
  );
}
