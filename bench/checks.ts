import {
  type Account,
  BalanceCube,
  type BalanceFact,
  type BudgetBooks,
  checkFindings,
  isIncomeAccount,
  minor,
  monthCalendar,
  type PeriodIndex,
  type PlacedLine,
  sliceKey,
  slotCount,
  slotOfYear,
} from '@wise-margin/core';

/** Times the checks of a budget of many accounts, each in four departments with three years of history. */
const ACCOUNTS = 10_000;
const DEPARTMENTS = ['North', 'South', 'East', 'West'].map((department) => ({ department }));
const accounts = Array.from({ length: ACCOUNTS }, (_, index): Account => ({
  number: String(100_000 + index),
  name: `Account ${index}`,
  class: index % 10 === 0 ? 'revenue' : index % 10 < 3 ? 'costOfSales' : 'operatingExpenses',
  group: null,
  active: true,
  polarity: null,
  cashflow: null,
}));
const calendar = monthCalendar({ startMonth: 1, firstYear: 2024, lastYear: 2027, hasAdjustmentPeriod: false });
const cube = new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(calendar) });
const facts: BalanceFact[] = [];
const lines: PlacedLine[] = [];
accounts.forEach((account, position) => {
  const sign = account.class === 'revenue' ? -1 : 1;
  for (const combination of DEPARTMENTS) {
    for (const year of [2024, 2025, 2026])
      for (let month = 1; month <= 12; month += 1)
        facts.push({
          account: position,
          slot: slotOfYear(calendar, year, month)!,
          combination,
          layer: 'ordinary',
          amount: minor(sign * (1000 + ((position * 7919 + month * 104_729) % 5000))),
        });
    const months = Array.from({ length: 12 }, (_, month) => ({
      amount: minor(sign * (position % 50 === 0 ? 40_000_000 : 1) * (1200 + ((position * 7919 + month * 104_729) % 5000))),
      held: false,
    }));
    lines.push({
      id: lines.length + 1,
      position,
      account: account.number,
      dimensions: combination,
      slice: sliceKey(combination),
      basis: { kind: 'typed' },
      months,
    });
  }
});
cube.post(facts);
const empty = new BalanceCube({ isIncome: accounts.map(isIncomeAccount), slots: slotCount(calendar) });
const books: BudgetBooks = {
  chart: { accounts },
  calendar,
  exponent: 2,
  cube,
  firstPosted: 0 as PeriodIndex,
  lastActual: 35 as PeriodIndex,
  nonrecurring: { entries: empty, months: new Set() },
  approved: new Map(),
  statistics: { value: () => null },
};
const head = { year: 2027, fromYear: 2026, dimensions: ['department'] };
for (const run of [1, 2]) {
  const start = performance.now();
  const found = checkFindings({ books, head, lines });
  process.stdout.write(`run ${run}: ${found.length} findings of ${ACCOUNTS} accounts in ${(performance.now() - start).toFixed(0)} ms\n`);
}
