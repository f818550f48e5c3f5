import { dateIn, daysLater, type DemoMonth } from '../months.ts';
import { DEALER_LOST, DEALER_NEW, DEALERS } from './parties.ts';
import { cents, type Setting, type Slice, slice } from './setting.ts';
import { FIRST_YEAR_REVENUE, REVENUE_GROWTH, type Season, SEASONS } from './shape.ts';

const SALES_TAX = 0.06;
const MATERIALS_SHARE = 0.4;
const GOODS_SHARE = 0.56;

const revenueOf = (season: Season, month: DemoMonth): number =>
  FIRST_YEAR_REVENUE[season] * REVENUE_GROWTH ** month.age * SEASONS[season][month.position]!;

/** All sales of a month: dealers on account; store, online, tours, rentals and repairs by card. */
export function sales(setting: Setting, month: DemoMonth): void {
  dealerSales(setting, month);
  for (let day = 1; day <= month.days; day += 1) {
    counterSales(setting, month, day);
    onlineSales(setting, month, day);
    tourSales(setting, month, day);
  }
  repairs(setting, month);
  clearCards(setting, month);
}

function dealersIn({ year, month }: DemoMonth): string[] {
  const key = year * 100 + month;
  return [...DEALERS, ...(key <= 202606 ? [DEALER_LOST] : []), ...(key >= 202605 ? [DEALER_NEW] : [])];
}

function dealerSales({ journal, random }: Setting, month: DemoMonth): void {
  const total = revenueOf('dealers', month) * random.around(0.05);
  const dealers = dealersIn(month).filter(() => random.next() < 0.75);
  const weights = dealers.map((dealer) => (dealer === DEALER_LOST ? 2.4 : 0.5) + random.next());
  const sum = weights.reduce((all, weight) => all + weight, 0);
  dealers.forEach((dealer, index) => {
    const net = cents((total * weights[index]!) / sum / 100) * 100;
    const date = dateIn(month, random.between(2, 27));
    const document = `D-${month.year % 100}${String(month.month).padStart(2, '0')}${String(index + 1).padStart(2, '0')}`;
    const project = random.next() < 0.2 ? 'Carbon Hull' : undefined;
    const where = slice('Workshop', 'Tern Island', project);
    const discount = random.next() < 0.3 ? cents(net * 0.03) : 0;
    const common = { party: dealer, document };
    const due = daysLater(date, 45);
    const paid = net - discount;
    journal.add({
      date,
      source: 'sales',
      lines: [
        { account: '1100', amount: paid, memo: 'Kayaks on account', due, ...common },
        { account: '4810', amount: discount, memo: 'Early order discount', dimensions: where, ...common },
        { account: '4010', amount: -net, memo: 'Kayaks on account', dimensions: where, ...common },
        { account: '5010', amount: cents(net * MATERIALS_SHARE), memo: 'Kayaks delivered', dimensions: where, ...common },
        { account: '1330', amount: -cents(net * MATERIALS_SHARE), memo: 'Kayaks delivered', ...common },
      ],
    });
    const received = daysLater(date, 30 + random.between(0, 35));
    const back = random.next() < 0.04 ? cents(net * 0.08) : 0;
    for (const receipt of receiptsFor({ dealer, date, received, owed: paid - back }))
      journal.add({
        date: receipt.date,
        source: 'receipts',
        lines: [
          { account: '1010', amount: receipt.amount, memo: `Receipt for ${document}`, ...common },
          { account: '1100', amount: -receipt.amount, memo: `Receipt for ${document}`, ...common },
        ],
      });
    if (back > 0)
      journal.add({
        date: daysLater(date, 12),
        source: 'sales',
        lines: [
          { account: '4820', amount: back, memo: 'Kayak returned', dimensions: where, ...common },
          { account: '1100', amount: -back, memo: 'Kayak returned', ...common },
        ],
      });
  });
}

/** The dealer that pays late in this season, one document in two parts; the one that stopped ordering pays nothing more. */
const LATE = { dealer: DEALERS[16], from: '2026-06-20' } as const;
const STOPPED_PAYING = '2026-05-01';

type Receipt = { readonly date: string; readonly amount: number };
/** How a dealer pays a document: whole, in two parts, late or not at all. */
function receiptsFor({
  dealer,
  date,
  received,
  owed,
}: {
  readonly dealer: string;
  readonly date: string;
  readonly received: string;
  readonly owed: number;
}): readonly Receipt[] {
  if (dealer === DEALER_LOST && date >= STOPPED_PAYING) return [];
  if (dealer === DEALER_NEW && date >= '2026-08-01') {
    const first = cents(owed * 0.6);
    return [
      { date: received, amount: first },
      { date: daysLater(received, 75), amount: owed - first },
    ];
  }
  return [{ date: dealer === LATE.dealer && date >= LATE.from ? daysLater(received, 50) : received, amount: owed }];
}

