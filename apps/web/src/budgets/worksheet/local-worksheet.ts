import { type GridDto, type WorksheetAnswerDto, type WorksheetDto } from '@wise-margin/contract';
import {
  BUDGET_GRID_COLUMNS,
  type BudgetBooks,
  BudgetFigures,
  type BudgetHead,
  type BudgetNote,
  BudgetWorksheet,
  type DimensionFilter,
  driversOf,
  editsOfProposal,
  filterKey,
  INCOME_LINES,
  type LineChange,
  type LineSet,
  minor,
  type NoteChange,
  signInTotal,
  type StatementGrid,
  targetProposal,
  toDecimalText,
  whatIf,
  type WorksheetEdit,
  yearsCompared,
} from '@wise-margin/core';
import {
  booksOfWorksheet,
  cellDto,
  type GridChanges,
  gridChanges,
  gridDto,
  packGrid,
  previewBasis,
  unpackLine,
  worksheetIssueWords,
  worksheetRowDto,
} from '@wise-margin/presentation';

import type { BasisTry, Previewed, Question, Questions, ShownWorksheet, SummaryLine, ViewRequest } from './worksheet-messages.ts';

/** Lines a year is summed up by as one types. */
const SUMMARY = ['revenue', 'gross_profit', 'operating_income', 'net_income'];
/** Lines what-ifs are compared by. */
const COMPARED = ['revenue', 'gross_profit', 'operating_expenses', 'operating_income', 'net_income'];

const NO_CHANGES: GridChanges = { rows: [], columns: [], cells: { shapes: [], rows: [] } };

const sameBits = (a: Readonly<Record<string, number>>, b: Readonly<Record<string, number>>): boolean =>
  Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([account, bits]) => b[account] === bits);

type Pending = {
  readonly id: number;
  readonly edits: readonly WorksheetEdit[];
  readonly filter: DimensionFilter;
  readonly changes: readonly LineChange[];
  readonly notes: readonly NoteChange[];
};

/**
 * A budget computed where it is edited: what is saved, and over it the edits that are still on their way.
 * When saved lines come in, those edits are undone and applied again over them.
 */
export class LocalWorksheet {
  readonly #name: string;
  readonly #books: BudgetBooks;
  readonly #head: BudgetHead;
  readonly #worksheet: BudgetWorksheet;
  /** by the rows of the income statement */
  readonly #figures: BudgetFigures;
  /** by the rows of another line set, while that is looked at */
  #own: { readonly lineSet: string; readonly figures: BudgetFigures } | null = null;
  readonly #positions: ReadonlyMap<string, number>;
  #pending: Pending[] = [];
  /** notes as they were shown last */
  #notes: readonly BudgetNote[] | null = null;
  /** accounts that changed since held months were last looked at */
  readonly #touched = new Set<number>();
  #held: { readonly key: string; readonly bits: Readonly<Record<string, number>> } | null = null;
  /** what was shown last: rows are compared with it */
  #shown: { readonly grid: StatementGrid; readonly dto: GridDto } | null = null;

  constructor(dto: WorksheetDto) {
    const { budget, lines, notes } = dto;
    this.#name = budget.name;
    this.#books = booksOfWorksheet(dto);
    this.#head = { year: budget.year, fromYear: budget.fromYear, dimensions: budget.dimensions };
    this.#positions = new Map(this.#books.chart.accounts.map(({ number }, position) => [number, position]));
    const placed = lines.map((line) => unpackLine(line, this.#positions));
    this.#worksheet = new BudgetWorksheet({ books: this.#books, head: this.#head, lines: placed, notes });
    this.#figures = new BudgetFigures({
      books: this.#books,
      head: this.#head,
      lines: placed,
      lineSet: INCOME_LINES,
      columnSet: BUDGET_GRID_COLUMNS,
    });
  }

