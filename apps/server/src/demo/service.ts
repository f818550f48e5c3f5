import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { budgetEditRequestSchema, type DemoDto, newBudgetSchema, type NewCompany, proposedNonrecurring } from '@wise-margin/contract';
import { BANK_STATEMENT_NAMES } from '@wise-margin/demo';

import type { BudgetCreation, BudgetReview, WorksheetService } from '../budgets/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { ProblemError } from '../http/problem.ts';
import type { ImportService, Report, StatisticsService } from '../ledger/index.ts';
import type { WorkPool } from '../work/work-pool.ts';
import { type DemoBudget, GANNET_BUDGETS, TERN_BUDGETS } from './demo-budgets.ts';
import { DEMO_FILES, type DemoFiles, type DemoFolder } from './demo-files.ts';
import { deleteCompanies } from './remove-company.ts';

type DemoCompany = { readonly folder: DemoFolder; readonly company: NewCompany; readonly budgets: readonly DemoBudget[] };
const DEMO_COMPANIES: readonly DemoCompany[] = [
  {
    folder: 'tern-island',
    company: { name: 'Tern Island Kayak Works', currency: 'USD', startMonth: 4, hasAdjustmentPeriod: true },
    budgets: TERN_BUDGETS,
  },
  {
    folder: 'gannet-rock',
    company: { name: 'Gannet Rock Sea Salt', currency: 'USD', startMonth: 1, hasAdjustmentPeriod: false },
    budgets: GANNET_BUDGETS,
  },
];
/** The smaller company's files serve as samples. */
const SAMPLE_FOLDER: DemoFolder = 'gannet-rock';
const LONGEST = 60_000;

export type DemoParts = {
  readonly database: Database;
  readonly imports: ImportService;
  readonly statistics: StatisticsService;
  readonly budgetCreation: BudgetCreation;
  readonly budgetReview: BudgetReview;
  readonly worksheets: WorksheetService;
  readonly work: WorkPool;
  readonly actor: Actor;
  readonly report: Report;
};

/** The two demo companies: made through the same import and budget code the screens use, and removed together. */
export class DemoService {
  readonly #parts: DemoParts;
  #making: Promise<void> | null = null;
  #failure: string | null = null;

  constructor(parts: DemoParts) {
    this.#parts = parts;
  }

