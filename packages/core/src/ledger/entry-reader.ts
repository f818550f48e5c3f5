import { type FiscalCalendar, fiscalYearOfDate, periodAt, periodOfDate } from '../calendar/fiscal-calendar.ts';
import { type IsoDate, parseIsoDate } from '../calendar/iso-date.ts';
import { toDecimalText } from '../money/format-amount.ts';
import { type Minor, minor } from '../money/minor.ts';
import { parseAmount } from '../money/parse-amount.ts';
import { nearMatches } from '../text/near-matches.ts';
import { controlIn, MOST_IN_NAME, withoutControls } from '../text/plain-text.ts';
import { type Entry, ENTRY_KINDS, ENTRY_STATES, type EntryKind, type EntryLine, type EntryState } from './entry.ts';
import type { ImportIssue, ImportIssueCode } from './import-issue.ts';
import type { LedgerField, LedgerLayout } from './ledger-layout.ts';

/** Fiscal years an imported date may fall in: those of the calendar, or any within a bounded range for a company without history. */
export type YearRule =
  | { readonly kind: 'held'; readonly calendar: FiscalCalendar }
  | { readonly kind: 'open'; readonly startMonth: number; readonly hasAdjustmentPeriod: boolean; readonly mostYears: number };

export type EntryReaderOptions = {
  readonly layout: LedgerLayout;
  readonly exponent: number;
  /** position in the chart and whether postings are allowed, by account number */
  readonly accounts: ReadonlyMap<string, { readonly index: number; readonly active: boolean }>;
  readonly years: YearRule;
  /** periods that take no entry, as fiscal year times 100 and period number */
  readonly closed?: ReadonlySet<number>;
  readonly onEntry: (entry: Entry) => void;
  readonly onIssue: (issue: ImportIssue) => void;
};

const MAX_TEXT = 2000;
// names are shown in headings and lists; memos alone may be long
const NAMES: readonly LedgerField[] = ['entry', 'account', 'party', 'document', 'source'];
const MOST_NEAR_LOOKUPS = 200;
type Place = { readonly date: IsoDate; readonly fiscalYear: number; readonly periodNumber: number };
type Draft = {
  number: string;
  firstRow: number;
  lastRow: number;
  place: Place | null;
  dateText: string;
  source: string;
  kind: EntryKind;
  state: EntryState;
  broken: boolean;
  sum: number;
  debits: number;
  lines: EntryLine[];
};

/**
 * Turns rows of a ledger file into entries, one row at a time, so that a file of any length is read
 * in bounded memory. The rows of an entry stand together; an entry that shows up again later is
 * refused as a repeat. Every fault is reported and nothing is guessed: an entry is handed on only
 * when all its rows are good and its amounts add up to zero.
 */
export class EntryReader {
  readonly #options: EntryReaderOptions;
  readonly #firstRows = new Map<string, number>();
  readonly #places = new Map<string, Place | ImportIssueCode>();
  readonly #nearAccounts = new Map<string, string>();
  #draft: Draft | null = null;
  #row = 0;
  #cells: readonly string[] = [];
  #firstOpenYear: number | null = null;

  constructor(options: EntryReaderOptions) {
    this.#options = options;
  }

  /** Takes one row; `row` is its number in the file, the header being 1. */
  push(cells: readonly string[], row: number): void {
    if (cells.length === 1 && cells[0]!.trim() === '') return;
    this.#row = row;
    this.#cells = cells;
    const { width } = this.#options.layout;
    if (cells.length !== width) {
      this.#issue('cellCount', { column: '', text: cells.join(',').slice(0, 200) }, { details: { expected: width, found: cells.length } });
      if (this.#draft) this.#draft.broken = true;
      return;
    }
    const number = this.#text('entry');
    if (number === '') {
      this.#issue('required', { column: 'entry', text: '' });
      if (this.#draft) this.#draft.broken = true;
      return;
    }
    if (this.#draft?.number !== number) {
      this.#close();
      this.#open(detached(number));
    }
    this.#addLine(this.#draft!);
  }

  /** The first row of every entry read so far, good or not, by its number. */
  get firstRows(): ReadonlyMap<string, number> {
    return this.#firstRows;
  }

  /** Closes the last entry. Call once, after the last row. */
  finish(): void {
    this.#close();
  }

  #open(number: string): void {
    const before = this.#firstRows.get(number);
    if (before !== undefined) this.#issue('entryRepeatedInFile', { column: 'entry', text: number }, { details: { before } });
    const dateText = this.#text('date');
    const kind = this.#oneOf('kind', ENTRY_KINDS, { absent: 'ordinary', code: 'unknownKind' });
    const state = this.#oneOf('state', ENTRY_STATES, { absent: 'posted', code: 'unknownState' });
    const place = this.#place(dateText, kind ?? 'ordinary');
    this.#draft = {
      number,
      firstRow: this.#row,
      lastRow: this.#row,
      place,
      dateText,
      source: this.#text('source'),
      kind: kind ?? 'ordinary',
      state: state ?? 'posted',
      broken: before !== undefined || place === null || kind === null || state === null,
      sum: 0,
      debits: 0,
      lines: [],
    };
  }

