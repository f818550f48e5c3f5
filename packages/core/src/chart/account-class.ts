export type StatementKind = 'income' | 'balance' | 'statistic';
/** Whether a higher amount is better for the result, worse, or neither. */
export type Polarity = 'higherIsBetter' | 'lowerIsBetter' | 'neutral';
/** What is better when an amount is shown with the other sign. */
export const oppositePolarity = (polarity: Polarity): Polarity =>
  polarity === 'neutral' ? polarity : polarity === 'higherIsBetter' ? 'lowerIsBetter' : 'higherIsBetter';
export type NaturalSign = 'debit' | 'credit';

export type AccountClassDefinition = {
  readonly name: string;
  readonly statement: StatementKind;
  /** the side on which the class shows positive; contra classes take the side of their group */
  readonly natural: NaturalSign;
  readonly polarity: Polarity;
};

const balance = (name: string, natural: NaturalSign): AccountClassDefinition => ({
  name,
  statement: 'balance',
  natural,
  polarity: 'neutral',
});
const income = (name: string): AccountClassDefinition => ({ name, statement: 'income', natural: 'credit', polarity: 'higherIsBetter' });
const expense = (name: string): AccountClassDefinition => ({ name, statement: 'income', natural: 'debit', polarity: 'lowerIsBetter' });

/** The classes of accounts, in statement order. A class carries the meaning that statements and ratios use. */
export const ACCOUNT_CLASSES = {
  cash: balance('Cash', 'debit'),
  receivables: balance('Receivables', 'debit'),
  inventory: balance('Inventory', 'debit'),
  otherCurrentAssets: balance('Other current assets', 'debit'),
  fixedAssets: balance('Fixed assets', 'debit'),
  accumulatedDepreciation: balance('Accumulated depreciation', 'debit'),
  otherAssets: balance('Other assets', 'debit'),
  payables: balance('Payables', 'credit'),
  shortTermDebt: balance('Short-term debt', 'credit'),
  otherCurrentLiabilities: balance('Other current liabilities', 'credit'),
  longTermDebt: balance('Long-term debt', 'credit'),
  otherLiabilities: balance('Other liabilities', 'credit'),
  capital: balance('Capital', 'credit'),
  retainedEarnings: balance('Retained earnings', 'credit'),
  dividends: balance('Dividends', 'credit'),
  revenue: income('Revenue'),
  revenueDeductions: income('Revenue deductions'),
  costOfSales: expense('Cost of sales'),
  operatingExpenses: expense('Operating expenses'),
  depreciation: expense('Depreciation and amortization'),
  otherIncome: income('Other income'),
  otherExpense: expense('Other expense'),
  interestExpense: expense('Interest expense'),
  incomeTax: expense('Income tax'),
  statistic: { name: 'Statistic', statement: 'statistic', natural: 'debit', polarity: 'neutral' },
} as const satisfies Readonly<Record<string, AccountClassDefinition>>;

export type AccountClass = keyof typeof ACCOUNT_CLASSES;
export const ACCOUNT_CLASS_KEYS = Object.keys(ACCOUNT_CLASSES) as readonly AccountClass[];

/** The definition of a class. */
export function classOf(key: AccountClass): AccountClassDefinition {
  return ACCOUNT_CLASSES[key];
}

/**
 * The class a file names, by its key or its words, in any case and with any spacing
 * ("Cost of sales", "cost-of-sales", "costOfSales"); null when there is none.
 */
export function findClass(text: string): AccountClass | null {
  const plain = (value: string) => value.toLowerCase().replaceAll(/[^a-z]/g, '');
  const wanted = plain(text);
  return ACCOUNT_CLASS_KEYS.find((key) => plain(key) === wanted || plain(ACCOUNT_CLASSES[key].name) === wanted) ?? null;
}
