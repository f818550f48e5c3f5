import { writeFileSync } from 'node:fs';

import type { ImportDto } from '@wise-margin/contract';
import { type Account, type AccountClass, currency, type ImportIssue, minor, type Polarity, readAccountsFile } from '@wise-margin/core';

import { type Database, openDatabase } from '../../database/database.ts';
import { type InspectedFile, inspectFile } from '../../formats/inspect-file.ts';
import { BrokenCsvError, readCsv } from '../../formats/read-csv.ts';
import type { CheckJob, CheckResult, NumberBase, StagedSetup } from './check-job.ts';
import { type KnownRows, LedgerStager } from './ledger-stager.ts';
import { fingerprints } from './seal.ts';
import { LineWriter, stagedPath, StagingWriter } from './staging.ts';

const MOST_ACCOUNT_ROWS = 200_000;

/**
 * Reads the files of an import in streams, checks every row, and stages what is good. Writes nothing
 * to the database. Issues go to the staging folder, all of them.
 * @param onProgress rows read so far
 */
export async function checkImport(job: CheckJob, onProgress: (rowsRead: number) => void): Promise<CheckResult> {
  const database = await openDatabase(job.dataDirectory);
  const issues = new LineWriter(stagedPath(job.directory, 'issues.ndjson'));
  const onIssue = (issue: ImportIssue) => issues.add(issue);
  const staging = await StagingWriter.open(stagedPath(job.directory, 'staged.sqlite'));
  try {
    const known = await knownRows(database, job);
    const files: ImportDto['files'] = [];
    const notices: string[] = [];
    const inspect = async (kind: 'accounts' | 'ledger'): Promise<InspectedFile | null> => {
      const found = await inspectFile(stagedPath(job.directory, `${kind}.csv`));
      const inspected = found.strayBytes && job.choices.encoding ? { ...found, encoding: job.choices.encoding } : found;
      files.push({
        kind,
        name: job.fileNames[kind] ?? '',
        bytes: inspected.bytes,
        encoding: inspected.encoding,
        delimiter: inspected.delimiter,
        sha256: inspected.sha256,
      });
      const whole = { file: kind, row: 0, column: '', text: job.fileNames[kind] ?? '' } as const;
      if (inspected.bytes === 0) onIssue({ ...whole, code: 'emptyFile' });
      else if (inspected.notText !== null) onIssue({ ...whole, code: 'notText', details: { found: inspected.notText } });
      else {
        if (inspected.strayBytes !== null && job.choices.encoding === undefined) {
          const { count, rows } = inspected.strayBytes;
          onIssue({ ...whole, row: rows[0] ?? 0, code: 'strayBytes', details: { count, rows: rowsWords(rows, count) } });
        }
        if (inspected.encoding !== 'utf-8')
          notices.push(
            `The ${kind} file is read as ${inspected.encoding === 'windows-1252' ? 'Latin-1' : 'UTF-16'}. Check names with accents.`,
          );
        if (inspected.delimiter !== ',')
          notices.push(`The ${kind} file has ${inspected.delimiter === ';' ? 'semicolons' : 'tabs'} between its columns.`);
        return inspected;
      }
      return null;
    };

    const accountsFile = job.accountsFile ? await inspect('accounts') : null;
    const fromFile = accountsFile ? await readAccounts(stagedPath(job.directory, 'accounts.csv'), accountsFile, { known, onIssue }) : [];
    const changed = mergeAccounts(known, fromFile);
    const ledgerFile = job.ledgerFile ? await inspect('ledger') : null;
    const repeatedAs = ledgerFile ? await postedBefore(database, job, ledgerFile.sha256) : null;
    if (repeatedAs) {
      onIssue({
        file: 'ledger',
        row: 0,
        column: '',
        text: job.fileNames.ledger ?? '',
        code: 'sameFile',
        details: { importId: repeatedAs.id, date: repeatedAs.posted_at.slice(0, 10) },
      });
    }
    const stager = new LedgerStager({ job, known, staging, onIssue });
    if (ledgerFile && !repeatedAs) {
      try {
        const take = (cells: string[], row: number): void => {
          stager.push(cells, row);
          if (row % 20_000 === 0) onProgress(row);
        };
        const pace = async () => {
          if (staging.isBehind) await staging.settled();
        };
        await readCsv(stagedPath(job.directory, 'ledger.csv'), { ...ledgerFile, pace }, take);
      } catch (error) {
        if (!(error instanceof BrokenCsvError)) throw error;
        onIssue({ file: 'ledger', row: error.row, column: '', text: '', code: error.code });
      }
      stager.finish();
      await reportEntriesHeld(database, job, { entryRows: stager.entryRows, onIssue });
    }
    const staged = stager.summary();
    const years = newYears(known, staged.firstYear, staged.lastYear);
    const setup: StagedSetup = {
      years,
      dimensions: staged.dimensions.filter((name) => !known.dimensions.includes(name)),
      accounts: known.newAccounts,
      changedAccounts: changed,
      combinations: staged.newCombinations,
      parties: staged.newParties,
    };
    writeFileSync(stagedPath(job.directory, 'setup.json'), JSON.stringify(setup));
    const preview: ImportDto['preview'] = {
      rows: staged.rows,
      entries: staged.entries,
      drafts: staged.drafts,
      firstPeriod: staged.firstDate,
      lastPeriod: staged.lastDate,
      debits: minor(staged.debits),
      credits: minor(staged.credits),
      newAccounts: known.newAccounts.map(({ number, name, class: of }) => ({ number, name, class: of })),
      changedAccounts: changed.length,
      newYears: [...years],
      newDimensionValues: staged.newDimensionValues,
      newParties: staged.newParties.length,
      notices,
    };
    await staging.close();
    const sealed = await fingerprints(job.directory);
    const seal = { ...sealed!, entries: staged.entries, lines: staged.lines };
    return { files, preview, base: known.base, rowsRead: staged.rows, issueCount: issues.count, seal };
  } finally {
    issues.close();
    try {
      await staging.close();
    } finally {
      await database.close();
    }
  }
}

