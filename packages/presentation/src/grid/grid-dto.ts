import type { CellDto, GridDto } from '@wise-margin/contract';
import {
  type Cell,
  columnWords,
  DEFAULT_DISPLAY,
  type Display,
  DISPLAY_FIELDS,
  type DisplayField,
  fillFields,
  longPeriodName,
  periodAt,
  type PeriodIndex,
  type PlannedColumn,
  type PlannedLine,
  RATIOS,
  shownColumns,
  shownOrder,
  type StatementGrid,
  type StatementIssue,
  STATISTIC,
} from '@wise-margin/core';

import { AGGREGATION_WORDS } from '../words/aggregation-words.ts';
import { DISPLAY_FIELD_WORDS } from '../words/display-field-words.ts';
import { issueNames, statementIssueWords } from '../words/statement-issue-words.ts';

/** A cell as it crosses the wire: the core's own, without what only formulas read. */
export function cellDto(cell: Cell): CellDto {
  if (cell.kind !== 'amount' || cell.unrounded === undefined) return cell as CellDto;
  const { unrounded: _, ...shown } = cell;
  return shown as CellDto;
}
const isNothing = (cell: Cell): boolean => cell.kind === 'blank' || (cell.kind !== 'notMeaningful' && cell.value === 0);
const AS_USUAL = { display: DEFAULT_DISPLAY, accounts: '', drafts: false };
const NO_FIELDS = Object.fromEntries(DISPLAY_FIELDS.map((name) => [name, ''])) as Record<DisplayField, string>;
const RATIO_WORDS = new Map(RATIOS.map(({ key, words }) => [key, words]));

/** An issue says when actual figures have fewer months than their heading, so that nobody compares seven months with nine. */
function pastTheActuals({ plan }: StatementGrid, last: PeriodIndex | null): GridDto['issues'] {
  const showsActual = plan.columns.some((column) => column.kind === 'amount' && column.scenario === 'actual' && !column.hidden);
  if (last === null || !showsActual) return [];
  if (plan.asOf <= last) return monthUnderWay(plan);
  const end = longPeriodName(plan.calendar, last);
  return [
    {
      place: 'Actual',
      message: `Nothing is posted after ${end}`,
      fix: `Actuals end there. Go back to ${end} for a like-for-like comparison`,
    },
  ];
}

/** An issue where the as-of month has postings and is not over yet. */
function monthUnderWay({ calendar, asOf, through }: StatementGrid['plan']): GridDto['issues'] {
  if (through === null || through >= asOf) return [];
  const [month, last] = [longPeriodName(calendar, asOf), longPeriodName(calendar, Math.max(through, 0) as PeriodIndex)];
  return [
    {
      place: 'Actual',
      message: `${month} is not complete: the last month of actuals is ${last}`,
      fix: `Go back to ${last}, or change the last month of actuals on Periods`,
    },
  ];
}

