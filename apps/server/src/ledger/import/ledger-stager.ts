import {
  type Account,
  type Entry,
  EntryReader,
  type ImportIssue,
  layerOf,
  type LedgerLayout,
  monthCalendar,
  PostingSums,
  readLedgerHeader,
  type YearRule,
} from '@wise-margin/core';

import { periodCode } from '../../companies/index.ts';
import type { CheckJob, NumberBase, StagedSetup } from './check-job.ts';
import type { StagingWriter } from './staging.ts';

/** What the database held when the check began, with the accounts of the import's own file merged in. */
export type KnownRows = {
  readonly base: NumberBase;
  readonly exponent: number;
  readonly accounts: Map<string, { readonly id: number; readonly account: Account }>;
  readonly newAccounts: StagedSetup['accounts'][number][];
  readonly combinations: Map<string, number>;
  readonly parties: Map<string, number>;
  readonly dimensions: readonly string[];
  readonly years: readonly number[];
};

// A company without history takes its years from the first file, but a slipped digit must not open a century.
const MOST_YEARS_AT_ONCE = 12;

/** Turns ledger rows into staged entries, lines and balances, and counts what the preview tells. */
export class LedgerStager {
  readonly #job: CheckJob;
  readonly #known: KnownRows;
  readonly #onIssue: (issue: ImportIssue) => void;
  readonly #staging: StagingWriter;
  readonly #accountIds: number[] = [];
  readonly #sums = new PostingSums();
  readonly #combinationOf = new Map<string, number>();
  readonly #newCombinations: { id: number; values: string }[] = [];
  readonly #newParties: { id: number; name: string }[] = [];
  #layout: LedgerLayout | null = null;
  #reader: EntryReader | null = null;
  #headerRead = false;
  #rows = 0;
  #counts = { entries: 0, drafts: 0, lines: 0 };
  #dates: { first: string | null; last: string | null } = { first: null, last: null };
  #years: { first: number; last: number } | null = null;

  constructor(options: {
    readonly job: CheckJob;
    readonly known: KnownRows;
    readonly staging: StagingWriter;
    readonly onIssue: (issue: ImportIssue) => void;
  }) {
    this.#job = options.job;
    this.#known = options.known;
    this.#onIssue = options.onIssue;
    this.#staging = options.staging;
  }