/** `row 14`, `rows 14, 20 and 3 more`. */
function rowsWords(rows: readonly number[], count: number): string {
  const left = count - rows.length;
  return `${rows.length === 1 ? 'row' : 'rows'} ${rows.join(', ')}${left > 0 ? ` and ${left} more` : ''}`;
}

async function knownRows(database: Database, job: CheckJob): Promise<KnownRows> {
  const { companyId } = job;
  const [base] = await database.select<NumberBase>(
    `SELECT ${(['companies', 'accounts', 'combinations', 'parties', 'entries', 'lines'] as const).map((table) => `(SELECT coalesce(max(id), 0) FROM ${table}) AS ${table}`).join(', ')}`,
  );
  const of = <Row extends object>(sql: string) =>
    companyId === null ? Promise.resolve([] as Row[]) : database.select<Row>(sql, [companyId]);
  const accounts = await of<{
    id: number;
    position: number;
    number: string;
    name: string;
    class: string;
    group_name: string | null;
    active: number;
    polarity: string | null;
    cashflow: string | null;
  }>('SELECT * FROM accounts WHERE company_id = $1 ORDER BY position');
  const combinations = await of<{ id: number; dimension_values: string }>(
    'SELECT id, dimension_values FROM combinations WHERE company_id = $1',
  );
  const parties = await of<{ id: number; name: string }>('SELECT id, name FROM parties WHERE company_id = $1');
  const dimensions = await of<{ name: string }>('SELECT name FROM dimensions WHERE company_id = $1 ORDER BY id');
  const years = await of<{ year: number }>('SELECT year FROM fiscal_years WHERE company_id = $1 ORDER BY year');
  return {
    base: base!,
    exponent: currency(job.company.currency).exponent,
    accounts: new Map(
      accounts.map((row) => [
        row.number,
        {
          id: row.id,
          account: {
            number: row.number,
            name: row.name,
            class: row.class as AccountClass,
            group: row.group_name,
            active: row.active === 1,
            polarity: row.polarity as Polarity | null,
            cashflow: row.cashflow,
          },
        },
      ]),
    ),
    newAccounts: [],
    combinations: new Map(combinations.map((row) => [row.dimension_values, row.id])),
    parties: new Map(parties.map((row) => [row.name, row.id])),
    dimensions: dimensions.map(({ name }) => name),
    years: years.map(({ year }) => year),
  };
}