/** The evaluated grid for the wire: hidden lines and columns left out, nothing computed. */
export function gridDto(
  grid: StatementGrid,
  options: {
    readonly budget: string;
    readonly view: GridDto['view'];
    readonly issues: readonly StatementIssue[];
    /** the last month actual figures are shown of; an issue says when the statement goes past it */
    readonly lastShown?: PeriodIndex | null;
    /** choices of the run, and what its titles and footnotes may name; as usual when left out */
    readonly run?: { readonly display: Display; readonly accounts: string; readonly drafts: boolean };
    readonly fields?: Readonly<Record<DisplayField, string>>;
    /** keys of the lines whose parts go along; all when left out */
    readonly open?: ReadonlySet<string> | undefined;
  },
): GridDto {
  const { plan } = grid;
  const names = issueNames(plan);
  const { display, accounts, drafts } = options.run ?? AS_USUAL;
  const columns = shownColumns(grid).filter(({ kind }) => display.shares || kind !== 'share');
  const lines = shownOrder(grid)
    .map((index) => plan.lines[index]!)
    .filter((line) => !line.hidden && (!isPart(line) || (options.open?.has(plan.lines[line.parent]!.key) ?? true)));
  const withParts = new Set(
    plan.lines.filter((line) => isPart(line) && !line.hidden && !isZeroLine(grid, line, columns)).map(({ parent }) => parent),
  );
  const unknownFields = new Set<string>();
  const fill = (text: string): string => {
    const { text: filled, unknown } = fillFields(text, options.fields ?? NO_FIELDS);
    for (const name of unknown) unknownFields.add(name);
    return filled;
  };
  const head = {
    title: display.title.trim() === '' ? options.view.name : fill(display.title),
    subtitle: fill(display.subtitle),
    footnotes: display.footnotes.map(fill),
  };
  return {
    view: options.view,
    asOf: periodAt(plan.calendar, plan.asOf).key,
    asOfWords: longPeriodName(plan.calendar, plan.asOf),
    budgetWords: options.budget,
    percentBase: plan.lines[plan.percentBase]?.name ?? null,
    filter: Object.fromEntries(Object.entries(grid.filter).map(([dimension, values]) => [dimension, [...values]])),
    accounts,
    drafts,
    display: { ...display, footnotes: [...display.footnotes] },
    head,
    issues: [
      ...options.issues.map((issue) => statementIssueWords(issue, names)),
      ...pastTheActuals(grid, options.lastShown ?? null),
      ...[...unknownFields].map((name) => ({
        place: 'Title and footnotes',
        message: `There is no field "${name}"`,
        fix: `Insert one of these: ${Object.values(DISPLAY_FIELD_WORDS).join(', ')}`,
      })),
    ],
    blocks: plan.blocks.map(({ key, heading, isTotal }) => ({ key, heading, isTotal })),
    columns: columns.map((column) => ({
      key: column.key,
      block: column.block,
      heading: column.heading,
      kind: column.kind,
      scenario: column.kind === 'amount' ? drawnAs(column) : null,
      words: columnWords(grid, column.index),
      bar: column.kind === 'difference' && column.bar,
      isPinned: column.kind === 'amount' && column.isPinned,
      decimals: column.decimals,
      width: column.width,
    })),
    lines: lines.map((line) => ({
      key: line.key,
      name: line.name,
      kind: line.kind,
      depth: line.depth,
      parent: plan.lines[line.parent]?.key ?? null,
      account: display.accountNumbers && line.accountNumbers ? accountNumber(grid, line) : null,
      startsSide: line.startsSide,
      emphasis: line.emphasis,
      rule: line.rule,
      words: line.source.kind === 'statistic' ? AGGREGATION_WORDS[line.source.over] : (RATIO_WORDS.get(line.key) ?? null),
      opens: withParts.has(line.index),
      isZero: isZeroLine(grid, line, columns),
      sign: line.sign,
      isPart: isPartOfAccount(line),
    })),
    cells: lines.map((line) => columns.map((column) => cellDto(grid.cells[line.index]![column.index]!))),
  };
}

const isPart = ({ kind }: PlannedLine): boolean => kind === 'account' || kind === 'slice';

function isZeroLine(grid: StatementGrid, line: PlannedLine, columns: readonly PlannedColumn[]): boolean {
  return line.source.kind !== 'nothing' && columns.every((column) => isNothing(grid.cells[line.index]![column.index]!));
}

function isPartOfAccount({ kind, filter, measure }: PlannedLine): boolean {
  return kind === 'account' && (Object.keys(filter).length > 0 || measure !== null);
}

function accountNumber({ plan }: StatementGrid, { kind, source }: PlannedLine): string | null {
  return kind === 'account' && source.kind === 'accounts' ? plan.chart.accounts[source.accounts[0]!]!.number : null;
}

/** How a column's figures are drawn: a year not ended is hatched, one that ended is a prior year. */
function drawnAs(column: PlannedColumn & { readonly kind: 'amount' }): 'actual' | 'prior' | 'budget' | 'projection' | null {
  if (column.scenario.startsWith(STATISTIC)) return null;
  if (column.scenario === 'projection') return 'projection';
  if (column.scenario !== 'actual') return 'budget';
  return column.isPriorPeriod ? 'prior' : 'actual';
}
