import type { CellDto, GridDto, ImportDto } from '@wise-margin/contract';
import { expect } from 'vitest';

import type { TestServer } from './server.ts';

/** Brings a company with a calendar year in through the real import; its number. */
export async function importCompany(server: TestServer, name: string, accounts: string, ledger: string): Promise<number> {
  const made = await server.upload({ name, currency: 'USD', startMonth: '1' }, { accounts, ledger });
  expect(made.issues).toEqual([]);
  return ((await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto).companyId!;
}

/** Reads cells of a grid by the keys of their line and column. */
export const reader =
  (grid: GridDto) =>
  (line: string, column: string): CellDto =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]![grid.columns.findIndex(({ key }) => key === column)]!;
