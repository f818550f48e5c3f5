import type { AnswerPosting, PostingCheckDto, PostingCheckQuery, SuspectDto } from '@wise-margin/contract';
import {
  firstSlot,
  isIncomeAccount,
  isWatchedAccount,
  lastSlot,
  learnedKey,
  type LineTable,
  minor,
  PERIODS_PER_YEAR,
  type ReasonKind,
  signOf,
  slotCount,
  type Suspect,
} from '@wise-margin/core';
import { dayWords, postingAnswerWords, suspectWords } from '@wise-margin/presentation';

import { type Books, type BooksCache, periodCode, periodName, periodOf } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { readLines } from '../ledger/index.ts';
import type { WorkPool } from '../work/work-pool.ts';
import { money } from './money.ts';
import { POSTING_CHECK } from './posting-task.ts';

const LONGEST = 60_000;
const MOST_HELD = 6;

type AnswerRow = {
  readonly posting: string;
  readonly answer: 'fine' | 'needsCorrection' | 'corrected';
  readonly reason: string;
  readonly learns: number;
  readonly kinds: string;
  readonly account: string;
  readonly party: string;
  readonly at: string;
  readonly person: string;
};
type Checked = { readonly books: Books; readonly table: LineTable; readonly suspects: readonly Suspect[] };

/** Unusual postings, ranked, with what people answered about them. */
export class PostingChecks {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #work: WorkPool;
  /** what was found last, by ledger and span, so that a page of it is not looked for again */
  readonly #held = new Map<string, { readonly table: LineTable; readonly suspects: Promise<Suspect[]> }>();

  constructor(options: { readonly database: Database; readonly booksCache: BooksCache; readonly work: WorkPool }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#work = options.work;
  }

  async list(companyId: number, query: PostingCheckQuery): Promise<PostingCheckDto> {
    const answers = await this.#answers(companyId);
    const checked = await this.#checked(companyId, { ...query, answers });
    const { books, table } = checked;
    const byPosting = new Map(answers.map((row) => [row.posting, row]));
    const all = checked.suspects.map((suspect) => ({ suspect, row: byPosting.get(postingOf(checked, suspect)) }));
    const shown = all.filter(({ row }) => (row !== undefined) === (query.show === 'answered'));
    const listed = shown.slice(0, query.limit);
    const lines = await readLines(this.#database, {
      books,
      table,
      positions: Int32Array.from(listed.flatMap(({ suspect }) => linesOf(suspect))),
    });
    const byLine = new Map(lines.map((line) => [line.lineId, line]));
    const lineAt = (position: number) => byLine.get(table.line[position]!);
    const names = {
      account: (account: number) => `${books.chart.accounts[account]!.number} ${books.chart.accounts[account]!.name}`,
      money: (amount: number) => money(books, amount),
      bill: (position: number) => {
        const line = lineAt(position);
        return line ? `${line.document || line.entry} of ${dayWords(line.date)}` : 'an entry reversed since';
      },
    };
    return {
      suspects: listed.map(({ suspect, row }, at): SuspectDto => {
        const { account, party, slot, amount, score, reasons } = suspect;
        const line = suspect.line === null ? undefined : lineAt(suspect.line);
        return {
          rank: at + 1,
          posting: postingOf(checked, suspect),
          entry: line ? { id: line.entryId, number: line.entry, date: line.date } : null,
          period: periodOfSlot(books, slot),
          account: books.chart.accounts[account]!.number,
          accountName: books.chart.accounts[account]!.name,
          party: books.parties[party] ?? '',
          amount: minor(amount),
          score,
          weight: Math.round(suspect.weight * 100) / 100,
          reasons: reasons.map((reason) => ({
            kind: reason.kind,
            words: suspectWords(reason, names),
            score: Math.round(reason.score * 10) / 10,
          })),
          answer: row ? { answer: row.answer, reason: row.reason, person: row.person, at: row.at } : null,
        };
      }),
      count: shown.length,
      answered: all.filter(({ row }) => row !== undefined).length,
      lines: table.count,
    };
  }

  /**
   * Keeps an answer. One that is learned from takes the same kinds off the list for the same account and party.
   * @throws ProblemError 404 for what is not suspected; 422 for "fine" without a reason
   */
  async answer(companyId: number, { posting, answer, reason, learns }: AnswerPosting, actor: Actor): Promise<void> {
    if (answer === 'fine' && reason.length < 3) throw refused('Enter why it is fine, so that a reviewer can follow.', 'reason');
    const answers = await this.#answers(companyId);
    const checked = await this.#checked(companyId, { answers });
    const suspect = checked.suspects.find((each) => postingOf(checked, each) === posting);
    if (!suspect) throw notFound(`suspected posting ${posting}`);
    const { books, table } = checked;
    const account = books.chart.accounts[suspect.account]!.number;
    const [entry] =
      suspect.line === null
        ? []
        : await this.#database.select<{ number: string }>('SELECT number FROM entries WHERE id = $1', [table.entry[suspect.line]!]);
    const subject = entry?.number ?? `${account} ${periodOfSlot(books, suspect.slot)}`;
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        `INSERT INTO posting_answers (company_id, posting, answer, reason, learns, kinds, account, party, at, person) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
         ON CONFLICT (company_id, posting) DO UPDATE SET answer = excluded.answer, reason = excluded.reason, learns = excluded.learns, kinds = excluded.kinds, at = excluded.at, person = excluded.person`,
        [
          companyId,
          posting,
          answer,
          reason,
          learns && answer === 'fine' ? 1 : 0,
          JSON.stringify(suspect.reasons.map(({ kind }) => kind)),
          account,
          books.parties[suspect.party] ?? '',
          actor.now().toISOString(),
          actor.name,
        ],
        transaction,
      );
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'posting.answer',
          subject,
          details: { answer: postingAnswerWords(answer).toLowerCase(), learns },
          reason,
        },
        transaction,
      );
    });
  }

  #answers(companyId: number): Promise<AnswerRow[]> {
    return this.#database.select<AnswerRow>('SELECT * FROM posting_answers WHERE company_id = $1', [companyId]);
  }

  async #checked(
    companyId: number,
    { from, to, answers }: { readonly from?: string | undefined; readonly to?: string | undefined; readonly answers: readonly AnswerRow[] },
  ): Promise<Checked> {
    const books = await this.#booksCache.of(companyId);
    const table = await this.#booksCache.lines(books);
    const [first, last] = [from === undefined ? null : periodOf(books, from), to === undefined ? null : periodOf(books, to)];
    if (first !== null && last !== null && first > last) throw refused(`The period ends before it starts: ${from} to ${to}.`, 'to');
    const { calendar, lastPosted } = books;
    if (lastPosted === null) return { books, table, suspects: [] };
    const slots = { from: first === null ? 0 : firstSlot(calendar, first), to: lastSlot(calendar, last ?? lastPosted) };
    const learned = learnedOf(books, answers);
    const key = JSON.stringify([books.id, slots, books.lastActual, [...learned].sort()]);
    const held = this.#held.get(key);
    if (held?.table === table) return { books, table, suspects: await held.suspects };
    const monthOfSlot = Array.from({ length: slotCount(calendar) }, () => 0);
    for (const { index, key: month } of calendar.periods) monthOfSlot[firstSlot(calendar, index)] = Number(month.slice(5));
    const { count: _, ...columns } = { ...table };
    const suspects = this.#work.run(
      POSTING_CHECK,
      {
        columns,
        accounts: books.chart.accounts.map((account) => ({
          isIncome: isIncomeAccount(account),
          isDebit: signOf(account) === 1,
          isWatched: isWatchedAccount(account),
        })),
        combinations: books.combinations,
        dimensions: books.dimensions.map(({ name }) => name),
        monthOfSlot,
        slotsInYear: PERIODS_PER_YEAR + (calendar.hasAdjustmentPeriod ? 1 : 0),
        slots,
        lastActual: books.lastActual === null ? -1 : lastSlot(calendar, books.lastActual),
        learned,
      },
      { what: 'The check of postings', milliseconds: LONGEST },
    );
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { table, suspects });
    suspects.catch(() => this.#held.delete(key));
    return { books, table, suspects: await suspects };
  }
}

