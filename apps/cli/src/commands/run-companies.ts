import { randomUUID } from 'node:crypto';
import { writeFileSync } from 'node:fs';

import { companyRunRequestSchema, type CompanyRunResult } from '@wise-margin/contract';
import { toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

type Values = Readonly<Record<string, string | boolean | undefined>>;
const text = (values: Values, name: string): string | undefined => {
  const value = values[name];
  return typeof value === 'string' ? value : undefined;
};
const listOf = (typed: string): string[] =>
  typed
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');

/**
 * Issues a pack for several companies, in one run; `--file` writes the files of all as ZIP, `--to` mails each.
 * @throws RefusedError naming the companies that failed, after the others were issued
 */
export async function runCompanies(application: Application, values: Values): Promise<Answer> {
  const [pack, month] = [text(values, 'pack'), text(values, 'as-of')];
  if (pack === undefined) throw new UsageError('run-companies needs --pack, such as --pack monthly-review');
  if (month === undefined) throw new UsageError('run-companies needs --as-of, such as --as-of 2026-10');
  const named = text(values, 'companies');
  const companies =
    named === undefined
      ? (await application.database.models.companies.findAll({ order: [['id', 'ASC']] })).map(({ id }) => id)
      : await Promise.all(listOf(named).map(async (name) => (await chosenCompany(application, name)).id));
  const to = text(values, 'to');
  const formats = listOf(text(values, 'attach') ?? 'pdf');
  const request = companyRunRequestSchema.parse({
    key: randomUUID(),
    pack,
    month,
    companies,
    onlyClear: values['only-clear'] === true,
    mail:
      to === undefined
        ? null
        : { to: listOf(to), lists: [], subject: text(values, 'subject') ?? '{company}: {pack}, {month}', text: '{link}', formats },
  });
  const { id } = await application.companyRuns.start(request);
  await application.companyRuns.settled(id);
  await application.mailSender.sendDue();
  const run = await application.companyRuns.of(id);
  const file = text(values, 'file');
  if (file !== undefined && run.results.some(({ issue }) => issue !== null))
    writeFileSync(file, (await application.companyRuns.zip(id, request.mail?.formats[0] ?? 'pdf')).content);
  const failed = run.results.filter(({ state }) => state === 'failed');
  if (failed.length > 0)
    throw new RefusedError(
      `${failed.length} of ${run.results.length} companies failed; the others were run.\n${run.results.map(resultLine).join('\n')}`,
    );
  return {
    title: `${run.packName}, ${month}, ${run.results.length} companies`,
    headings: ['company', 'state', 'currency', 'revenue', 'operating income', 'findings', 'checks', 'note'],
    rows: run.results.map(({ name, state, note, summary }) => [
      ...[name, state, summary?.currency ?? ''],
      ...[amount(summary, 'revenue'), amount(summary, 'operatingIncome'), String(summary?.findings ?? ''), String(summary?.checks ?? '')],
      note,
    ]),
    figures: new Set([3, 4, 5, 6]),
    json: run,
  };
}

const resultLine = ({ name, state, note }: CompanyRunResult): string => `${name}: ${state}. ${note}`;

function amount(summary: CompanyRunResult['summary'], of: 'revenue' | 'operatingIncome'): string {
  const value = summary?.[of] ?? null;
  return summary === null || value === null ? '' : toDecimalText(value as Parameters<typeof toDecimalText>[0], summary.exponent);
}
