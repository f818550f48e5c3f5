import { existsSync } from 'node:fs';
import { basename } from 'node:path';

import { newCompanySchema } from '@wise-margin/contract';
import { type Minor, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type ImportOptions = {
  readonly accounts?: string | undefined;
  readonly ledger?: string | undefined;
  readonly company?: string | undefined;
  readonly currency?: string | undefined;
  readonly 'year-starts'?: string | undefined;
  readonly 'adjustment-period'?: boolean | undefined;
};

/** Brings files in: checks them, and posts them when every row is good. @throws RefusedError listing every bad row */
export async function importFiles(application: Application, options: ImportOptions): Promise<Answer> {
  const { accounts, ledger, company } = options;
  if (!accounts && !ledger) throw new UsageError('import needs --accounts FILE, --ledger FILE, or both');
  const file = (path: string | undefined) => {
    if (path === undefined) return null;
    if (!existsSync(path)) throw new RefusedError(`There is no file ${path}`);
    return { path, name: basename(path), move: false };
  };
  const { imports, actor } = application;
  const id = await imports.submit({
    target: await target(application, options, company),
    accounts: file(accounts),
    ledger: file(ledger),
    actor,
  });
  await imports.settled(id);
  const checked = await imports.describe(id);
  if (checked.state === 'failed') throw new RefusedError(checked.failure ?? 'The check failed');
  if (checked.state === 'refused') {
    const rows: string[] = [];
    for await (const issue of imports.issues(id))
      rows.push(`${issue.file} row ${issue.row}, ${issue.column || 'row'}: "${issue.text}": ${issue.reason}. ${issue.fix}.`);
    await imports.discard(id, application.actor);
    throw new RefusedError(
      `${rows.join('\n')}\nNothing was posted: ${rows.length} ${rows.length === 1 ? 'error' : 'errors'}. Fix the file and import it again.`,
    );
  }
  await imports.post(id, actor);
  const { preview, company: name, exponent } = checked;
  const facts = [
    ['company', name],
    ['entries', String(preview!.entries)],
    ['lines', String(preview!.rows)],
    ['from', preview!.firstPeriod ?? ''],
    ['to', preview!.lastPeriod ?? ''],
    ['debits', toDecimalText(preview!.debits as Minor, exponent)],
    ['credits', toDecimalText(preview!.credits as Minor, exponent)],
    ['new accounts', String(preview!.newAccounts.length)],
  ];
  return {
    title: `Import ${id} posted`,
    headings: ['fact', 'value'],
    rows: facts,
    figures: new Set([1]),
    json: { import: id, ...Object.fromEntries(facts) },
  };
}

async function target(application: Application, options: ImportOptions, name: string | undefined) {
  if (name === undefined) throw new UsageError('import needs --company NAME');
  const held = await application.database.models.companies.findAll();
  const found = held.find((row) => row.name.toLowerCase() === name.toLowerCase());
  if (found) return { companyId: found.id };
  if (options.currency === undefined || options['year-starts'] === undefined)
    throw new UsageError(`${name} is new: add --currency USD and --year-starts 4 (the month its fiscal year starts)`);
  return {
    newCompany: newCompanySchema.parse({
      name,
      currency: options.currency,
      startMonth: options['year-starts'],
      hasAdjustmentPeriod: options['adjustment-period'] ?? false,
    }),
  };
}
