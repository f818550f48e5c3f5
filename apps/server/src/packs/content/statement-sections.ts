import type { DisplayChoices, LineTrendDto, ReadingSource } from '@wise-margin/contract';
import { comparisonColumns, type Display, type Section, type TextFigure } from '@wise-margin/core';
import { capitalized, comparisonWords, figureFormat, figureText } from '@wise-margin/presentation';

import type { Books } from '../../companies/index.ts';
import { notFound, refused } from '../../http/problem.ts';
import { type EvaluatedView, exportedStatement } from '../../statements/index.ts';
import type { ContentBlock, MonthChart } from './content.ts';
import { monthKey, type SectionContext, type SectionSources, statementQuery } from './section-context.ts';

type Of<Kind extends Section['kind']> = Extract<Section, { readonly kind: Kind }>;
/** Blocks of a section, and what a reader has to know about it. */
export type Filled = {
  readonly blocks: readonly ContentBlock[];
  readonly notes: readonly string[];
  /** where the figures of a statement come from */
  readonly source?: ReadingSource;
};

/** A view with the section's own date, comparison, filters and display. */
export async function statementSection(sources: SectionSources, section: Of<'statement'>, context: SectionContext): Promise<Filled> {
  const { asOf, filter } = statementQuery(context, section.filter);
  const source: ReadingSource = {
    view: section.view,
    asOf,
    filter,
    comparison: section.comparison,
    isQuarter: context.date.isQuarter,
    display: section.display as DisplayChoices,
  };
  const evaluated = await evaluatedSource(sources, context.books.id, source);
  const { openAll } = evaluated.dto().view;
  const open = section.open === 'all' || (section.open.length === 0 && openAll) ? 'all' : section.open.join();
  const statement = exportedStatement(evaluated, { query: { open }, logo: null });
  const notes = statement.dto.issues.map(({ message, fix }) => `${message}. ${fix}.`);
  const isEmpty = statement.dto.cells.every((cells) =>
    cells.every((cell) => cell.kind === 'blank' || (cell.kind === 'amount' && cell.value === 0) || cell.kind === 'notMeaningful'),
  );
  if (isEmpty) notes.push('The ledger has no amounts for this statement.');
  return { blocks: [{ kind: 'statement', statement }], notes, source };
}

/** The statement that a section shows, as the ledger has it now. */
export function evaluatedSource(
  { statements }: Pick<SectionSources, 'statements'>,
  companyId: number,
  { view, asOf, filter, comparison, isQuarter, display }: ReadingSource,
): Promise<EvaluatedView> {
  const columns = comparison === 'asSaved' ? {} : { columnSet: comparisonColumns(comparison) };
  return statements.evaluated(companyId, view, { asOf, filter, display: display as Partial<Display>, isQuarter, ...columns });
}

/** Lines by month beside budget and prior year. */
export async function chartsSection(sources: SectionSources, section: Of<'charts'>, context: SectionContext): Promise<Filled> {
  const trends = await linesOf(sources, { view: section.view, lines: section.lines }, context);
  return { blocks: [{ kind: 'charts', charts: trends.map((trend) => monthChart(trend, context)), withFigures: false }], notes: [] };
}

/** Key figures of the month, each beside budget and prior year, with its year as a small chart. */
export async function measuresSection(sources: SectionSources, section: Of<'measures'>, context: SectionContext): Promise<Filled> {
  const trends = await linesOf(sources, { view: 'ratios', lines: section.lines }, context);
  return { blocks: [{ kind: 'charts', charts: trends.map((trend) => monthChart(trend, context)), withFigures: true }], notes: [] };
}

async function linesOf(
  { statements }: SectionSources,
  { view, lines }: { readonly view: string; readonly lines: readonly string[] },
  context: SectionContext,
): Promise<LineTrendDto[]> {
  if (lines.length === 0) throw refused('No line is chosen. Choose at least one.', 'lines');
  return statements.lineTrends(context.books.id, view, { ...statementQuery(context), lines: lines.join() });
}