async function readAccounts(
  path: string,
  file: InspectedFile,
  { known, onIssue }: { readonly known: KnownRows; readonly onIssue: (issue: ImportIssue) => void },
): Promise<readonly Account[]> {
  const rows: string[][] = [];
  try {
    await readCsv(path, file, (cells, row) => {
      if (row <= MOST_ACCOUNT_ROWS) rows.push(cells);
    });
  } catch (error) {
    if (!(error instanceof BrokenCsvError)) throw error;
    onIssue({ file: 'accounts', row: error.row, column: '', text: '', code: error.code });
    return [];
  }
  const held = new Map([...known.accounts].map(([number, { account }]) => [number, account]));
  const { accounts, issues } = readAccountsFile(rows, held);
  issues.forEach(onIssue);
  return accounts;
}

/** Puts accounts of the file among those known; returns the held ones that change. */
function mergeAccounts(known: KnownRows, accounts: readonly Account[]): StagedSetup['changedAccounts'][number][] {
  const changed: StagedSetup['changedAccounts'][number][] = [];
  const held = known.accounts.size;
  for (const account of accounts) {
    const { name, group, active, polarity, cashflow } = account;
    const before = known.accounts.get(account.number);
    const id = before?.id ?? known.base.accounts + known.newAccounts.length + 1;
    if (!before) known.newAccounts.push({ id, position: held + known.newAccounts.length, ...account });
    else if (JSON.stringify(before.account) !== JSON.stringify({ ...before.account, name, group, active, polarity, cashflow }))
      changed.push({ id, name, group, active, polarity, cashflow });
    known.accounts.set(account.number, { id, account });
  }
  return changed;
}

async function postedBefore(database: Database, job: CheckJob, sha256: string): Promise<{ id: number; posted_at: string } | null> {
  if (job.companyId === null) return null;
  const rows = await database.select<{ id: number; posted_at: string; files: string }>(
    `SELECT id, posted_at, files FROM imports WHERE company_id = $1 AND state = 'posted' AND files LIKE $2`,
    [job.companyId, `%${sha256}%`],
  );
  return (
    rows.find(({ files }) => (JSON.parse(files) as ImportDto['files']).some((file) => file.kind === 'ledger' && file.sha256 === sha256)) ??
    null
  );
}

async function reportEntriesHeld(
  database: Database,
  job: CheckJob,
  { entryRows, onIssue }: { readonly entryRows: ReadonlyMap<string, number>; readonly onIssue: (issue: ImportIssue) => void },
): Promise<void> {
  if (job.companyId === null) return;
  const numbers = [...entryRows.keys()];
  for (let from = 0; from < numbers.length; from += 5000) {
    const held = await database.select<{ number: string }>(
      'SELECT number FROM entries WHERE company_id = $1 AND number IN (SELECT value FROM json_each($2))',
      [job.companyId, JSON.stringify(numbers.slice(from, from + 5000))],
    );
    for (const { number } of held)
      onIssue({ file: 'ledger', row: entryRows.get(number)!, column: 'entry', text: number, code: 'entryInLedger' });
  }
}

function newYears(known: KnownRows, first: number | null, last: number | null): number[] {
  if (first === null || last === null || known.years.length > 0) return [];
  return Array.from({ length: last - first + 1 }, (_, index) => first + index);
}
