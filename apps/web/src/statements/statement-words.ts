import type { GridDto } from '@wise-margin/contract';
import type { DisplayUnit } from '@wise-margin/core';

/** What the statement is of: its month, what it is against, what it keeps to. */
export function asOfLine(grid: GridDto): string {
  const usesBudget = grid.columns.some(({ scenario }) => scenario === 'budget' || scenario === 'projection');
  return [
    grid.asOfWords,
    grid.head.subtitle,
    usesBudget ? `against ${grid.budgetWords}` : '',
    ...Object.entries(grid.filter).map(([name, values]) => `${name} ${values.map((value) => value || 'none').join(' or ')}`),
    grid.accounts === '' ? '' : `accounts ${grid.accounts}`,
    grid.drafts ? 'draft entries included' : '',
  ]
    .filter((text) => text !== '')
    .join('; ');
}

const UNITS: Readonly<Record<DisplayUnit, string>> = { cents: '', dollars: '', thousands: 'Thousands of ', millions: 'Millions of ' };

/** In what unit amounts stand, and of what shares are taken. */
export function unitLine(grid: GridDto, currencyWords: string): string {
  const unit = `${UNITS[grid.display.unit]}${currencyWords}`;
  const base = grid.percentBase;
  return base !== null && grid.columns.some(({ kind }) => kind === 'share') ? `${unit}; percentages of ${base.toLowerCase()}` : unit;
}
