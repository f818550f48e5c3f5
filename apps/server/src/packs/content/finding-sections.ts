import type { FindingDto } from '@wise-margin/contract';
import { type Comparison, periodAt, type Section } from '@wise-margin/core';
import { comparisonWords, figureText, findingStatusWords, plainTextOf } from '@wise-margin/presentation';

import { refused } from '../../http/problem.ts';
import { type ContentBlock, item, paragraph, run } from './content.ts';
import { monthKey, type SectionContext, type SectionSources } from './section-context.ts';
import type { Filled } from './statement-sections.ts';

type Of<Kind extends Section['kind']> = Extract<Section, { readonly kind: Kind }>;
const VIEW = 'income';
/** Findings without a comment that are printed with their drafted sentence; the smaller ones are named together. */
const MOST_DRAFTED = 8;

/** Variances past their limits, the largest effect first, each with its comment. */
export async function findingsSection(sources: SectionSources, section: Of<'findings'>, context: SectionContext): Promise<Filled> {
  const { comparison } = section;
  const list = await sources.findingList.list(context.books.id, { view: VIEW, asOf: monthKey(context), comparison });
  if (list.missing !== null) throw refused(list.missing);
  const findings = list.findings.filter(({ hasComment }) => hasComment || !section.onlyCommented);
  const notes = Object.keys(context.slice).length > 0 ? ['Findings are of the whole company.'] : [];
  if (findings.length < list.count && !section.onlyCommented) notes.push(`${list.count} findings; the first ${findings.length} are shown.`);
  if (findings.length === 0)
    return { blocks: [paragraph(section.onlyCommented ? 'No finding has a comment.' : 'No variance exceeds its threshold.')], notes };
  const blocks: ContentBlock[] = [];
  let drafted = 0;
  const left: FindingDto[] = [];
  for (const finding of findings) {
    if (!finding.hasComment && (drafted += 1) > MOST_DRAFTED) left.push(finding);
    else blocks.push(...(await findingBlocks(sources, { finding, comparison, context })));
  }
  if (left.length > 0)
    blocks.push(paragraph(`${left.length} smaller without a comment: ${left.map(({ name }) => name).join(', ')}.`, 'soft'));
  return { blocks, notes };
}

async function findingBlocks(
  { explainer, findingRecords }: SectionSources,
  { finding, comparison, context }: { readonly finding: FindingDto; readonly comparison: Comparison; readonly context: SectionContext },
): Promise<ContentBlock[]> {
  const { books } = context;
  const [first] = finding.spans;
  const { exponent } = books.currency;
  const money = (value: number): string => figureText({ kind: 'amount', value }, { exponent, unit: 'dollars' });
  const { span, compared, base, variance, percent } = first!;
  const share =
    percent === null
      ? ''
      : `, ${figureText({ kind: 'ratio', unit: 'percent', value: percent }, { exponent, unit: 'dollars', withUnit: true })}`;
  const months = span === 'month' ? finding.monthName : `year to date, ${finding.monthName}`;
  const head: ContentBlock = {
    kind: 'paragraph',
    style: 'subheading',
    label: '',
    depth: 0,
    runs: [run(`${finding.name}, ${months}`, { bold: true })],
  };
  const figures = `Actual ${money(compared)}; ${comparisonWords(comparison).toLowerCase()} ${money(base)}; variance ${money(variance)}${share} ${finding.favor ?? ''}`;
  const status = [findingStatusWords(finding.status), finding.owner].filter((text) => text !== '');
  const words = paragraph(`${figures.trim()}. ${status.join(', ')}.`, 'soft');
  const key = { companyId: books.id, view: VIEW, line: finding.line, comparison, month: finding.month };
  if (!finding.hasComment) {
    const { proposal } = await explainer.explain(books.id, { ...key, span, asOf: finding.month, filter: {}, by: 'all' });
    return [head, words, paragraph(`Draft: ${plainTextOf(proposal)}`)];
  }
  const explained = await explainer.explained(books.id, { ...key, span, asOf: finding.month, filter: {}, by: 'all' });
  const { comment } = await findingRecords.of(key, explained.valueOf);
  return [head, words, paragraph(comment ? plainTextOf(comment) : '')];
}

/** What the checks of the year's budget found, with the explanations. */
export async function budgetChecksSection(sources: SectionSources, context: SectionContext): Promise<Filled> {
  const { books, date } = context;
  const { year } = periodAt(books.calendar, date.asOf);
  const budgets = (await sources.budgetStore.list(books.id)).filter((budget) => budget.year === year);
  const budget = budgets.find(({ state }) => state === 'approved') ?? budgets[0];
  if (!budget) throw refused(`There is no budget for FY${year}. Create one on Budgets.`);
  const { items, open } = await sources.budgetReview.checks({ company: books.id, budget: budget.id });
  const head = paragraph(
    items.length === 0
      ? `FY${year} ${budget.name}: the checks found nothing.`
      : `FY${year} ${budget.name}: ${items.length} ${items.length === 1 ? 'item' : 'items'}, ${open} open.`,
  );
  return {
    blocks: [
      head,
      ...items.map(({ account, name, words, answer }) => item(`${account} ${name}: ${words}${answer ? ` Explained: ${answer.text}` : ''}`)),
    ],
    notes: [],
  };
}
