import { minor, toDecimalText } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

type Values = Readonly<Record<string, string | boolean | undefined>>;

/**
 * A cash account against its bank statements as of a day; with `--file` a statement is imported first, with `--apply` what
 * is proven by a reference, a name or words is cleared.
 * @throws RefusedError where lines of the bank are not in the ledger, or the balances do not agree
 */
export async function reconcileBank(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const { actor, reconciliation, clearings: clearing } = application;
  const account = typeof values['account'] === 'string' ? values['account'] : (await reconciliation.describe(id, {})).account;
  if (typeof values['file'] === 'string') await importStatement(application, id, { account, path: values['file'] });
  if (values['apply'] === true) {
    const { proposals } = await reconciliation.describe(id, { account });
    const clearings = proposals.filter(({ isSure }) => isSure);
    if (clearings.length > 0) await clearing.clear(id, { account, clearings }, actor);
  }
  const of = await reconciliation.describe(id, { account, asOf: values['as-of'] as string | undefined });
  const { figures } = of;
  if (figures === null) throw new UsageError(`no statement of ${account} reaches ${dayWords(of.asOf)}`);
  const { exponent } = (await application.booksCache.of(id)).currency;
  const money = (value: number) => toDecimalText(minor(value), exponent);
  // before anything is matched, nobody can say what is outstanding
  const unmatched = [
    ['Balance on the statement', '', money(figures.bankBalance)],
    ...of.unrecorded.map((line) => ['Bank line not yet matched', `${line.date} ${line.text}`, money(line.amount)]),
    ['Balance in the ledger', '', money(figures.ledgerBalance)],
    ...of.outstanding.map((line) => ['Ledger line not yet matched', `${line.date} ${line.entry} ${line.memo}`, money(line.amount)]),
  ];
  const matched = [
    ['Balance on the statement', '', money(figures.bankBalance)],
    ...of.outstanding.map((line) => [
      line.amount > 0 ? 'Deposit in transit' : 'Outstanding',
      `${line.date} ${line.entry} ${line.memo}`,
      money(line.amount),
    ]),
    ['Adjusted bank balance', '', money(figures.adjustedBank)],
    ['Balance in the ledger', '', money(figures.ledgerBalance)],
    ...of.unrecorded.map((line) => ['Not in the ledger', `${line.date} ${line.text}`, money(line.amount)]),
    ['Adjusted ledger balance', '', money(figures.adjustedLedger)],
    ['Difference', '', money(figures.difference)],
  ];
  const rows = of.clearedCount === 0 ? unmatched : matched;
  if (figures.difference !== 0 || figures.unrecorded.count > 0)
    throw new RefusedError(
      `${account} ${of.accountName} is not reconciled on ${dayWords(of.asOf)}.\n${rows.map((row) => row.filter(Boolean).join(': ')).join('\n')}`,
    );
  return {
    title: `${name}\n${account} ${of.accountName} is reconciled on ${dayWords(of.asOf)}`,
    headings: ['line', 'detail', 'amount'],
    rows,
    figures: new Set([2]),
    json: { company: name, account, asOf: of.asOf, figures, outstanding: of.outstanding, unrecorded: of.unrecorded },
  };
}

async function importStatement(
  application: Application,
  company: number,
  { account, path }: { readonly account: string; readonly path: string },
): Promise<void> {
  const upload = { path, name: path.split('/').at(-1)!, actor: application.actor };
  const look = await application.statementImport.take(company, { account }, upload);
  if (look.kind !== 'preview') return;
  if (look.preview.faults.length > 0) throw new RefusedError(`Nothing was imported. ${look.preview.faults.join('\n')}`);
  await application.statementImport.take(company, { account, fingerprint: look.preview.fingerprint }, upload);
}
