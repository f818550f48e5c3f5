import { type Column, freeKey, keyOfWords, RESERVED_NAMES } from '@wise-margin/core';

const MOST_CHARACTERS = 60;
const TAKEN = [...RESERVED_NAMES, 'min', 'max', 'abs'];

/** A formula name made of words, free among those in use: `2027 plan` gives `_2027_plan`, `Days` gives `days_2`. */
export function formulaName(words: string, inUse: readonly string[]): string {
  const key = words.trim() === '%' ? 'percent' : keyOfWords(words).slice(0, MOST_CHARACTERS);
  return freeKey([...inUse, ...TAKEN], /^[a-z_]/.test(key) ? key : `_${key}`);
}

/** Whether a formula name was made of these words, and so follows them when they change. */
export function isMadeOf(key: string, words: string): boolean {
  const made = formulaName(words, []);
  return key === made || (key.startsWith(`${made}_`) && /^\d+$/.test(key.slice(made.length + 1)));
}

/** The heading a column gets until it is given one of its own. */
export function fittingHeading(column: Column): string {
  switch (column.kind) {
    case 'amount': {
      const { scenario, span } = column;
      if (scenario.startsWith('statistic:')) {
        const series = scenario.slice('statistic:'.length);
        return `${series.charAt(0).toUpperCase()}${series.slice(1)}`;
      }
      if (scenario === 'projection') return 'Projection';
      if (scenario.startsWith('budget')) return 'Budget';
      return span.shift?.years === -1 ? 'Prior year' : 'Actual';
    }
    case 'difference':
      return 'Variance';
    case 'percentDifference':
      return '%';
    case 'share':
      return '% of total';
    case 'formula':
      return 'Formula';
    case 'runningTotal':
      return 'Running total';
    case 'benchmark':
      return 'Benchmark';
  }
}