  push(cells: string[], row: number): void {
    if (!this.#headerRead) return this.#readHeader(cells);
    if (!this.#reader) return;
    if (!(cells.length === 1 && cells[0]!.trim() === '')) this.#rows += 1;
    this.#reader.push(cells, row);
  }
  /** The first row of each entry, by its number. */
  get entryRows(): ReadonlyMap<string, number> {
    return this.#reader?.firstRows ?? new Map();
  }

  /** Closes the last entry, and reports a file without rows. */
  finish(): void {
    this.#reader?.finish();
    const nothing = { file: 'ledger', row: 0, column: '', text: this.#job.fileNames.ledger ?? '' } as const;
    if (!this.#headerRead) this.#onIssue({ ...nothing, code: 'emptyFile' });
    else if (this.#reader && this.#rows === 0) this.#onIssue({ ...nothing, code: 'noRows' });
  }

  /** What was read, in all; the balances are staged last. */
  summary() {
    for (const { account, period, combination, layer, debits, credits } of this.#sums.balances())
      this.#staging.add('balances', [account, period, combination, layer, debits, credits]);
    const dimensions = this.#layout?.dimensions.map(({ name }) => name) ?? [];
    const values = (combinations: Iterable<string>, name: string) =>
      new Set([...combinations].flatMap((text) => (JSON.parse(text) as Record<string, string>)[name] ?? []));
    const held = [...this.#known.combinations.keys()].filter((text) => !this.#newCombinations.some((each) => each.values === text));
    return {
      rows: this.#rows,
      ...this.#counts,
      ...this.#sums.sides,
      firstDate: this.#dates.first,
      lastDate: this.#dates.last,
      firstYear: this.#years?.first ?? null,
      lastYear: this.#years?.last ?? null,
      dimensions,
      newCombinations: this.#newCombinations,
      newParties: this.#newParties,
      newDimensionValues: dimensions.flatMap((dimension) => {
        const before = values(held, dimension);
        const added = [
          ...values(
            this.#newCombinations.map((each) => each.values),
            dimension,
          ),
        ]
          .filter((value) => !before.has(value))
          .sort();
        return added.length > 0 ? [{ dimension, values: added }] : [];
      }),
    };
  }

  #readHeader(cells: string[]): void {
    this.#headerRead = true;
    const result = readLedgerHeader(cells, this.#job.choices.dimensions ?? [], this.#known.dimensions);
    if (!result.ok) return result.issues.forEach(this.#onIssue);
    this.#layout = result.layout;
    const accounts = new Map<string, { index: number; active: boolean }>();
    for (const [number, { id, account }] of this.#known.accounts)
      accounts.set(number, { index: this.#accountIds.push(id) - 1, active: account.active });
    this.#reader = new EntryReader({
      layout: result.layout,
      exponent: this.#known.exponent,
      accounts,
      years: this.#yearRule(),
      closed: new Set(this.#job.closed),
      onEntry: (entry) => this.#stage(entry),
      onIssue: this.#onIssue,
    });
  }

  #yearRule(): YearRule {
    const { startMonth, hasAdjustmentPeriod } = this.#job.company;
    const { years } = this.#known;
    if (years.length === 0) return { kind: 'open', startMonth, hasAdjustmentPeriod, mostYears: MOST_YEARS_AT_ONCE };
    return { kind: 'held', calendar: monthCalendar({ startMonth, hasAdjustmentPeriod, firstYear: years[0]!, lastYear: years.at(-1)! }) };
  }

  #stage(entry: Entry): void {
    const counts = this.#counts;
    const code = periodCode(entry.fiscalYear, entry.periodNumber);
    const entryId = this.#known.base.entries + (counts.entries += 1);
    this.#staging.add('entries', [entryId, entry.number, entry.date, code, entry.source, entry.kind, entry.state]);
    const layer = layerOf(entry);
    if (layer === 'draft') counts.drafts += 1;
    for (const line of entry.lines) {
      const accountId = this.#accountIds[line.account]!;
      const combinationId = this.#combination(line.dimensions);
      const lineId = this.#known.base.lines + (counts.lines += 1);
      this.#staging.add('lines', [
        lineId,
        entryId,
        accountId,
        code,
        line.amount,
        combinationId,
        this.#party(line.party),
        line.memo,
        line.document,
        line.due,
      ]);
      this.#sums.add({ account: accountId, period: code, combination: combinationId, layer }, line.amount);
    }
    if (this.#dates.first === null || entry.date < this.#dates.first) this.#dates.first = entry.date;
    if (this.#dates.last === null || entry.date > this.#dates.last) this.#dates.last = entry.date;
    this.#years = this.#years
      ? { first: Math.min(this.#years.first, entry.fiscalYear), last: Math.max(this.#years.last, entry.fiscalYear) }
      : { first: entry.fiscalYear, last: entry.fiscalYear };
  }

  #combination(dimensions: readonly string[]): number {
    const raw = dimensions.join('\u0001');
    const known = this.#combinationOf.get(raw);
    if (known !== undefined) return known;
    const names = this.#layout!.dimensions;
    const values = JSON.stringify(
      Object.fromEntries(
        names
          .flatMap(({ name }, index) => (dimensions[index] === '' ? [] : [[name, dimensions[index]!] as const]))
          .sort(([a], [b]) => (a < b ? -1 : 1)),
      ),
    );
    let id = this.#known.combinations.get(values);
    if (id === undefined) {
      id = this.#known.base.combinations + this.#newCombinations.length + 1;
      this.#known.combinations.set(values, id);
      this.#newCombinations.push({ id, values });
    }
    this.#combinationOf.set(raw, id);
    return id;
  }

  #party(name: string): number | null {
    if (name === '') return null;
    let id = this.#known.parties.get(name);
    if (id === undefined) {
      id = this.#known.base.parties + this.#newParties.length + 1;
      this.#known.parties.set(name, id);
      this.#newParties.push({ id, name });
    }
    return id;
  }
}
