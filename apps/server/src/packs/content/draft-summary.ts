import type { FindingDto } from '@wise-margin/contract';
import type { RichText, TextFigure, TextInline } from '@wise-margin/core';
import { plainTextOf } from '@wise-margin/presentation';

import { monthKey, type SectionContext, type SectionSources, statementQuery } from './section-context.ts';

const VIEW = 'income';
/** Causes that a summary names. */
const MOST_CAUSES = 3;
/** A finding is among the causes that matter from this part of the largest one on. */
const MATTERS = 0.25;

type Sentence = readonly (string | TextFigure)[];
const figure = (line: string, column: string, view = VIEW): TextFigure => ({ view, line, column });
const inlines = (sentences: readonly Sentence[]): TextInline[] =>
  sentences.flatMap((sentence, at) =>
    [...(at === 0 ? [] : [' ']), ...sentence].map((part): TextInline =>
      typeof part === 'string' ? { type: 'text', text: part } : { type: 'figure', attrs: part },
    ),
  );

/**
 * The month in three to six sentences: the result against budget and prior year, the causes that matter, cash, and the
 * year as projected. Its figures are live; what the statement does not have, such as a budget, is not mentioned.
 */
export async function draftSummary(sources: SectionSources, context: SectionContext): Promise<RichText> {
  const { books } = context;
  const { grid } = await sources.statements.evaluated(books.id, VIEW, statementQuery(context));
  const has = (line: string, column: string): boolean => {
    const at = grid.plan.columns.findIndex(({ key }) => key === column);
    const row = grid.plan.lines.findIndex(({ key }) => key === line);
    return at >= 0 && row >= 0 && grid.cells[row]![at]!.kind === 'amount';
  };
  const against = (line: string): Sentence => [
    ...(has(line, 'month.budget')
      ? [', a variance of ', figure(line, 'month.budget_difference'), ' to the budget of ', figure(line, 'month.budget')]
      : []),
    ...(has(line, 'month.prior')
      ? [has(line, 'month.budget') ? ' and a change of ' : ', a change of ', figure(line, 'month.prior_difference'), ' from the prior year']
      : []),
  ];
  const result: Sentence[] = [
    ['Operating income was ', figure('operating_income', 'month.actual'), ...against('operating_income'), '.'],
    ['Revenue was ', figure('revenue', 'month.actual'), ...against('revenue'), '.'],
  ];
  const causes = await causeSentences(sources, context);
  const isWhole = Object.keys(context.slice).length === 0;
  const cash: Sentence[] = isWhole ? [['Cash was ', figure('cash_after', 'month.actual', 'cash-flow'), ' at the end of the month.']] : [];
  const outlook: Sentence[] = has('operating_income', 'month.budget')
    ? [
        [
          'The year is projected at ',
          figure('operating_income', 'year.projection', 'outlook'),
          ' of operating income, against a budget of ',
          figure('operating_income', 'year.budget', 'outlook'),
          '.',
        ],
      ]
    : [];
  const paragraphs = [result, causes, [...cash, ...outlook]].filter((sentences) => sentences.length > 0);
  return { type: 'doc', content: paragraphs.map((sentences) => ({ type: 'paragraph', content: inlines(sentences) })) };
}

/** The findings of the month that matter most, each with its strongest cause. */
async function causeSentences(sources: SectionSources, context: SectionContext): Promise<Sentence[]> {
  if (Object.keys(context.slice).length > 0) return [];
  const { books } = context;
  const asOf = monthKey(context);
  const list = await sources.findingList.list(books.id, { view: VIEW, asOf, comparison: 'budget' });
  if (list.missing !== null) return [];
  const effectOf = ({ spans }: FindingDto): number => Math.abs(spans[0]!.effect);
  const ofMonth = list.findings.filter((finding) => !finding.isEarlier && effectOf(finding) > 0 && !finding.isSubtotal);
  const least = MATTERS * Math.max(0, ...ofMonth.map(effectOf));
  const sentences: Sentence[] = [];
  for (const finding of ofMonth.filter((each) => effectOf(each) >= least).slice(0, MOST_CAUSES)) {
    const { span } = finding.spans[0]!;
    const why = await sources.explainer.explain(books.id, {
      ...{ view: VIEW, line: finding.line, comparison: 'budget', span, asOf: finding.month, filter: {}, by: 'all' },
    });
    const column = span === 'month' ? 'month.budget_difference' : 'ytd.budget_difference';
    const cause = why.causes[0] ? ` ${plainTextOf(why.causes[0].sentence)}` : '';
    sentences.push([
      `${finding.name} ${span === 'month' ? 'of the month' : 'of the year to date'} differs from budget by `,
      figure(finding.line, column),
      `.${cause}`,
    ]);
  }
  return sentences;
}
