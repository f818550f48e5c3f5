import { dateIn, type DemoMonth } from '../months.ts';
import { VENDORS } from './parties.ts';
import { bill, cents, costIn, type Setting, slice } from './setting.ts';

/** Balances on the first day of FY2024, debit positive, in cents. */
const OPENING: Readonly<Record<string, number>> = {
  '1010': 42_000_000,
  '1030': 2_500_000,
  '1100': 31_000_000,
  '1190': -900_000,
  '1310': 14_500_000,
  '1330': 32_000_000,
  '1340': 17_500_000,
  '1410': 1_200_000,
  '1510': 148_000_000,
  '1520': 31_000_000,
  '1530': 42_500_000,
  '1540': 16_500_000,
  '1590': -71_000_000,
  '1800': 1_500_000,
  '2010': -24_000_000,
  '2050': -1_800_000,
  '2130': -2_500_000,
  '2210': -20_000_000,
  '2220': -5_500_000,
  '2500': -92_000_000,
  '2800': -1_600_000,
  '3010': -60_000_000,
};

export function openingBalances({ journal }: Setting): void {
  const equity = Object.values(OPENING).reduce((sum, amount) => sum + amount, 0);
  const lines = Object.entries({ ...OPENING, '3200': -equity }).map(([account, amount]) => ({
    account,
    amount,
    memo: 'Opening balance',
  }));
  journal.add({ date: '2023-04-01', source: 'general', lines });
  for (const [account, day] of [
    ['1100', '2023-04-28'],
    ['2010', '2023-04-24'],
  ] as const) {
    const amount = OPENING[account]!;
    journal.add({
      date: day,
      source: 'bank',
      lines: [
        { account: '1010', amount, memo: 'Prior-year balances settled' },
        { account, amount: -amount, memo: 'Prior-year balances settled' },
      ],
    });
  }
}

/** What is set aside for the boathouse extension after each season, by year; it earns what cash earns. */
const RESERVED = [57_000_000, 17_000_000, 22_000_000, 25_000_000];
const BOATHOUSE_PAYMENT = 1_020_000;
const DEPRECIATION = 1_480_000;
const SEASONAL_LOAN: Readonly<Record<number, number>> = {
  7: 9_000_000,
  8: 8_000_000,
  9: 8_000_000,
  10: 7_000_000,
  3: -8_000_000,
  4: -12_000_000,
  5: -12_000_000,
};
/** Taxable result of a month of the first year, in the shape of the seasons. */
const TAX_BY_MONTH = [0.06, 0.08, 0.14, 0.19, 0.18, 0.08, 0.02, 0.02, 0.03, 0, 0.06, 0.14];

