import type { BudgetFileIssue, CheckFinding, WorksheetIssue } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { budgetFileIssueWords, checkWords, worksheetIssueWords } from '../index.ts';

/** One of each code; a new code without words here or there does not compile. */
const DESK: { readonly [Code in WorksheetIssue['code']]: WorksheetIssue } = {
  notAnAmount: { code: 'notAnAmount' },
  tooManyDecimals: { code: 'tooManyDecimals' },
  divisionByZero: { code: 'divisionByZero' },
  tooLarge: { code: 'tooLarge' },
  unknownAccount: { code: 'unknownAccount' },
  notBudgeted: { code: 'notBudgeted' },
  budgetTooLarge: { code: 'budgetTooLarge' },
  allMonthsHeld: { code: 'allMonthsHeld' },
  noLines: { code: 'noLines' },
  severalLines: { code: 'severalLines' },
  mixedSigns: { code: 'mixedSigns' },
  circle: { code: 'circle', accounts: ['4000', '5000', '4000'] },
};
const at = { row: 7, column: 'department', text: 'Tuors' };
const ROWS: { readonly [Code in BudgetFileIssue['code']]: BudgetFileIssue } = {
  emptyFile: { ...at, code: 'emptyFile' },
  missingColumn: { ...at, code: 'missingColumn' },
  repeatedColumn: { ...at, code: 'repeatedColumn' },
  unknownColumn: { ...at, code: 'unknownColumn' },
  cellCount: { ...at, code: 'cellCount' },
  required: { ...at, code: 'required' },
  periodLayout: { ...at, code: 'periodLayout' },
  outsideYear: { ...at, code: 'outsideYear' },
  notBudgeted: { ...at, code: 'notBudgeted' },
  repeated: { ...at, code: 'repeated' },
  unknownAccount: { ...at, code: 'unknownAccount', near: [] },
  unknownValue: { ...at, code: 'unknownValue', near: ['Tours'] },
  amount: { ...at, code: 'amount', issue: { code: 'thousandsSeparator', suggestion: '1250.00' } },
};
const one = { account: '1', slice: null };
const FINDINGS: { readonly [Code in CheckFinding['code']]: readonly [CheckFinding, string] } = {
  jump: [{ code: 'jump', ...one, budget: 120_000, prior: 80_000, priorYear: 2026, change: 0.5 }, '1,200 is 50.0% above FY2026, 800'],
  season: [{ code: 'season', ...one, month: 3, share: 0.25, usual: 0.083 }, 'Jul is 25.0% of the year, usually 8.3%'],
  sign: [{ code: 'sign', ...one, budget: -5000, prior: 5000, priorYear: 2025 }, '(50) has the opposite sign of FY2025, 50'],
  inactive: [{ code: 'inactive', ...one, budget: 100 }, '1 is budgeted, and the account is inactive'],
  noBudget: [{ code: 'noBudget', ...one, prior: 9900, priorYear: 2026 }, 'FY2026 has 99, but nothing is budgeted'],
  zeroMonths: [{ code: 'zeroMonths', ...one, months: [0, 11] }, 'Nothing in Apr, Mar, although prior years have amounts in every month'],
  drift: [{ code: 'drift', ...one, share: 0.41, least: 0.3, most: 0.35 }, '41.0% of revenue; prior years were 30.0% to 35.0%'],
  nonrecurring: [
    {
      code: 'nonrecurring',
      ...one,
      entry: 'PU-000926',
      year: 2026,
      month: 7,
      amount: 6_840_000,
      reason: { code: 'newParty', party: 'Hemlock Builders' },
    },
    '68,400 (Nov of FY2026, entry PU-000926) is in the base and may not recur. Hemlock Builders has no amounts in this account in other years',
  ],
  noCost: [{ code: 'noCost', ...one, months: [1] }, 'Revenue without cost of sales in May'],
};
const MONTHS = ['Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec', 'Jan', 'Feb', 'Mar'];

describe('words of budgets', () => {
  it.each(Object.values(DESK))('a refused edit says what to do: $code', (issue) => {
    expect(worksheetIssueWords(issue)).toMatch(/^[a-z].{10,}\. [A-Z].*[^.]$/);
  });
  it.each(Object.values(ROWS))('a row at fault has a reason and a fix: $code', (issue) => {
    const { reason, fix } = budgetFileIssueWords(issue, 2028);
    for (const words of [reason, fix]) expect(words).toMatch(/^["A-Z].{5,}[^.]$/);
  });
  it('what is near is named in the fix', () => {
    expect(budgetFileIssueWords(ROWS.unknownValue, 2028).fix).toBe('Did you mean Tours?');
    expect(budgetFileIssueWords(ROWS.unknownAccount, 2028).fix).toBe('Correct the number');
    expect(budgetFileIssueWords(ROWS.outsideYear, 2028).fix).toBe('Write 2028-01 to 2028-12');
    expect(worksheetIssueWords(DESK.circle)).toContain('4000, then 5000, then 4000');
  });
  it.each(Object.values(FINDINGS))('a finding reads as a sentence: $0.code', (finding, words) =>
    expect(checkWords(finding, { exponent: 2, month: (month) => MONTHS[month]! })).toBe(words),
  );
});
