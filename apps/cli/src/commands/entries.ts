import {
  type EntryEffectDto,
  type EntryFilterDto,
  entryListQuerySchema,
  type ListedLineDto,
  reclassificationSchema,
} from '@wise-margin/contract';
import { type Minor, parseTypedAmount, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

/** What entries are looked for, as on the screen. */
export type EntriesOptions = {
  readonly company?: string | undefined;
  readonly accounts?: string | undefined;
  readonly from?: string | undefined;
  readonly to?: string | undefined;
  readonly find?: string | undefined;
  readonly department?: string | undefined;
  readonly least?: string | undefined;
  readonly most?: string | undefined;
};
export type ReclassifyOptions = EntriesOptions & {
  readonly 'to-account'?: string | undefined;
  readonly 'to-department'?: string | undefined;
  readonly 'to-date'?: string | undefined;
  readonly 'post-in'?: string | undefined;
  readonly reason?: string | undefined;
  readonly apply?: boolean | undefined;
};

function filterOf(options: EntriesOptions, exponent: number): EntryFilterDto {
  const { accounts, from, to, find, department } = options;
  const bound = (name: 'least' | 'most'): number | undefined => {
    const text = options[name];
    if (text === undefined) return undefined;
    const parsed = parseTypedAmount(text, exponent);
    if (!parsed.ok) throw new UsageError(`--${name} is an amount such as 1250.00, not "${text}"`);
    return parsed.value;
  };
  return entryListQuerySchema.parse({
    accounts,
    from,
    to,
    find,
    least: bound('least'),
    most: bound('most'),
    filter: department === undefined ? {} : { department: [department === 'none' ? '' : department] },
    order: 'ascending',
  });
}

async function found(application: Application, options: EntriesOptions) {
  const company = await chosenCompany(application, options.company);
  const { currency, dimensions } = await application.booksCache.of(company.id);
  const lines: ListedLineDto[] = [];
  for await (const part of application.entryList.all(company.id, filterOf(options, currency.exponent))) lines.push(...part);
  return { company, currency, dimensions: dimensions.map(({ name }) => name), lines };
}

/** Every line of the entries that match, oldest first. */
export async function listEntries(application: Application, options: EntriesOptions): Promise<Answer> {
  const { company, currency, dimensions, lines } = await found(application, options);
  const amount = (value: number): string => (value <= 0 ? '' : toDecimalText(value as Minor, currency.exponent));
  const headings = ['entry', 'date', 'account', 'name', 'debit', 'credit', 'party', 'document', 'memo', 'source', 'state', ...dimensions];
  const rows = lines.map((line) => [
    line.entry,
    line.date,
    line.account,
    line.accountName,
    amount(line.amount),
    amount(-line.amount),
    line.party,
    line.document,
    line.memo,
    line.source,
    line.state,
    ...dimensions.map((name) => line.dimensions[name] ?? ''),
  ]);
  return {
    title: `${company.name}\nEntries, ${lines.length.toLocaleString('en-US')} lines, ${currency.words}`,
    headings,
    rows,
    figures: new Set([4, 5]),
    json: {
      company: company.name,
      currency: currency.code,
      lines: rows.map((row) => Object.fromEntries(headings.map((name, at) => [name, row[at]]))),
    },
  };
}

/** Moves the lines that match; without `--apply` it only tells what that would do. */
export async function reclassifyLines(application: Application, options: ReclassifyOptions): Promise<Answer> {
  const { 'to-account': account, 'to-department': department, 'to-date': date, 'post-in': postIn, reason = '', apply = false } = options;
  const { company, currency, lines } = await found(application, options);
  if (lines.length === 0) throw new UsageError('no line matches; name the lines by --accounts, --from, --to, --find or --department');
  const request = {
    lines: lines.map(({ lineId }) => lineId),
    ...(account === undefined ? {} : { account }),
    ...(date === undefined ? {} : { date }),
    ...(postIn === undefined ? {} : { postIn }),
    ...(department === undefined ? {} : { dimensions: { department: department === 'none' ? '' : department } }),
  };
  const effect = await application.entryChanges.previewReclassification(company.id, request, application.actor);
  if (effect.closed && !apply)
    throw new RefusedError(
      `${effect.closed.periods.join(', ')} is closed. ${effect.closed.postIn === null ? 'Reopen a period.' : `Move the sums with --post-in ${effect.closed.postIn}.`}`,
    );
  if (apply) await application.entryChanges.reclassify(company.id, reclassificationSchema.parse({ ...request, reason }), application.actor);
  return effectAnswer(
    `${company.name}\n${apply ? 'Reclassified' : 'Preview, nothing was changed'}: ${lines.length.toLocaleString('en-US')} ${lines.length === 1 ? 'line' : 'lines'}`,
    effect,
    currency.exponent,
  );
}

function effectAnswer(title: string, effect: EntryEffectDto, exponent: number): Answer {
  const text = (amount: number): string => toDecimalText(amount as Minor, exponent);
  return {
    title,
    headings: ['statement', 'line', 'month', 'change'],
    rows: [
      ...effect.accounts.map(({ number, name, month, change }) => ['Accounts', `${number} ${name}`, month, text(change)]),
      ...effect.statementLines.map(({ statement, line, month, change }) => [statement, line, month, text(change)]),
    ],
    figures: new Set([3]),
    json: effect,
  };
}
