import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

import type { AmountIssue, ImportIssueCode } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { cellReasonWords } from './cell-words.ts';
import { importIssueWords } from './import-issue-words.ts';

const unionOf = (file: string, type: string): string[] => {
  const source = readFileSync(fileURLToPath(new URL(`../../../core/src/${file}`, import.meta.url)), 'utf8');
  const body = new RegExp(`type ${type}\\s*=([^;]+);`).exec(source)![1]!;
  return [...body.matchAll(/'(\w+)'/g)].map(([, code]) => code!);
};

describe('every code has its words', () => {
  it.each(unionOf('ledger/import-issue.ts', 'ImportIssueCode'))('import issue %s', (code) => {
    const { reason, fix } = importIssueWords({ file: 'ledger', row: 2, column: 'debit', text: 'x', code: code as ImportIssueCode });
    expect(reason.length).toBeGreaterThan(10);
    expect(fix.length).toBeGreaterThan(5);
    // a name of the code within a sentence
    expect(`${reason} ${fix}`).not.toMatch(/[a-z][A-Z]/);
  });
  it.each([
    'empty',
    'thousandsSeparator',
    'parentheses',
    'trailingMinus',
    'currencySign',
    'exponentNotation',
    'tooManyDecimals',
    'decimalComma',
    'tooLarge',
    'notANumber',
  ] as const)('amount %s', (code) => {
    const amount: AmountIssue = { code, suggestion: '-5.00', decimals: 2 };
    const { fix } = importIssueWords({ file: 'ledger', row: 2, column: 'credit', text: 'x', code: 'badAmount', amount });
    // a negative is never advised where it would be refused again
    expect(fix).not.toContain('-5');
  });
  it.each(unionOf('statements/cell.ts', 'BlankReason').filter((code) => code !== 'noLine'))('blank cell %s', (reason) =>
    expect(cellReasonWords({ kind: 'blank', reason })).not.toBe(''),
  );
  it.each(unionOf('statements/cell.ts', 'NotMeaningfulReason'))('n/m cell %s', (reason) =>
    expect(cellReasonWords({ kind: 'notMeaningful', reason })).toContain('Not meaningful'),
  );
});
