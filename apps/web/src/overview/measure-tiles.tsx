import type { CellDto, LineTrendDto, Measure } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { type ReactNode } from 'react';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { MEASURE_NAMES, ON_INCOME_STATEMENT } from '../data/measure-names.ts';
import { plainChoices } from '../data/statement-choices.ts';
import { useMeasures } from '../data/use-measures.ts';
import { useLineTrends, useStatement } from '../data/use-statement.ts';
import { favorColor, favorOf } from '../ui/figure.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { Failure } from '../ui/states.tsx';
import { MeasureChart } from './measure-chart.tsx';

type Series = 'actual' | 'budget' | 'prior';

/** The measures a person chose, each with its year beside budget and prior year; and the projection for the year. */
export function MeasureTiles({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const { chosen } = useMeasures(company.id);
  const trends = useLineTrends({ company: company.id, view: 'ratios' }, plainChoices(asOf), chosen ?? []);
  if (trends.isError) return <Failure error={trends.error} retry={() => void trends.refetch()} />;
  const byKey = new Map(trends.data?.map((trend) => [trend.line.key, trend]));
  return (
    <section aria-label="Measures" className="col-span-full grid grid-cols-[repeat(auto-fill,minmax(176px,1fr))] gap-3">
      {(chosen ?? []).map((measure) => (
        <MeasureTile key={measure} measure={measure} trend={byKey.get(measure) ?? null} asOf={asOf} />
      ))}
      <Projection asOf={asOf} line="revenue" />
      <Projection asOf={asOf} line="operating_income" />
    </section>
  );
}

function Tile({ name, unit = '', children }: { readonly name: string; readonly unit?: string; readonly children: ReactNode }) {
  return (
    <div className="min-h-[104px] border border-hairline bg-sheet px-3 py-1.5">
      <h2 className="truncate text-[13px] font-semibold">
        {name}
        {unit === '' ? null : <span className="ml-1.5 text-[12px] font-normal text-ink-soft">{unit}</span>}
      </h2>
      {children}
    </div>
  );
}

function MeasureTile({ measure, trend, asOf }: { readonly measure: Measure; readonly trend: LineTrendDto | null; readonly asOf: string }) {
  const company = useCompany();
  const name = MEASURE_NAMES[measure];
  if (trend === null) return <Tile name={name}>{null}</Tile>;
  const at = trend.months.findIndex(({ period }) => period === asOf);
  const text = (series: Series): string => {
    const value = at < 0 ? null : (trend[series][at] ?? null);
    return value === null ? 'none' : figureText(cellOf(trend.kind, value), { exponent: company.exponent, unit: 'dollars', withUnit: true });
  };
  const view = ON_INCOME_STATEMENT.includes(measure) ? 'income' : 'ratios';
  return (
    <Tile name={name} unit={trend.kind === 'amount' ? company.currencyWords : ''}>
      <p className="text-[19px] leading-6 font-semibold tabular-nums">
        <Link
          className="hover:underline"
          to={`/c/${company.id}/statements/${view}?asOf=${asOf}&figure=${measure}~month.actual`}
          aria-label={`${name}: ${text('actual')}`}
        >
          {text('actual')}
        </Link>
      </p>
      <MeasureChart
        trend={trend}
        asOf={asOf}
        label={`${name} by month: actual ${text('actual')}, budget ${text('budget')}, prior year ${text('prior')}`}
      />
      <p className="flex flex-wrap justify-between gap-x-2 text-[12px] text-ink-soft">
        <span title="Budget">
          <ScenarioSwatch scenario="budget" />
          <span className="sr-only">Budget </span>
          {text('budget')}
        </span>
        <span title="Prior year">
          <ScenarioSwatch scenario="prior" />
          <span className="sr-only">Prior year </span>
          {text('prior')}
        </span>
      </p>
    </Tile>
  );
}

function cellOf(kind: LineTrendDto['kind'], value: number): CellDto {
  if (kind === 'amount' || kind === 'quantity') return { kind, value };
  return { kind: 'ratio', value, unit: kind };
}

/** What the year is projected to come to, against its budget. */
function Projection({ asOf, line }: { readonly asOf: string; readonly line: 'revenue' | 'operating_income' }) {
  const company = useCompany();
  const outlook = useStatement(company.id, 'outlook', plainChoices(asOf));
  const grid = outlook.data;
  const name = line === 'revenue' ? 'Revenue, full year' : 'Operating income, full year';
  if (!grid) return <Tile name={name}>{null}</Tile>;
  const cell = (column: string): CellDto | undefined =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]?.[grid.columns.findIndex(({ key }) => key === column)];
  const text = (column: string): string => {
    const found = cell(column);
    return (found && figureText(found, { exponent: company.exponent, unit: 'dollars', withUnit: true })) || 'none';
  };
  const difference = cell('year.difference');
  const favor = difference ? favorOf(difference) : null;
  return (
    <Tile name={name}>
      <p className="text-[19px] leading-6 font-semibold tabular-nums">
        <Link
          className="hover:underline"
          to={`/c/${company.id}/statements/outlook?asOf=${asOf}&figure=${line}~year.projection`}
          aria-label={`${name}: projected ${text('year.projection')}`}
        >
          {text('year.projection')}
        </Link>
      </p>
      <p className="mt-1 text-[12.5px] text-ink-soft">
        <ScenarioSwatch scenario="projection" />
        Projection, {company.currencyWords}
      </p>
      <p className="flex flex-wrap justify-between gap-x-2 text-[12px] text-ink-soft">
        <span>
          <ScenarioSwatch scenario="budget" />
          {text('year.budget')}
        </span>
        <span className={favorColor(favor)}>
          {text('year.difference')} {favor ?? ''}
        </span>
      </p>
    </Tile>
  );
}
