import { isIncomeAccount, signOf } from '../chart/account.ts';
import type { DimensionCombination } from '../ledger/dimension.ts';
import { type Minor, minor } from '../money/minor.ts';
import { type AmountIssue, parseAmount } from '../money/parse-amount.ts';
import { nearMatches } from '../text/near-matches.ts';
import { type BudgetBooks, type BudgetHead, sliceKey } from './budget-books.ts';
import type { BudgetWorksheet } from './worksheet.ts';
import type { WorksheetEdit } from './worksheet-edit.ts';

/** A figure of a file: a month of an account in a slice, as it is written there, in the account's shown sign. */
export type FileFigure = {
  /** as a spreadsheet numbers them; the header is row 1 */
  readonly row: number;
  /** the column the amount stands in */
  readonly column: string;
  readonly account: string;
  readonly dimensions: DimensionCombination;
  /** 0 to 11 */
  readonly month: number;
  readonly text: string;
};
export type BudgetFileIssue = { readonly row: number; readonly column: string; readonly text: string } & (
  | {
      readonly code:
        | 'emptyFile'
        | 'missingColumn'
        | 'repeatedColumn'
        | 'unknownColumn'
        | 'cellCount'
        | 'required'
        | 'periodLayout'
        | 'outsideYear'
        | 'notBudgeted'
        | 'repeated';
    }
  | { readonly code: 'unknownAccount' | 'unknownValue'; readonly near: readonly string[] }
  | { readonly code: 'amount'; readonly issue: AmountIssue }
);
export type FilePlace = {
  readonly books: BudgetBooks;
  readonly head: BudgetHead;
  /** values each dimension has; '' stands for none */
  readonly values: ReadonlyMap<string, readonly string[]>;
};
export type ReadFigures = { readonly figures: readonly FileFigure[]; readonly issues: readonly BudgetFileIssue[] };

const OWN = ['account', 'period', 'amount'] as const;

/**
 * Reads a budget file: `account,period,amount` and a column for each dimension the budget has. A
 * period is a fiscal year and its number, `2028-07`; amounts are in the account's shown sign. Every fault is
 * listed; the figures are those of the good rows.
 * @param rows cells of each row, the header first
 */
export function readBudgetFile(rows: readonly (readonly string[])[], { head }: FilePlace): ReadFigures {
  const figures: FileFigure[] = [];
  const issues: BudgetFileIssue[] = [];
  const header = (rows[0] ?? []).map((cell) => cell.trim().toLowerCase());
  if (header.every((cell) => cell === '')) return { figures, issues: [{ row: 0, column: '', text: '', code: 'emptyFile' }] };
  for (const name of [...OWN, ...head.dimensions.map((each) => each.toLowerCase())])
    if (!header.includes(name)) issues.push({ row: 1, column: name, text: header.join(','), code: 'missingColumn' });
  const known = [...OWN, ...head.dimensions.map((name) => name.toLowerCase())] as readonly string[];
  header.forEach((name, index) => {
    if (header.indexOf(name) !== index) issues.push({ row: 1, column: name, text: name, code: 'repeatedColumn' });
    else if (!known.includes(name)) issues.push({ row: 1, column: name, text: name, code: 'unknownColumn' });
  });
  if (issues.length > 0) return { figures, issues };
  rows.slice(1).forEach((cells, position) => {
    const row = position + 2;
    if (cells.length === 1 && cells[0]!.trim() === '') return;
    if (cells.length !== header.length)
      return void issues.push({ row, column: '', text: cells.join(',').slice(0, 200), code: 'cellCount' });
    const text = (name: string): string => cells[header.indexOf(name)]!.trim();
    const period = /^(\d{4})-(\d{2})$/.exec(text('period'));
    if (!period) return void issues.push({ row, column: 'period', text: text('period'), code: 'periodLayout' });
    const month = Number(period[2]) - 1;
    if (Number(period[1]) !== head.year || month < 0 || month > 11)
      return void issues.push({ row, column: 'period', text: text('period'), code: 'outsideYear' });
    const dimensions = Object.fromEntries(
      head.dimensions.flatMap((name) => (text(name.toLowerCase()) === '' ? [] : [[name, text(name.toLowerCase())]])),
    );
    figures.push({ row, column: 'amount', account: text('account'), dimensions, month, text: text('amount') });
  });
  return { figures, issues };
}

