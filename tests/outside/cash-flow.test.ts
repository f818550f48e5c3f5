import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

import type { CellDto, DrillDownDto, EntryLinesDto } from '@wise-margin/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { filterText } from '../support/filter-text.ts';
import { importCompany, reader } from '../support/import-company.ts';
import { startTestServer, type TestServer } from '../support/server.ts';

type Amounts = Record<string, number>;
type Check = {
  balances: { opening: Amounts; closing: Amounts };
  year: {
    netIncome: number;
    depreciation: { building: number; equipment: number };
    equipmentBought: number;
    equipmentSold: { cost: number; accumulatedDepreciation: number; proceeds: number; loss: number };
    buildingBought: number;
    landForBonds: number;
    stockIssued: number;
    dividendsPaid: number;
  };
  published: { operating: Amounts; investing: Amounts; financing: Amounts; noncash: Amounts } & Record<
    'netIncrease' | 'cashOpening' | 'cashClosing',
    number
  >;
};
const check = JSON.parse(readFileSync(fileURLToPath(new URL('values/cash-flow.json', import.meta.url)), 'utf8')) as Check;

const ACCOUNTS = [
  ['1000', 'Cash', 'Cash', '', 'cash'],
  ['1100', 'Accounts receivable', 'Receivables', '', 'receivables'],
  ['1200', 'Inventory', 'Inventory', '', 'inventory'],
  ['1300', 'Prepaid expenses', 'Other current assets', '', 'prepaid'],
  ['1500', 'Land', 'Fixed assets', '', 'land'],
  ['1510', 'Building', 'Fixed assets', '', 'building'],
  ['1519', 'Accumulated depreciation, building', 'Accumulated depreciation', '', 'accumulatedDepreciationBuilding'],
  ['1520', 'Equipment', 'Fixed assets', '', 'equipment'],
  ['1529', 'Accumulated depreciation, equipment', 'Accumulated depreciation', '', 'accumulatedDepreciationEquipment'],
  ['2000', 'Accounts payable', 'Payables', '', 'payables'],
  ['2100', 'Income tax payable', 'Other current liabilities', '', 'incomeTaxPayable'],
  ['2500', 'Bonds payable', 'Long-term debt', '', 'bonds'],
  ['3000', 'Common stock', 'Capital', '', 'commonStock'],
  ['3200', 'Retained earnings', 'Retained earnings', '', 'retainedEarnings'],
  ['3300', 'Dividends', 'Dividends', ''],
  ['4000', 'Sales', 'Revenue', ''],
  ['6000', 'Operating expenses', 'Operating expenses', ''],
  ['6800', 'Depreciation expense', 'Depreciation and amortization', ''],
  ['7500', 'Loss on disposal', 'Other expense', 'investing'],
  ['8000', 'Income tax', 'Income tax', ''],
] as const;
const numberOf = new Map(ACCOUNTS.flatMap(([number, , , , key]) => (key ? [[key as string, number as string]] : [])));

