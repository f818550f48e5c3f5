import { describe, expect, it } from 'vitest';

import { gannetRockFiles, ternIslandFiles } from './index.ts';

const files = ternIslandFiles();
const [header, ...lines] = files.ledger.trim().split('\n');
// quoted texts hold commas of their own
const rows = lines.map((line) => line.replaceAll(/"([^"]*)"/g, (_, text: string) => text.replaceAll(',', ';')).split(','));
const classOf = new Map(
  files.accounts
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => [line.split(',')[0]!, line.split(',')[2]!]),
);
const find = (test: (row: string[]) => boolean) => rows.filter(test);
const LAYOUT = 'entry,date,account,debit,credit,memo,party,document,due,source,kind,state,department,location,project';

describe('the demo company', () => {
  it('is the same on every run', () => {
    expect(ternIslandFiles()).toEqual(files);
    expect(gannetRockFiles()).toEqual(gannetRockFiles());
  });
  it('has the size and shape it is described with', () => {
    expect(header).toBe(LAYOUT);
    expect(rows.length).toBeGreaterThan(38_000);
    expect(rows.length).toBeLessThan(50_000);
    const accounts = files.accounts.trim().split('\n').length - 1;
    expect(accounts).toBeGreaterThanOrEqual(70);
    expect(accounts).toBeLessThanOrEqual(80);
    expect([rows[0]![1], rows.at(-1)![1]]).toEqual(['2023-04-01', '2026-10-31']);
    for (const [column, values] of [
      [12, ['', 'Office', 'Store', 'Tours', 'Workshop']],
      [13, ['', 'Alder Harbor', 'Online', 'Tern Island']],
      [14, ['', 'Boathouse Extension', 'Carbon Hull']],
    ] as const) {
      expect([...new Set(rows.map((row) => row[column]))].sort()).toEqual(values);
    }
  });
  it('earns about 4.5 million at an operating margin near 9 percent in its last whole year', () => {
    const sum = (of: readonly string[]) =>
      rows
        .filter((row) => row[1]! >= '2025-04-01' && row[1]! <= '2026-03-31' && row[11] !== 'draft' && of.includes(classOf.get(row[2]!)!))
        .reduce((total, row) => total + Number(row[4] || 0) - Number(row[3] || 0), 0);
    const revenue = sum(['Revenue', 'Revenue deductions']);
    const result = revenue + sum(['Cost of sales', 'Operating expenses', 'Depreciation and amortization']);
    expect(revenue).toBeGreaterThan(4.0e6);
    expect(revenue).toBeLessThan(4.8e6);
    expect(result / revenue).toBeGreaterThan(0.07);
    expect(result / revenue).toBeLessThan(0.12);
  });
  it('holds what the analyst is to find', () => {
    expect(find((row) => row[2] === '6120' && row[3] === '22143.00' && row[1] === '2026-07-29')).toHaveLength(1);
    expect(find((row) => row[2] === '6310' && row[6] === 'Regional Boat Show Association')).toHaveLength(1);
    expect(find((row) => row[2] === '5210' && ['D-4471', 'D-4471A'].includes(row[7]!)).map((row) => row[1])).toEqual([
      '2026-10-06',
      '2026-10-17',
    ]);
    expect(find((row) => row[2] === '7110')).toHaveLength(1);
    expect(find((row) => row[2] === '7810')).toHaveLength(1);
    expect(find((row) => row[2] === '4030' && row[12] === '').length).toBeGreaterThan(2);
    expect(find((row) => row[2] === '6790')).toHaveLength(1);
    expect(find((row) => row[11] === 'draft').every((row) => row[1] === '2026-10-31')).toBe(true);
    expect(find((row) => row[5] === 'Guide payroll; August second half' && row[2] === '5410').map((row) => row[1])).toEqual(['2026-09-03']);
    const dates = (party: string) => find((row) => row[6] === party && row[2] === '4010').map((row) => row[1]!);
    expect(dates('Brackwater Marine Supply').at(-1)!.slice(0, 7) <= '2026-06').toBe(true);
    expect(dates('Juniper Shoal Outfitters')[0]!.slice(0, 7) >= '2026-05').toBe(true);
    expect(find((row) => row[10] === 'adjustment').map((row) => row[1])).toEqual(new Array(6).fill('2025-03-31'));
  });
  it('has believable cash: lowest in spring, never short, with a current ratio near 2', () => {
    const balances = new Map<string, number>();
    const months: { month: string; cash: number; ratio: number }[] = [];
    const posted = rows.filter((row) => row[11] !== 'draft');
    for (const month of [...new Set(posted.map((row) => row[1]!.slice(0, 7)))].sort()) {
      for (const row of posted.filter((each) => each[1]!.startsWith(month)))
        balances.set(row[2]!, (balances.get(row[2]!) ?? 0) + Number(row[3] || 0) - Number(row[4] || 0));
      const sum = (...of: string[]) =>
        [...balances].reduce((total, [account, amount]) => total + (of.includes(classOf.get(account)!) ? amount : 0), 0);
      const current = sum('Cash', 'Receivables', 'Inventory', 'Other current assets');
      months.push({ month, cash: sum('Cash'), ratio: -current / sum('Payables', 'Short-term debt', 'Other current liabilities') });
    }
    // the first summer builds up the cash that the first reserve is taken from
    const settled = months.filter(({ month }) => month >= '2023-10');
    const average = settled.reduce((total, { ratio }) => total + ratio, 0) / settled.length;
    expect(average).toBeGreaterThan(1.8);
    expect(average).toBeLessThan(2.2);
    for (const { cash } of settled) expect(cash).toBeGreaterThan(150_000);
    for (const year of [2024, 2025, 2026]) {
      const within = settled.filter(({ month }) => month >= `${year - 1}-10` && month <= `${year}-09`);
      const lowest = within.reduce((least, each) => (each.cash < least.cash ? each : least));
      expect(['02', '03', '04', '05']).toContain(lowest.month.slice(5));
    }
  });
});
