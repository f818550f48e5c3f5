import { type Account, isIncomeAccount, signOf } from '../chart/account.ts';
import { type DimensionFilter, filterKey, passes } from '../ledger/dimension.ts';
import { AmountOverflowError, LARGEST_MINOR, type Minor, minor } from '../money/minor.ts';
import type { Basis } from './basis.ts';
import { type BudgetBooks, type BudgetHead, type PlacedLine, sliceKey } from './budget-books.ts';
import { parseBudgetEntry } from './budget-entry.ts';
import { absoluteTotal, type BudgetMonth, isSameMonth, rowAmount } from './budget-line.ts';
import { type BudgetEdit, editBudget } from './edit.ts';
import { followedLine, followOrder, follows } from './follow.ts';
import { lineContext } from './line-context.ts';
import { type LineChange, LineTrace } from './line-trace.ts';
import { isOfLine } from './spread.ts';
import {
  type BudgetNote,
  noteKey,
  type WorksheetBatch,
  type WorksheetEdit,
  type WorksheetIssue,
  type WorksheetRefusal,
} from './worksheet-edit.ts';

export type NoteChange = { readonly before: BudgetNote | null; readonly after: BudgetNote | null };
export type WorksheetResult = {
  readonly changes: readonly LineChange[];
  readonly notes: readonly NoteChange[];
  readonly refusals: readonly WorksheetRefusal[];
  /** ids of the lines and months that were edited themselves, not by following others: `12:3` */
  readonly cells: readonly string[];
};

const EMPTY: readonly BudgetMonth[] = Array.from({ length: 12 }, () => ({ amount: minor(0), held: false }));

/** A basis with its year total debit positive, as it is stored; and in the shown sign, as people see it. */
export const basisInSign = (basis: Basis, sign: 1 | -1): Basis =>
  basis.kind === 'typedTotal' ? { ...basis, total: minor(sign * basis.total) } : basis;

/**
 * A budget as it is worked on: its lines and notes, and what edits make of them. The server saves what it
 * gives; a browser shows it before. Nothing here is stored.
 */
export class BudgetWorksheet {
  readonly #books: BudgetBooks;
  readonly #head: BudgetHead;
  readonly #lines = new Map<number, PlacedLine>();
  readonly #byPosition = new Map<number, Set<number>>();
  readonly #notes = new Map<string, BudgetNote>();
  readonly #positions: ReadonlyMap<string, number>;
  #nextId = -1;
  /** of all amounts, whatever their sign: bounded, so that every sum of them is exact */
  #size = 0;

  constructor(options: {
    readonly books: BudgetBooks;
    readonly head: BudgetHead;
    readonly lines: Iterable<PlacedLine>;
    readonly notes?: Iterable<BudgetNote>;
  }) {
    this.#books = options.books;
    this.#head = options.head;
    this.#positions = new Map(options.books.chart.accounts.map(({ number }, position) => [number, position]));
    for (const line of options.lines) this.put(line);
    for (const note of options.notes ?? []) this.#notes.set(noteKey(note), note);
  }

  get lines(): Iterable<PlacedLine> {
    return this.#lines.values();
  }
  get notes(): Iterable<BudgetNote> {
    return this.#notes.values();
  }
  line(id: number): PlacedLine | undefined {
    return this.#lines.get(id);
  }

  /** Puts a line in the place of the one with its id, such as one another person saved. */
  put(line: PlacedLine): void {
    this.#size += absoluteTotal(line.months) - absoluteTotal(this.#lines.get(line.id)?.months ?? []);
    this.#lines.set(line.id, line);
    const ids = this.#byPosition.get(line.position) ?? new Set();
    this.#byPosition.set(line.position, ids.add(line.id));
  }
  remove(id: number): void {
    const line = this.#lines.get(id);
    if (!line) return;
    this.#size -= absoluteTotal(line.months);
    this.#lines.delete(id);
    this.#byPosition.get(line.position)!.delete(id);
  }
  setNote({ before, after }: NoteChange): void {
    if (before) this.#notes.delete(noteKey(before));
    if (after) this.#notes.set(noteKey(after), after);
  }