  #addLine(draft: Draft): void {
    draft.lastRow = this.#row;
    const repeated = this.#sameAsFirstRow(draft);
    const account = this.#account();
    const amount = this.#amount();
    const due = this.#due();
    const texts = this.#textsFit();
    if (!repeated || account === null || amount === null || due === undefined || !texts) {
      draft.broken = true;
      return;
    }
    draft.sum += amount;
    if (amount > 0) draft.debits += amount;
    const { layout } = this.#options;
    draft.lines.push({
      account,
      amount,
      due,
      dimensions: layout.dimensions.map(({ column }) => this.#cells[column]!.trim()),
      memo: this.#text('memo'),
      party: this.#text('party'),
      document: this.#text('document'),
    });
  }

  #close(): void {
    const draft = this.#draft;
    this.#draft = null;
    if (!draft) return;
    if (!this.#firstRows.has(draft.number)) this.#firstRows.set(draft.number, draft.firstRow);
    if (draft.broken || !draft.place) return;
    const { exponent } = this.#options;
    const fault = (code: ImportIssueCode, details: NonNullable<ImportIssue['details']>) =>
      this.#options.onIssue({ file: 'ledger', row: draft.firstRow, column: 'entry', text: draft.number, code, details });
    if (draft.lines.length < 2) return fault('singleLine', { rows: 1 });
    if (draft.sum !== 0) {
      return fault('unbalanced', {
        debits: toDecimalText(minor(draft.debits), exponent),
        credits: toDecimalText(minor(draft.debits - draft.sum), exponent),
        difference: toDecimalText(minor(draft.sum), exponent),
        firstRow: draft.firstRow,
        lastRow: draft.lastRow,
      });
    }
    const { number, place, source, kind, state, lines } = draft;
    this.#options.onEntry({ number, ...place, source, kind, state, lines });
  }

