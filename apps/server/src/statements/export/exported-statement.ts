import { type ExportQuery, type GridDto } from '@wise-margin/contract';
import type { StatementGrid } from '@wise-margin/core';
import { type ShownLine, shownLines, signedLines } from '@wise-margin/presentation';

import type { Logo } from '../../companies/index.ts';
import type { EvaluatedView } from '../evaluated-view.ts';

/** What every format writes: exactly what is shown. */
export type ExportedStatement = {
  readonly company: string;
  readonly exponent: number;
  readonly currencySign: string;
  readonly dto: GridDto;
  /** the figures as shown, for formats that write formulas over them */
  readonly grid: Omit<StatementGrid, 'sources'>;
  readonly lines: readonly ShownLine[];
  /** keys of the lines whose amounts bear the currency sign; none where it is not asked for */
  readonly signed: ReadonlySet<string>;
  /** company; title and month; subtitle; budget, bases and filters */
  readonly title: readonly string[];
  readonly logo: Logo | null;
};

export function exportedStatement(
  { books, dto: dtoOf, shown }: EvaluatedView,
  { query, logo }: { readonly query: Pick<ExportQuery, 'open'>; readonly logo: Logo | null },
): ExportedStatement {
  const dto = dtoOf();
  const open = query.open === 'all' ? query.open : new Set(query.open.split(','));
  const lines = shownLines(dto, { open, hideZero: dto.display.zeroLines === 'hide' });
  return {
    company: books.name,
    exponent: books.currency.exponent,
    currencySign: books.currency.sign,
    dto,
    // without its sources, which are read from memory and cannot go to another thread
    grid: { plan: shown.plan, filter: shown.filter, cells: shown.cells },
    lines,
    signed: dto.display.currencySign ? signedLines(dto, lines) : new Set(),
    title: [
      books.name,
      `${dto.head.title}, ${dto.asOfWords}`,
      dto.head.subtitle,
      basisLine(dto, books.currency.words),
      ...filterWords(dto),
    ].filter((text) => text !== ''),
    logo,
  };
}

const UNITS = { cents: '', dollars: '', thousands: 'Thousands of ', millions: 'Millions of ' } as const;

/** What the figures are against, of what percentages are taken, and in what unit. */
function basisLine(dto: GridDto, currencyWords: string): string {
  const usesBudget = dto.columns.some(({ scenario }) => scenario === 'budget' || scenario === 'projection');
  const hasShares = dto.columns.some(({ kind }) => kind === 'share');
  return [
    dto.view.note,
    usesBudget ? `budget: ${dto.budgetWords}` : '',
    hasShares && dto.percentBase !== null ? `percentages of ${dto.percentBase.toLowerCase()}` : '',
    `${UNITS[dto.display.unit]}${currencyWords}`,
    dto.display.foots ? 'rounding adjusted so totals add up' : '',
  ]
    .filter((text) => text !== '')
    .join('; ');
}

/** The filters of the statement in words, one line for each. */
function filterWords(dto: GridDto): string[] {
  return [
    ...Object.entries(dto.filter).map(([name, values]) => `${name}: ${values.map((value) => value || 'none').join(', ')}`),
    ...(dto.accounts === '' ? [] : [`accounts: ${dto.accounts}`]),
    ...(dto.drafts ? ['draft entries included'] : []),
  ];
}
