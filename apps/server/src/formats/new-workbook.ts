import type { Workbook } from 'exceljs';

/** An empty spreadsheet. The library takes half a second to read, and is read when the first one is made. */
export async function newWorkbook(): Promise<Workbook> {
  const { default: workbooks } = await import('exceljs');
  return new workbooks.Workbook();
}
