import { dateIn, type DemoMonth, monthNumber } from '../months.ts';
import { VENDORS } from './parties.ts';
import { bill, cents, type Setting, slice } from './setting.ts';
import { FIRST_YEAR_REVENUE, REVENUE_GROWTH, SEASONS } from './shape.ts';

/** Materials bought ahead of the season, turned into kayaks; store goods bought as they will sell; freight. */
export function production(setting: Setting, month: DemoMonth): void {
  const { journal, random } = setting;
  const ahead = (month.position + 2) % 12;
  const yearly = FIRST_YEAR_REVENUE.dealers + FIRST_YEAR_REVENUE.store * 0.42;
  const growth = REVENUE_GROWTH ** month.age;
  const pace = 0.5 / 12 + 0.5 * SEASONS.dealers[ahead]!;
  const materials = yearly * growth * 0.395 * pace;
  const sources = [
    [VENDORS.resin, 0.34, 'R'],
    [VENDORS.fiber, 0.26, 'F'],
    [VENDORS.carbon, 0.18, 'C'],
    [VENDORS.foam, 0.1, 'P'],
    [VENDORS.hardware, 0.12, 'H'],
  ] as const;
  sources.forEach(([vendor, share, letter], index) => {
    const amount = cents(materials * share * random.around(0.08));
    bill(setting, {
      month,
      day: 3 + index * 5,
      vendor,
      document: `${letter}-${monthNumber(month)}-1`,
      memo: 'Materials',
      lines: [{ account: '1310', amount }],
      // a delivery in dispute: half of it is paid
      ...(vendor === VENDORS.fiber && monthNumber(month) === '2608' ? { payments: [{ daysAfterDue: 0, share: 0.5 }] } : {}),
    });
  });
  const used = cents(materials * random.around(0.03));
  journal.add({
    date: dateIn(month, 28),
    source: 'stock',
    lines: [
      { account: '1320', amount: used, memo: 'Materials into production' },
      { account: '1310', amount: -used, memo: 'Materials into production' },
    ],
  });
  journal.add({
    date: dateIn(month, 28),
    source: 'stock',
    lines: [
      { account: '1330', amount: used, memo: 'Kayaks finished' },
      { account: '1320', amount: -used, memo: 'Kayaks finished' },
    ],
  });

  const next = (month.position + 1) % 12;
  const goods =
    growth * 0.56 * (FIRST_YEAR_REVENUE.store * 0.58 * SEASONS.store[next]! + FIRST_YEAR_REVENUE.online * SEASONS.online[next]!);
  bill(setting, {
    month,
    day: 6,
    vendor: VENDORS.gear,
    document: `SG-${monthNumber(month)}`,
    memo: 'Paddling gear',
    lines: [{ account: '1340', amount: cents(goods * 0.62 * random.around(0.05)) }],
    terms: 45,
  });
  bill(setting, {
    month,
    day: 11,
    vendor: VENDORS.clothing,
    document: `WW-${monthNumber(month)}`,
    memo: 'Clothing',
    lines: [{ account: '1340', amount: cents(goods * 0.38 * random.around(0.05)) }],
    terms: 45,
  });
  freight(setting, month, materials);
}

function freight(setting: Setting, month: DemoMonth, materials: number): void {
  const { random } = setting;
  const amount = cents(materials * 0.045 * random.around(0.12));
  const workshop = { dimensions: slice('Workshop') };
  bill(setting, {
    month,
    day: 6,
    vendor: VENDORS.freight,
    document: `HF-${monthNumber(month)}0`,
    memo: 'Freight in, resin and fiber',
    lines: [{ account: '5210', amount, ...workshop }],
  });
  bill(setting, {
    month,
    day: 22,
    vendor: VENDORS.parcel,
    document: `CP-${monthNumber(month)}`,
    memo: 'Parcels',
    lines: [{ account: '5210', amount: cents(random.between(18_000, 52_000)), ...workshop }],
  });
}
