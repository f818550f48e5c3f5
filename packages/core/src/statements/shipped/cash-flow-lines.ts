import { CASH_FLOW, type CashFlowPart } from '../../cash-flow/cash-flow-part.ts';
import { ACCOUNT_CLASS_KEYS, type AccountClass, classOf } from '../../chart/account-class.ts';
import type { AccountSelection } from '../../chart/selection.ts';
import { type Line, type LineSet, SUBTOTAL_RULE, TOTAL_RULE } from '../line-set.ts';

const total = (key: string, name: string, of: string): Line => ({
  kind: 'total',
  key,
  name,
  of,
  sign: 'credit',
  polarity: 'higherIsBetter',
  emphasis: 'bold',
  rule: SUBTOTAL_RULE,
});
const INCOME_CLASSES = ACCOUNT_CLASS_KEYS.filter((key) => classOf(key).statement === 'income');
const BALANCE_CLASSES = ACCOUNT_CLASS_KEYS.filter((key) => classOf(key).statement === 'balance');
const LOANS: readonly AccountClass[] = ['shortTermDebt', 'longTermDebt'];
/** A line of one part of the statement, as the entries tell it; cash in is positive. */
const part = (of: CashFlowPart | readonly CashFlowPart[], key: string, name: string, selection: AccountSelection): Line => ({
  kind: 'accounts',
  key,
  name,
  selection,
  sign: 'credit',
  measure: 'change',
  polarity: 'neutral',
  filter: { [CASH_FLOW]: typeof of === 'string' ? [of] : of },
});
const partByGroup = (of: CashFlowPart, key: string, name: string, selection: AccountSelection): Line => ({
  ...(part(of, key, name, selection) as Line & { readonly kind: 'accounts' }),
  kind: 'groups',
});
const below = (line: Line): Line => ({ ...(line as Line & { readonly kind: 'accounts' }), sign: 'debit' });
const investing: AccountSelection = { cashflows: ['investing'], classes: INCOME_CLASSES };
const otherFinancing: AccountSelection = {
  cashflows: ['financing'],
  classes: [...INCOME_CLASSES, 'retainedEarnings'],
  except: { classes: [...LOANS, 'capital', 'dividends'] },
};

/**
 * The statement of cash flows, indirect method: net income; depreciation, gains and losses on disposal
 * and other noncash items taken out of it; the changes of operating balances that cash caused;
 * payments and receipts of investing and financing as the entries tell them. It ends on the cash of the
 * balance sheet. Below it: what was acquired without cash, and interest and income taxes paid.
 */
export const CASH_FLOW_LINES: LineSet = {
  key: 'cash_flow',
  name: 'Statement of cash flows',
  percentBase: 'net_change_in_cash',
  lines: [
    {
      kind: 'section',
      key: 'operating',
      name: 'Operating activities',
      lines: [
        {
          kind: 'accounts',
          key: 'net_income',
          name: 'Net income',
          selection: { classes: INCOME_CLASSES },
          sign: 'credit',
          polarity: 'higherIsBetter',
        },
        part('depreciation', 'depreciation_added_back', 'Depreciation and amortization', {
          classes: INCOME_CLASSES,
          cashflows: ['operating'],
        }),
        part('disposal', 'disposal_results', 'Loss (gain) on disposal', { classes: INCOME_CLASSES }),
        part('otherNoncash', 'other_noncash', 'Write-offs and other noncash items', { classes: INCOME_CLASSES }),
        partByGroup('operatingChange', 'operating_changes', 'Changes', { cashflows: ['operating'] }),
        total('operating_cash', 'Cash from operating activities', 'operating'),
      ],
    },
    {
      kind: 'section',
      key: 'investing',
      name: 'Investing activities',
      lines: [
        partByGroup('investingOut', 'investing_payments', 'Purchases: {group}', investing),
        partByGroup('investingIn', 'investing_receipts', 'Proceeds: {group}', investing),
        total('investing_cash', 'Cash from investing activities', 'investing'),
      ],
    },
    {
      kind: 'section',
      key: 'financing',
      name: 'Financing activities',
      lines: [
        partByGroup('financingIn', 'borrowings', 'Borrowings: {group}', { classes: LOANS }),
        partByGroup('financingOut', 'repayments', 'Repayments: {group}', { classes: LOANS }),
        part('financingIn', 'capital_contributed', 'Capital contributed', { classes: ['capital'] }),
        part('financingOut', 'capital_returned', 'Capital returned', { classes: ['capital'] }),
        part(['financingIn', 'financingOut'], 'dividends_paid', 'Dividends paid', { classes: ['dividends'] }),
        part(['financingIn', 'financingOut'], 'other_financing', 'Other financing', otherFinancing),
        total('financing_cash', 'Cash from financing activities', 'financing'),
      ],
    },
    {
      kind: 'formula',
      key: 'net_change_in_cash',
      name: 'Net change in cash',
      expression: 'operating_cash + investing_cash + financing_cash',
      result: 'amount',
      polarity: 'higherIsBetter',
      emphasis: 'bold',
      rule: SUBTOTAL_RULE,
    },
    {
      kind: 'accounts',
      key: 'cash_before',
      name: 'Cash at beginning of period',
      selection: { classes: ['cash'] },
      sign: 'debit',
      measure: 'opening',
    },
    {
      kind: 'accounts',
      key: 'cash_after',
      name: 'Cash at end of period',
      selection: { classes: ['cash'] },
      sign: 'debit',
      measure: 'closing',
      emphasis: 'bold',
      rule: TOTAL_RULE,
    },
    {
      kind: 'formula',
      key: 'unexplained',
      name: 'Change in cash not explained above (not zero under this filter)',
      expression: 'cash_after - cash_before - net_change_in_cash',
      result: 'amount',
      emphasis: 'italic',
    },
    { kind: 'spacer', key: 'before_supplement', name: '' },
    {
      kind: 'section',
      key: 'supplement',
      name: 'Supplementary information',
      lines: [
        below(part('interestPaid', 'interest_paid', 'Interest paid', { classes: [...BALANCE_CLASSES, 'interestExpense'] })),
        below(part('incomeTaxPaid', 'income_taxes_paid', 'Income taxes paid', { classes: [...BALANCE_CLASSES, 'incomeTax'] })),
        below(
          part('noncashDebtOrEquity', 'noncash_debt_or_equity', 'Noncash: assets acquired for debt or equity', {
            cashflows: ['investing'],
          }),
        ),
        below(part('noncashCredit', 'noncash_credit', 'Noncash: assets acquired on credit', { cashflows: ['investing'] })),
        below(part('noncashExchange', 'noncash_exchange', 'Noncash: assets acquired in exchange', { cashflows: ['investing'] })),
      ],
    },
  ],
};
