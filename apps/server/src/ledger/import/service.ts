import { copyFileSync, createReadStream, existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

import { type ImportDto, type ImportIssueDto, type NewCompany } from '@wise-margin/contract';
import { currency, type ImportIssue } from '@wise-margin/core';
import { importIssueWords } from '@wise-margin/presentation';

import { closedTo } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { isDiskFull } from '../../database/disk-full.ts';
import type { ImportRow } from '../../database/models.ts';
import { notFound, ProblemError, refused } from '../../http/problem.ts';
import type { CheckJob, ImportChoices, NumberBase } from './check-job.ts';
import { CheckWorkers, type RunningCheck } from './check-workers.ts';
import { type CompanyToMake, postImport, StaleCheckError } from './post.ts';
import { reverseImport } from './reverse.ts';
import type { Seal } from './seal.ts';
import { stagedPath } from './staging.ts';

/** A file on disk with the name the person knows it by. `move`: it is ours to take. */
export type ChosenFile = { readonly path: string; readonly name: string; readonly move: boolean };
export type ImportRequest = {
  readonly target: { readonly companyId: number } | { readonly newCompany: CompanyToMake };
  readonly accounts: ChosenFile | null;
  readonly ledger: ChosenFile | null;
  readonly actor: Actor;
};

/** Why an import cannot be posted. */
const NOT_READY: Readonly<Record<Exclude<ImportRow['state'], 'ready'>, string>> = {
  checking: 'is still being checked',
  refused: 'has rejected rows',
  posting: 'is being posted already',
  posted: 'is posted already',
  failed: 'could not be checked',
  reversed: 'was reversed',
};
const ISSUES_SHOWN = 200;
const MOST_CHECKS_AGAIN = 3;
/** Reports what went wrong in work that nobody waits for. */
export type Report = (error: unknown) => void;
/** Takes files in, checks them in a worker, and posts them: all or nothing. */
export class ImportService {
  readonly #database: Database;
  readonly #rowsRead = new Map<number, number>();
  readonly #workers = new CheckWorkers();
  readonly #running = new Map<number, { readonly stop: RunningCheck['stop']; readonly done: Promise<void> }>();

  /** of checks whose outcome could not be stored, such as on a full disk */
  readonly #failures = new Map<number, string>();
  readonly #report: Report;

  constructor(database: Database, report: Report) {
    this.#database = database;
    this.#report = report;
  }

  /**
   * After a stop in the middle: what was being checked has to be chosen again; what was being posted left
   * nothing behind. Uploads and staging folders that belong to no import are removed.
   */
  async recover(): Promise<void> {
    await this.#database.write(async (transaction) => {
      const { imports } = this.#database.models;
      await imports.update({ state: 'ready' }, { where: { state: 'posting' }, transaction });
      await imports.update(
        { state: 'failed', failure: 'The application stopped while the files were checked. Choose them again.' },
        { where: { state: 'checking' }, transaction },
      );
    });
    await this.#removeOrphans();
  }

  async #removeOrphans(): Promise<void> {
    const rows = await this.#database.models.imports.findAll();
    const waiting = new Set(rows.filter(({ state }) => ['ready', 'refused', 'failed'].includes(state)).map(({ id }) => String(id)));
    const namesIn = (directory: string) => (existsSync(directory) ? readdirSync(directory) : []);
    const imports = join(this.#database.directory, 'imports');
    for (const name of namesIn(imports)) if (!waiting.has(name)) rmSync(join(imports, name), { recursive: true, force: true });
    const uploads = join(this.#database.directory, 'uploads');
    for (const name of namesIn(uploads)) rmSync(join(uploads, name), { recursive: true, force: true });
  }

  /** Takes the files and begins the check; `settled` waits for it. @returns the import's number */
  async submit(request: ImportRequest): Promise<number> {
    const { target, accounts, ledger, actor } = request;
    if (!accounts && !ledger) throw refused('Choose an accounts file, a ledger file, or both.', 'ledger');
    const companyId = 'companyId' in target ? target.companyId : null;
    const newCompany = 'newCompany' in target ? target.newCompany : null;
    if (companyId !== null && !(await this.#database.models.companies.findByPk(companyId))) throw notFound(`company ${companyId}`);
    if (newCompany) await this.#refuseKnownName(newCompany.name);
    const row = await this.#database.write((transaction) =>
      this.#database.models.imports.create(
        {
          companyId,
          newCompany: newCompany ? JSON.stringify(newCompany) : null,
          state: 'checking',
          createdAt: actor.now().toISOString(),
          postedAt: null,
          actor: actor.name,
          files: JSON.stringify({ accounts: accounts?.name, ledger: ledger?.name }),
          preview: null,
          base: null,
          issueCount: 0,
          failure: null,
        },
        { transaction },
      ),
    );
    const directory = this.#directory(row.id);
    mkdirSync(directory, { recursive: true });
    for (const [kind, file] of [
      ['accounts', accounts],
      ['ledger', ledger],
    ] as const) {
      if (file) (file.move ? renameSync : copyFileSync)(file.path, stagedPath(directory, `${kind}.csv`));
    }
    await this.#startCheck(row.id);
    return row.id;
  }

  /** Resolves when the import is no longer being checked. */
  async settled(id: number): Promise<void> {
    await this.#running.get(id)?.done;
  }

  /**
   * Posts a checked import, once: of several requests one wins. Where the ledger changed since the check, or
   * what was staged was altered, it is checked again first.
   * @throws ProblemError 409 when it is not ready, or another request posts it
   */
  async post(id: number, actor: Actor, checksLeft = MOST_CHECKS_AGAIN): Promise<number> {
    const row = await this.#row(id);
    if (row.state !== 'ready')
      throw new ProblemError(
        409,
        'Not ready',
        `Import ${id} ${NOT_READY[row.state]}. Only a checked import without rejected rows can be posted.`,
      );
    const newCompany = row.newCompany === null ? null : (JSON.parse(row.newCompany) as CompanyToMake);
    if (newCompany) await this.#refuseKnownName(newCompany.name);
    const [claimed] = await this.#database.write((transaction) =>
      this.#database.models.imports.update({ state: 'posting' }, { where: { id, state: 'ready' }, transaction }),
    );
    if (claimed === 0) throw new ProblemError(409, 'Not ready', `Import ${id} is being posted by another request.`);
    try {
      const companyId = await postImport(this.#database, {
        importId: id,
        directory: this.#directory(id),
        companyId: row.companyId,
        newCompany,
        base: JSON.parse(row.base!) as NumberBase,
        seal: JSON.parse(row.seal ?? 'null') as Seal,
        actor,
        onProgress: (lines) => this.#rowsRead.set(id, lines),
      });
      rmSync(this.#directory(id), { recursive: true, force: true });
      return companyId;
    } catch (error) {
      await this.#update(id, { state: 'ready' });
      if (!(error instanceof StaleCheckError) || checksLeft === 0) throw error;
      await this.#checkAgain(id);
      await this.settled(id);
      return this.post(id, actor, checksLeft - 1);
    }
  }

  /**
   * Checks the files again with what a person answered, such as how they are encoded.
   * @throws ProblemError 409 when the import is not waiting
   */
  async choose(id: number, choices: ImportChoices): Promise<void> {
    const row = await this.#row(id);
    if (!['ready', 'refused'].includes(row.state))
      throw new ProblemError(409, 'Not waiting', `Import ${id} is ${row.state} and cannot be checked again.`);
    const chosen = { ...(JSON.parse(row.choices) as ImportChoices), ...choices };
    await this.#update(id, { choices: JSON.stringify(chosen) });
    await this.#checkAgain(id);
  }

  /** Takes a posted import's entries out of the ledger. @throws ProblemError 409 while something depends on them */
  async reverse(id: number, actor: Actor): Promise<void> {
    const row = await this.#row(id);
    if (row.state !== 'posted' || row.companyId === null)
      throw new ProblemError(409, 'Not posted', `Import ${id} is ${row.state}. Only a posted import can be reversed.`);
    await reverseImport(this.#database, { importId: id, companyId: row.companyId, actor });
  }

  /** Discards an import that was not posted, and stops its check. @throws ProblemError 409 for one that was */
  async discard(id: number, actor: Actor): Promise<void> {
    const row = await this.#row(id);
    if (['posted', 'posting', 'reversed'].includes(row.state))
      throw new ProblemError(409, 'Already posted', `Import ${id} is ${row.state} and stays on record.`);
    const running = this.#running.get(id);
    await running?.stop();
    await running?.done;
    await this.#database.write(async (transaction) => {
      const gone = await this.#database.models.imports.destroy({ where: { id, state: row.state }, transaction });
      if (gone === 0) throw new ProblemError(409, 'Changed meanwhile', `Import ${id} was changed by another request. Open it again.`);
      const { companyId } = row;
      const details = { files: row.files };
      await recordAudit(this.#database, { companyId, actor, action: 'import.discard', subject: `import ${id}`, details }, transaction);
    });
    this.#failures.delete(id);
    rmSync(this.#directory(id), { recursive: true, force: true });
  }

  async list(companyId: number): Promise<ImportDto[]> {
    const rows = await this.#database.models.imports.findAll({ where: { companyId }, order: [['id', 'DESC']] });
    return Promise.all(rows.map((row) => this.#describe(row, 0)));
  }

  async describe(id: number): Promise<ImportDto> {
    return this.#describe(await this.#row(id), ISSUES_SHOWN);
  }

  /** Every issue of an import, in the order found, in words. */
  async *issues(id: number): AsyncGenerator<ImportIssueDto> {
    const path = stagedPath(this.#directory(id), 'issues.ndjson');
    if (!existsSync(path)) return;
    const input = createReadStream(path, 'utf8');
    try {
      for await (const line of createInterface({ input })) {
        const issue = JSON.parse(line) as ImportIssue;
        const { file, row, column, text, code } = issue;
        yield { file, row, column, text, code, ...importIssueWords(issue) };
      }
    } finally {
      // a reader that stops early must not leave the file open
      input.destroy();
    }
  }

  /** Stops every check under way. */
  async close(): Promise<void> {
    const running = [...this.#running.values()];
    await this.#workers.close();
    await Promise.all(running.map(({ done }) => done));
  }

  async #checkAgain(id: number): Promise<void> {
    await this.#update(id, { state: 'checking' });
    await this.#startCheck(id);
  }

  async #startCheck(id: number): Promise<void> {
    const row = await this.#row(id);
    const directory = this.#directory(id);
    const company =
      row.companyId === null
        ? (JSON.parse(row.newCompany!) as NewCompany)
        : (await this.#database.models.companies.findByPk(row.companyId))!;
    const names = JSON.parse(row.files) as { accounts?: string; ledger?: string } | ImportDto['files'];
    const fileNames = Array.isArray(names) ? Object.fromEntries(names.map(({ kind, name }) => [kind, name])) : names;
    const job: CheckJob = {
      dataDirectory: this.#database.directory,
      directory,
      importId: id,
      companyId: row.companyId,
      company: { currency: company.currency, startMonth: company.startMonth, hasAdjustmentPeriod: Boolean(company.hasAdjustmentPeriod) },
      accountsFile: existsSync(stagedPath(directory, 'accounts.csv')),
      ledgerFile: existsSync(stagedPath(directory, 'ledger.csv')),
      fileNames,
      choices: JSON.parse(row.choices) as ImportChoices,
      closed: row.companyId === null ? [] : [...(await closedTo(this.#database, { companyId: row.companyId, person: row.actor })).keys()],
    };
    const check = this.#workers.start(job, (rowsRead) => this.#rowsRead.set(id, rowsRead));
    const done = check.done
      .then(
        ({ files, preview, base, rowsRead, issueCount, seal }) => {
          this.#rowsRead.set(id, rowsRead);
          return this.#update(id, {
            state: issueCount > 0 ? 'refused' : 'ready',
            files: JSON.stringify(files),
            preview: JSON.stringify(preview),
            base: JSON.stringify(base),
            issueCount,
            seal: JSON.stringify(seal),
          });
        },
        (error: Error) => this.#update(id, { state: 'failed', failure: failureWords(error) }),
      )
      .catch((error: unknown) => {
        // its outcome could not be written down: it is answered from memory, and corrected at the next start
        this.#failures.set(id, failureWords(error));
        this.#report(error);
      })
      .finally(() => this.#running.delete(id));
    this.#running.set(id, { stop: check.stop, done });
  }

  async #update(
    id: number,
    values: Partial<Pick<ImportRow, 'state' | 'files' | 'preview' | 'base' | 'issueCount' | 'failure' | 'choices' | 'seal'>>,
  ): Promise<void> {
    await this.#database.write((transaction) => this.#database.models.imports.update(values, { where: { id }, transaction }));
  }

  async #refuseKnownName(name: string): Promise<void> {
    const [held] = await this.#database.select<{ id: number }>('SELECT id FROM companies WHERE name = $1 COLLATE NOCASE', [name]);
    if (held) throw refused(`There is a company named ${name} already. Choose it, or give the new one another name.`, 'name');
  }

  async #row(id: number): Promise<ImportRow> {
    const row = await this.#database.models.imports.findByPk(id);
    if (!row) throw notFound(`import ${id}`);
    return row;
  }

  #directory(id: number): string {
    return join(this.#database.directory, 'imports', String(id));
  }

  async #describe(row: ImportRow, issuesShown: number): Promise<ImportDto> {
    const company = row.companyId === null ? null : await this.#database.models.companies.findByPk(row.companyId);
    const newCompany = row.newCompany === null ? null : (JSON.parse(row.newCompany) as NewCompany);
    const issues: ImportIssueDto[] = [];
    if (issuesShown > 0) {
      for await (const issue of this.issues(row.id)) {
        issues.push(issue);
        if (issues.length >= issuesShown) break;
      }
    }
    const files = JSON.parse(row.files) as ImportDto['files'] | object;
    const preview = row.preview === null ? null : (JSON.parse(row.preview) as NonNullable<ImportDto['preview']>);
    return {
      id: row.id,
      company: company?.name ?? newCompany?.name ?? '',
      companyId: row.companyId,
      isNewCompany: newCompany !== null,
      state: this.#failures.has(row.id) ? 'failed' : (row.state as ImportDto['state']),
      createdAt: row.createdAt,
      postedAt: row.postedAt,
      actor: row.actor,
      files: Array.isArray(files) ? files : [],
      rowsRead: this.#rowsRead.get(row.id) ?? preview?.rows ?? 0,
      preview,
      issueCount: row.issueCount,
      issues,
      exponent: currency(company?.currency ?? newCompany?.currency ?? 'USD').exponent,
      failure: this.#failures.get(row.id) ?? row.failure,
    };
  }
}

/** A failed check in words that name no file of ours. */
function failureWords(error: unknown): string {
  if (isDiskFull(error)) return 'The disk is full. Free some space, discard this import, and choose the files again.';
  return error instanceof Error && error.message !== '' ? error.message : 'The check failed.';
}
