import { ACCOUNT_CLASS_KEYS, classOf } from '../../chart/account-class.ts';
import type { LineSet } from '../line-set.ts';

/** Every account that carries money, class by class in statement order, each in its class's natural sign. */
export const ACCOUNT_LINES: LineSet = {
  key: 'accounts',
  name: 'Accounts by class',
  percentBase: 'class_revenue',
  lines: ACCOUNT_CLASS_KEYS.filter((key) => classOf(key).statement !== 'statistic').map((key) => ({
    kind: 'breakOut',
    key: `class_${key.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)}`,
    name: classOf(key).name,
    selection: { classes: [key] },
    sign: classOf(key).natural,
    by: 'account',
    emphasis: 'bold',
  })),
};

/** Revenue, net, by customer, largest first; what carries no name stands last. */
export const CUSTOMER_LINES: LineSet = {
  key: 'customers',
  name: 'Sales by customer',
  percentBase: 'revenue',
  lines: [
    {
      kind: 'breakOut',
      key: 'revenue',
      name: 'Revenue, net',
      selection: { classes: ['revenue', 'revenueDeductions'] },
      sign: 'credit',
      by: 'party',
      order: 'amount',
      emphasis: 'bold',
      polarity: 'higherIsBetter',
    },
  ],
};