  #text(field: LedgerField): string {
    const column = this.#options.layout.columns[field];
    return column < 0 ? '' : this.#cells[column]!.trim();
  }

  #issue(
    code: ImportIssueCode,
    { column, text }: { readonly column: string; readonly text: string },
    more: Pick<ImportIssue, 'details' | 'amount'> = {},
  ): void {
    this.#options.onIssue({
      file: 'ledger',
      row: this.#row,
      column,
      text,
      code,
      ...more,
    });
  }

  #oneOf<T extends string>(
    field: 'kind' | 'state',
    allowed: readonly T[],
    { absent, code }: { readonly absent: NoInfer<T>; readonly code: ImportIssueCode },
  ): T | null {
    const text = this.#text(field).toLowerCase();
    if (text === '') return absent;
    const found = allowed.find((each) => each === text);
    if (!found) this.#issue(code, { column: field, text: this.#text(field) }, { details: { allowed: allowed.join(', ') } });
    return found ?? null;
  }

  /** Entry-wide fields of later rows must be empty or as on the entry's first row. */
  #sameAsFirstRow(draft: Draft): boolean {
    if (draft.firstRow === this.#row) return true;
    const date = this.#text('date');
    if (date !== draft.dateText) {
      this.#issue('entryDateDiffers', { column: 'date', text: date }, { details: { first: draft.dateText, firstRow: draft.firstRow } });
      return false;
    }
    for (const field of ['source', 'kind', 'state'] as const) {
      const text = this.#text(field);
      const first = draft[field];
      if (text !== '' && text.toLowerCase() !== first.toLowerCase()) {
        this.#issue('entryFieldDiffers', { column: field, text }, { details: { first, firstRow: draft.firstRow } });
        return false;
      }
    }
    return true;
  }

  #account(): number | null {
    const text = this.#text('account');
    if (text === '') return this.#refuse('required', 'account', '');
    const account = this.#options.accounts.get(text);
    if (!account) return this.#refuseUnknownAccount(text);
    if (!account.active) return this.#refuse('inactiveAccount', 'account', text);
    return account.index;
  }

  #refuseUnknownAccount(text: string): null {
    let near = this.#nearAccounts.get(text);
    if (near === undefined) {
      const isLookedUp = this.#nearAccounts.size < MOST_NEAR_LOOKUPS && text.length <= MOST_IN_NAME;
      near = isLookedUp
        ? nearMatches(text, [...this.#options.accounts.keys()])
            .slice(0, 3)
            .join(' or ')
        : '';
      this.#nearAccounts.set(text, near);
    }
    this.#issue('unknownAccount', { column: 'account', text: text.slice(0, MOST_IN_NAME) }, near === '' ? {} : { details: { near } });
    return null;
  }

  #refuse(code: ImportIssueCode, column: string, text: string): null {
    this.#issue(code, { column, text });
    return null;
  }

  #amount(): Minor | null {
    if (this.#options.layout.columns.amount >= 0) {
      const text = this.#text('amount');
      return text === '' ? this.#refuse('noAmount', 'amount', '') : this.#parse('amount', text);
    }
    const debitText = this.#text('debit');
    const creditText = this.#text('credit');
    if (debitText === '' && creditText === '') return this.#refuse('noAmount', 'debit', '');
    const debit = debitText === '' ? minor(0) : this.#parse('debit', debitText);
    const credit = creditText === '' ? minor(0) : this.#parse('credit', creditText);
    if (debit === null || credit === null) return null;
    if (debit < 0) return this.#refuse('negativeSide', 'debit', debitText);
    if (credit < 0) return this.#refuse('negativeSide', 'credit', creditText);
    if (debit !== 0 && credit !== 0) return this.#refuse('debitAndCredit', 'credit', `${debitText} and ${creditText}`);
    return minor(debit - credit);
  }

  #parse(column: string, text: string): Minor | null {
    const parsed = parseAmount(text, this.#options.exponent);
    if (parsed.ok) return parsed.value;
    this.#issue('badAmount', { column, text }, { amount: parsed.issue });
    return null;
  }

  #due(): IsoDate | null | undefined {
    const text = this.#text('due');
    if (text === '') return null;
    const date = parseIsoDate(text);
    if (date) return date;
    this.#issue(/^\d{4}-\d{2}-\d{2}$/.test(text) ? 'impossibleDate' : 'dateLayout', { column: 'due', text });
    return undefined;
  }

  #textsFit(): boolean {
    for (let index = 0; index < this.#cells.length; index += 1) {
      const found = controlIn(this.#cells[index]!);
      if (found === null) continue;
      this.#issue(
        'controlCharacter',
        { column: this.#nameOfColumn(index), text: withoutControls(this.#cells[index]!).slice(0, 80) },
        { details: { found } },
      );
      return false;
    }
    let position = -1;
    for (let index = 0; index < this.#cells.length; index += 1) if (this.#cells[index]!.length > this.#mostIn(index)) position = index;
    if (position < 0) return true;
    this.#issue(
      'tooLong',
      { column: this.#nameOfColumn(position), text: this.#cells[position]!.slice(0, 80) },
      {
        details: { most: this.#mostIn(position) },
      },
    );
    return false;
  }

  #mostIn(column: number): number {
    const { columns, dimensions } = this.#options.layout;
    const isName = NAMES.some((field) => columns[field] === column) || dimensions.some((each) => each.column === column);
    return isName ? MOST_IN_NAME : MAX_TEXT;
  }

  #nameOfColumn(position: number): string {
    const { columns, dimensions } = this.#options.layout;
    const field = Object.entries(columns).find(([, column]) => column === position)?.[0];
    return field ?? dimensions.find(({ column }) => column === position)?.name ?? '';
  }

  #place(text: string, kind: EntryKind): Place | null {
    if (text === '') return this.#refuse('required', 'date', '');
    const key = `${kind === 'adjustment' ? 'a' : ''}${text}`;
    let place = this.#places.get(key);
    if (place === undefined) {
      place = this.#findPlace(text, kind);
      this.#places.set(key, place);
    }
    return typeof place === 'string' ? this.#refuse(place, 'date', text) : place;
  }

  #findPlace(text: string, kind: EntryKind): Place | ImportIssueCode {
    const date = parseIsoDate(text);
    if (!date) return /^\d{4}-\d{2}-\d{2}$/.test(text) ? 'impossibleDate' : 'dateLayout';
    const { years } = this.#options;
    if (years.kind === 'held') {
      const index = periodOfDate(years.calendar, date);
      if (index === null) return 'dateOutsideYears';
      const { year, number } = periodAt(years.calendar, index);
      const periodNumber = adjusted(number, kind, years.calendar.hasAdjustmentPeriod);
      if (this.#options.closed?.has(year * 100 + periodNumber)) return 'periodClosed';
      return { date, fiscalYear: year, periodNumber };
    }
    const fiscalYear = fiscalYearOfDate(date, years.startMonth);
    this.#firstOpenYear ??= fiscalYear;
    if (Math.abs(fiscalYear - this.#firstOpenYear) >= years.mostYears) return 'dateOutsideYears';
    const number = ((Number(date.slice(5, 7)) - years.startMonth + 12) % 12) + 1;
    return { date, fiscalYear, periodNumber: adjusted(number, kind, years.hasAdjustmentPeriod) };
  }
}

/** A text of its own: one cut from a large piece of a file would keep that piece in memory for as long as it is held. */
function detached(text: string): string {
  return text.length < 13 ? text : ` ${text}`.slice(1);
}

/** An adjustment dated in the year's last period belongs to the adjustment period where one is kept. */
function adjusted(number: number, kind: EntryKind, hasAdjustmentPeriod: boolean): number {
  return kind === 'adjustment' && number === 12 && hasAdjustmentPeriod ? 13 : number;
}