// Source: Weygandt, Kimmel, Kieso, Financial Accounting, chapter on the statement of cash flows, from memory (values/cash-flow.json).
describe('an indirect statement of cash flows with a disposal and land acquired for bonds', () => {
  let server: TestServer;
  let company: number;
  let at: ReturnType<typeof reader>;
  beforeAll(async () => {
    const { balances, year, published } = check;
    const rows: string[] = ['entry,date,account,amount'];
    const post = (entry: string, date: string, ...lines: [string, number][]) => {
      for (const [account, amount] of lines) if (amount !== 0) rows.push(`${entry},${date},${account},${amount}.00`);
    };
    const liabilities = new Set(['payables', 'incomeTaxPayable', 'bonds', 'commonStock', 'retainedEarnings']);
    post(
      'OPEN',
      '2025-12-31',
      ...Object.entries(balances.opening).map(([key, amount]): [string, number] => [
        numberOf.get(key)!,
        liabilities.has(key) ? -amount : amount,
      ]),
    );
    const on = '2026-06-30';
    const { depreciation, equipmentSold: sold } = year;
    post(
      'DEP',
      on,
      ['6800', depreciation.building + depreciation.equipment],
      ['1519', -depreciation.building],
      ['1529', -depreciation.equipment],
    );
    post('BUY-E', on, ['1520', year.equipmentBought], ['1000', -year.equipmentBought]);
    post('BUY-B', on, ['1510', year.buildingBought], ['1000', -year.buildingBought]);
    post('LAND', on, ['1500', year.landForBonds], ['2500', -year.landForBonds]);
    post('SOLD', on, ['1000', sold.proceeds], ['1529', sold.accumulatedDepreciation], ['7500', sold.loss], ['1520', -sold.cost]);
    post('STOCK', on, ['1000', year.stockIssued], ['3000', -year.stockIssued]);
    post('DIV', on, ['3300', year.dividendsPaid], ['1000', -year.dividendsPaid]);
    // the year's trade: each operating balance moves against cash sales, costs and tax
    const moved = (key: string) => balances.closing[key]! - balances.opening[key]!;
    const tax = 20;
    const sales = 600;
    const costs = sales - tax - year.netIncome - published.operating['depreciation']! - sold.loss;
    post('SALES', on, ['1100', sales], ['4000', -sales]);
    post('COLLECT', on, ['1000', sales - moved('receivables')], ['1100', moved('receivables') - sales]);
    post(
      'COSTS',
      on,
      ['6000', costs],
      ['1200', moved('inventory')],
      ['1300', moved('prepaid')],
      ['2000', -costs - moved('inventory') - moved('prepaid')],
    );
    const paid = costs + moved('inventory') + moved('prepaid') - moved('payables');
    post('PAY', on, ['2000', paid], ['1000', -paid]);
    post('TAX', on, ['8000', tax], ['2100', -tax]);
    post('TAX-PAID', on, ['2100', tax - moved('incomeTaxPayable')], ['1000', moved('incomeTaxPayable') - tax]);
    server = await startTestServer();
    const accounts = ACCOUNTS.map(([number, name, of, cashflow]) => `${number},"${name}",${of},yes,${cashflow}`).join('\n');
    company = await importCompany(server, 'Service company', `account,name,class,active,cashflow\n${accounts}\n`, `${rows.join('\n')}\n`);
    at = reader(await server.statement(`/companies/${company}/statements/cash-flow?asOf=2026-12`));
  });
  afterAll(() => server.close());

  const { operating, investing, financing, noncash } = check.published;
  it.each<[string, number]>([
    ['net_income', operating['netIncome']!],
    ['depreciation_added_back', operating['depreciation']!],
    ['disposal_results', operating['lossOnDisposal']!],
    ['operating_changes.accounts_receivable', operating['receivables']!],
    ['operating_changes.inventory', operating['inventory']!],
    ['operating_changes.prepaid_expenses', operating['prepaid']!],
    ['operating_changes.accounts_payable', operating['payables']!],
    ['operating_changes.income_tax_payable', operating['incomeTaxPayable']!],
    ['operating_cash', operating['total']!],
    ['investing_payments.building', investing['buildingBought']!],
    ['investing_payments.equipment', investing['equipmentBought']!],
    ['investing_receipts.equipment', investing['equipmentSold']!],
    ['investing_cash', investing['total']!],
    ['capital_contributed', financing['stockIssued']!],
    ['dividends_paid', financing['dividends']!],
    ['financing_cash', financing['total']!],
    ['net_change_in_cash', check.published.netIncrease],
    ['cash_before', check.published.cashOpening],
    ['cash_after', check.published.cashClosing],
    ['noncash_debt_or_equity', noncash['landForBonds']!],
    ['unexplained', 0],
  ])('%s is %d', (line, amount) => expect(at(line, 'ytd.actual')).toEqual({ kind: 'amount', value: amount * 100 }));

  it('every other line is zero, and no line is left unread', async () => {
    const grid = await server.statement(`/companies/${company}/statements/cash-flow?asOf=2026-12`);
    const column = grid.columns.findIndex(({ key }) => key === 'ytd.actual');
    const filled = grid.lines.flatMap(({ key, kind }, index) => {
      const cell: CellDto = grid.cells[index]![column]!;
      return kind === 'accounts' && cell.kind === 'amount' && cell.value !== 0 ? [key] : [];
    });
    // tax paid: 20 of the year and 2 of what was due at its start
    expect(at('income_taxes_paid', 'ytd.actual')).toMatchObject({ value: 2200 });
    expect(filled).toHaveLength(17);
  });

  it('the drill-down of each line ends on entries that add up to it', async () => {
    for (const line of [
      'depreciation_added_back',
      'disposal_results',
      'investing_payments.equipment',
      'investing_receipts.equipment',
      'operating_changes.accounts_payable',
      'noncash_debt_or_equity',
      'income_taxes_paid',
    ]) {
      const drillDown = await server.get<DrillDownDto>(
        `/companies/${company}/statements/cash-flow/drill-down?asOf=2026-12&line=${line}&column=ytd.actual`,
      );
      const cell = at(line, 'ytd.actual');
      expect(drillDown.accountsSum).toBe(cell.kind === 'amount' ? cell.value : NaN);
      for (const { number, amount, entries } of drillDown.accounts) {
        const filter = filterText(entries!.filter);
        const listed = await server.get<EntryLinesDto>(
          `/companies/${company}/accounts/${number}/entries?from=${entries!.from}&to=${entries!.to}&${filter}`,
        );
        expect(Math.abs(listed.sum)).toBe(Math.abs(amount));
        expect(listed.figure).toBe(listed.sum);
        expect(listed.lines.reduce((sum, each) => sum + each.amount, 0)).toBe(listed.sum);
      }
    }
  });
});
