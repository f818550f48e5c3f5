import { type LineSet, SUBTOTAL_RULE, TOTAL_RULE } from '../line-set.ts';

const SECTIONS = [
  ['cost', 'Cost of sales', ['costOfSales']],
  ['operating', 'Operating expenses', ['operatingExpenses', 'depreciation']],
  ['other', 'Interest and other expense', ['interestExpense', 'otherExpense']],
  ['tax', 'Income tax', ['incomeTax']],
] as const;

/** Every expense by class, gathered under its groups, and their total, which shares are of. */
export const EXPENSE_LINES: LineSet = {
  key: 'expenses',
  name: 'Expenses',
  percentBase: 'total_expenses',
  lines: [
    ...SECTIONS.map(([key, name, classes]) => ({
      kind: 'section' as const,
      key: `${key}_section`,
      name,
      lines: [
        { kind: 'groups' as const, key: `${key}_lines`, name, selection: { classes: [...classes] }, sign: 'debit' as const },
        {
          kind: 'total' as const,
          key: `${key}_expenses`,
          name: `Total ${name.toLowerCase()}`,
          of: `${key}_section`,
          sign: 'debit' as const,
          polarity: 'lowerIsBetter' as const,
          emphasis: 'bold' as const,
          rule: SUBTOTAL_RULE,
        },
      ],
    })),
    {
      kind: 'formula',
      key: 'total_expenses',
      name: 'Total expenses',
      expression: SECTIONS.map(([key]) => `${key}_expenses`).join(' + '),
      result: 'amount',
      polarity: 'lowerIsBetter',
      emphasis: 'bold',
      rule: TOTAL_RULE,
    },
  ],
};
