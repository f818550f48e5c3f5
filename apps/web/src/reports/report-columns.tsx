import type { ReportDto, ReportRowDto } from '@wise-margin/contract';
import { isFigureColumn, reportCellText } from '@wise-margin/presentation';

import type { ListColumn } from '../ui/list.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { Sparkline } from '../ui/sparkline.tsx';

/** A row as a list takes it, with its place in the report. */
export type ListedRow = ReportRowDto & { readonly at: number };

const WIDEST: Readonly<Record<string, number>> = { name: 330, memo: 230, party: 190, document: 110, account: 200, journal: 90 };

/** A report's columns for a list; sorted by where rows do not follow one another. */
export function reportColumns(
  report: Pick<ReportDto, 'columns' | 'unit'>,
  { exponent, isSorted, total }: { readonly exponent: number; readonly isSorted: boolean; readonly total: ReportRowDto | undefined },
): readonly ListColumn<ListedRow>[] {
  const format = { unit: report.unit, exponent };
  const hasTrend = report.columns.at(-1)?.kind === 'count' && report.columns.at(-1)?.key === 'days';
  const columns = report.columns.map((column, at): ListColumn<ListedRow> => ({
    key: column.key,
    name: column.heading,
    ...(column.scenario ? { mark: <ScenarioSwatch scenario={column.scenario} /> } : {}),
    isAmount: isFigureColumn(column),
    ...(isSorted ? { value: ({ cells }: ListedRow) => (cells[at] === 'n/m' ? null : cells[at]!) } : {}),
    cell: ({ cells }) => <ReportFigure text={reportCellText(cells[at]!, column, format)} isFigure={isFigureColumn(column)} />,
    ...(total ? { total: <ReportFigure text={reportCellText(total.cells[at]!, column, format)} isFigure={isFigureColumn(column)} /> } : {}),
    ...(column.kind === 'text' ? { most: WIDEST[column.key] ?? 200 } : {}),
  }));
  if (!isSorted) return sectioned(columns);
  if (!hasTrend) return columns;
  const words = (row: ReportRowDto) => `Days outstanding over twelve months: ${(row.trend ?? []).map((each) => each ?? 'none').join(', ')}`;
  const trendOf = (row: ReportRowDto) => (row.trend ? <Sparkline months={row.trend} label={words(row)} /> : null);
  return [...columns, { key: 'trend', name: '12 months', cell: trendOf, ...(total ? { total: trendOf(total) } : {}) }];
}

/**
 * Columns of rows that follow one another under headings: what the heading says is not said again in every row, and the
 * entry or document names the row; opening and closing balances are named by their memo.
 */
function sectioned([first, ...others]: readonly ListColumn<ListedRow>[]): readonly ListColumn<ListedRow>[] {
  const name = others.find(({ key }) => key === 'entry' || key === 'document')!;
  const memo = others.find(({ key }) => key === 'memo' || key === 'account');
  const isNamed = (row: ListedRow) => row.kind === 'line' && row.link !== null;
  return [
    {
      ...name,
      most: 240,
      cell: (row) =>
        row.kind === 'section' ? first!.cell(row) : isNamed(row) ? name.cell(row) : (memo ?? first!).cell(row) || first!.cell(row),
    },
    ...others
      .filter(({ key }) => key !== name.key)
      .map((column) => (column === memo ? { ...column, cell: (row: ListedRow) => (isNamed(row) ? column.cell(row) : '') } : column)),
  ];
}

/** A text or a figure; a closing parenthesis hangs outside its column. */
export function ReportFigure({ text, isFigure }: { readonly text: string; readonly isFigure: boolean }) {
  if (!isFigure) return text;
  return <span className={text.endsWith(')') ? 'figure-text hangs' : 'figure-text'}>{text}</span>;
}
