import { Journal } from '../journal.ts';
import { dateIn, daysLater, type DemoMonth, demoMonths } from '../months.ts';
import { seededRandom } from '../random.ts';

const ACCOUNTS = [
  ['10100', 'Bank', 'Cash', 'Cash'],
  ['11000', 'Accounts receivable', 'Receivables', 'Receivables'],
  ['12000', 'Salt in store', 'Inventory', 'Inventory'],
  ['15000', 'Salt pans and building', 'Fixed assets', 'Pans and building'],
  ['15900', 'Accumulated depreciation', 'Accumulated depreciation', 'Accumulated depreciation'],
  ['20100', 'Accounts payable', 'Payables', 'Payables'],
  ['25000', 'Harbor bank loan', 'Long-term debt', 'Loan'],
  ['30000', 'Partners’ capital', 'Capital', 'Capital'],
  ['32000', 'Retained earnings', 'Retained earnings', 'Retained earnings'],
  ['40100', 'Flake salt', 'Revenue', 'Salt'],
  ['40200', 'Coarse salt', 'Revenue', 'Salt'],
  ['40300', 'Smoked salt', 'Revenue', 'Smoked salt'],
  ['41000', 'Visitor tickets', 'Revenue', 'Visitors'],
  ['50100', 'Packaging', 'Cost of sales', 'Packaging'],
  ['50200', 'Harvest wages', 'Cost of sales', 'Harvest wages'],
  ['60100', 'Salaries', 'Operating expenses', 'Salaries'],
  ['60200', 'Facility costs', 'Operating expenses', 'Facility costs'],
  ['60300', 'Markets and fairs', 'Operating expenses', 'Markets and fairs'],
  ['60400', 'Freight out', 'Operating expenses', 'Freight out'],
  ['68000', 'Depreciation', 'Depreciation and amortization', 'Depreciation'],
  ['75000', 'Loan interest', 'Interest expense', 'Interest'],
  ['80000', 'Income tax', 'Income tax', 'Income tax'],
] as const;
const SEASON = [0.04, 0.04, 0.06, 0.07, 0.09, 0.11, 0.12, 0.12, 0.09, 0.07, 0.09, 0.1];
const CHANNELS = [
  ['Wholesale', 0.55],
  ['Store', 0.25],
  ['Mail order', 0.2],
] as const;
const BUYERS = ['Anvil Street Grocers', 'Copper Pan Kitchens', 'Rowan Delicatessen', 'Ferryman Foods'] as const;
const LAST_DATE = '2026-10-31';

