import { SHIPPED_VIEWS } from '@wise-margin/core';
import workbooks from 'exceljs';
import FormulaParser from 'fast-formula-parser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from '../support/demo-company.ts';
import { type TestServer } from '../support/server.ts';

// A general-purpose formula library (fast-formula-parser, from the npm registry) calculates every formula of the exported spreadsheet again.
let server: TestServer;
let company: number;
beforeAll(async () => {
  server = await demoServer();
  company = 1;
});
afterAll(() => server.close());

async function exported(view: string, more = ''): Promise<workbooks.Worksheet> {
  const response = await fetch(`${server.base}/companies/${company}/statements/${view}/export.xlsx?asOf=2026-10${more}`);
  expect(response.status).toBe(200);
  const workbook = new workbooks.Workbook();
  await workbook.xlsx.load(await response.arrayBuffer());
  return workbook.worksheets[0]!;
}

/** Every formula of a sheet, calculated from the plain numbers up. */
function recalculated(sheet: workbooks.Worksheet): Map<string, unknown> {
  const known = new Map<string, unknown>();
  // a parser is busy while it asks for a cell, which may hold a formula itself
  const parsers: FormulaParser[] = [];
  let depth = -1;
  function valueAt(row: number, col: number): unknown {
    const cell = sheet.getCell(row, col);
    const { value } = cell;
    if (value === null || typeof value !== 'object' || !('formula' in value)) return value ?? 0;
    if (!known.has(cell.address)) {
      depth += 1;
      parsers[depth] ??= new FormulaParser({ onCell: (place) => valueAt(place.row, place.col) });
      known.set(cell.address, parsers[depth]!.parse(value.formula, { sheet: sheet.name, row, col }));
      depth -= 1;
    }
    return known.get(cell.address);
  }
  sheet.eachRow((row) => row.eachCell((cell) => void valueAt(Number(cell.row), Number(cell.col))));
  return known;
}

describe('the spreadsheet of a view', () => {
  it.each(SHIPPED_VIEWS.map(({ key }) => key))('%s: every formula gives the figure shown', async (view) => {
    const sheet = await exported(view, '&open=all');
    const formulas = recalculated(sheet);
    let compared = 0;
    for (const [address, value] of formulas) {
      // the library that reads the file leaves a result of zero out
      const { result = 0 } = sheet.getCell(address).value as workbooks.CellFormulaValue;
      if (typeof result === 'number')
        expect(Math.abs(Number(value) - result), `${address}: ${String(value)} is not ${result}`).toBeLessThan(1e-6);
      else expect([address, value]).toEqual([address, result]);
      compared += 1;
    }
    expect(compared).toBeGreaterThan(view === 'customers' ? 40 : 20);
  });
  it('holds what is shown: exact amounts, the unit in their format, frozen names and headings, opened lines in groups', async () => {
    const [grid, sheet] = [
      await server.statement(`/companies/${company}/statements/income?asOf=2026-10`),
      await exported('income', '&open=operating_lines.rent_and_utilities&unit=thousands'),
    ];
    const rows = new Map<string, workbooks.Row>();
    sheet.eachRow((row) => rows.set(String(row.getCell(2).value), row));
    const column = grid.columns.findIndex(({ key }) => key === 'month.actual');
    const revenue = grid.cells[grid.lines.findIndex(({ key }) => key === 'revenue')]![column]!;
    const cell = rows.get('Revenue, net')!.getCell(3);
    expect((cell.value as workbooks.CellFormulaValue).result).toBe(revenue.kind === 'amount' ? revenue.value / 100 : NaN);
    expect(cell.numFmt).toContain('#,##0,');
    expect(sheet.views[0]).toMatchObject({ state: 'frozen', xSplit: 2 });
    expect([rows.get('Rent')!.outlineLevel, rows.get('Rent')!.getCell(1).value]).toEqual([1, '6110']);
    expect(rows.has('Boat shows')).toBe(false);
    expect(rows.get('Insurance')!.outlineLevel ?? 0).toBe(0);
  });
  it('takes no text as a formula', async () => {
    const { body } = await server.send('GET', `/companies/${company}/views/trend`);
    const { lineSet, columnSet } = body as { lineSet: { lines: object[] }; columnSet: object };
    const lines = [...lineSet.lines, { kind: 'formula', key: 'evil', name: '=1+1', expression: 'revenue', result: 'amount' }];
    const made = await server.send('POST', `/companies/${company}/views`, { name: '=HYPER', lineSet: { ...lineSet, lines }, columnSet });
    const sheet = await exported((made.body as { key: string }).key);
    const texts: workbooks.ValueType[] = [];
    sheet.eachRow((row) =>
      row.eachCell((cell) => (cell.text === '=1+1' || cell.text.startsWith('=HYPER') ? texts.push(cell.type) : undefined)),
    );
    expect(texts).toEqual([workbooks.ValueType.String, workbooks.ValueType.String]);
  });
});