  /** Lines of an account (by chart position) that stand in the slices of a filter. */
  linesOf(position: number, filter: DimensionFilter): PlacedLine[] {
    const ids = [...(this.#byPosition.get(position) ?? [])];
    return ids.map((id) => this.#lines.get(id)!).filter((line) => passes(filter, line.dimensions));
  }

  /** The note on a row, or null. */
  note(account: string, filter: DimensionFilter, month: number | null): BudgetNote | null {
    return this.#notes.get(noteKey({ account, slice: filterKey(filter), month })) ?? null;
  }

  accountAt(position: number): Account {
    return this.#books.chart.accounts[position]!;
  }

  /** What the basis of a line draws on as the budget stands. */
  contextOf(line: PlacedLine) {
    return lineContext(this.#books, this.#head, { line, lines: { [Symbol.iterator]: () => this.#lines.values() } });
  }

  /** Account numbers of lines that follow one another in a circle; null where none do. Such lines keep their months. */
  get circle(): readonly string[] | null {
    return followOrder(this.#books.chart, [...this.#lines.values()]).circle;
  }

  /**
   * Applies edits in their order. What cannot be done is refused and the rest stands; lines that follow
   * others are brought up to date at the end.
   */
  apply(edits: readonly WorksheetEdit[], filter: DimensionFilter): WorksheetResult {
    return this.applyAll([{ edits, filter }]);
  }

  /** Applies edits made in several slices as one change; refusals count the edits of all batches from 0. */
  applyAll(batches: readonly WorksheetBatch[]): WorksheetResult {
    const edits = batches.flatMap(({ edits: own, filter }) => own.map((edit) => ({ edit, filter })));
    const whole = this.#attempt(edits);
    if (whole.fault === null) return whole.result;
    // the edits at fault are refused, and the others made without them
    const { fault } = whole;
    const isAtFault = ({ edit }: PlacedEdit) =>
      fault.code === 'circle'
        ? (edit.kind === 'basis' && follows(edit.basis)) || (edit.kind === 'year' && isOfLine(edit.spread))
        : edit.kind !== 'note';
    const accepted = edits.flatMap((each, index) => (isAtFault(each) ? [] : [index]));
    const second = this.#attempt(accepted.map((index) => edits[index]!));
    const rest = second.result;
    // with the edits at fault left out, what remains may be at fault by itself: then nothing is changed
    const alsoAtFault = second.fault === null ? [] : accepted.filter((index) => edits[index]!.edit.kind !== 'note');
    const refused = edits.flatMap((each, index): WorksheetRefusal[] =>
      isAtFault(each) ? [{ edit: index, account: each.edit.account, text: textOf(each.edit), issue: fault }] : [],
    );
    const more = alsoAtFault.map((index): WorksheetRefusal => ({
      edit: index,
      account: edits[index]!.edit.account,
      text: textOf(edits[index]!.edit),
      issue: second.fault!,
    }));
    const known = new Set(alsoAtFault);
    const others = rest.refusals.map((refusal) => ({ ...refusal, edit: accepted[refusal.edit]! })).filter(({ edit }) => !known.has(edit));
    const refusals = [...refused, ...more, ...others];
    return { ...rest, refusals: refusals.sort((a, b) => a.edit - b.edit) };
  }

  /**
   * Takes a change back, cell by cell: only what still stands as the change left it. The lines that follow
   * are brought up to date. `notUndone` counts the figures another change left standing.
   */
  undo(changes: readonly LineChange[], notes: readonly NoteChange[]): SteppedResult {
    const trace = new LineTrace(this);
    const circularBefore = this.#circular();
    const cells = new Set<string>();
    let notUndone = 0;
    for (const { before, after } of changes) {
      const now = this.#lines.get(after.id);
      if (!now) continue;
      const was = before ?? emptied(after);
      const months = now.months.map((month, index) => {
        const [from, to] = [after.months[index]!, was.months[index]!];
        if (isSameMonth(from, to)) return month;
        if (!isSameMonth(month, from)) {
          notUndone += 1;
          return month;
        }
        cells.add(`${now.id}:${index}`);
        return to;
      });
      const isBasisAsLeft = JSON.stringify(now.basis) === JSON.stringify(after.basis);
      trace.put({ ...now, basis: isBasisAsLeft ? was.basis : now.basis, months });
    }
    // a note that was changed since stays as it is now
    const turned = notes.flatMap(({ before, after }) => {
      const place = (after ?? before)!;
      const now = this.#notes.get(noteKey(place)) ?? null;
      if ((now?.text ?? null) === (after?.text ?? null)) return [{ before: after, after: before }];
      notUndone += 1;
      return [];
    });
    for (const note of turned) this.setNote(note);
    const fault = this.#follow(trace, circularBefore);
    if (fault) {
      trace.undo();
      for (const { before, after } of [...turned].reverse()) this.setNote({ before: after, after: before });
      return { ...NO_RESULT, notUndone: 0, fault };
    }
    return { changes: trace.changes(), notes: turned, refusals: [], cells: [...cells], notUndone, fault: null };
  }

  /** Applies an undone change again, where its amounts are still as they were before it. */
  redo(changes: readonly LineChange[], notes: readonly NoteChange[]): SteppedResult {
    return this.undo(
      changes.map(({ before, after }) => ({ before: after, after: before ?? emptied(after) })),
      notes.map(({ before, after }) => ({ before: after, after: before })),
    );
  }

  /**
   * Derives lines again, such as after history was corrected or a driver came in. Held months stay.
   * @param accounts numbers of the accounts to derive; all when left out
   */
  rederive(accounts?: ReadonlySet<string>): { readonly changes: readonly LineChange[]; readonly fault: FollowFault | null } {
    const trace = new LineTrace(this);
    const before = this.#circular();
    for (const line of [...this.#lines.values()]) {
      if (line.basis.kind === 'typed' || (accounts && !accounts.has(line.account))) continue;
      const next = withinRange(() => followedLine(line, this.contextOf(line)));
      if (next === null) {
        trace.undo();
        return { changes: [], fault: { code: 'budgetTooLarge' } };
      }
      if (next !== line) trace.put(next);
    }
    const fault = this.#follow(trace, before);
    if (fault) trace.undo();
    return { changes: fault ? [] : trace.changes(), fault };
  }

  /** Applies edits; with a fault of the lines that follow, which is returned, everything is as it was before. */
  #attempt(edits: readonly PlacedEdit[]): { readonly result: WorksheetResult; readonly fault: FollowFault | null } {
    const trace = new LineTrace(this);
    const cells = new Set<string>();
    const refusals: WorksheetRefusal[] = [];
    const notes: NoteChange[] = [];
    const circular = this.#circular();
    edits.forEach(({ edit, filter }, index) => {
      if (edit.kind === 'note') return void notes.push(...this.#applyNote(edit, filter));
      const issue = this.#applyEdit(edit, filter, { trace, cells });
      if (issue) refusals.push({ edit: index, account: edit.account, text: textOf(edit), issue });
    });
    const fault = trace.isEmpty ? null : this.#follow(trace, circular);
    if (fault) {
      trace.undo();
      for (const { before, after } of notes.reverse()) this.setNote({ before: after, after: before });
    }
    if (fault) return { fault, result: { ...NO_RESULT, refusals } };
    return { fault, result: { changes: trace.changes(), notes, refusals, cells: [...cells] } };
  }

  #applyNote(edit: WorksheetEdit & { readonly kind: 'note' }, filter: DimensionFilter): NoteChange[] {
    const place = { account: edit.account, slice: filterKey(filter), month: edit.month };
    const before = this.#notes.get(noteKey(place)) ?? null;
    const text = edit.text.trim();
    const after = text === '' ? null : { ...place, text };
    if (before?.text === after?.text) return [];
    this.setNote({ before, after });
    return [{ before, after }];
  }

  #applyEdit(
    edit: Exclude<WorksheetEdit, { readonly kind: 'note' }>,
    filter: DimensionFilter,
    { trace, cells }: { readonly trace: LineTrace; readonly cells: Set<string> },
  ): WorksheetIssue | null {
    const accounts = [edit.account, ...('together' in edit ? (edit.together ?? []) : [])];
    const rows: PlacedLine[][] = [];
    for (const account of accounts) {
      const position = this.#positions.get(account);
      if (position === undefined) return { code: 'unknownAccount' };
      if (!isIncomeAccount(this.#books.chart.accounts[position]!)) return { code: 'notBudgeted' };
      rows.push(this.#rowLines(position, filter));
    }
    const lines = rows.flat();
    const sign = ('sign' in edit ? edit.sign : undefined) ?? signOf(this.#books.chart.accounts[lines[0]!.position]!);
    const change = this.#read(edit, lines, sign);
    if ('code' in change) return change;
    if (accounts.length > 1 && !hasOneSign(lines, change)) return { code: 'mixedSigns' };
    const result = withinRange(() =>
      editBudget(
        lines.map((line) => ({ line, context: this.contextOf(line) })),
        change,
      ),
    );
    if (result === null) return { code: 'budgetTooLarge' };
    if (!result.ok) return { code: result.code };
    const growth = result.lines.reduce((sum, { months }, index) => sum + absoluteTotal(months) - absoluteTotal(lines[index]!.months), 0);
    if (this.#size + growth > LARGEST_MINOR) return { code: 'budgetTooLarge' };
    result.lines.forEach(({ basis, months }, index) => {
      const line = lines[index]!;
      trace.put({ ...line, basis, months });
      months.forEach((month, at) => {
        const was = line.months[at]!;
        if (!isSameMonth(month, was)) cells.add(`${line.id}:${at}`);
      });
    });
    return null;
  }

  /** What was typed, read; amounts debit positive. */
  #read(
    edit: Exclude<WorksheetEdit, { readonly kind: 'note' }>,
    lines: readonly PlacedLine[],
    sign: 1 | -1,
  ): BudgetEdit | Extract<WorksheetIssue, { code: string }> {
    if (edit.kind === 'basis') return { kind: 'basis', basis: basisInSign(edit.basis, sign) };
    if (edit.kind === 'release') return { kind: 'release', months: edit.months };
    const current =
      edit.kind === 'month'
        ? rowAmount(lines, edit.month)
        : edit.kind === 'year'
          ? rowAmount(lines, 'year')
          : edit.months.reduce((sum, month) => sum + rowAmount(lines, month), 0);
    const entry = parseBudgetEntry(edit.text, minor(sign * current), this.#books.exponent);
    if (!entry.ok) return entry.issue;
    const amount: Minor = minor(sign * entry.value);
    if (edit.kind === 'month') return { kind: 'month', month: edit.month, amount };
    if (edit.kind === 'year') return { kind: 'year', amount, spread: edit.spread };
    return { kind: 'span', months: edit.months, amount, spread: edit.spread };
  }

  /** The lines of a row; where there is none, a new one in the slice that is looked at. */
  #rowLines(position: number, filter: DimensionFilter): PlacedLine[] {
    const found = this.linesOf(position, filter);
    if (found.length > 0) return found;
    const dimensions = Object.fromEntries(
      Object.entries(filter).flatMap(([name, values]) => (this.#head.dimensions.includes(name) && values[0] ? [[name, values[0]]] : [])),
    );
    const id = this.#nextId;
    this.#nextId -= 1;
    const account = this.#books.chart.accounts[position]!.number;
    return [{ id, position, account, dimensions, slice: sliceKey(dimensions), basis: { kind: 'typed' }, months: EMPTY }];
  }

  /** Ids of lines that follow one another in a circle. */
  #circular(): ReadonlySet<number> {
    return followOrder(this.#books.chart, [...this.#lines.values()]).circular;
  }

  /**
   * Brings lines that follow others up to date; what is wrong when a change leads them back to themselves or
   * makes them grow past what can be held. A circle that was there before the change is not its fault.
   */
  #follow(trace: LineTrace, circularBefore: ReadonlySet<number>): FollowFault | null {
    const { order, circular, circle } = followOrder(this.#books.chart, [...this.#lines.values()]);
    if (circle !== null && [...circular].some((id) => !circularBefore.has(id))) return { code: 'circle', accounts: circle };
    for (const { id } of order) {
      const line = this.#lines.get(id)!;
      const next = withinRange(() => followedLine(line, this.contextOf(line)));
      if (next === null) return { code: 'budgetTooLarge' };
      if (next !== line) trace.put(next);
    }
    return this.#size > LARGEST_MINOR ? { code: 'budgetTooLarge' } : null;
  }
}

const NO_RESULT: WorksheetResult = { changes: [], notes: [], refusals: [], cells: [] };
/** An undo or redo: `notUndone` counts the figures another change left standing; with a fault nothing was changed. */
export type SteppedResult = WorksheetResult & { readonly notUndone: number; readonly fault: FollowFault | null };
/** What can be wrong of lines that follow others. */
export type FollowFault = Extract<WorksheetIssue, { readonly code: 'circle' }> | { readonly code: 'budgetTooLarge' };
/** What is computed; null when an amount on the way is past what can be held exactly. */
function withinRange<Result>(compute: () => Result): Result | null {
  try {
    return compute();
  } catch (error) {
    if (error instanceof AmountOverflowError) return null;
    throw error;
  }
}
const textOf = (edit: WorksheetEdit): string => ('text' in edit ? edit.text : '');
type PlacedEdit = { readonly edit: WorksheetEdit; readonly filter: DimensionFilter };

const emptied = (line: PlacedLine): PlacedLine => ({ ...line, basis: { kind: 'typed' }, months: EMPTY });

/** Whether no line of several stands against the others in the months a figure is typed for: shares of such a sum would grow both ways. */
function hasOneSign(lines: readonly PlacedLine[], change: BudgetEdit): boolean {
  const of = (line: PlacedLine): number => {
    if (change.kind === 'month') return rowAmount([line], change.month);
    if (change.kind === 'span') return change.months.reduce((sum, month) => sum + rowAmount([line], month), 0);
    return rowAmount([line], 'year');
  };
  const amounts = lines.map(of);
  return amounts.every((amount) => amount >= 0) || amounts.every((amount) => amount <= 0);
}