function counterSales({ journal, random }: Setting, month: DemoMonth, day: number): void {
  const shop = [
    ['Tern Island', 0.62],
    ['Alder Harbor', 0.38],
  ] as const;
  for (const [location, share] of shop) {
    const takings = (revenueOf('store', month) / month.days) * share * random.around(0.35);
    const kayaks = cents(takings * 0.42);
    const gear = cents(takings * 0.58);
    const rentals = cents((revenueOf('rentals', month) / month.days) * share * random.around(0.3));
    const tax = cents((kayaks + gear + rentals) * SALES_TAX);
    const goods = cents(gear * GOODS_SHARE);
    const materials = cents(kayaks * MATERIALS_SHARE);
    const store = slice('Store', location);
    const memo = 'Counter sales of the day';
    const party = { party: 'Counter sales' };
    // A few days were keyed without a department; the analyst is to find them.
    const forgotten = day === 17 && month.position % 9 === 4;
    const gearSlice: Slice = forgotten ? { location } : store;
    journal.add({
      date: dateIn(month, day),
      source: 'till',
      lines: [
        { account: '1030', amount: kayaks + gear + rentals + tax, memo, ...party },
        { account: '4020', amount: -kayaks, memo, dimensions: store, ...party },
        { account: '4030', amount: -gear, memo, dimensions: gearSlice, ...party },
        { account: '4210', amount: -rentals, memo: 'Rentals of the day', dimensions: slice('Tours', location), ...party },
        { account: '2120', amount: -tax, memo: 'Sales tax' },
        { account: '5310', amount: goods, memo: 'Goods sold', dimensions: store },
        { account: '1340', amount: -goods, memo: 'Goods sold' },
        { account: '5010', amount: materials, memo: 'Kayaks sold', dimensions: store },
        { account: '1330', amount: -materials, memo: 'Kayaks sold' },
      ],
    });
  }
}

function onlineSales({ journal, random }: Setting, month: DemoMonth, day: number): void {
  const sold = cents((revenueOf('online', month) / month.days) * random.around(0.5));
  const tax = cents(sold * SALES_TAX);
  const goods = cents(sold * GOODS_SHARE);
  const where = slice('Store', 'Online');
  journal.add({
    date: dateIn(month, day),
    source: 'online',
    lines: [
      { account: '1030', amount: sold + tax, memo: 'Online orders of the day', party: 'Online orders' },
      { account: '4040', amount: -sold, memo: 'Online orders of the day', party: 'Online orders', dimensions: where },
      { account: '2120', amount: -tax, memo: 'Sales tax' },
      { account: '5310', amount: goods, memo: 'Goods sent', dimensions: where },
      { account: '1340', amount: -goods, memo: 'Goods sent' },
    ],
  });
}

function tourSales({ journal, random }: Setting, month: DemoMonth, day: number): void {
  if (SEASONS.tours[month.position]! < 0.03 && day % 7 !== 6) return;
  const daysRun = SEASONS.tours[month.position]! < 0.03 ? 4 : month.days;
  const earned = (revenueOf('tours', month) / daysRun) * random.around(0.3);
  const tours = cents(earned * 0.68);
  const courses = cents(earned * 0.32);
  const where = slice('Tours', day % 3 === 0 ? 'Alder Harbor' : 'Tern Island');
  const fromDeposit = cents(courses * 0.5);
  journal.add({
    date: dateIn(month, day),
    source: 'bookings',
    lines: [
      { account: '1030', amount: tours + courses, memo: 'Tours and courses of the day', party: 'Tour guests' },
      { account: '4110', amount: -tours, memo: 'Day tours', party: 'Tour guests', dimensions: where },
      { account: '4120', amount: -courses, memo: 'Expeditions and courses', party: 'Tour guests', dimensions: where },
      { account: '2210', amount: fromDeposit, memo: 'Deposits used' },
      { account: '2210', amount: -fromDeposit, memo: 'Deposits for later dates' },
    ],
  });
}

function repairs({ journal, random }: Setting, month: DemoMonth): void {
  for (let week = 0; week < 4; week += 1) {
    const earned = cents((revenueOf('repairs', month) / 4) * random.around(0.2));
    const lines = [
      { account: '1030', amount: earned, memo: 'Repairs of the week', party: 'Repair customers' },
      { account: '4310', amount: -earned, memo: 'Repairs of the week', party: 'Repair customers', dimensions: slice('Workshop') },
    ];
    journal.add({ date: dateIn(month, 7 * week + 5), source: 'till', lines });
  }
}

/** Card takings reach the bank twice a month, less the fee; sales tax is paid the month after. */
function clearCards({ journal }: Setting, month: DemoMonth): void {
  for (const day of [15, month.days]) {
    const date = dateIn(month, day);
    const held = journal.balance('1030', date) - 2_500_000;
    if (held <= 0) continue;
    const fee = cents(held * 0.021);
    journal.add({
      date,
      source: 'bank',
      lines: [
        { account: '1010', amount: held - fee, memo: 'Card receipts deposited' },
        { account: '6640', amount: fee, memo: 'Card fees', dimensions: slice('Store') },
        { account: '1030', amount: -held, memo: 'Card receipts deposited' },
      ],
    });
  }
  const tax = -journal.balance('2120', dateIn(month, month.days));
  const paid = daysLater(dateIn(month, month.days), 20);
  if (tax > 0)
    journal.add({
      date: paid,
      source: 'bank',
      lines: [
        { account: '2120', amount: tax, memo: 'Sales tax paid' },
        { account: '1010', amount: -tax, memo: 'Sales tax paid' },
      ],
    });
}