  /** Makes edits before they are saved. @returns what of them is refused, in words */
  edit(id: number, edits: readonly WorksheetEdit[], filter: DimensionFilter): ShownWorksheet['refusals'] {
    const { changes, notes, refusals } = this.#worksheet.apply(edits, filter);
    this.#accept(changes);
    this.#pending.push({ id, edits, filter, changes, notes });
    return refusals.map(({ edit, account, text, issue }) => ({ edit, account, text, message: worksheetIssueWords(issue) }));
  }

  /** Takes saved lines in. @param id of the edits that were saved, or refused by the server; null when others' changes came */
  resolve(id: number | null, answer: Pick<WorksheetAnswerDto, 'lines' | 'notes'> | null): void {
    for (const { changes, notes } of [...this.#pending].reverse()) {
      for (const { before, after } of changes) this.#replace(after.id, before);
      for (const { before, after } of notes) this.#worksheet.setNote({ before: after, after: before });
    }
    const waiting = this.#pending.filter((each) => each.id !== id);
    for (const line of answer?.lines ?? []) {
      const after = unpackLine(line, this.#positions);
      this.#accept([{ before: this.#worksheet.line(after.id) ?? null, after }]);
      this.#worksheet.put(after);
    }
    if (answer?.notes) {
      for (const note of [...this.#worksheet.notes]) this.#worksheet.setNote({ before: note, after: null });
      for (const note of answer.notes) this.#worksheet.setNote({ before: null, after: note });
    }
    this.#pending = [];
    for (const { id: own, edits, filter } of waiting) this.edit(own, edits, filter);
  }

  /**
   * The grid under a filter, and the row that is looked at. Where the same rows of the same slice were shown
   * before, what changed alone.
   */
  show({ filter, account, lineSet }: ViewRequest): Omit<ShownWorksheet, 'refusals'> {
    const grid = this.#figuresBy(lineSet).grid(filter);
    const before = this.#shown;
    const isSame = before !== null && before.grid.plan === grid.plan && filterKey(before.grid.filter) === filterKey(filter);
    const changes = isSame ? gridChanges(before.dto, before.grid, grid) : null;
    const dto = changes
      ? before!.dto
      : gridDto(grid, { budget: this.#name, view: { key: 'budget', name: this.#name, note: '', openAll: false }, issues: [] });
    const held = this.#heldUnder(filter);
    const position = account === null ? undefined : this.#positions.get(account);
    const shown = {
      grid: changes ? null : packGrid(dto),
      changes: changes ?? NO_CHANGES,
      held,
      notes: this.#changedNotes(),
      summary: this.#summary(filter),
      outside: lineSet === null ? [] : this.#outside(grid),
      circle: this.#worksheet.circle,
      row:
        position === undefined
          ? null
          : worksheetRowDto({ books: this.#books, head: this.#head, worksheet: this.#worksheet }, position, filter),
    };
    this.#shown = { grid, dto };
    return shown;
  }

  /** Which months are held, by account: of accounts that changed since the last look at the same slice, and the others as they were; null where none changed. */
  #heldUnder(filter: DimensionFilter): Readonly<Record<string, number>> | null {
    const key = filterKey(filter);
    const isSame = this.#held?.key === key;
    const bits: Record<string, number> = isSame ? { ...this.#held!.bits } : {};
    for (const position of isSame ? this.#touched : this.#positions.values()) {
      const { number } = this.#books.chart.accounts[position]!;
      let own = 0;
      for (const { months } of this.#worksheet.linesOf(position, filter)) {
        months.forEach((month, index) => {
          if (month.held) own |= 1 << index;
        });
      }
      if (own === 0) delete bits[number];
      else bits[number] = own;
    }
    this.#touched.clear();
    const before = this.#held?.bits;
    this.#held = { key, bits };
    return isSame && before !== undefined && sameBits(before, bits) ? null : bits;
  }

  /** What a basis would give, before it is set. */
  preview({ account, filter, basis }: BasisTry): Previewed {
    return previewBasis({ books: this.#books, head: this.#head, lines: this.#worksheet.lines }, { account, filter, basis });
  }

  /** Answers a question; the budget stays as it is. */
  answer(question: Question): Questions[keyof Questions]['answer'] {
    switch (question.kind) {
      case 'basis':
        return this.preview(question.asked);
      case 'drivers':
        return driversOf(this.#worksheet.lines);
      case 'whatIf': {
        const tried = whatIf({ books: this.#books, head: this.#head, lines: [...this.#worksheet.lines], tried: question.asked });
        const options = { books: this.#books, head: this.#head, lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS };
        return yearsCompared(
          { before: this.#figures.grid({}), after: new BudgetFigures({ ...options, lines: tried }).grid({}) },
          COMPARED,
          'year.budget',
        );
      }
      case 'target': {
        const { line, target, accounts, weights } = question.asked;
        const grid = this.#figures.grid({});
        const cell = grid.cells[grid.plan.lineOfKey.get(line) ?? -1]?.[grid.plan.columns.findIndex(({ key }) => key === 'year.budget')];
        const lines = [...this.#worksheet.lines];
        const proposal = targetProposal({
          books: this.#books,
          lines,
          current: minor(cell?.kind === 'amount' ? cell.value : 0),
          target,
          accounts,
          weights,
          counts: (account) => signInTotal(grid.plan, line, account),
        });
        return { ...proposal, edits: editsOfProposal(proposal.shares, lines, (amount) => toDecimalText(amount, this.#books.exponent)) };
      }
    }
  }

  /** The figures by the rows of a line set; those of the income statement when none is given. */
  #figuresBy(lineSet: LineSet | null): BudgetFigures {
    if (lineSet === null) {
      this.#own = null;
      return this.#figures;
    }
    const text = JSON.stringify(lineSet);
    if (this.#own?.lineSet !== text)
      this.#own = {
        lineSet: text,
        figures: new BudgetFigures({
          books: this.#books,
          head: this.#head,
          lines: this.#worksheet.lines,
          lineSet,
          columnSet: BUDGET_GRID_COLUMNS,
        }),
      };
    return this.#own.figures;
  }

  /** Accounts with an amount that no row of a grid is of. */
  #outside({ plan }: StatementGrid): string[] {
    const shown = new Set(plan.lines.flatMap(({ source }) => (source.kind === 'accounts' ? source.accounts : [])));
    const budgeted = new Set<number>();
    for (const { position, months } of this.#worksheet.lines) if (months.some(({ amount }) => amount !== 0)) budgeted.add(position);
    return [...budgeted]
      .filter((position) => !shown.has(position))
      .sort((a, b) => a - b)
      .map((position) => this.#books.chart.accounts[position]!.number);
  }

  /** The year's summary under a filter; lines the statement has not are left out. */
  #summary(filter: DimensionFilter): SummaryLine[] {
    const { plan, cells } = this.#figures.grid(filter);
    const at = (key: string) => plan.columns.findIndex((column) => column.key === key);
    const [budget, difference, percent, share] = ['budget', 'difference', 'percent', 'cents'].map((key) => at(`year.${key}`));
    return SUMMARY.flatMap((key) => {
      const row = plan.lineOfKey.get(key);
      if (row === undefined) return [];
      const cell = (column: number | undefined) => cellDto(cells[row]![column!]!);
      const { name } = plan.lines[row]!;
      return [{ key, name, budget: cell(budget), difference: cell(difference), percent: cell(percent), share: cell(share) }];
    });
  }

  #changedNotes(): readonly BudgetNote[] | null {
    const notes = [...this.#worksheet.notes];
    const before = this.#notes;
    this.#notes = notes;
    return before?.length === notes.length && notes.every((note, index) => note === before[index]) ? null : notes;
  }

  #accept(changes: readonly LineChange[]): void {
    for (const { after } of changes) this.#touched.add(after.position);
    this.#figures.accept(changes);
    this.#own?.figures.accept(changes);
  }

  #replace(id: number, before: LineChange['before']): void {
    const now = this.#worksheet.line(id);
    if (!now) return;
    const emptied = { ...now, months: now.months.map(() => ({ amount: minor(0), held: false })) };
    this.#accept([{ before: now, after: before ?? emptied }]);
    if (before) this.#worksheet.put(before);
    else this.#worksheet.remove(id);
  }
}