/** What an answer is kept under: the entry, or the account, party and month where something is missing. It does not change when lines do. */
function postingOf({ books, table }: Checked, { line, account, party, slot, reasons }: Suspect): string {
  if (line !== null) return `entry ${table.entry[line]}`;
  return `${reasons[0]!.kind} ${books.chart.accounts[account]!.number} ${periodOfSlot(books, slot)} ${books.parties[party] ?? ''}`.trim();
}

const linesOf = ({ line, reasons }: Suspect): number[] => [
  ...(line === null ? [] : [line]),
  ...reasons.flatMap((reason) => (reason.kind === 'repeatedDocument' || reason.kind === 'repeatedAmount' ? [reason.of] : [])),
];

/** `2026-04`; the adjustment period by its name. */
function periodOfSlot({ calendar, startMonth }: Books, slot: number): string {
  const period = calendar.periods.find(({ index }) => (firstSlot(calendar, index) as number) === slot);
  if (period) return period.key;
  const before = calendar.periods.find(({ index }) => (firstSlot(calendar, index) as number) === slot - 1)!;
  return periodName(startMonth, periodCode(before.year, 13));
}

/** Kinds that were answered as fine for good. */
function learnedOf(books: Books, answers: readonly AnswerRow[]): Set<string> {
  const learned = new Set<string>();
  const accounts = new Map(books.chart.accounts.map(({ number }, at) => [number, at]));
  for (const { answer, learns, kinds, account, party } of answers) {
    const at = accounts.get(account);
    if (answer !== 'fine' || learns !== 1 || at === undefined) continue;
    for (const kind of JSON.parse(kinds) as ReasonKind[])
      learned.add(learnedKey(kind, at, party === '' ? -1 : books.parties.indexOf(party)));
  }
  return learned;
}
