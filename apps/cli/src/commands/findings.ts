import { explanationQuerySchema, findingsQuerySchema, postingCheckQuerySchema, type VarianceExplanationDto } from '@wise-margin/contract';
import { minor, toDecimalText } from '@wise-margin/core';
import { findingStatusWords, plainTextOf } from '@wise-margin/presentation';
import { type Application, SUSPECT_HEADINGS, suspectRow } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

type Values = Readonly<Record<string, string | boolean | undefined>>;
const COMPARISONS: Readonly<Record<string, string>> = {
  budget: 'budget',
  'prior-year': 'priorYear',
  'prior-month': 'priorMonth',
  projection: 'projection',
};

/** The month asked for, else the last posted one. */
async function asOfMonth(application: Application, company: number, asked: string | boolean | undefined): Promise<string> {
  if (typeof asked === 'string') return asked;
  const { lastActual, calendar } = await application.booksCache.of(company);
  if (lastActual === null) throw new UsageError('nothing is posted yet');
  return calendar.periods[lastActual]!.key;
}
/** @throws UsageError for a comparison there is not */
function comparisonOf(asked: string | boolean | undefined): string {
  const found = asked === undefined ? 'budget' : COMPARISONS[String(asked)];
  if (found === undefined) throw new UsageError(`--compare is ${Object.keys(COMPARISONS).join(', ')}, not ${String(asked)}`);
  return found;
}

/** Variances past the materiality limits, each with the sentence that explains it. */
export async function listFindings(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const asOf = await asOfMonth(application, id, values['as-of']);
  const query = findingsQuerySchema.parse({ asOf, comparison: comparisonOf(values['compare']) });
  const { findings, asOfWords, against, missing, count } = await application.findingList.list(id, query);
  const { exponent } = (await application.booksCache.of(id)).currency;
  const money = (value: number) => toDecimalText(minor(value), exponent);
  const rows: string[][] = [];
  for (const [at, finding] of findings.entries()) {
    const { line, month, spans, status } = finding;
    const { span, compared, base, variance, percent, effect } = spans[0]!;
    const why = await application.explainer.explain(
      id,
      explanationQuerySchema.parse({ line, comparison: query.comparison, span, asOf: month }),
    );
    rows.push([
      String(at + 1),
      line,
      finding.name,
      month,
      span === 'month' ? 'month' : 'year to date',
      money(compared),
      money(base),
      money(variance),
      percent === null ? 'n/m' : (percent * 100).toFixed(1),
      money(effect),
      findingStatusWords(status),
      plainTextOf(why.proposal),
    ]);
  }
  return {
    title: `${name}\nFindings as of ${asOfWords}, against ${against.toLowerCase()}: ${missing ?? `${count}${count > findings.length ? `, the largest ${findings.length} listed` : ''}`}`,
    headings: ['rank', 'line', 'name', 'month', 'months', 'actual', 'base', 'variance', 'percent', 'effect', 'status', 'why'],
    rows,
    figures: new Set([0, 5, 6, 7, 8, 9]),
    json: { company: name, asOf, findings },
  };
}

/** Why an amount differs from another: the sentence, and its parts in one layout, by account unless another is asked for. */
export async function explainFigure(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const { line, column, view = 'income', by = 'account' } = values;
  if (typeof line !== 'string') throw new UsageError('explain needs --line, a key of the statement such as cost_lines.freight_in');
  const asOf = await asOfMonth(application, id, values['as-of']);
  const query = explanationQuerySchema.parse({ view, line, column, asOf, comparison: comparisonOf(values['compare']) });
  const explanation = await application.explainer.explain(id, query);
  const layout = layoutOf(explanation, String(by));
  const { exponent } = (await application.booksCache.of(id)).currency;
  const money = (value: number) => toDecimalText(minor(value), exponent);
  const { rest } = layout;
  return {
    title: `${name}\n${plainTextOf(explanation.proposal)}`,
    headings: [layout.name.toLowerCase(), explanation.headings.compared, explanation.headings.base, 'variance'],
    rows: [
      ...layout.parts.map((part) => [part.name, money(part.compared), money(part.base), money(part.amount)]),
      ...(rest.count > 0 ? [[`${rest.count} smaller parts`, '', '', money(rest.amount)]] : []),
      ['total', money(explanation.compared), money(explanation.base), money(layout.total)],
    ],
    figures: new Set([1, 2, 3]),
    json: { company: name, ...explanation },
  };
}

/** @throws UsageError naming the layouts there are */
function layoutOf({ layouts }: VarianceExplanationDto, by: string): VarianceExplanationDto['layouts'][number] {
  const found = layouts.find((each) => each.by === by);
  if (!found) throw new UsageError(`--by is one of ${layouts.map((each) => each.by).join(', ')}, not ${by}`);
  return found;
}

/**
 * Pairs of figures that must agree.
 * @throws RefusedError naming the pairs that do not
 */
export async function checkTieOuts(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const { tieOuts, asOfWords, failing } = await application.tieOuts.list(id, await asOfMonth(application, id, values['as-of']));
  const { exponent } = (await application.booksCache.of(id)).currency;
  const money = (value: number) => toDecimalText(minor(value), exponent);
  if (failing > 0) {
    const words = tieOuts
      .filter(({ agrees }) => !agrees)
      .map(
        (tie) =>
          `${tie.name}: ${money(tie.first.amount)} and ${money(tie.second.amount)}, difference ${money(tie.difference)}. ${tie.where}`,
      );
    throw new RefusedError(`${failing} of ${tieOuts.length} tie-outs fail as of ${asOfWords}.\n${words.join('\n')}`);
  }
  return {
    title: `${name}\nTie-outs as of ${asOfWords}: all ${tieOuts.length} agree`,
    headings: ['group', 'tie-out', 'first', 'amount', 'second', 'amount', 'difference'],
    rows: tieOuts.map((tie) => [
      tie.group,
      tie.name,
      tie.first.words,
      money(tie.first.amount),
      tie.second.words,
      money(tie.second.amount),
      money(tie.difference),
    ]),
    figures: new Set([3, 5, 6]),
    json: { company: name, tieOuts },
  };
}

/** Unusual postings, ranked. */
export async function checkPostings(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const { from, to } = values;
  const { suspects, count, lines } = await application.postingChecks.list(id, postingCheckQuerySchema.parse({ from, to, limit: 1000 }));
  const { exponent } = (await application.booksCache.of(id)).currency;
  return {
    title: `${name}\n${count} unusual postings among ${lines} lines${count > suspects.length ? `; the first ${suspects.length} are listed` : ''}`,
    headings: SUSPECT_HEADINGS,
    rows: suspects.map((suspect) => suspectRow(suspect, exponent)),
    figures: new Set([0, 4]),
    json: { company: name, suspects },
  };
}
