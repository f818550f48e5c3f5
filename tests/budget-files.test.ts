import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import {
  type BudgetDto,
  type BudgetFileEffectDto,
  budgetFileEffectSchema,
  type PackedBudgetGrid,
  type Problem,
} from '@wise-margin/contract';
import { unpackBudgetGrid } from '@wise-margin/presentation';
import workbooks from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type TestServer } from './support/server.ts';

let server: TestServer;
let at: string;
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-files-'));
beforeAll(async () => {
  server = await demoServer();
  const company = '/companies/1';
  const copy = await server.send('POST', `${company}/budgets/1/copies`, { name: 'To be filled in' });
  at = `${company}/budgets/${(copy.body as BudgetDto).id}`;
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await server.close();
});

const TOURS = 'filter.department=Tours';
const take = async (path: string) => Buffer.from(await (await fetch(`${server.base}${at}/${path}`)).arrayBuffer());
const read = async (name: string, content: Uint8Array<ArrayBuffer> | string, apply = false) => {
  const form = new FormData();
  form.set('apply', apply ? 'yes' : 'no');
  form.set('session', 'test');
  form.set('file', new Blob([content]), name);
  const response = await fetch(`${server.base}${at}/files`, { method: 'POST', body: form });
  const body: unknown = await response.json();
  return { status: response.status, effect: body as BudgetFileEffectDto, detail: (body as Problem).detail };
};
const open = async (content: Buffer) => {
  const path = join(folder, 'taken.xlsx');
  writeFileSync(path, content);
  const workbook = new workbooks.Workbook();
  await workbook.xlsx.readFile(path);
  return { workbook, page: workbook.getWorksheet('Budget')! };
};
const columnOf = (page: workbooks.Worksheet, heading: string): { readonly head: number; readonly column: number } => {
  let found = { head: 0, column: 0 };
  page.eachRow((row, head) =>
    row.eachCell((cell, column) => void (cell.value === heading && found.head === 0 && (found = { head, column }))),
  );
  return found;
};
const rowOf = (page: workbooks.Worksheet, account: string): number => {
  let found = 0;
  page.eachRow((row, number) => void (row.getCell(1).value === account && (found = number)));
  return found;
};
const april = async (account: string) => {
  const { grid } = unpackBudgetGrid(await server.get<PackedBudgetGrid>(`${at}?${TOURS}`));
  const cell = grid.cells[grid.lines.findIndex((line) => line.account === account)]![0]!;
  return cell.kind === 'amount' ? cell.value : NaN;
};

