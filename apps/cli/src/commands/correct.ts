import { correctionSchema } from '@wise-margin/contract';
import { type Minor, parseTypedAmount, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type CorrectOptions = {
  readonly company?: string | undefined;
  readonly entry?: string | undefined;
  readonly amount?: string | undefined;
  readonly date?: string | undefined;
  readonly line?: string | undefined;
  readonly 'to-account'?: string | undefined;
  readonly 'post-in'?: string | undefined;
  readonly reason?: string | undefined;
  readonly apply?: boolean | undefined;
};

/**
 * Corrects an entry by its number: the amount of a two-sided entry, its date, or the account of a line. Without `--apply`
 * it only tells what that would do.
 */
export async function correctEntry(application: Application, options: CorrectOptions): Promise<Answer> {
  const { entry: number, amount, date, line, 'to-account': account, 'post-in': postIn, reason = '', apply = false } = options;
  if (number === undefined) throw new UsageError('correct needs --entry NUMBER');
  if (amount === undefined && date === undefined && account === undefined)
    throw new UsageError('correct needs --amount 2214.30, --date 2026-07-29, or --line 1 --to-account 6130');
  const company = await chosenCompany(application, options.company);
  const { currency } = await application.booksCache.of(company.id);
  const [found] = await application.database.select<{ id: number }>('SELECT id FROM entries WHERE company_id = $1 AND number = $2', [
    company.id,
    number,
  ]);
  if (!found) throw new RefusedError(`There is no entry ${number}.`);
  const entry = await application.ledger.entry(company.id, found.id);
  const lines = entry.lines.map(({ account: of, debit, credit, memo, party, document, due, dimensions }) => ({
    account: of,
    amount: (debit ?? 0) - (credit ?? 0),
    memo,
    party,
    document,
    due,
    dimensions,
  }));
  if (amount !== undefined) {
    const parsed = parseTypedAmount(amount, currency.exponent);
    if (!parsed.ok || parsed.value <= 0) throw new UsageError(`--amount is an amount above zero such as 2214.30, not "${amount}"`);
    if (lines.length !== 2)
      throw new RefusedError(
        `Entry ${number} has ${lines.length} lines. --amount corrects entries of two lines; correct this one on the screen.`,
      );
    for (const each of lines) each.amount = Math.sign(each.amount) * parsed.value;
  }
  if (account !== undefined) {
    const at = Number(line ?? NaN) - 1;
    if (!lines[at]) throw new UsageError(`--line is a line of the entry from 1 to ${lines.length}`);
    lines[at].account = account;
  }
  const content = { date: date ?? entry.date, source: entry.source, kind: entry.kind, state: entry.state, lines };
  const request = { version: entry.version, content, ...(postIn === undefined ? {} : { postIn }) };
  const place = { company: company.id, entry: found.id };
  const { reason: _, ...asked } = correctionSchema.parse({ ...request, reason: reason.length < 3 && !apply ? 'Preview' : reason });
  const effect = await application.entryChanges.previewCorrection(place, asked, application.actor);
  if (effect.closed && !apply)
    throw new RefusedError(
      `${effect.closed.periods.join(', ')} is closed. ${effect.closed.postIn === null ? 'Reopen a period.' : `Post a correcting entry with --post-in ${effect.closed.postIn}.`}`,
    );
  if (apply) await application.entryChanges.correct(place, { ...asked, reason }, application.actor);
  const text = (value: number): string => toDecimalText(value as Minor, currency.exponent);
  return {
    title: `${company.name}\n${apply ? 'Corrected' : 'Preview, nothing was changed'}: entry ${number}`,
    headings: ['statement', 'line', 'month', 'change'],
    rows: [
      ...effect.accounts.map(({ number: of, name, month, change }) => ['Accounts', `${of} ${name}`, month, text(change)]),
      ...effect.statementLines.map(({ statement, line: of, month, change }) => [statement, of, month, text(change)]),
    ],
    figures: new Set([3]),
    json: effect,
  };
}
