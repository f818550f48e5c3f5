import type { ExplanationQuery, VarianceExplanationDto } from '@wise-margin/contract';
import {
  type Cause,
  columnWords,
  explainDifference,
  type Explanation,
  figureSides,
  findingColumns,
  type LayoutBy,
  type LedgerLines,
  longPeriodName,
  minor,
  OTHER,
  periodAt,
  type PeriodIndex,
  periodOfKey,
  shortPeriodName,
  spanOfComparison,
  type StatementGrid,
} from '@wise-margin/core';
import {
  type BillNames,
  capitalized,
  causeTemplate,
  directionWords,
  liveText,
  sideNames,
  varianceTemplate,
} from '@wise-margin/presentation';

import { type Books, type BooksCache } from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { readLines } from '../ledger/index.ts';
import type { StatementService } from '../statements/index.ts';
import { billNames, linesNamed, linesOfBill } from './bill-names.ts';
import { driverDto } from './driver-dto.ts';
import { ledgerLines } from './ledger-lines.ts';
import type { LineDrivers } from './line-drivers.ts';
import { money } from './money.ts';
import { nonrecurringIn } from './nonrecurring-items.ts';

const MOST_PARTS = 60;
/** Parts that a sentence names. */
const MOST_NAMED = 4;
/** From this part of a difference on, an item that does not recur is named first. */
const MOST_OF_IT = 0.5;
const NOTHING_STANDS_OUT = 'No single entry, account or department accounts for most of it.';
const LAYOUT_NAMES: Readonly<Record<string, string>> = {
  line: 'Lines',
  account: 'Accounts',
  party: 'Customers and vendors',
  month: 'Months',
  source: 'Source journals',
  entry: 'Entries',
};

/** A difference with everything its explanation is read from. */
export type Explained = {
  readonly books: Books;
  readonly grid: StatementGrid;
  readonly line: number;
  readonly column: number;
  readonly ledger: LedgerLines;
  readonly explanation: Explanation;
  /** what a field of a text shows now; null for one that means nothing */
  readonly valueOf: (field: string) => string | null;
};

/** Explains differences of statements from the ledger. */
export class Explainer {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #statements: StatementService;
  readonly #lineDrivers: LineDrivers;

  constructor(options: {
    readonly database: Database;
    readonly booksCache: BooksCache;
    readonly statements: StatementService;
    readonly lineDrivers: LineDrivers;
  }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#statements = options.statements;
    this.#lineDrivers = options.lineDrivers;
  }