/** Depreciation, insurance, loans, tax, interest, provisions, equipment, dividends. */
export function finance(setting: Setting, month: DemoMonth): void {
  const { journal } = setting;
  const end = dateIn(month, month.days);
  const general = (lines: Parameters<typeof journal.add>[0]['lines'], date = end) => journal.add({ date, source: 'general', lines });
  const twoSided = (memo: string, amount: number, sides: { debit: string; credit: string; department?: 'Workshop' | 'Tours' | 'Office' }) =>
    general([
      { account: sides.debit, amount, memo, ...(sides.department ? { dimensions: slice(sides.department) } : {}) },
      { account: sides.credit, amount: -amount, memo },
    ]);
  const depreciation = cents(DEPRECIATION * (1 + 0.02 * month.age));
  general([
    { account: '6810', amount: cents(depreciation * 0.5), memo: 'Depreciation', dimensions: slice('Workshop') },
    { account: '6810', amount: cents(depreciation * 0.35), memo: 'Depreciation', dimensions: slice('Tours') },
    {
      account: '6810',
      amount: depreciation - cents(depreciation * 0.5) - cents(depreciation * 0.35),
      memo: 'Depreciation',
      dimensions: slice('Office'),
    },
    { account: '1590', amount: -depreciation, memo: 'Depreciation' },
  ]);
  if (month.position === 1)
    bill(setting, {
      month,
      day: 2,
      vendor: VENDORS.insurer,
      document: `BM-${month.year}`,
      memo: 'Insurance of the year',
      lines: [{ account: '1410', amount: costIn(month, 6_600_000) }],
    });
  const premium = month.position === 0 ? Math.min(journal.balance('1410', end), costIn(month, 550_000)) : costIn(month, 550_000);
  if (premium > 0) {
    general([
      { account: '6510', amount: cents(premium * 0.55), memo: 'Insurance of the month', dimensions: slice('Tours') },
      { account: '6510', amount: premium - cents(premium * 0.55), memo: 'Insurance of the month', dimensions: slice('Workshop') },
      { account: '1410', amount: -premium, memo: 'Insurance of the month' },
    ]);
  }
  const loan = -journal.balance('2500', end);
  const interest = cents((loan * 0.052) / 12);
  general([
    { account: '2500', amount: BOATHOUSE_PAYMENT - interest, memo: 'Boathouse loan' },
    {
      account: '7510',
      amount: interest,
      memo: 'Interest, boathouse loan',
      dimensions: slice('Office', 'Tern Island', 'Boathouse Extension'),
    },
    { account: '1010', amount: -BOATHOUSE_PAYMENT, memo: 'Boathouse loan' },
  ]);
  seasonalLoan(setting, month, end);
  const tax = cents(costIn(month, 9_000_000) * TAX_BY_MONTH[month.position]!);
  if (tax > 0) twoSided('Income tax of the month', tax, { debit: '8010', credit: '2130', department: 'Office' });
  if (month.position % 3 === 2) {
    const owed = -journal.balance('2130', end);
    if (owed > 0) twoSided('Income tax paid', owed, { debit: '2130', credit: '1010' });
  }
  const earning = Math.max(0, journal.balance('1010', end) + journal.balance('1810', end));
  twoSided('Interest received', cents(earning * 0.0009 + 1200), { debit: '1010', credit: '7010' });
  if (month.position === 5) twoSided('Boathouse reserve', RESERVED[month.age]!, { debit: '1810', credit: '1010' });
  twoSided('Allowance for doubtful accounts', costIn(month, 45_000), { debit: '6710', credit: '1190', department: 'Office' });
  if (month.position === 0)
    bill(setting, {
      month,
      day: 14,
      vendor: VENDORS.hardware,
      document: `FL-${month.year}`,
      memo: 'Rental kayaks',
      lines: [{ account: '1520', amount: costIn(month, 3_800_000) }],
    });
  if (month.position === 7)
    bill(setting, {
      month,
      day: 14,
      vendor: VENDORS.hardware,
      document: `EQ-${month.year}`,
      memo: 'Workshop equipment',
      lines: [{ account: '1530', amount: costIn(month, 5_200_000) }],
    });
  if (month.position === 5) twoSided('Dividend', costIn(month, 9_500_000), { debit: '3300', credit: '1010' });
  if (month.position === 6) {
    general(
      [
        { account: '1010', amount: 420_000, memo: 'Rental kayaks sold' },
        { account: '1590', amount: 900_000, memo: 'Rental kayaks sold' },
        { account: '1520', amount: -1_200_000, memo: 'Rental kayaks sold' },
        { account: '7120', amount: -120_000, memo: 'Rental kayaks sold', dimensions: slice('Tours') },
      ],
      dateIn(month, 12),
    );
  }
}

function seasonalLoan({ journal }: Setting, month: DemoMonth, end: string): void {
  const held = -journal.balance('2300', end);
  const interest = cents((held * 0.068) / 12);
  if (interest > 0)
    journal.add({
      date: end,
      source: 'bank',
      lines: [
        { account: '7510', amount: interest, memo: 'Interest, seasonal loan', dimensions: slice('Office') },
        { account: '1010', amount: -interest, memo: 'Interest, seasonal loan' },
      ],
    });
  const drawn = Math.max(SEASONAL_LOAN[month.position] ?? 0, -held);
  if (drawn !== 0)
    journal.add({
      date: dateIn(month, 20),
      source: 'bank',
      lines: [
        { account: '1010', amount: drawn, memo: drawn > 0 ? 'Seasonal loan drawn' : 'Seasonal loan repaid' },
        { account: '2300', amount: -drawn, memo: drawn > 0 ? 'Seasonal loan drawn' : 'Seasonal loan repaid' },
      ],
    });
}
