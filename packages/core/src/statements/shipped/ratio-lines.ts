import { ACCOUNT_CLASS_KEYS, type AccountClass, classOf, type NaturalSign } from '../../chart/account-class.ts';
import { RATIO_FAMILIES, RATIOS } from '../../ratio/catalog.ts';
import type { BalanceMeasure } from '../column-set.ts';
import type { Line, LineSet } from '../line-set.ts';

const input = (key: string, name: string, classes: readonly AccountClass[], sign: NaturalSign, measure?: BalanceMeasure): Line => ({
  kind: 'accounts',
  key,
  name,
  selection: { classes },
  sign,
  hidden: true,
  ...(measure ? { measure } : {}),
});
const formula = (key: string, name: string, expression: string): Line => ({
  kind: 'formula',
  key,
  name,
  expression,
  result: 'amount',
  hidden: true,
});

const CURRENT_ASSETS: AccountClass[] = ['cash', 'receivables', 'inventory', 'otherCurrentAssets'];
const ASSETS: AccountClass[] = [...CURRENT_ASSETS, 'fixedAssets', 'accumulatedDepreciation', 'otherAssets'];
const CURRENT_LIABILITIES: AccountClass[] = ['payables', 'shortTermDebt', 'otherCurrentLiabilities'];
const LIABILITIES: AccountClass[] = [...CURRENT_LIABILITIES, 'longTermDebt', 'otherLiabilities'];

/** Ratios by family, over hidden lines for what they are made of, so that each opens the drill-down. */
export const RATIO_LINES: LineSet = {
  key: 'ratios',
  name: 'Ratios',
  percentBase: 'revenue',
  lines: [
    input('cash', 'Cash', ['cash'], 'debit'),
    input('receivables', 'Receivables', ['receivables'], 'debit'),
    input('current_assets', 'Current assets', CURRENT_ASSETS, 'debit'),
    input('current_liabilities', 'Current liabilities', CURRENT_LIABILITIES, 'credit'),
    input('total_assets', 'Total assets', ASSETS, 'debit'),
    input('liabilities', 'Liabilities', LIABILITIES, 'credit'),
    formula('equity', 'Equity', 'total_assets - liabilities'),
    input('average_receivables', 'Average receivables', ['receivables'], 'debit', 'average'),
    input('average_inventory', 'Average inventory', ['inventory'], 'debit', 'average'),
    input('average_payables', 'Average payables', ['payables'], 'credit', 'average'),
    input('average_assets', 'Average total assets', ASSETS, 'debit', 'average'),
    input('average_liabilities', 'Average liabilities', LIABILITIES, 'credit', 'average'),
    formula('average_equity', 'Average equity', 'average_assets - average_liabilities'),
    input('revenue', 'Revenue, net', ['revenue', 'revenueDeductions'], 'credit'),
    input('cost_of_sales', 'Cost of sales', ['costOfSales'], 'debit'),
    formula('gross_profit', 'Gross profit', 'revenue - cost_of_sales'),
    input('operating_expenses', 'Operating expenses', ['operatingExpenses', 'depreciation'], 'debit'),
    formula('operating_income', 'Operating income', 'gross_profit - operating_expenses'),
    input('depreciation', 'Depreciation and amortization', ['depreciation'], 'debit'),
    input('interest_expense', 'Interest expense', ['interestExpense'], 'debit'),
    input('income_tax', 'Income tax', ['incomeTax'], 'debit'),
    input(
      'net_income',
      'Net income',
      ACCOUNT_CLASS_KEYS.filter((key) => classOf(key).statement === 'income'),
      'credit',
    ),
    { kind: 'statistic', key: 'heads', name: 'Average headcount', series: 'headcount', over: 'average', hidden: true },
    ...RATIO_FAMILIES.map((family): Line => ({
      kind: 'section',
      key: family.key,
      name: family.name,
      lines: RATIOS.filter((ratio) => ratio.family === family.key).map(({ key, name, expression, result, polarity }): Line => ({
        kind: 'formula',
        key,
        name,
        expression,
        result,
        polarity,
      })),
    })),
  ],
};
