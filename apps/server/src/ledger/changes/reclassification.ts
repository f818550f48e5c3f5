import type { ReclassificationRequest } from '@wise-margin/contract';
import { type BalanceFact, periodOfEntry, periodOfYear, shortPeriodName } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import { type Books, periodCode } from '../../companies/index.ts';
import type { AuditChange } from '../../database/audit-chain.ts';
import type { Database } from '../../database/database.ts';
import { refused } from '../../http/problem.ts';
import { gainedFacts, type LineSum, sumsOfEntries, sumsOfLines } from './posted-facts.ts';
import { addCombinations, combinationText } from './write-contents.ts';

const MOST_NAMED = 5;

/** What a reclassification moves, and where to. */
export type Move = {
  /** the version of each entry as it was looked at */
  readonly versions: ReadonlyMap<number, number>;
  readonly entries: readonly number[];
  readonly lines: number;
  /** what balances gain */
  readonly facts: readonly BalanceFact[];
  readonly changes: readonly AuditChange[];
  readonly to: { readonly accountId: number | null; readonly period: number | null };
};

/** What balances gain when lines move; with a date all lines of their entries do. */
function movedFacts(
  books: Books,
  {
    before,
    chosen,
    to: { position, dimensions, code },
  }: {
    readonly before: readonly LineSum[];
    readonly chosen: readonly LineSum[];
    readonly to: { readonly position: number | null; readonly dimensions: Readonly<Record<string, string>>; readonly code: number | null };
  },
): BalanceFact[] {
  // the values lines move to may be no combination of the ledger yet
  const combinations = new Map(books.combinations);
  const moved = new Map<number, number>();
  let next = Math.max(0, ...combinations.keys());
  const movedTo = (combination: number): number => {
    const known = moved.get(combination);
    if (known !== undefined) return known;
    next += 1;
    combinations.set(next, { ...books.combinations.get(combination), ...dimensions });
    moved.set(combination, next);
    return next;
  };
  const inMonth = (sum: LineSum): LineSum => (code === null ? sum : { ...sum, period_code: code });
  const gained = gainedFacts(
    { ...books, combinations },
    [...before, ...chosen.map(inMonth)],
    [
      ...before.map(inMonth),
      ...chosen.map((sum) => ({ ...inMonth(sum), position: position ?? sum.position, combination: movedTo(sum.combination) })),
    ],
  );
  return gained;
}

/** Where lines go: chart position and period code, null for what stays. @throws ProblemError 422 naming the field that cannot be taken */
function destinationOf(books: Books, { account, dimensions = {}, date }: ReclassificationRequest) {
  if (account === undefined && date === undefined && Object.keys(dimensions).length === 0)
    throw refused('Choose an account, a dimension or a date to move the lines to.', 'account');
  const position = account === undefined ? null : books.chart.accounts.findIndex(({ number }) => number === account);
  if (position !== null && position < 0) throw refused(`There is no account ${account}.`, 'account');
  if (position !== null && !books.chart.accounts[position]!.active)
    throw refused(`Account ${account} is inactive. Choose an active account.`, 'account');
  const unknown = Object.keys(dimensions).find((name) => books.dimensions.every((each) => each.name !== name));
  if (unknown !== undefined) throw refused(`The ledger has no dimension "${unknown}".`, 'dimensions');
  const period = date === undefined ? null : periodOfEntry({ date, kind: 'ordinary' }, books.calendar);
  if (date !== undefined && period === null)
    throw refused(`“${date}” is not a date within the fiscal years. Enter it as YYYY-MM-DD.`, 'date');
  return { position, dimensions, code: period === null ? null : periodCode(period.year, period.number) };
}

