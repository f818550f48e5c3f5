import { ACCOUNT_CLASS_KEYS, classOf } from '../../chart/account-class.ts';
import type { Line, LineSet } from '../line-set.ts';

const total = (key: string, name: string, of: string): Line => ({
  kind: 'total',
  key,
  name,
  of,
  sign: 'credit',
  polarity: 'higherIsBetter',
  emphasis: 'bold',
  rule: 'single',
});

/**
 * The statement of cash flows, indirect: net income, then the net change of every other balance by
 * its accounts' cash-flow category. A rise of an asset takes cash and shows negative. It ends on the
 * cash of the balance sheet.
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
          selection: { classes: ACCOUNT_CLASS_KEYS.filter((key) => classOf(key).statement === 'income') },
          sign: 'credit',
          polarity: 'higherIsBetter',
        },
        {
          kind: 'groups',
          key: 'operating_changes',
          name: 'Changes',
          selection: { cashflows: ['operating'] },
          sign: 'credit',
          measure: 'change',
        },
        total('operating_cash', 'Cash from operating activities', 'operating'),
      ],
    },
    {
      kind: 'section',
      key: 'investing',
      name: 'Investing activities',
      lines: [
        {
          kind: 'groups',
          key: 'investing_changes',
          name: 'Changes',
          selection: { cashflows: ['investing'] },
          sign: 'credit',
          measure: 'change',
        },
        total('investing_cash', 'Cash from investing activities', 'investing'),
      ],
    },
    {
      kind: 'section',
      key: 'financing',
      name: 'Financing activities',
      lines: [
        {
          kind: 'groups',
          key: 'financing_changes',
          name: 'Changes',
          selection: { cashflows: ['financing'] },
          sign: 'credit',
          measure: 'change',
        },
        {
          kind: 'accounts',
          key: 'retained_changes',
          name: 'Postings to retained earnings',
          selection: { classes: ['retainedEarnings'] },
          sign: 'credit',
          measure: 'change',
          hidden: true,
        },
        // what closing entries moved into retained earnings is no cash: both lines cancel out but for other postings
        { kind: 'earnings', key: 'closed_results', name: 'Results closed', years: 'closed', measure: 'change', hidden: true },
        {
          kind: 'formula',
          key: 'other_equity',
          name: 'Other changes of retained earnings',
          expression: 'retained_changes + closed_results',
          result: 'amount',
        },
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
      rule: 'single',
    },
    {
      kind: 'accounts',
      key: 'cash_before',
      name: 'Cash at the start',
      selection: { classes: ['cash'] },
      sign: 'debit',
      measure: 'opening',
    },
    {
      kind: 'accounts',
      key: 'cash_after',
      name: 'Cash at the end',
      selection: { classes: ['cash'] },
      sign: 'debit',
      measure: 'closing',
      emphasis: 'bold',
      rule: 'double',
    },
    {
      kind: 'formula',
      key: 'unexplained',
      name: 'Change in cash not explained above (not zero under this filter)',
      expression: 'cash_after - cash_before - net_change_in_cash',
      result: 'amount',
      emphasis: 'italic',
    },
  ],
};