/** Gannet Rock Sea Salt: calendar year, five-digit accounts, channel as its dimension, and closing entries each December. */
export function gannetRockFiles(): { accounts: string; ledger: string } {
  const journal = new Journal({ lastDate: LAST_DATE, dimensions: ['channel'] });
  const random = seededRandom(411);
  const opening: Readonly<Record<string, number>> = {
    '10100': 6_400_000,
    '11000': 2_100_000,
    '12000': 1_800_000,
    '15000': 38_000_000,
    '15900': -9_500_000,
    '20100': -1_300_000,
    '25000': -14_000_000,
    '30000': -18_000_000,
    '32000': -5_500_000,
  };
  journal.add({
    date: '2024-01-01',
    source: 'general',
    lines: Object.entries(opening).map(([account, amount]) => ({ account, amount, memo: 'Opening balance' })),
  });
  const months = demoMonths({ firstYear: 2024, years: 3, startMonth: 1 }).filter((month) => dateIn(month, 1) <= LAST_DATE);
  let invoices = 0;
  const income = ACCOUNTS.filter(([number]) => number >= '40000').map(([number]) => number);
  for (const month of months) {
    for (let day = 2; day <= month.days; day += 3) sell(month, day);
    costs(month);
    if (month.position === 11) close(month);
  }
  const rows = ACCOUNTS.map(([number, name, of, group]) => `${number},${name},${of},yes,${group}`);
  return { accounts: `account,name,class,active,group\n${rows.join('\n')}\n`, ledger: journal.toCsv() };

  function sell(month: DemoMonth, day: number): void {
    const revenue = 78_000_000 * 1.05 ** month.age * SEASON[month.position]!;
    const turns = Math.ceil((month.days - 1) / 3);
    for (const [channel, share] of CHANNELS) {
      const sold = (revenue / turns) * share * random.around(0.25);
      const parts = [
        ['40100', 0.5],
        ['40200', 0.3],
        ['40300', 0.2],
      ] as const;
      const amounts = parts.map(([account, part]) => ({
        account,
        amount: -Math.round(sold * part),
        memo: `Salt, ${channel.toLowerCase()}`,
        dimensions: { channel },
      }));
      const total = -amounts.reduce((sum, { amount }) => sum + amount, 0);
      const date = dateIn(month, day);
      if (channel === 'Wholesale') {
        const party = random.pick(BUYERS);
        invoices += 1;
        const document = `GR-${String(invoices).padStart(5, '0')}`;
        journal.add({
          date,
          source: 'sales',
          lines: [
            { account: '11000', amount: total, memo: 'Salt on account', party, document, due: daysLater(date, 30) },
            ...amounts.map((line) => ({ ...line, party, document })),
          ],
        });
        journal.add({
          date: daysLater(date, 34),
          source: 'receipts',
          lines: [
            { account: '10100', amount: total, memo: 'Receipt', party, document },
            { account: '11000', amount: -total, memo: 'Receipt', party, document },
          ],
        });
      } else journal.add({ date, source: 'sales', lines: [{ account: '10100', amount: total, memo: 'Sales of the day' }, ...amounts] });
    }
    const tickets = Math.round(random.between(4_000, 18_000) * SEASON[month.position]! * 12);
    journal.add({
      date: dateIn(month, day),
      source: 'sales',
      lines: [
        { account: '10100', amount: tickets, memo: 'Visitor tickets' },
        { account: '41000', amount: -tickets, memo: 'Visitor tickets', dimensions: { channel: 'Store' } },
      ],
    });
  }

  function costs(month: DemoMonth): void {
    const growth = 1.04 ** month.age;
    const end = dateIn(month, month.days);
    const pay = (account: string, yearly: number, memo: string, weight = 1 / 12, channel?: string) => {
      const amount = Math.round(yearly * growth * weight * random.around(0.05));
      journal.add({
        date: end,
        source: 'purchases',
        lines: [
          { account, amount, memo, ...(channel ? { dimensions: { channel } } : {}) },
          { account: '10100', amount: -amount, memo },
        ],
      });
    };
    pay('50100', 9_500_000, 'Jars and boxes', SEASON[month.position]!);
    pay('50200', 16_000_000, 'Harvest wages', SEASON[month.position]!);
    pay('60100', 21_000_000, 'Salaries');
    pay('60200', 5_400_000, 'Facility costs');
    pay('60300', 3_600_000, 'Fairs', SEASON[month.position]!, 'Store');
    pay('60400', 4_800_000, 'Carriage', SEASON[month.position]!, 'Post');
    journal.add({
      date: end,
      source: 'general',
      lines: [
        { account: '68000', amount: 210_000, memo: 'Depreciation' },
        { account: '15900', amount: -210_000, memo: 'Depreciation' },
      ],
    });
    const interest = Math.round((-journal.balance('25000', end) * 0.05) / 12);
    journal.add({
      date: end,
      source: 'bank',
      lines: [
        { account: '75000', amount: interest, memo: 'Loan interest' },
        { account: '25000', amount: 180_000, memo: 'Loan repaid' },
        { account: '10100', amount: -interest - 180_000, memo: 'Loan' },
      ],
    });
    if (month.position % 3 === 2) pay('80000', 1_800_000, 'Tax', 1 / 4);
  }

  /** The year's result is closed into retained earnings, as this company's books do. */
  function close(month: DemoMonth): void {
    const end = dateIn(month, month.days);
    const balances = income
      .map((account) => ({ account, amount: -journal.balance(account, end), memo: 'Closing of the year' }))
      .filter(({ amount }) => amount !== 0);
    const result = balances.reduce((sum, { amount }) => sum + amount, 0);
    journal.add({
      date: end,
      source: 'closing',
      kind: 'closing',
      lines: [...balances, { account: '32000', amount: -result, memo: 'Closing of the year' }],
    });
  }
}
