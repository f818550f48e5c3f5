import { EMPTY_TEXT, textOf } from './rich-text.ts';
import type { Pack, Section, SectionBase, SectionContent } from './section.ts';

const USUAL: Omit<SectionBase, 'id' | 'title'> = {
  date: { kind: 'month' },
  hidden: false,
  condition: { kind: 'always' },
  orientation: 'auto',
  startsPage: true,
};
const section = (id: string, title: string, content: SectionContent & Partial<Omit<SectionBase, 'id' | 'title'>>): Section => ({
  ...USUAL,
  id,
  title,
  ...content,
});
const statement = (view: string, parts: Partial<Extract<SectionContent, { readonly kind: 'statement' }>> = {}) =>
  ({ kind: 'statement', view, comparison: 'asSaved', filter: {}, display: {}, open: [], ...parts }) as const;
const cover = (subtitle: string): SectionContent => ({ kind: 'cover', subtitle, preparedBy: '', logo: true });
const monthly: SectionContent = { kind: 'text', written: 'monthly', text: EMPTY_TEXT };
const KEY_MEASURES = ['revenue', 'gross_margin', 'operating_income', 'cash', 'receivable_days', 'payable_days'];
const TRENDS = ['revenue', 'gross_profit', 'operating_expenses', 'operating_income'];
const THOUSANDS = { unit: 'thousands' } as const;
const NO_NUMBERS = { accountNumbers: false } as const;

/** The review packs that come with the application. */
export const SHIPPED_PACKS: readonly Pack[] = [
  {
    key: 'monthly-review',
    name: 'Monthly management review',
    note: 'Statements, findings with their comments, and receivables as of the meeting',
    splitBy: null,
    sections: [
      section('cover', 'Monthly management review', cover('Results against budget and prior year')),
      section('contents', 'Contents', { kind: 'contents' }),
      section('summary', 'Summary', monthly),
      section('measures', 'Key measures', { kind: 'measures', lines: KEY_MEASURES, startsPage: false }),
      section('income', 'Income statement', statement('income')),
      section('findings', 'Findings', { kind: 'findings', comparison: 'budget', onlyCommented: false }),
      section('bridge', 'Operating income: budget to actual', {
        kind: 'bridge',
        view: 'income',
        line: 'operating_income',
        comparison: 'budget',
        span: 'month',
        by: 'line',
        startsPage: false,
      }),
      section('trends', 'Trends', { kind: 'charts', view: 'income', lines: TRENDS }),
      section('outlook', 'Year-end outlook', statement('outlook')),
      section('balance', 'Balance sheet', statement('balance')),
      section('cash-flow', 'Statement of cash flows', statement('cash-flow')),
      section('receivables', 'Receivables aging', { kind: 'aging', of: 'receivables', detail: false, date: { kind: 'meeting' } }),
      section('customers', 'Largest customers', { kind: 'parties', of: 'customers', count: 10, startsPage: false }),
      section('ratios', 'Ratios', statement('ratios')),
      section('notes', 'Notes', { kind: 'notes', startsPage: false }),
    ],
  },
  {
    key: 'board-summary',
    name: 'Board summary',
    note: 'Six pages in thousands: summary, key measures, statements, outlook',
    splitBy: null,
    sections: [
      section('cover', 'Board summary', cover('For the board of directors')),
      section('summary', 'Summary', monthly),
      section('measures', 'Key measures', { kind: 'measures', lines: KEY_MEASURES, startsPage: false }),
      section('income', 'Income statement', statement('income', { display: THOUSANDS })),
      section('trends', 'Trends', { kind: 'charts', view: 'income', lines: TRENDS, startsPage: false }),
      section('outlook', 'Year-end outlook', statement('outlook', { display: THOUSANDS })),
      section('balance', 'Balance sheet', statement('balance', { display: THOUSANDS })),
    ],
  },
  {
    key: 'budget-proposal',
    name: 'Budget proposal',
    note: 'The budget by month beside the prior year, with what its checks found',
    splitBy: null,
    sections: [
      section('cover', 'Budget proposal', cover('For approval')),
      section('text', 'Proposal', {
        kind: 'text',
        written: 'once',
        text: textOf('This proposal asks management to approve the budget below.'),
      }),
      section('months', 'Budget by month', statement('income-months')),
      section('outlook', 'Year-end outlook', statement('outlook')),
      section('departments', 'Departments', statement('departments')),
      section('checks', 'Budget checks', { kind: 'budgetChecks' }),
    ],
  },
  {
    key: 'lender-pack',
    name: 'Lender pack',
    note: 'Statements and ratios without account numbers',
    splitBy: null,
    sections: [
      section('cover', 'Financial statements', cover('Prepared for the lender')),
      section('income', 'Income statement', statement('income', { comparison: 'priorYear', display: NO_NUMBERS })),
      section('balance', 'Balance sheet', statement('balance', { display: NO_NUMBERS })),
      section('cash-flow', 'Statement of cash flows', statement('cash-flow', { display: NO_NUMBERS })),
      section('ratios', 'Ratios', statement('ratios', { display: NO_NUMBERS })),
      section('notes', 'Notes', { kind: 'notes', startsPage: false }),
    ],
  },
  {
    key: 'department-report',
    name: 'Department report',
    note: 'One report for each department, made together',
    splitBy: 'department',
    sections: [
      section('cover', 'Department report', cover('Results against budget and prior year')),
      section('comment', 'Comment', monthly),
      section('income', 'Income statement', { ...statement('income', { open: 'all' }), startsPage: false }),
      section('trends', 'Trends', { kind: 'charts', view: 'income', lines: ['revenue', 'operating_expenses'] }),
    ],
  },
];

/** The shipped pack with a key, or null. */
export const shippedPack = (key: string): Pack | null => SHIPPED_PACKS.find((pack) => pack.key === key) ?? null;
