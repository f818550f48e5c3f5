import { describe, expect, it } from 'vitest';

import { budgetMilestoneWords } from './budget-milestone-words.ts';

const words = (action: string, details: Readonly<Record<string, unknown>> = {}) =>
  budgetMilestoneWords(action, details, (id) => `Plan ${id}`);

describe('what happened to a budget as a whole', () => {
  it('says what it was made from', () => {
    expect(words('budget.create', { fromYear: 2027, copiedFrom: null })).toBe('Created from FY2027');
    expect(words('budget.create', { fromYear: 2027, copiedFrom: 4 })).toBe('Created as a version of Plan 4');
    expect(words('budget.create')).toBe('Created');
  });
  it('tells its states, and findings that were open when it was approved', () => {
    expect(words('budget.inReview', { from: 'draft' })).toBe('Submitted for review');
    expect(words('budget.working', { from: 'inReview' })).toBe('Returned to draft');
    expect(words('budget.approved', { openFindings: 0 })).toBe('Approved');
    expect(words('budget.approved', { openFindings: 1 })).toBe('Approved with one finding of the budget checks open');
    expect(words('budget.approved', { openFindings: 3 })).toBe('Approved with 3 findings of the budget checks open');
    expect(words('budget.superseded', { by: 7 })).toBe('Superseded by Plan 7');
  });
  it('tells answers, given and taken back, by their account', () => {
    expect(words('budget.answer', { finding: 'jump 6120 [["department","Store"]]', text: 'Known' })).toBe('Budget checks, 6120: Known');
    expect(words('budget.answer', { finding: 'jump 6120', text: '' })).toBe('Budget checks, 6120: explanation removed');
  });
  it('says what was recorded of anything else', () => expect(words('budget.edit', { words: 'Apr of 6110: 5' })).toBe('Apr of 6110: 5'));
});