/** What a reclassification moves, and where to. @throws ProblemError 422 naming the field that cannot be taken */
export async function moveOf(database: Database, books: Books, request: ReclassificationRequest): Promise<Move> {
  const { lines, date } = request;
  const to = destinationOf(books, request);
  // the plus keeps SQLite from looking for every line under every entry of the company
  const [found] = await database.select<{ lines: number; versions: string }>(
    `SELECT count(*) AS lines, json_group_object(e.id, e.version) AS versions FROM lines l JOIN entries e ON e.id = l.entry_id
     WHERE +e.company_id = $1 AND l.id IN (SELECT value FROM json_each($2))`,
    [books.id, JSON.stringify(lines)],
  );
  const versions = new Map(
    Object.entries(JSON.parse(found!.versions) as Record<string, number>).map(([id, version]) => [Number(id), version]),
  );
  const entries = [...versions.keys()];
  if (found!.lines !== new Set(lines).size)
    throw refused('Some of the lines are no longer in the ledger. Select the lines again.', 'lines');
  const chosen = await sumsOfLines(database, lines);
  const before = date === undefined ? chosen : await sumsOfEntries(database, entries);
  const nameOf = (at: number) => `${books.chart.accounts[at]!.number} ${books.chart.accounts[at]!.name}`;
  const changes: AuditChange[] = [
    ...(to.position === null
      ? []
      : [{ what: 'account', from: listed(chosen.map(({ position }) => nameOf(position))), to: nameOf(to.position) }]),
    ...Object.entries(to.dimensions).map(([what, value]) => ({
      what,
      from: listed(chosen.map(({ combination }) => books.combinations.get(combination)?.[what] ?? '')),
      to: value,
    })),
    ...(date === undefined ? [] : [{ what: 'date', from: listed(before.map((sum) => monthOf(books, sum))), to: date }]),
  ];
  return {
    versions,
    entries,
    lines: found!.lines,
    facts: movedFacts(books, { before, chosen, to }),
    changes,
    to: { accountId: to.position === null ? null : books.accountIds[to.position]!, period: to.code },
  };
}

const monthOf = ({ calendar }: Books, { period_code: code }: LineSum): string =>
  shortPeriodName(calendar, periodOfYear(calendar, Math.floor(code / 100), Math.min(code % 100, 12))!);

/** Different texts, the first few of them by name. */
function listed(texts: readonly string[]): string {
  const different = [...new Set(texts)];
  return `${different.slice(0, MOST_NAMED).join('; ')}${different.length > MOST_NAMED ? '; and others' : ''}`;
}

/** Moves the lines within a transaction. @returns whether combinations were added, which the books have to be read again for */
export async function moveLines(
  database: Database,
  { books, request, move }: { readonly books: Books; readonly request: ReclassificationRequest; readonly move: Move },
  transaction: Transaction,
): Promise<boolean> {
  const { accountId, period } = move.to;
  const { dimensions = {}, date } = request;
  const moved = JSON.stringify(request.lines);
  if (accountId !== null)
    await database.run('UPDATE lines SET account_id = $1 WHERE id IN (SELECT value FROM json_each($2))', [accountId, moved], transaction);
  const isNew = Object.keys(dimensions).length > 0 && (await moveToDimensions(database, { books, moved, dimensions }, transaction));
  if (period === null) return isNew;
  const entries = JSON.stringify(move.entries);
  await database.run(
    'UPDATE entries SET date = $1, period_code = $2 WHERE id IN (SELECT value FROM json_each($3))',
    [date!, period, entries],
    transaction,
  );
  await database.run(
    'UPDATE lines SET period_code = $1 WHERE entry_id IN (SELECT value FROM json_each($2))',
    [period, entries],
    transaction,
  );
  return isNew;
}

async function moveToDimensions(
  database: Database,
  { books, moved, dimensions }: { readonly books: Books; readonly moved: string; readonly dimensions: Readonly<Record<string, string>> },
  transaction: Transaction,
): Promise<boolean> {
  const used = await database.select<{ id: number }>(
    'SELECT DISTINCT combination_id AS id FROM lines WHERE id IN (SELECT value FROM json_each($1))',
    [moved],
    transaction,
  );
  const texts = new Map(used.map(({ id }) => [id, combinationText({ ...books.combinations.get(id), ...dimensions })]));
  const isNew = await addCombinations(database, { companyId: books.id, texts: [...texts.values()] }, transaction);
  await database.run(
    `UPDATE lines SET combination_id = (SELECT c.id FROM json_each($1) j JOIN combinations c ON c.company_id = $2 AND c.dimension_values = j.value ->> 1
       WHERE j.value ->> 0 = lines.combination_id)
     WHERE id IN (SELECT value FROM json_each($3))`,
    [JSON.stringify([...texts]), books.id, moved],
    transaction,
  );
  return isNew;
}
