import type { ChangePeriod, LedgerPeriodsDto, UnfinishedDto } from '@wise-margin/contract';
import { PERIOD_STATES, type PeriodIndex, periodOfYear, type PeriodState, shortPeriodName } from '@wise-margin/core';
import { capitalized } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';

import { type Books, type BooksCache, periodCode, periodName, periodOf, periodPeople, periodStates } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import { tieOut } from '../reports/tie-out.ts';

const STATE_WORDS: Readonly<Record<PeriodState, string>> = { open: 'open', softClosed: 'soft-closed', closed: 'closed' };

/** Opens and closes the periods of a ledger, and says what is unfinished in them. */
export class PeriodService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** Every period of the fiscal years, the latest first. */
  async list(companyId: number): Promise<LedgerPeriodsDto> {
    const books = await this.#booksCache.of(companyId);
    const states = await periodStates(this.#database, companyId);
    const counts = await this.#database.select<{ period_code: number; entries: number; drafts: number }>(
      `SELECT period_code, count(*) AS entries, sum(state = 'draft') AS drafts FROM entries WHERE company_id = $1 AND state <> 'discarded' GROUP BY period_code`,
      [companyId],
    );
    const byCode = new Map(counts.map((row) => [row.period_code, row]));
    const periods = codesOf(books).map((code) => ({
      year: Math.floor(code / 100),
      number: code % 100,
      name: capitalized(periodName(books.startMonth, code)),
      state: states.get(code) ?? 'open',
      entries: byCode.get(code)?.entries ?? 0,
      drafts: byCode.get(code)?.drafts ?? 0,
    }));
    return { periods: periods.reverse(), people: await periodPeople(this.#database, companyId) };
  }

  /** What a person should know before a period is closed; empty when nothing is left to do. */
  async unfinished(companyId: number, { year, number }: { readonly year: number; readonly number: number }): Promise<UnfinishedDto> {
    const books = await this.#booksCache.of(companyId);
    const code = knownCode(books, year, number);
    const end = books.calendar.periods[periodOfYear(books.calendar, year, Math.min(number, 12))!]!.end;
    const items: UnfinishedDto['items'] = [];
    const [drafts] = await this.#database.select<{ count: number }>(
      `SELECT count(*) AS count FROM entries WHERE company_id = $1 AND state = 'draft' AND period_code <= $2`,
      [companyId, code],
    );
    if (drafts!.count > 0) items.push({ kind: 'drafts', words: `${counted(drafts!.count, 'entry is', 'entries are')} still in draft.` });
    const imports = await this.#database.select<{ id: number }>(
      `SELECT id FROM imports WHERE company_id = $1 AND state IN ('checking', 'ready', 'refused', 'posting', 'failed') ORDER BY id`,
      [companyId],
    );
    if (imports.length > 0)
      items.push({
        kind: 'imports',
        words: `${imports.length === 1 ? 'Import' : 'Imports'} ${imports.map(({ id }) => id).join(', ')} ${imports.length === 1 ? 'is' : 'are'} not posted.`,
      });
    for (const kind of ['receivables', 'payables'] as const) {
      const words = await tieOut({ database: this.#database, booksCache: this.#booksCache }, books, { kind, asOf: end });
      if (words !== null) items.push({ kind: 'tieOut', words });
    }
    const recurring = await this.#database.select<{ name: string }>(
      'SELECT name FROM entry_templates WHERE company_id = $1 AND next_date IS NOT NULL AND next_date <= $2 ORDER BY name',
      [companyId, end],
    );
    for (const { name } of recurring) items.push({ kind: 'recurring', words: `The recurring entry “${name}” is due.` });
    return { items };
  }

  /**
   * Opens or closes a period, and with `earlier` every earlier one that is more open.
   * @throws ProblemError 409 while an import is being posted; 422 for reopening without a reason
   */
  async change(companyId: number, { year, number, state, earlier, reason }: ChangePeriod, actor: Actor): Promise<LedgerPeriodsDto> {
    const books = await this.#booksCache.of(companyId);
    const code = knownCode(books, year, number);
    await this.#database.write(async (transaction) => {
      const states = await periodStates(this.#database, companyId, transaction);
      const now = states.get(code) ?? 'open';
      if (rank(state) < rank(now) && reason.length < 3) throw refused('Enter a reason for reopening the period.', 'reason');
      if (rank(state) > rank(now)) await this.#refuseWhilePosting(companyId, transaction);
      const changed = codesOf(books).filter((each) => {
        const before = rank(states.get(each) ?? 'open');
        return each === code ? before !== rank(state) : earlier && each < code && before < rank(state);
      });
      if (changed.length === 0) return;
      await this.#store(companyId, { codes: changed, state }, transaction);
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: state === 'open' || rank(state) < rank(now) ? 'period.reopen' : 'period.close',
          subject: periodName(books.startMonth, code),
          details: { state: STATE_WORDS[state] },
          changes: changed.map((each) => ({
            what: periodName(books.startMonth, each),
            from: STATE_WORDS[states.get(each) ?? 'open'],
            to: STATE_WORDS[state],
          })),
          reason,
        },
        transaction,
      );
    });
    return this.list(companyId);
  }

  /**
   * Takes a month as the last one of actuals in place of the proposed one, for as long as that one is proposed; null goes back to it.
   * @throws ProblemError 422 for a month without postings after it or before the first
   */
  async setLastActual(companyId: number, month: string | null, actor: Actor): Promise<LedgerPeriodsDto> {
    const books = await this.#booksCache.of(companyId);
    const { firstPosted, lastPosted, calendar } = books;
    const chosen = month === null ? null : periodOf(books, month);
    if (chosen !== null && (firstPosted === null || lastPosted === null || chosen < firstPosted || chosen > lastPosted))
      throw refused(`Nothing is posted in ${month}. Choose a month with postings.`, 'month');
    const codeOf = (period: PeriodIndex) => periodCode(calendar.periods[period]!.year, calendar.periods[period]!.number);
    const { proposed } = books.actuals;
    await this.#database.write(async (transaction) => {
      const values = {
        lastActual: chosen === null ? null : codeOf(chosen),
        lastActualInsteadOf: chosen === null ? null : codeOf(proposed!),
      };
      await this.#database.models.companies.update(values, { where: { id: companyId }, transaction });
      await this.#database.models.companies.increment('version', { where: { id: companyId }, transaction });
      const nameOf = (period: PeriodIndex | null) => (period === null ? 'none' : shortPeriodName(calendar, period));
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'period.lastActual',
          subject: 'last month of actuals',
          details: {},
          changes: [{ what: 'last month of actuals', from: nameOf(books.lastActual), to: nameOf(chosen ?? proposed) }],
        },
        transaction,
      );
    });
    return this.list(companyId);
  }

  /** Who may post in soft-closed periods. */
  async setPeople(companyId: number, people: readonly string[], actor: Actor): Promise<LedgerPeriodsDto> {
    await this.#booksCache.of(companyId);
    const named = [...new Set(people)].sort();
    await this.#database.write(async (transaction) => {
      const before = await periodPeople(this.#database, companyId, transaction);
      if (before.join('\n') === named.join('\n')) return;
      await this.#database.run('DELETE FROM period_people WHERE company_id = $1', [companyId], transaction);
      await this.#database.run(
        'INSERT INTO period_people (company_id, person) SELECT $1, value FROM json_each($2)',
        [companyId, JSON.stringify(named)],
        transaction,
      );
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'period.people',
          subject: 'soft-closed periods',
          details: {},
          changes: [{ what: 'people who may post', from: before.join(', '), to: named.join(', ') }],
        },
        transaction,
      );
    });
    return this.list(companyId);
  }

  async #store(
    companyId: number,
    { codes, state }: { readonly codes: readonly number[]; readonly state: PeriodState },
    transaction: Transaction,
  ): Promise<void> {
    await this.#database.run(
      'DELETE FROM period_states WHERE company_id = $1 AND period_code IN (SELECT value FROM json_each($2))',
      [companyId, JSON.stringify(codes)],
      transaction,
    );
    if (state === 'open') return;
    await this.#database.run(
      'INSERT INTO period_states (company_id, period_code, state) SELECT $1, value, $3 FROM json_each($2)',
      [companyId, JSON.stringify(codes), state],
      transaction,
    );
  }

  async #refuseWhilePosting(companyId: number, transaction: Transaction): Promise<void> {
    const [posting] = await this.#database.select<{ id: number }>(
      `SELECT id FROM imports WHERE company_id = $1 AND state = 'posting' LIMIT 1`,
      [companyId],
      transaction,
    );
    if (posting) throw new ProblemError(409, 'Import running', `Import ${posting.id} is being posted. Close the period when it is done.`);
  }
}

const rank = (state: PeriodState): number => PERIOD_STATES.indexOf(state);
const counted = (count: number, one: string, many: string): string => `${count.toLocaleString('en-US')} ${count === 1 ? one : many}`;

/** The codes of all periods, adjustment periods included, oldest first. */
const codesOf = ({ calendar }: Books): number[] =>
  calendar.periods.flatMap(({ year, number }) => [
    periodCode(year, number),
    ...(number === 12 && calendar.hasAdjustmentPeriod ? [periodCode(year, 13)] : []),
  ]);

/** @throws ProblemError 422 for a period outside the fiscal years */
function knownCode(books: Books, year: number, number: number): number {
  const code = periodCode(year, number);
  if (codesOf(books).includes(code)) return code;
  throw refused(
    `There is no period ${number} of FY${year}. ${books.name} has FY${books.calendar.firstYear} to FY${books.calendar.lastYear}.`,
    'year',
  );
}
