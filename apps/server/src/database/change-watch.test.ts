import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { afterAll, beforeAll, expect, it } from 'vitest';

import { type Database, openDatabase } from './database.ts';

const directory = mkdtempSync(join(tmpdir(), 'wise-margin-watch-'));
let database: Database;
let reads = 0;
const count = (): Promise<number> =>
  database.remembered('companies', async () => {
    reads += 1;
    return (await database.select<{ companies: number }>('SELECT count(*) AS companies FROM companies'))[0]!.companies;
  });
const addCompany = (to: Database, name: string): Promise<void> =>
  to.write((transaction) =>
    to.run(`INSERT INTO companies (name, currency, start_month, created_at) VALUES ($1, 'USD', 1, '2026-01-01')`, [name], transaction),
  );
beforeAll(async () => {
  database = await openDatabase(directory);
});
afterAll(async () => {
  await database.close();
  rmSync(directory, { recursive: true, force: true });
});

it('what was read is remembered until this process or another writes', async () => {
  expect(await Promise.all([count(), count(), count()])).toEqual([0, 0, 0]);
  expect(reads).toBe(1);
  await addCompany(database, 'Shop');
  expect(await count()).toBe(1);
  const other = await openDatabase(directory);
  await addCompany(other, 'Mill');
  expect(await count()).toBe(2);
  await other.close();
  expect(await count()).toBe(2);
  expect(reads).toBe(3);
});

it('a read that fails is not remembered', async () => {
  const failing = (): Promise<number> => database.remembered('failing', () => Promise.reject(new Error('gone')));
  await expect(failing()).rejects.toThrow('gone');
  expect(await database.remembered('failing', () => Promise.resolve(7))).toBe(7);
});