/** A figure that would change, in the shown sign. */
export type FigureChange = {
  readonly account: string;
  readonly dimensions: DimensionCombination;
  readonly month: number;
  readonly from: Minor;
  readonly to: Minor;
};
export type FileEffect = {
  readonly changes: readonly FigureChange[];
  /** figures that stand as they are in the file */
  readonly same: number;
  readonly issues: readonly BudgetFileIssue[];
};

/** What a file's figures would change of a budget. Nothing is changed; figures at fault are listed and count for nothing. */
export function fileEffect(worksheet: BudgetWorksheet, { books, head, values }: FilePlace, figures: readonly FileFigure[]): FileEffect {
  const changes: FigureChange[] = [];
  const issues: BudgetFileIssue[] = [];
  const seen = new Set<string>();
  const positions = new Map(books.chart.accounts.map(({ number }, position) => [number, position]));
  let same = 0;
  for (const { row, column, account, dimensions, month, text } of figures) {
    const position = positions.get(account);
    if (account === '') issues.push({ row, column: 'account', text: '', code: 'required' });
    else if (position === undefined)
      issues.push({ row, column: 'account', text: account, code: 'unknownAccount', near: nearMatches(account, [...positions.keys()]) });
    else if (!isIncomeAccount(books.chart.accounts[position]!)) issues.push({ row, column: 'account', text: account, code: 'notBudgeted' });
    const strange = Object.entries(dimensions).find(([name, value]) => !(values.get(name) ?? []).includes(value));
    if (strange) {
      const [name, value] = strange;
      issues.push({ row, column: name, text: value, code: 'unknownValue', near: nearMatches(value, [...(values.get(name) ?? [])]) });
    }
    const amount = parseAmount(text, books.exponent);
    if (!amount.ok) issues.push({ row, column, text, code: 'amount', issue: amount.issue });
    const key = `${account} ${sliceKey(dimensions)} ${month}`;
    if (seen.has(key)) issues.push({ row, column, text: account, code: 'repeated' });
    seen.add(key);
    if (position === undefined || strange || !amount.ok || issues.at(-1)?.row === row) continue;
    const filter = Object.fromEntries(head.dimensions.map((name) => [name, [dimensions[name] ?? '']]));
    const sign = signOf(books.chart.accounts[position]!);
    const from = minor(sign * worksheet.linesOf(position, filter).reduce((sum, line) => sum + line.months[month]!.amount, 0));
    if (from === amount.value) same += 1;
    else changes.push({ account, dimensions, month, from, to: amount.value });
  }
  return { changes, same, issues };
}

/** The edits that bring changes about, by the slice they are made in. @param amountText an amount as it is typed */
export function editsOfChanges(
  head: BudgetHead,
  changes: readonly FigureChange[],
  amountText: (amount: Minor) => string,
): readonly { readonly filter: Readonly<Record<string, readonly string[]>>; readonly edits: readonly WorksheetEdit[] }[] {
  const bySlice = new Map<string, { filter: Record<string, readonly string[]>; edits: WorksheetEdit[] }>();
  for (const { account, dimensions, month, to } of changes) {
    const key = sliceKey(dimensions);
    const filter = Object.fromEntries(head.dimensions.map((name) => [name, [dimensions[name] ?? '']]));
    const slice = bySlice.get(key) ?? { filter, edits: [] };
    slice.edits.push({ kind: 'month', account, month, text: amountText(to) });
    bySlice.set(key, slice);
  }
  return [...bySlice.values()];
}
