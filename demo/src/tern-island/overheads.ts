import { type DemoMonth, monthNumber } from '../months.ts';
import { VENDORS } from './parties.ts';
import { bill, cents, costIn, type Department, type Setting, slice } from './setting.ts';
import { SEASONS } from './shape.ts';

type Overhead = {
  readonly account: string;
  readonly vendor: string;
  readonly memo: string;
  readonly yearly: number;
  readonly code: string;
  readonly day: number;
  readonly departments: Partial<Readonly<Record<Department, number>>>;
  readonly weights?: readonly number[];
  readonly location?: string;
  readonly wobble?: number;
};
const even = (...months: number[]): number[] => Array.from({ length: 12 }, (_, index) => (months.includes(index) ? 1 / months.length : 0));
const OVERHEADS: readonly Overhead[] = [
  {
    account: '6110',
    vendor: VENDORS.landlord,
    memo: 'Rent of the month',
    yearly: 13_200_000,
    code: 'PN',
    day: 1,
    departments: { Workshop: 0.4, Store: 0.3, Tours: 0.15, Office: 0.15 },
    wobble: 0,
  },
  {
    account: '6110',
    vendor: VENDORS.landlord,
    memo: 'Rent, Alder Harbor',
    yearly: 4_200_000,
    code: 'PA',
    day: 1,
    departments: { Store: 1 },
    location: 'Alder Harbor',
    wobble: 0,
  },
  {
    account: '6120',
    vendor: VENDORS.power,
    memo: 'Electricity',
    yearly: 3_100_000,
    code: 'EL',
    day: 9,
    departments: { Workshop: 0.6, Store: 0.25, Office: 0.15 },
    weights: [0.08, 0.07, 0.06, 0.06, 0.06, 0.06, 0.08, 0.09, 0.11, 0.12, 0.11, 0.1],
  },
  {
    account: '6130',
    vendor: VENDORS.water,
    memo: 'Water and waste',
    yearly: 640_000,
    code: 'WA',
    day: 12,
    departments: { Workshop: 0.5, Tours: 0.3, Store: 0.2 },
  },
  {
    account: '6140',
    vendor: VENDORS.telephone,
    memo: 'Telephone and internet',
    yearly: 780_000,
    code: 'TE',
    day: 14,
    departments: { Office: 0.4, Store: 0.4, Tours: 0.2 },
    wobble: 0.01,
  },
  {
    account: '6030',
    vendor: VENDORS.health,
    memo: 'Health plan',
    yearly: 11_400_000,
    code: 'HP',
    day: 4,
    departments: { Workshop: 0.42, Store: 0.22, Tours: 0.12, Office: 0.24 },
    wobble: 0.01,
  },
  {
    account: '6040',
    vendor: 'Coastal Skills Institute',
    memo: 'Guide and workshop training',
    yearly: 900_000,
    code: 'CS',
    day: 18,
    departments: { Tours: 0.6, Workshop: 0.4 },
    weights: even(0, 1, 10, 11),
  },
  {
    account: '6210',
    vendor: VENDORS.advertising,
    memo: 'Advertising',
    yearly: 6_200_000,
    code: 'GW',
    day: 10,
    departments: { Store: 0.5, Tours: 0.5 },
    weights: [0.12, 0.13, 0.13, 0.1, 0.07, 0.05, 0.05, 0.09, 0.09, 0.04, 0.05, 0.08],
  },
  {
    account: '6220',
    vendor: VENDORS.shows,
    memo: 'Boat show stand',
    yearly: 2_800_000,
    code: 'BS',
    day: 20,
    departments: { Workshop: 1 },
    weights: even(5, 9, 10),
  },
  {
    account: '6230',
    vendor: VENDORS.software,
    memo: 'Website maintenance',
    yearly: 960_000,
    code: 'QW',
    day: 16,
    departments: { Store: 0.6, Tours: 0.4 },
    wobble: 0.02,
  },
  {
    account: '6310',
    vendor: VENDORS.builder,
    memo: 'Building repairs',
    yearly: 1_900_000,
    code: 'HB',
    day: 17,
    departments: { Workshop: 0.5, Store: 0.3, Tours: 0.2 },
    wobble: 0.35,
  },
  {
    account: '6320',
    vendor: VENDORS.hardware,
    memo: 'Fleet maintenance',
    yearly: 2_100_000,
    code: 'FU',
    day: 19,
    departments: { Tours: 1 },
    weights: [0.12, 0.14, 0.1, 0.1, 0.1, 0.09, 0.1, 0.06, 0.04, 0.04, 0.05, 0.06],
  },
  {
    account: '6410',
    vendor: 'Island Ferries',
    memo: 'Travel',
    yearly: 1_500_000,
    code: 'IF',
    day: 23,
    departments: { Office: 0.4, Workshop: 0.3, Tours: 0.3 },
    wobble: 0.3,
  },
  {
    account: '6420',
    vendor: VENDORS.fuel,
    memo: 'Fuel',
    yearly: 1_700_000,
    code: 'PF',
    day: 25,
    departments: { Tours: 0.7, Workshop: 0.3 },
    weights: [0.06, 0.08, 0.13, 0.16, 0.16, 0.11, 0.07, 0.05, 0.05, 0.04, 0.04, 0.05],
  },
  {
    account: '6430',
    vendor: VENDORS.garage,
    memo: 'Vehicle maintenance',
    yearly: 1_050_000,
    code: 'FR',
    day: 26,
    departments: { Tours: 0.6, Workshop: 0.4 },
    wobble: 0.3,
  },
  {
    account: '6610',
    vendor: VENDORS.accountant,
    memo: 'Accounting',
    yearly: 3_400_000,
    code: 'HT',
    day: 21,
    departments: { Office: 1 },
    weights: [0.05, 0.22, 0.1, 0.06, 0.06, 0.07, 0.06, 0.06, 0.08, 0.08, 0.08, 0.08],
  },
  {
    account: '6620',
    vendor: VENDORS.software,
    memo: 'Software',
    yearly: 1_560_000,
    code: 'QS',
    day: 2,
    departments: { Office: 0.7, Store: 0.3 },
    wobble: 0,
  },
  {
    account: '6630',
    vendor: VENDORS.supplies,
    memo: 'Office supplies',
    yearly: 520_000,
    code: 'IO',
    day: 13,
    departments: { Office: 0.8, Store: 0.2 },
    wobble: 0.3,
  },
  {
    account: '6650',
    vendor: 'Safe Shore Supplies',
    memo: 'Safety and first aid',
    yearly: 740_000,
    code: 'SS',
    day: 8,
    departments: { Tours: 0.7, Workshop: 0.3 },
    weights: [0.15, 0.2, 0.15, 0.1, 0.1, 0.05, 0.05, 0.04, 0.04, 0.04, 0.04, 0.04],
  },
  {
    account: '6660',
    vendor: VENDORS.hardware,
    memo: 'Small tools',
    yearly: 620_000,
    code: 'ST',
    day: 15,
    departments: { Workshop: 1 },
    wobble: 0.3,
  },
  {
    account: '5420',
    vendor: VENDORS.permits,
    memo: 'Permits and landing fees',
    yearly: 3_700_000,
    code: 'PP',
    day: 5,
    departments: { Tours: 1 },
    weights: SEASONS.tours,
  },
  {
    account: '6720',
    vendor: 'Bay Rescue Society',
    memo: 'Donation',
    yearly: 360_000,
    code: 'BR',
    day: 22,
    departments: { Office: 1 },
    weights: even(2, 8),
    wobble: 0,
  },
];

/** Bills of the month for everything that keeps the place running. */
export function overheads(setting: Setting, month: DemoMonth): void {
  for (const overhead of OVERHEADS) {
    const { account, vendor, memo, code, day, departments, location, wobble = 0.06 } = overhead;
    const total = costIn(month, overhead.yearly) * (overhead.weights?.[month.position] ?? 1 / 12) * setting.random.around(wobble);
    const lines = Object.entries(departments).map(([department, share]) => ({
      account,
      amount: cents(total * share),
      dimensions: slice(department as Department, location),
    }));
    if (total >= 100) bill(setting, { month, day, vendor, document: `${code}-${monthNumber(month)}`, memo, lines });
  }
}
