import type { PackFormat, ScheduleChange, ScheduleDto, ScheduleListDto } from '@wise-margin/contract';
import {
  longPeriodName,
  nextRuns,
  periodAt,
  type PeriodIndex,
  periodOfDate,
  runsBetween,
  type Schedule,
  type ScheduledRun,
  wallTime,
} from '@wise-margin/core';

import { type Books, type BooksCache, periodCode, periodStates, typedAccounts } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { FindingList } from '../findings/index.ts';
import { ProblemError, refused } from '../http/problem.ts';
import { filled, type MailService } from '../mail/index.ts';
import { type PackService, unmetCondition } from '../packs/index.ts';
import type { StatementService } from '../statements/index.ts';
import { readHolidays } from './holidays-file.ts';
import { NOTHING_TO_REPORT, type RunOutcome, type ScheduleStore, type StoredSchedule } from './schedule-store.ts';
import { refuseOtherFormats, type ScheduledMail } from './scheduled-mail.ts';

const NEXT_SHOWN = 3;
/** The ledger may change while a pack is being issued; it is issued again then. */
const MOST_TRIES = 3;
const CHANGED_MEANWHILE = 409;
type Parts = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly store: ScheduleStore;
  readonly packs: PackService;
  readonly scheduledMail: ScheduledMail;
  readonly mail: MailService;
  readonly statements: StatementService;
  readonly findingList: FindingList;
  readonly actor: Actor;
};
type Due = { readonly schedule: StoredSchedule; readonly run: ScheduledRun };

/** Packs that are issued and mailed by themselves, views that are mailed, and watch reports. Every time a schedule names is run once, whatever the server or the clock did meanwhile. */
export class ScheduleService {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  async list(companyId: number): Promise<ScheduleListDto> {
    const { store, actor } = this.#parts;
    const holidays = await store.holidays(companyId);
    const schedules: ScheduleDto[] = [];
    for (const { companyId: _, handledThrough, ...stored } of await store.list(companyId)) {
      const after = Math.max(handledThrough, actor.now().getTime());
      const next = stored.isHeld ? [] : nextRuns(timesOf(stored, holidays), after, NEXT_SHOWN);
      schedules.push({
        ...stored,
        whatName: await this.#nameOrGone(companyId, stored),
        next: next.map(({ at }) => new Date(at).toISOString()),
        runs: await store.runs(stored.id),
      });
    }
    return { schedules, holidays };
  }

  /** Saves a schedule. @throws ProblemError 404 for a pack or view that is not there, 422 for nobody to mail to, an unknown field, account or format */
  async save(companyId: number, id: number | null, change: ScheduleChange): Promise<ScheduleListDto> {
    const { booksCache, store, scheduledMail, actor } = this.#parts;
    const { what, subject, text } = change;
    const name = await scheduledMail.nameOf(companyId, what);
    const books = await booksCache.of(companyId);
    const fields = scheduledMail.fieldsOf(companyId, what, { name, company: books.name, month: '' });
    filled(subject, { fields, path: 'subject' });
    filled(text, { fields, path: 'text' });
    refuseOtherFormats(what, change.formats);
    if (what.kind === 'watch' && what.watch.kind === 'postings') typedAccounts(books, what.watch.accounts);
    if (change.to.length === 0 && change.lists.length === 0)
      throw refused('No recipients. Enter at least one address, or choose a list.', 'to');
    await store.save(companyId, id, { change, actor });
    return this.list(companyId);
  }

  async importHolidays(companyId: number, content: string): Promise<ScheduleListDto> {
    const { store, actor } = this.#parts;
    await store.setHolidays(companyId, readHolidays(content, actor.now()), actor);
    return this.list(companyId);
  }

  /** Runs a schedule now, beside its times. */
  async runNow(companyId: number, id: number): Promise<ScheduleListDto> {
    const { store, actor } = this.#parts;
    const schedule = await store.of(companyId, id);
    const at = actor.now().getTime();
    const run = { at, date: wallTime(at, schedule.zone).date };
    if (await store.claim(schedule, run)) await this.#runAndRecord({ schedule, run });
    return this.list(companyId);
  }

  /**
   * Runs what is due, in order: what was missed while no server ran, each time once.
   * @param options.from for a simulated clock: runs after this moment count, whatever was handled before
   * @returns how many were run
   */
  async runDue(until: Date, options: { readonly company?: number; readonly from?: Date } = {}): Promise<number> {
    const { store } = this.#parts;
    const due: Due[] = [];
    for (const schedule of await store.list(options.company ?? null)) {
      if (schedule.isHeld) continue;
      const after = options.from?.getTime() ?? schedule.handledThrough;
      const times = timesOf(schedule, await store.holidays(schedule.companyId));
      for (const run of runsBetween(times, { after, until: until.getTime() })) due.push({ schedule, run });
    }
    due.sort((a, b) => a.run.at - b.run.at || a.schedule.id - b.schedule.id);
    let count = 0;
    for (const each of due) {
      if (!(await store.claim(each.schedule, each.run))) continue;
      count += 1;
      await this.#runAndRecord(each);
    }
    return count;
  }

