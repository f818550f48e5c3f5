export const NEW_COMPANY = { name: 'Test Company', currency: 'USD', startMonth: '1' };

export const ACCOUNTS = `account,name,class,active,group
1000,Cash,Cash,yes,Cash
3000,Capital,Capital,yes,Capital
3900,Retained earnings,Retained earnings,yes,Retained earnings
4000,Sales,Revenue,yes,Sales
4100,Services,Revenue,yes,Sales
5000,Goods sold,Cost of sales,yes,Goods
6000,Wages,Operating expenses,yes,Wages
6100,Old account,Operating expenses,no,Wages
`;
export const HEADER = 'entry,date,account,debit,credit,memo,party,document,due,source,kind,state,department';

/** A ledger row with its optional cells empty. */
export const row = (entry: string, date: string, account: string, debit: string, credit: string, memo = '', department = ''): string =>
  `${entry},${date},${account},${debit},${credit},${memo},,,,,,,${department}`;

/** A small good ledger: one entry of capital, sales in January and February. */
export const GOOD_LEDGER = [
  HEADER,
  row('E1', '2026-01-02', '1000', '1000.00', ''),
  row('E1', '2026-01-02', '3000', '', '1000.00'),
  row('E2', '2026-01-15', '1000', '250.10', '', 'Sale', 'North'),
  row('E2', '2026-01-15', '4000', '', '250.10', 'Sale', 'North'),
  row('E3', '2026-02-03', '6000', '99.99', '', 'Pay', 'South'),
  row('E3', '2026-02-03', '1000', '', '99.99', 'Pay', 'South'),
  '',
].join('\n');