describe('a budget sent to a department', () => {
  it('is protected but for months, answers and notes, with live totals and a list to choose from', async () => {
    const { page } = await open(await take(`export.xlsx?${TOURS}`));
    const { head, column } = columnOf(page, 'Apr');
    const row = rowOf(page, '6410');
    expect(page.getCell(row, column).protection).toMatchObject({ locked: false });
    expect(page.getCell(row, 1).protection?.locked ?? true).toBe(true);
    const year = page.getCell(row, columnOf(page, 'Year').column);
    expect(year.protection?.locked ?? true).toBe(true);
    expect(year.formula).toMatch(/^SUM\(/);
    const months = Array.from({ length: 12 }, (_, month) => page.getCell(row, column + month).value as number);
    expect(year.result).toBeCloseTo(
      months.reduce((sum, amount) => sum + amount, 0),
      6,
    );
    expect(page.getCell(row, columnOf(page, 'Response').column).dataValidation).toMatchObject({
      type: 'list',
      formulae: ['"Agreed,Changed,To discuss"'],
    });
    expect((page as unknown as { sheetProtection: { sheet: boolean } }).sheetProtection.sheet).toBe(true);
    expect(page.getCell(head, 3).value).toBe('department');
    const departments = new Set<unknown>();
    page.eachRow((each, number) => void (number > head && each.getCell(3).value && departments.add(each.getCell(3).value)));
    expect([...departments]).toEqual(['Tours']);
  });
  it('completed and read back is previewed, then applied as one step that can be undone', async () => {
    const before = await april('6410');
    const { workbook, page } = await open(await take(`export.xlsx?${TOURS}`));
    const row = rowOf(page, '6410');
    page.getCell(row, columnOf(page, 'Apr').column).value = 1234.56;
    page.getCell(row, columnOf(page, 'Response').column).value = 'Changed';
    page.getCell(row, columnOf(page, 'Note').column).value = 'A second fair';
    const filled = new Uint8Array(await workbook.xlsx.writeBuffer());
    const { status, effect } = await read('tours.xlsx', filled);
    expect([status, budgetFileEffectSchema.parse(effect)]).toEqual([200, effect]);
    expect(effect).toMatchObject({
      changes: [{ account: '6410', slice: 'Tours', month: 'Apr', from: before, to: 123_456 }],
      notes: [{ account: '6410', slice: 'Tours', text: 'Changed: A second fair' }],
      issues: [],
      applied: false,
    });
    expect(await april('6410')).toBe(before);
    expect((await read('tours.xlsx', filled, true)).effect.applied).toBe(true);
    expect(await april('6410')).toBe(123_456);
    expect((await read('tours.xlsx', filled)).effect).toMatchObject({ changes: [], notes: [] });
    await server.send('POST', `${at}/undo`, { session: 'test' });
    expect(await april('6410')).toBe(before);
  });
  it('text in an amount and another heading are refused by row, and nothing changes', async () => {
    const { workbook, page } = await open(await take(`export.xlsx?${TOURS}`));
    const row = rowOf(page, '6410');
    page.getCell(row, columnOf(page, 'May').column).value = 'as before';
    const filled = new Uint8Array(await workbook.xlsx.writeBuffer());
    const answer = await read('tours.xlsx', filled);
    expect(answer.effect.issues).toEqual([
      { row, column: 'May', text: 'as before', reason: 'This is not an amount', fix: 'Write digits with a decimal point, such as 1250.00' },
    ]);
    const refused = await read('tours.xlsx', filled, true);
    expect([refused.status, refused.detail]).toEqual([422, 'One row is rejected. Nothing was changed. Fix the file and upload it again.']);
    page.getCell(columnOf(page, 'May').head, columnOf(page, 'May').column).value = 'Mai';
    expect((await read('tours.xlsx', new Uint8Array(await workbook.xlsx.writeBuffer()))).detail).toContain('no longer has the column May');
    expect((await read('tours.xlsx', 'no spreadsheet')).detail).toContain('cannot be read as a spreadsheet');
  });
});

describe('a budget as CSV', () => {
  it('comes back as it went out', async () => {
    const text = (await take('export.csv')).toString();
    expect(text.split('\n')[0]).toBe('account,period,amount,department');
    const { effect } = await read('all.csv', text);
    expect([effect.changes, effect.issues, effect.same]).toEqual([[], [], text.trim().split('\n').length - 1]);
  });
  it('lists every bad row with what to write', async () => {
    const { effect } = await read(
      'bad.csv',
      [
        'account,period,amount,department',
        '6410,2027-01,10,Tuors',
        '9999,2027-01,10,Tours',
        '6410,2026-01,10,Tours',
        '6410,2027-02,1,Tours',
        '6410,2027-02,2,Tours',
      ].join('\n'),
    );
    expect(effect.issues.map(({ row, column, fix }) => [row, column, fix])).toEqual([
      [4, 'period', 'Write 2027-01 to 2027-12'],
      [2, 'department', 'Did you mean Tours?'],
      [3, 'account', expect.any(String)],
      [6, 'amount', 'Keep one of the rows'],
    ]);
    expect((await read('broken.csv', 'account,period,amount,department\n"6410')).detail).toContain('opens a quote that is not closed');
  });
});