  /** Ends the runs that were under way when the server stopped: those whose mail was queued are done, the others run again. */
  async recover(): Promise<void> {
    const { store, mail } = this.#parts;
    for (const { schedule, at } of await store.interrupted()) {
      const run = { at, date: wallTime(at, schedule.zone).date };
      const wasMailed = await mail.has(schedule.companyId, keyOf({ schedule, run }));
      if (wasMailed) await store.finish(schedule, run, { state: 'done', note: 'Mailed before the server stopped', issue: null });
      else await this.#runAndRecord({ schedule, run });
    }
  }

  /** Does a run that was claimed, and notes what it did. An error nobody foresaw is noted too, and goes on to whoever reports it. */
  async #runAndRecord({ schedule, run }: Due): Promise<void> {
    const { store } = this.#parts;
    try {
      await store.finish(schedule, run, await this.#run({ schedule, run }));
    } catch (error) {
      const isForeseen = error instanceof ProblemError;
      const note = isForeseen ? error.detail : 'The server could not finish this run. Run it again, and look at the log of the server.';
      await store.finish(schedule, run, { state: 'failed', note, issue: null });
      if (!isForeseen) throw error;
    }
  }

  async #run({ schedule, run }: Due): Promise<RunOutcome> {
    const { booksCache, packs, mail, actor } = this.#parts;
    const books = await booksCache.of(schedule.companyId);
    const inMonth = periodOfDate(books.calendar, run.date);
    const period = inMonth === null ? null : ((schedule.of === 'month' ? inMonth : inMonth - 1) as PeriodIndex);
    if (period === null || period < 0)
      throw refused(`${run.date} is outside the fiscal years of ${books.name}. Add the fiscal year on Ledger.`);
    const why = await this.#unmet(books, { schedule, period });
    if (why !== '') return { state: 'skipped', note: why, issue: null };
    const { what } = schedule;
    if (what.kind !== 'pack') return this.#mailFiles({ books, schedule, run, period });
    const place = { company: books.id, pack: what.pack, month: periodAt(books.calendar, period).key };
    const by: Actor = { name: `Schedule ${schedule.name}`, now: actor.now };
    let tries = 1;
    for (;;) {
      try {
        const { id, number } = await packs.issue(place, { by, day: run.date });
        const { to, lists, subject, text } = schedule;
        // a schedule of a pack has the formats of packs alone
        const formats = schedule.formats as PackFormat[];
        await mail.sendIssue(books.id, id, { key: keyOf({ schedule, run }), to, lists, subject, text, formats });
        return { state: 'done', note: `${longPeriodName(books.calendar, period)}, issue ${number}`, issue: id };
      } catch (error) {
        if (!(error instanceof ProblemError) || error.status !== CHANGED_MEANWHILE || tries >= MOST_TRIES) throw error;
        tries += 1;
      }
    }
  }

  /** Mails a view, or a watch report that has something to say. */
  async #mailFiles(asked: {
    readonly books: Books;
    readonly schedule: StoredSchedule;
    readonly run: ScheduledRun;
    readonly period: PeriodIndex;
  }): Promise<RunOutcome> {
    const { store, mail, scheduledMail } = this.#parts;
    const { books, schedule, run } = asked;
    const { what, to, lists, subject, text } = schedule;
    const since = await store.lastKnown(schedule.id, run.at);
    const prepared =
      what.kind === 'view'
        ? await scheduledMail.view(what.view, { ...asked, since })
        : what.kind === 'watch'
          ? await scheduledMail.watch(what.watch, { ...asked, since })
          : null;
    if (prepared === null) return { state: 'skipped', note: NOTHING_TO_REPORT, issue: null };
    const { note, ...content } = prepared;
    await mail.sendFiles(books.id, { key: keyOf({ schedule, run }), to, lists, subject, text, ...content });
    return { state: 'done', note, issue: null };
  }

  /** The name of what is sent, or its key when it was deleted. */
  async #nameOrGone(companyId: number, { what }: Pick<StoredSchedule, 'what'>): Promise<string> {
    try {
      return await this.#parts.scheduledMail.nameOf(companyId, what);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      return what.kind === 'pack' ? what.pack : what.kind === 'view' ? what.view : '';
    }
  }

  /** Why a run's condition is not met; empty when it is. */
  async #unmet(books: Books, { schedule, period }: { readonly schedule: StoredSchedule; readonly period: PeriodIndex }): Promise<string> {
    const { database, statements, findingList } = this.#parts;
    const { key, year, number } = periodAt(books.calendar, period);
    const { condition } = schedule;
    if (condition.kind !== 'monthClosed')
      return unmetCondition({ statements, findingList }, condition, { companyId: books.id, query: { asOf: key, filter: {} } });
    const state = (await periodStates(database, books.id)).get(periodCode(year, number)) ?? 'open';
    return state === 'open' ? `${longPeriodName(books.calendar, period)} is not closed` : '';
  }
}

const timesOf = (
  { day, minutes, zone }: Pick<StoredSchedule, 'day' | 'minutes' | 'zone'>,
  holidays: readonly { readonly date: string }[],
): Schedule => ({
  day,
  minutes,
  zone,
  holidays: new Set(holidays.map(({ date }) => date)),
});
/** A run's mail is one mail, however often it is asked for. */
const keyOf = ({ schedule, run }: Due): string => `schedule ${schedule.id} ${new Date(run.at).toISOString()}`;