function monthChart(trend: LineTrendDto, context: SectionContext): MonthChart {
  const { books } = context;
  const asOf = monthKey(context);
  const at = trend.months.findIndex(({ period }) => period === asOf);
  const text = (values: LineTrendDto['actual']): string => measureText(trend, { value: values[at] ?? null, books }) || 'none';
  return {
    trend,
    asOf,
    exponent: books.currency.exponent,
    unit: trend.kind === 'amount' ? books.currency.words : '',
    alt: `${trend.line.name} by month, ${trend.months[at]?.name ?? ''}: actual ${text(trend.actual)}, budget ${text(trend.budget)}, prior year ${text(trend.prior)}.`,
  };
}

/** One value of a line, with its unit; empty without one. */
export function measureText(
  { kind }: Pick<LineTrendDto, 'kind'>,
  { value, books }: { readonly value: number | null; readonly books: { readonly currency: Pick<Books['currency'], 'exponent'> } },
): string {
  if (value === null) return '';
  const cell = kind === 'amount' || kind === 'quantity' ? ({ kind, value } as const) : ({ kind: 'ratio', value, unit: kind } as const);
  return figureText(cell, { exponent: books.currency.exponent, unit: 'dollars', withUnit: true });
}

/** From the base of a variance to what is compared with it. */
export async function bridgeSection(sources: SectionSources, section: Of<'bridge'>, context: SectionContext): Promise<Filled> {
  const { books } = context;
  const explanation = await sources.explainer.explain(books.id, {
    view: section.view,
    line: section.line,
    comparison: section.comparison,
    span: section.span,
    by: section.by === 'line' ? 'line' : 'all',
    ...statementQuery(context),
  });
  const layout = explanation.layouts.find(({ by }) => by === section.by) ?? explanation.layouts[0];
  if (!layout) throw refused('There is nothing to bridge: both sides are equal.', 'line');
  const notes = layout.by === section.by ? [] : [`There is no layout by ${section.by}. The bridge is by ${layout.name.toLowerCase()}.`];
  const money = (value: number): string => figureText({ kind: 'amount', value }, { exponent: books.currency.exponent, unit: 'dollars' });
  const { compared, base, headings, line } = explanation;
  const bridge = {
    explanation,
    by: layout.by,
    isBudget: section.comparison === 'budget' || section.comparison === 'projection',
    exponent: books.currency.exponent,
    unit: books.currency.words,
    alt: `${line.name} from ${headings.base} ${money(base)} to ${headings.compared} ${money(compared)}, ${comparisonWords(section.comparison).toLowerCase()}.`,
  };
  return { blocks: [{ kind: 'bridge', bridge }], notes };
}

/** One figure of a view, as its statement writes it. @throws ProblemError 404 for a view, line or column that is not there */
export async function textFigure(sources: SectionSources, { view, line, column }: TextFigure, context: SectionContext): Promise<string> {
  const { books } = context;
  // a text may show a percentage that the view itself hides
  const { dto: dtoOf } = await sources.statements.evaluated(books.id, view, { ...statementQuery(context), shares: 'yes' });
  const dto = dtoOf();
  const row = dto.lines.findIndex(({ key }) => key === line);
  const at = dto.columns.findIndex(({ key }) => key === column);
  if (row < 0) throw notFound(`line "${line}" in ${dto.view.name}`);
  if (at < 0) throw notFound(`column "${column}" in ${dto.view.name}`);
  const { exponent, sign } = books.currency;
  const text = figureText(dto.cells[row]![at]!, { ...figureFormat(dto, at, { exponent, sign, isFormula: true }), withUnit: true });
  return text === '' ? 'none' : text;
}

/** Some lines of a view as a table of their own. @throws ProblemError 404 for lines that are not there */
export async function textTable(
  sources: SectionSources,
  { view, lines }: { readonly view: string; readonly lines: readonly string[] },
  context: SectionContext,
): Promise<ContentBlock> {
  const evaluated = await sources.statements.evaluated(context.books.id, view, statementQuery(context));
  const statement = exportedStatement(evaluated, { query: { open: '' }, logo: null });
  const chosen = statement.lines.filter(({ line }) => lines.includes(line.key));
  if (chosen.length === 0) throw notFound(`line ${lines.join(', ')} in ${capitalized(statement.dto.view.name)}`);
  return { kind: 'statement', statement: { ...statement, lines: chosen, title: [] } };
}
