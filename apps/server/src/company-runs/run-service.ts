import type { CompanyRunDto, CompanyRunRequest, CompanyRunResult, PackFormat } from '@wise-margin/contract';
import { comparisonColumns, type Minor } from '@wise-margin/core';
import JSZip from 'jszip';

import type { BooksCache } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { FindingList } from '../findings/index.ts';
import { ProblemError, refused } from '../http/problem.ts';
import type { MailService } from '../mail/index.ts';
import type { PackIssues, PackService, PackStore } from '../packs/index.ts';
import type { StatementService } from '../statements/index.ts';
import type { ResultChange, RunStore } from './run-store.ts';

/** How many companies are worked on at once: while one is read, pages of others are laid out and files written by the worker threads. */
const AT_ONCE = 4;
type Parts = {
  readonly booksCache: BooksCache;
  readonly store: RunStore;
  readonly packs: PackService;
  readonly packStore: PackStore;
  readonly packIssues: PackIssues;
  readonly statements: StatementService;
  readonly findingList: FindingList;
  readonly mail: MailService;
  readonly actor: Actor;
  /** takes what went wrong and nobody foresaw */
  readonly report: (error: unknown) => void;
};

/** One pack issued for several companies: what fails at one does not stop the others. */
export class CompanyRuns {
  readonly #parts: Parts;
  readonly #underWay = new Map<number, Promise<void>>();
  #isClosing = false;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  list(): Promise<CompanyRunDto[]> {
    return this.#parts.store.list();
  }

  of(id: number): Promise<CompanyRunDto> {
    return this.#parts.store.of(id);
  }

  /**
   * Begins a run, and goes on without being waited for.
   * @throws ProblemError 404 for a company or pack that is not there, 422 for a company named twice or mail to nobody
   */
  async start(request: CompanyRunRequest): Promise<CompanyRunDto> {
    const { booksCache, packStore, store, actor } = this.#parts;
    const { companies, mail, pack } = request;
    if (new Set(companies).size !== companies.length) throw refused('A company is named twice. Name each once.', 'companies');
    if (mail && mail.to.length === 0 && mail.lists.length === 0)
      throw refused('No recipients. Enter at least one address, or choose a list.', 'mail.to');
    for (const company of companies) await booksCache.of(company);
    const { name } = await packStore.of({ company: companies[0]!, pack });
    const { id, isNew } = await store.begin({ ...request, packName: name }, actor);
    if (isNew) {
      const running = this.#run(id, request).finally(() => this.#underWay.delete(id));
      this.#underWay.set(id, running);
    }
    return store.of(id);
  }

  /** Waits for a run that this server has under way. */
  async settled(id: number): Promise<void> {
    await this.#underWay.get(id);
  }

  /** Lets the companies under way finish; those not begun yet stay waiting and are failed at the next start. */
  async close(): Promise<void> {
    this.#isClosing = true;
    await Promise.all(this.#underWay.values());
  }

  /** Ends what was under way when the server stopped. */
  recover(): Promise<void> {
    return this.#parts.store.recover(this.#parts.actor.now());
  }

  /** The files of every issue of a run, in one file; a folder for each company. @throws ProblemError 404 */
  async zip(id: number, format: PackFormat): Promise<{ readonly content: Buffer; readonly name: string }> {
    const { store, packIssues, booksCache } = this.#parts;
    const { pack, month, results } = await store.of(id);
    const zip = new JSZip();
    const folders = new Set<string>();
    for (const { company, name, issue } of results) {
      if (issue === null) continue;
      const { documents } = await packIssues.of(await booksCache.of(company), issue);
      const folder = uniqueFolder(name, folders);
      for (const { slice } of documents) {
        const file = await packIssues.file({ company }, issue, { slice, format });
        zip.file(`${folder}/${file.name}`, file.content, { date: this.#parts.actor.now() });
      }
    }
    if (folders.size === 0) throw new ProblemError(409, 'No issues', 'This run issued nothing, so there are no files.');
    // files of packs are compressed already
    return { content: await zip.generateAsync({ type: 'nodebuffer', compression: 'STORE' }), name: `${pack}-${month}.zip` };
  }

  async #run(id: number, request: CompanyRunRequest): Promise<void> {
    const { store, actor, report } = this.#parts;
    const waiting = [...request.companies];
    const work = async (): Promise<void> => {
      for (let company = waiting.shift(); company !== undefined && !this.#isClosing; company = waiting.shift())
        await this.#runCompany(id, company, request);
    };
    try {
      await Promise.all(Array.from({ length: AT_ONCE }, work));
      if (waiting.length === 0) await store.finish(id, actor.now());
    } catch (error) {
      // such as a disk that is full: the run is ended at the next start
      report(error);
    }
  }

  async #runCompany(id: number, company: number, request: CompanyRunRequest): Promise<void> {
    const { store, report } = this.#parts;
    const set = (change: ResultChange) => store.setResult(id, company, change);
    await set({ state: 'running' });
    try {
      await set(await this.#issue({ company, key: `run ${id} ${company}` }, request, set));
    } catch (error) {
      const isForeseen = error instanceof ProblemError;
      if (!isForeseen) report(error);
      await set({
        state: 'failed',
        note: isForeseen ? error.detail : 'The server could not finish this company. Run it again, and look at the log of the server.',
      });
    }
  }

  async #issue(
    { company, key }: { readonly company: number; readonly key: string },
    { pack, month, onlyClear, mail }: CompanyRunRequest,
    set: (change: ResultChange) => Promise<void>,
  ): Promise<ResultChange> {
    const { packs, mail: mailService } = this.#parts;
    const place = { company, pack, month };
    const { items } = await packs.checklist(place);
    await set({ summary: { ...(await this.#figures(company, month)), checks: items.length } });
    if (onlyClear && items.length > 0) return { state: 'skipped', note: `The checklist is not clear: ${items[0]!.words}` };
    const { id, number } = await packs.issue(place);
    await set({ issue: id });
    if (mail) await mailService.sendIssue(company, id, { ...mail, key });
    return { state: 'done', note: `Issue ${number}${mail ? ', mailed' : ''}` };
  }

  /** Revenue and operating income of the month, and variances past their limits. */
  async #figures(company: number, month: string): Promise<Omit<NonNullable<CompanyRunResult['summary']>, 'checks'>> {
    const { statements, findingList } = this.#parts;
    const columnSet = comparisonColumns('budget');
    const { books, grid } = await statements.evaluated(company, 'income', { asOf: month, filter: {}, columnSet });
    const column = grid.plan.columns.find(({ key }) => key === 'month.compared')!.index;
    const amount = (line: string): Minor | null => {
      const cell = grid.cells[grid.plan.lines.find(({ key }) => key === line)!.index]![column]!;
      return cell.kind === 'amount' ? cell.value : null;
    };
    const { count } = await findingList.list(company, { view: 'income', asOf: month, comparison: 'budget' });
    const { code, exponent } = books.currency;
    return { currency: code, exponent, revenue: amount('revenue'), operatingIncome: amount('operating_income'), findings: count };
  }
}

/** A folder name for a company: without characters that file systems reject, and different from the others. */
function uniqueFolder(name: string, taken: Set<string>): string {
  const plain =
    name
      .replaceAll(/[\\/:*?"<>|]+/g, ' ')
      .trim()
      .slice(0, 80) || 'Company';
  let folder = plain;
  for (let count = 2; taken.has(folder.toLowerCase()); count += 1) folder = `${plain} ${count}`;
  taken.add(folder.toLowerCase());
  return folder;
}
