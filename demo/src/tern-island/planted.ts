import { daysLater } from '../months.ts';
import { VENDORS } from './parties.ts';
import { type Department, type Setting, slice } from './setting.ts';

/** What the analyst is to find; each is described in the demo's notes and marked nowhere in the data. */
export function planted({ journal }: Setting): void {
  type Owed = { date: string; vendor: string; document: string; memo: string; account: string; amount: number; department: Department };
  const owed = ({ date, vendor, document, memo, account, amount, department }: Owed) =>
    journal.add({
      date,
      source: 'purchases',
      lines: [
        { account, amount, memo, party: vendor, document, dimensions: slice(department) },
        { account: '2010', amount: -amount, memo, party: vendor, document, due: daysLater(date, 30) },
      ],
    });
  // 1. July 2026 electricity with a digit too many: 2,214.30 keyed as 22,143.00; the usual bill is there in its part.
  owed({
    date: '2026-07-29',
    vendor: VENDORS.power,
    document: 'EL-2607B',
    memo: 'Electricity, kiln building',
    account: '6120',
    amount: 2_214_300,
    department: 'Workshop',
  });
  // 2. A boat-show bill posted to repairs and maintenance.
  owed({
    date: '2026-09-18',
    vendor: VENDORS.shows,
    document: 'BS-2609-2',
    memo: 'Booth at the fall boat show',
    account: '6310',
    amount: 1_284_000,
    department: 'Workshop',
  });
  // 3. A freight bill posted twice, eleven days apart.
  owed({
    date: '2026-10-06',
    vendor: VENDORS.freight,
    document: 'D-4471',
    memo: 'Freight in, resin',
    account: '5210',
    amount: 489_000,
    department: 'Workshop',
  });
  owed({
    date: '2026-10-17',
    vendor: VENDORS.freight,
    document: 'D-4471A',
    memo: 'Freight in, resin',
    account: '5210',
    amount: 489_000,
    department: 'Workshop',
  });
  // 4. The storm of FY2026: a repair bill and the insurer's payment.
  owed({
    date: '2025-11-24',
    vendor: VENDORS.builder,
    document: 'HB-STORM',
    memo: 'Boathouse roof after the storm',
    account: '7810',
    amount: 6_840_000,
    department: 'Tours',
  });
  journal.add({
    date: '2026-01-19',
    source: 'bank',
    lines: [
      { account: '1010', amount: 5_200_000, memo: 'Storm claim settled', party: VENDORS.insurer },
      { account: '7110', amount: -5_200_000, memo: 'Storm claim settled', party: VENDORS.insurer, dimensions: slice('Tours') },
    ],
  });
  journal.add({
    date: '2025-12-24',
    source: 'payments',
    lines: [
      { account: '2010', amount: 6_840_000, memo: 'Payment of HB-STORM', party: VENDORS.builder, document: 'HB-STORM' },
      { account: '1010', amount: -6_840_000, memo: 'Payment of HB-STORM', party: VENDORS.builder, document: 'HB-STORM' },
    ],
  });
  // 6. A small posting to reconciliation differences.
  journal.add({
    date: '2026-09-30',
    source: 'bank',
    lines: [
      { account: '6790', amount: 31_742, memo: 'Difference in bank reconciliation', dimensions: slice('Office') },
      { account: '1010', amount: -31_742, memo: 'Difference in bank reconciliation' },
    ],
  });
  // 7. October 2026 accruals still in draft.
  for (const [account, amount, memo, department] of [
    ['6120', 268_000, 'Electricity not billed yet', 'Workshop'],
    ['6610', 240_000, 'Accounting, October', 'Office'],
    ['6210', 415_000, 'Advertising not billed yet', 'Store'],
  ] as const) {
    journal.add({
      date: '2026-10-31',
      source: 'accruals',
      state: 'draft',
      lines: [
        { account, amount, memo, dimensions: slice(department) },
        { account: '2050', amount: -amount, memo },
      ],
    });
  }
  // A customer's payment on account and a vendor's deposit, for documents that are not there yet.
  const onAccount = (date: string, control: string, amount: number, { party, memo }: { readonly party: string; readonly memo: string }) =>
    journal.add({
      date,
      source: amount < 0 ? 'receipts' : 'payments',
      lines: [
        { account: control, amount, memo, party },
        { account: '1010', amount: -amount, memo, party },
      ],
    });
  onAccount('2026-10-28', '1100', -185_000, { party: 'Copper Inlet Boats', memo: 'Receipt on account' });
  onAccount('2026-10-29', '2010', 320_000, { party: VENDORS.carbon, memo: 'Deposit for carbon cloth' });
  // Audit adjustments of FY2025, in its adjustment period.
  const adjust = (debit: string, credit: string, amount: number, memo: string) =>
    journal.add({
      date: '2025-03-31',
      source: 'audit',
      kind: 'adjustment',
      lines: [
        { account: debit, amount, memo, dimensions: slice('Office') },
        { account: credit, amount: -amount, memo, dimensions: slice('Office') },
      ],
    });
  adjust('6710', '1190', 420_000, 'Allowance raised after audit');
  adjust('5310', '1340', 615_000, 'Store stock written down after audit');
  adjust('6610', '2050', 350_000, 'Audit fee');
}
