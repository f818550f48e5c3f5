import { writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { type DuckDBConnection, DuckDBInstance } from '@duckdb/node-api';
import type { CompanyDto, CompanyListDto, ImportDto } from '@wise-margin/contract';
import { expect } from 'vitest';

import type { TestServer } from './server.ts';

export type LedgerFiles = { readonly accounts: string; readonly ledger: string };

/** A company of the server, imported when it has none of this name, and its files read by a general-purpose analytic SQL engine (DuckDB, from the npm registry). */
export async function loadBoth(
  server: TestServer,
  { name, files, startMonth }: { readonly name: string; readonly files: LedgerFiles; readonly startMonth: number },
): Promise<{ company: CompanyDto; sql: DuckDBConnection }> {
  const companies = await server.get<CompanyListDto>('/companies');
  const companyId = companies.find((each) => each.name === name)?.id ?? (await importCompany(server, { name, files, startMonth }));
  const sql = await (await DuckDBInstance.create(':memory:')).connect();
  for (const kind of ['accounts', 'ledger'] as const) writeFileSync(join(server.directory, `${name}-${kind}.csv`), files[kind]);
  await sql.run(`CREATE TABLE accounts AS SELECT * FROM read_csv('${join(server.directory, `${name}-accounts.csv`)}', all_varchar = true)`);
  await sql.run(`CREATE TABLE ledger AS SELECT *, CAST(round(coalesce(CAST(debit AS DECIMAL(18,2)), 0) * 100) - round(coalesce(CAST(credit AS DECIMAL(18,2)), 0) * 100) AS BIGINT) AS net,
    strftime(CAST(date AS DATE), '%Y-%m') AS month, year(CAST(date AS DATE)) + CASE WHEN ${startMonth} > 1 AND month(CAST(date AS DATE)) >= ${startMonth} THEN 1 ELSE 0 END AS fiscal_year
    FROM read_csv('${join(server.directory, `${name}-ledger.csv`)}', all_varchar = true) WHERE coalesce(state, '') <> 'draft'`);
  return { company: await server.get<CompanyDto>(`/companies/${companyId}`), sql };
}

async function importCompany(
  server: TestServer,
  { name, files, startMonth }: { readonly name: string; readonly files: LedgerFiles; readonly startMonth: number },
): Promise<number> {
  const { accounts, ledger } = files;
  const made = await server.upload(
    { name, currency: 'USD', startMonth: String(startMonth), hasAdjustmentPeriod: 'true' },
    { accounts, ledger },
  );
  expect(made.state).toBe('ready');
  return ((await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto).companyId!;
}

/** The first two columns of a query's answer, by the first. */
export async function rows(sql: DuckDBConnection, query: string): Promise<Map<string, number>> {
  const result = await sql.runAndReadAll(query);
  return new Map(result.getRows().map(([key, value]) => [String(key), Number(value)]));
}
