import type { AccountClass, NaturalSign } from '../../chart/account-class.ts';
import { type Line, type LineRule, type LineSet, SUBTOTAL_RULE, TOTAL_RULE } from '../line-set.ts';

const groups = (key: string, name: string, classes: readonly AccountClass[], sign: NaturalSign): Line => ({
  kind: 'groups',
  key,
  name,
  selection: { classes },
  sign,
});
const total = (key: string, name: string, of: string, sign: NaturalSign, rule: LineRule = SUBTOTAL_RULE): Line => ({
  kind: 'total',
  key,
  name,
  of,
  sign,
  emphasis: 'bold',
  rule,
});

/** The balance sheet: accounts by class, gathered under their groups; this year's result is a line of equity of its own. */
export const BALANCE_LINES: LineSet = {
  key: 'balance',
  name: 'Balance sheet',
  percentBase: 'total_assets',
  lines: [
    {
      kind: 'section',
      key: 'assets',
      name: 'Assets',
      lines: [
        {
          kind: 'section',
          key: 'current_assets_section',
          name: 'Current assets',
          lines: [
            groups('current_asset_lines', 'Current assets', ['cash', 'receivables', 'inventory', 'otherCurrentAssets'], 'debit'),
            total('current_assets', 'Current assets', 'current_assets_section', 'debit'),
          ],
        },
        {
          kind: 'section',
          key: 'fixed_assets_section',
          name: 'Fixed assets',
          lines: [
            groups('fixed_asset_lines', 'Fixed assets', ['fixedAssets', 'accumulatedDepreciation'], 'debit'),
            total('fixed_assets', 'Fixed assets, net', 'fixed_assets_section', 'debit'),
          ],
        },
        groups('other_asset_lines', 'Other assets', ['otherAssets'], 'debit'),
        total('total_assets', 'Total assets', 'assets', 'debit', TOTAL_RULE),
      ],
    },
    {
      kind: 'section',
      key: 'liabilities',
      name: 'Liabilities',
      startsSide: true,
      lines: [
        {
          kind: 'section',
          key: 'current_liabilities_section',
          name: 'Current liabilities',
          lines: [
            groups('current_liability_lines', 'Current liabilities', ['payables', 'shortTermDebt', 'otherCurrentLiabilities'], 'credit'),
            total('current_liabilities', 'Current liabilities', 'current_liabilities_section', 'credit'),
          ],
        },
        {
          kind: 'section',
          key: 'long_term_liabilities_section',
          name: 'Long-term liabilities',
          lines: [
            groups('long_term_liability_lines', 'Long-term liabilities', ['longTermDebt', 'otherLiabilities'], 'credit'),
            total('long_term_liabilities', 'Long-term liabilities', 'long_term_liabilities_section', 'credit'),
          ],
        },
        total('total_liabilities', 'Total liabilities', 'liabilities', 'credit'),
      ],
    },
    {
      kind: 'section',
      key: 'equity',
      name: 'Equity',
      lines: [
        groups('capital_lines', 'Capital', ['capital'], 'credit'),
        // one line, whether or not closing entries moved the results of earlier years into its accounts
        {
          kind: 'accounts',
          key: 'retained_accounts',
          name: 'Retained earnings accounts',
          selection: { classes: ['retainedEarnings'] },
          sign: 'credit',
          hidden: true,
        },
        { kind: 'earnings', key: 'earlier_results', name: 'Prior-year earnings, not closed', years: 'earlier', hidden: true },
        {
          kind: 'accounts',
          key: 'earlier_dividends',
          name: 'Prior-year dividends, not closed',
          selection: { classes: ['dividends'] },
          sign: 'credit',
          yearPart: 'earlier',
          hidden: true,
        },
        {
          kind: 'formula',
          key: 'retained_earnings',
          name: 'Retained earnings',
          expression: 'retained_accounts + earlier_results + earlier_dividends',
          result: 'amount',
        },
        {
          kind: 'groups',
          key: 'dividend_lines',
          name: 'Dividends',
          selection: { classes: ['dividends'] },
          sign: 'credit',
          yearPart: 'current',
        },
        { kind: 'earnings', key: 'result_of_the_year', name: 'Net income, year to date', years: 'current', polarity: 'higherIsBetter' },
        total('total_equity', 'Total equity', 'equity', 'credit'),
      ],
    },
    {
      kind: 'formula',
      key: 'liabilities_and_equity',
      name: 'Total liabilities and equity',
      expression: 'total_liabilities + total_equity',
      result: 'amount',
      emphasis: 'bold',
      rule: TOTAL_RULE,
    },
    {
      kind: 'formula',
      key: 'out_of_balance',
      name: 'Assets less liabilities and equity (not zero under this filter)',
      expression: 'total_assets - liabilities_and_equity',
      result: 'amount',
      emphasis: 'italic',
    },
  ],
};