  async describe(): Promise<DemoDto> {
    const companies = (await this.#held()).map(({ id, name }) => ({ id, name }));
    const state = this.#making ? 'making' : companies.length > 0 ? 'made' : this.#failure === null ? 'none' : 'failed';
    return { state, companies, failure: state === 'failed' ? this.#failure : null };
  }

  /**
   * Begins to make the demo companies; `settled` waits for them.
   * @throws ProblemError 409 when they exist or are being made, or a company has the name of one
   */
  async begin(): Promise<void> {
    if (this.#making) throw new ProblemError(409, 'In progress', 'The demo companies are being added already.');
    // set before anything is waited for, so that a second request finds it
    this.#failure = null;
    const making = this.#refuseTaken();
    this.#making = making;
    try {
      await making;
    } catch (error) {
      this.#making = null;
      throw error;
    }
    this.#making = this.#make()
      .catch(async (error: unknown) => {
        this.#parts.report(error);
        this.#failure = error instanceof ProblemError ? error.message : 'The demo companies could not be added. Try again.';
        // half of them would be of no use
        await this.#removeHeld().catch(this.#parts.report);
      })
      .finally(() => {
        this.#making = null;
      });
  }

  async settled(): Promise<void> {
    await this.#making;
  }

  /** Deletes the demo companies with their ledgers, budgets and views. @throws ProblemError 404 when there are none, 409 while they are made */
  async remove(): Promise<void> {
    if (this.#making) throw new ProblemError(409, 'In progress', 'The demo companies are being added. Remove them when that is done.');
    if ((await this.#removeHeld()) === 0) throw new ProblemError(404, 'Not found', 'There are no demo companies.');
  }

  /** The bank statements that a demo company can be reconciled with; none of other companies. */
  async bankStatements(companyId: number): Promise<readonly string[]> {
    const [first] = DEMO_COMPANIES;
    const company = await this.#parts.database.models.companies.findByPk(companyId);
    return company?.isDemo && company.name === first!.company.name ? BANK_STATEMENT_NAMES : [];
  }

  /** A sample of each import file, with its columns; and each bank statement of the demo. @throws ProblemError 404 when there is no such sample */
  async sample(name: string): Promise<string> {
    const files = (await this.#files())[BANK_STATEMENT_NAMES.includes(name) ? 'tern-island' : SAMPLE_FOLDER];
    const text = Object.hasOwn(files, name) ? files[name] : undefined;
    if (text === undefined) throw new ProblemError(404, 'Not found', `There is no sample file "${name}".`);
    return text;
  }

  #files(): Promise<DemoFiles> {
    return this.#parts.work.run(DEMO_FILES, undefined, { what: 'Writing the demo files', milliseconds: LONGEST });
  }

  #held() {
    return this.#parts.database.models.companies.findAll({ where: { isDemo: true }, order: [['id', 'ASC']] });
  }

  async #refuseTaken(): Promise<void> {
    if ((await this.#held()).length > 0)
      throw new ProblemError(409, 'Already there', 'The demo companies are already there. Remove them first.');
    for (const { company } of DEMO_COMPANIES) {
      const taken = await this.#parts.database.models.companies.findOne({ where: { name: company.name } });
      if (taken) throw new ProblemError(409, 'Name in use', `A company named ${company.name} is already there.`);
    }
  }

  async #make(): Promise<void> {
    const files = await this.#files();
    for (const { folder, company, budgets } of DEMO_COMPANIES) {
      const id = await this.#import(folder, company, files[folder]);
      for (const budget of budgets) await this.#addBudget(id, budget);
    }
  }

  async #import(folder: DemoFolder, company: NewCompany, files: Readonly<Record<string, string>>): Promise<number> {
    const { imports, statistics, actor } = this.#parts;
    const at = this.#folderOf(folder);
    mkdirSync(at, { recursive: true });
    for (const [name, text] of Object.entries(files)) writeFileSync(join(at, name.includes('.') ? name : `${name}.csv`), text);
    const chosen = (name: string) => ({ path: join(at, `${name}.csv`), name: `${folder}-${name}.csv`, move: false });
    const importId = await imports.submit({
      target: { newCompany: { ...company, isDemo: true } },
      accounts: chosen('accounts'),
      ledger: chosen('ledger'),
      actor,
    });
    await imports.settled(importId);
    const checked = await imports.describe(importId);
    if (checked.state !== 'ready') {
      const issues = checked.issues.slice(0, 5).map(({ row, reason }) => `row ${row}: ${reason}`);
      throw new ProblemError(500, 'Demo refused', `The demo files were rejected: ${checked.failure ?? issues.join('; ')}`);
    }
    const id = await imports.post(importId, actor);
    if ('statistics' in files) {
      const path = join(at, 'statistics.csv');
      const { preview } = await statistics.preview(id, path);
      await statistics.importFile(id, { path, fingerprint: preview.fingerprint, actor });
    }
    return id;
  }

  async #addBudget(companyId: number, { budget, edits, approve }: DemoBudget): Promise<void> {
    const { budgetCreation, budgetReview, worksheets, actor } = this.#parts;
    // the storm, its insurance recovery and disposals are nonrecurring
    const { candidates } = await budgetCreation.proposal(companyId, { from: Number(budget.from), projected: false });
    const { id } = await budgetCreation.create(
      companyId,
      newBudgetSchema.parse({ ...budget, exclude: proposedNonrecurring(candidates) }),
      actor,
    );
    for (const batch of edits) await worksheets.edit({ company: companyId, budget: id }, budgetEditRequestSchema.parse(batch), actor);
    if (approve) await budgetReview.enterState({ company: companyId, budget: id }, { state: 'approved' }, actor);
  }

  /** @returns how many were deleted */
  async #removeHeld(): Promise<number> {
    const { database, actor } = this.#parts;
    const held = await this.#held();
    if (held.length === 0) return 0;
    await database.write(async (transaction) => {
      await deleteCompanies(
        database,
        held.map(({ id }) => id),
        transaction,
      );
      const details = { companies: held.map(({ name }) => name) };
      await recordAudit(database, { companyId: null, actor, action: 'demo.remove', subject: 'demo companies', details }, transaction);
    });
    for (const { folder } of DEMO_COMPANIES) rmSync(this.#folderOf(folder), { recursive: true, force: true });
    return held.length;
  }

  #folderOf(folder: DemoFolder): string {
    return join(this.#parts.database.directory, 'files', folder);
  }
}