  /**
   * A difference, explained: one of a view's own columns, or of a comparison over a month or the year to date.
   * @throws ProblemError 404 for an unknown line or column; 422 for a figure that is no difference of sums of accounts
   */
  async explained(companyId: number, query: ExplanationQuery): Promise<Explained> {
    const { view, asOf, budget, filter, comparison } = query;
    const span = spanOfComparison(comparison, query.span);
    const columnSet = query.column === undefined ? { columnSet: findingColumns(comparison) } : {};
    const { books, grid } = await this.#statements.evaluated(companyId, view, { asOf, budget, filter, ...columnSet });
    const line = grid.plan.lines.find(({ key }) => key === query.line);
    const key = query.column ?? `${span}.variance`;
    const column = grid.plan.columns.find((each) => each.key === key);
    if (!line) throw notFound(`line ${query.line}`);
    if (!column) throw notFound(`column ${key}`);
    const sides = figureSides(grid, line.index, column.index);
    if (sides === null || sides.base === null)
      throw refused('Only a difference of two amounts can be explained. Choose a variance of a line of amounts.', 'column');
    if (books.lastPosted === null) throw refused('Nothing is posted yet.', 'asOf');
    const ledger = await ledgerLines(this.#booksCache, books);
    const dimensions = books.dimensions.map(({ name }) => name);
    const explanation = explainDifference(grid, {
      line: line.index,
      sides,
      ledger,
      dimensions,
      byLinesAlone: query.by === 'line',
      lastPosted: books.lastPosted,
    });
    const valueOf = valuesOf(
      { books, grid, line: line.index, ledger, explanation },
      {
        direction: directionWords(query.column === undefined ? comparison : null, explanation.variance),
        // as far as it is posted, so that what reverses in a later month has reversed
        yearToDate: explanation.months.reduce((sum, each) => sum + each.variance, 0),
      },
    );
    return { books, grid, line: line.index, column: column.index, ledger, explanation, valueOf };
  }

  /** The same for the wire. */
  async explain(companyId: number, query: ExplanationQuery): Promise<VarianceExplanationDto> {
    const explained = await this.explained(companyId, query);
    const { books, grid, explanation, valueOf } = explained;
    const line = grid.plan.lines[explained.line]!;
    const cell = grid.cells[explained.line]![explained.column]!;
    const sides = figureSides(grid, explained.line, explained.column)!;
    const { compared, base } = sides.columns;
    const nonrecurring = await nonrecurringIn(this.#database, books, sides);
    const words = { compared: columnWords(grid, compared), base: columnWords(grid, base!) };
    const { variance, causes } = explanation;
    const templates = await this.#causeTemplates(explained, causes);
    const head = varianceTemplate(line.name, {
      hasPercent: explanation.base !== 0,
      span: query.column === undefined ? spanOfComparison(query.comparison, query.span) : null,
      month:
        query.column === undefined && query.asOf !== periodAt(books.calendar, books.lastActual!).key
          ? longPeriodName(books.calendar, periodOfKey(books.calendar, query.asOf)!)
          : null,
    });
    const [item] = nonrecurring;
    const isMostOfIt = item !== undefined && item.amount > 0 === variance > 0 && Math.abs(item.amount) >= MOST_OF_IT * Math.abs(variance);
    const first = isMostOfIt ? `${item.words}.` : (templates[0]?.template ?? (this.#largestLines(explained) || NOTHING_STANDS_OUT));
    return {
      line: { key: line.key, name: line.name },
      column: grid.plan.columns[explained.column]!.key,
      view: query.view,
      words,
      headings: sideNames(words),
      compared: explanation.compared,
      base: explanation.base,
      variance,
      percent: explanation.base === 0 ? null : variance / Math.abs(explanation.base),
      favor: 'favor' in cell ? (cell.favor ?? null) : null,
      proposal: liveText(`${head} ${first}`, valueOf),
      causes: templates.map(({ template, entry }, at) => ({
        kind: causes[at]!.kind,
        sentence: liveText(template, valueOf),
        amount: causes[at]!.amount,
        share: causes[at]!.share,
        entry,
      })),
      layouts: await this.#layouts(explained),
      driver: line.kind === 'accounts' ? await driverDto(this.#lineDrivers, { difference: explained, sides, budget: query.budget }) : null,
      nonrecurring,
      months: explanation.months.map(({ month, variance: own }) => ({
        month: periodAt(books.calendar, month as PeriodIndex).key,
        name: shortPeriodName(books.calendar, month as PeriodIndex),
        variance: minor(own),
      })),
    };
  }

  async #causeTemplates(
    { books, grid, ledger: { table } }: Explained,
    causes: readonly Cause[],
  ): Promise<{ template: string; entry: number | null }[]> {
    const named = linesNamed(causes);
    const lines = await readLines(this.#database, { books, table, positions: Int32Array.from(named) });
    const byId = new Map(lines.map((line) => [line.lineId, line]));
    const year = periodAt(books.calendar, books.lastPosted!).key.slice(0, 4);
    const bill = (position: number): BillNames => {
      const lineIds = linesOfBill(table, position).map((each) => table.line[each]!);
      const line = byId.get(table.line[position]!);
      return line
        ? billNames(line, { lineIds, year })
        : { number: 'an entry reversed since', document: '', memo: '', day: '', party: '', field: '' };
    };
    const names = {
      bill,
      account: (account: number) => `${books.chart.accounts[account]!.number} ${books.chart.accounts[account]!.name}`,
      party: (party: number) => books.parties[party] ?? 'no customer or vendor',
      month: (month: number) => ({
        name: longPeriodName(books.calendar, month as PeriodIndex),
        key: periodAt(books.calendar, month as PeriodIndex).key,
      }),
      part: (cause: Cause & { readonly kind: 'part' }) => {
        const name = partName(books, grid, { by: byOf(cause), key: cause.key });
        return cause.by === 'dimension' && cause.key !== '' ? `${capitalized(cause.name)} ${name}` : name;
      },
      money: (amount: number) => money(books, amount),
    };
    return causes.map((cause) => {
      const [line] = linesNamed([cause]);
      return { template: causeTemplate(cause, names), entry: line === undefined ? null : table.entry[line]! };
    });
  }

  /** A subtotal without causes of its own is explained by its largest lines. */
  #largestLines({ books, grid, explanation }: Explained): string {
    const layout = explanation.layouts.find(({ by }) => by.kind === 'line');
    if (!layout || layout.shown === 0) return '';
    const { total } = layout;
    const largest = layout.parts.slice(0, Math.min(layout.shown, MOST_NAMED));
    const listed = (parts: typeof largest) =>
      new Intl.ListFormat('en-US').format(
        parts.map(({ key, amount }) => `${partName(books, grid, { by: { kind: 'line' }, key })} ${money(books, amount)}`),
      );
    const makes = largest.filter(({ amount }) => amount > 0 === total > 0);
    const offsets = largest.filter(({ amount }) => amount > 0 !== total > 0);
    if (makes.length === 0 || offsets.length === 0) return `The largest parts are ${listed(largest)}.`;
    return `The largest parts are ${listed(makes)}, offset by ${listed(offsets)}.`;
  }

  async #layouts({ books, grid, explanation }: Explained): Promise<VarianceExplanationDto['layouts']> {
    const layouts: VarianceExplanationDto['layouts'] = [];
    for (const { by, parts, shown, total } of explanation.layouts) {
      const listed = parts.slice(0, MOST_PARTS);
      const rest = parts.slice(listed.length);
      const entries = by.kind === 'entry' ? await this.#entryNames(listed.map(({ key }) => key)) : new Map<string, string>();
      layouts.push({
        by: by.kind === 'dimension' ? by.name : by.kind,
        name: LAYOUT_NAMES[by.kind] ?? capitalized(by.kind === 'dimension' ? by.name : by.kind),
        parts: listed.map((part) => ({
          ...part,
          name: entries.get(part.key) ?? partName(books, grid, { by, key: part.key }),
          entry: by.kind === 'entry' && part.key !== OTHER ? Number(part.key) : null,
        })),
        shown: Math.min(shown, listed.length),
        rest: { count: rest.length, amount: minor(rest.reduce((sum, { amount }) => sum + amount, 0)) },
        total,
      });
    }
    return layouts;
  }

  /** Entries by their number in the database: number, day, and what its first line says. */
  async #entryNames(keys: readonly string[]): Promise<Map<string, string>> {
    const rows = await this.#database.select<{
      id: number;
      number: string;
      date: string;
      document: string;
      memo: string;
      party: string | null;
    }>(
      `SELECT e.id, e.number, e.date, l.document, l.memo, p.name AS party FROM entries e JOIN lines l ON l.id = (SELECT min(id) FROM lines WHERE entry_id = e.id)
       LEFT JOIN parties p ON p.id = l.party_id WHERE e.id IN (SELECT value FROM json_each($1))`,
      [JSON.stringify(keys.filter((key) => key !== OTHER).map(Number))],
    );
    return new Map(
      rows.map(({ id, number, date, document, memo, party }) => [
        String(id),
        [number, date, document, party ?? '', memo].filter((text) => text !== '').join(' · '),
      ]),
    );
  }
}

const byOf = (cause: Cause & { readonly kind: 'part' }): LayoutBy =>
  cause.by === 'dimension' ? { kind: 'dimension', name: cause.name } : { kind: cause.by };

function partName(books: Books, grid: StatementGrid, { by, key }: { readonly by: LayoutBy; readonly key: string }): string {
  if (key === OTHER)
    return by.kind === 'entry'
      ? 'Budget, which has no entries'
      : `Budget, which is not kept by ${by.kind === 'party' ? 'customer or vendor' : by.kind === 'source' ? 'journal' : by.kind === 'dimension' ? by.name : by.kind}`;
  switch (by.kind) {
    case 'line':
      return grid.plan.lines[grid.plan.lineOfKey.get(key) ?? -1]?.name ?? key;
    case 'account': {
      const { number, name } = books.chart.accounts[Number(key)]!;
      return `${number} ${name}`;
    }
    case 'month':
      return key === 'opening' ? 'Opening balance' : shortPeriodName(books.calendar, Number(key) as PeriodIndex);
    case 'party':
      return books.parties[Number(key)] ?? 'No customer or vendor';
    case 'source':
      return capitalized(books.sourceJournals[Number(key)] ?? '') || 'No journal';
    case 'entry':
      return key;
    case 'dimension':
      return key || `No ${by.name}`;
  }
}

type Valued = Pick<Explained, 'books' | 'grid' | 'line' | 'ledger' | 'explanation'>;
/** What each field of a comment shows. Amounts are in whole units of currency, without a sign. */
function valuesOf(
  { books, ledger: { table }, explanation }: Valued,
  { direction, yearToDate }: { readonly direction: string; readonly yearToDate: number },
): (field: string) => string | null {
  const fixed: Readonly<Record<string, () => string>> = {
    variance: () => money(books, explanation.variance),
    percent: () =>
      explanation.base === 0
        ? 'no base'
        : `${Math.abs((100 * explanation.variance) / explanation.base).toLocaleString('en-US', { maximumFractionDigits: 0 })}%`,
    actual: () => money(books, explanation.compared),
    base: () => money(books, explanation.base),
    direction: () => direction,
    yearToDate: () => money(books, yearToDate),
  };
  const layout = (kind: LayoutBy['kind']) => explanation.layouts.find(({ by }) => by.kind === kind)?.parts ?? [];
  return (field) => {
    const plain = fixed[field];
    if (plain) return plain();
    const [kind, rest] = [field.slice(0, field.indexOf(':')), field.slice(field.indexOf(':') + 1)];
    switch (kind) {
      case 'lines': {
        const ids = new Set(rest.split(',').map(Number));
        return money(books, sumOfLines(table, ids));
      }
      case 'party': {
        const part = layout('party').find(({ key }) => books.parties[Number(key)] === rest);
        return books.parties.includes(rest) ? money(books, part?.compared ?? 0) : null;
      }
      case 'account': {
        const at = books.chart.accounts.findIndex(({ number }) => number === rest);
        return at < 0 ? null : money(books, layout('account').find(({ key }) => Number(key) === at)?.compared ?? 0);
      }
      case 'month': {
        const month = explanation.months.find((each) => periodAt(books.calendar, each.month as PeriodIndex).key === rest);
        return month ? money(books, month.variance) : null;
      }
      default:
        return null;
    }
  };
}

function sumOfLines(table: LedgerLines['table'], ids: ReadonlySet<number>): number {
  let [sum, left] = [0, ids.size];
  for (let position = 0; position < table.count && left > 0; position += 1) {
    if (!ids.has(table.line[position]!)) continue;
    sum += table.amount[position]!;
    left -= 1;
  }
  return sum;
}
