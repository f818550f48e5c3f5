import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

import type { StatementIssue, StatisticIssue } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { statementIssueWords } from './statement-issue-words.ts';
import { statisticIssueWords } from './statistic-issue-words.ts';

/** The codes a source file lists for `code` in a type. */
const codesOf = (file: string, type: string): string[] => {
  const source = readFileSync(fileURLToPath(new URL(`../../../core/src/${file}`, import.meta.url)), 'utf8');
  const body = new RegExp(`type ${type} = \\{[\\s\\S]*?readonly code:([^;]+);`).exec(source)![1]!;
  return [...body.matchAll(/'(\w+)'/g)].map(([, code]) => code!);
};

describe('every fault of a statement has its place, its words and its fix', () => {
  it.each(codesOf('statements/line-issue.ts', 'LineIssue'))('line: %s', (code) => {
    const words = statementIssueWords({ of: 'line', line: 'gross_profit', code, token: 'sales' } as StatementIssue);
    expect(words.place).toBe('Line gross_profit');
    expect([words.message.length > 10, words.fix.length > 10]).toEqual([true, true]);
  });
  it.each(codesOf('statements/plan-columns.ts', 'ColumnIssue'))('column: %s', (code) => {
    const words = statementIssueWords({ of: 'column', block: 'month', column: 'difference', code, token: '12' } as StatementIssue);
    expect(words.place).toBe('Column month.difference');
    expect([words.message.length > 10, words.fix.length > 10]).toEqual([true, true]);
  });
  it.each(codesOf('statements/expression.ts', 'ExpressionIssue'))('formula: %s', (code) => {
    const formula = { code, at: 3, token: '$' } as never;
    const words = statementIssueWords({ of: 'line', line: 'a', code: 'formula', token: '$', formula });
    expect([words.message.length > 10, words.fix.length > 10]).toEqual([true, true]);
  });
  it('names the block where a repeat has no columns to blame', () =>
    expect(statementIssueWords({ of: 'column', block: 'years', column: '', code: 'outsideCalendar', token: 'years' }).place).toBe(
      'Column years',
    ));
});

describe('every fault of a statistics file has its row, reason and fix', () => {
  it.each(codesOf('ledger/statistics-file.ts', 'StatisticIssue'))('%s', (code) => {
    const words = statisticIssueWords({ row: 4, column: 'value', text: 'x', code: code as StatisticIssue['code'] });
    expect(words).toMatch(/^Row 4, column value, "x": .{10,}\. .{10,}\.$/);
  });
});
