import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { afterEach, beforeEach, expect, it, vi } from 'vitest';

import { type Database, openDatabase } from '../database/database.ts';
import { VersionFeed } from './version-feed.ts';

const directory = mkdtempSync(join(tmpdir(), 'wise-margin-feed-'));
let database: Database;
let feed: VersionFeed;
beforeEach(async () => {
  database = await openDatabase(directory);
  feed = new VersionFeed(database);
});
afterEach(async () => {
  feed.close();
  await database.close();
  rmSync(directory, { recursive: true, force: true });
});

it('a change of its own process is told at once, an older version and another company’s not at all', () => {
  const heard: number[] = [];
  const end = feed.listen(1, (version) => heard.push(version));
  feed.tell(1, 5);
  feed.tell(1, 4);
  feed.tell(1, 5);
  feed.tell(2, 9);
  expect(heard).toEqual([5]);
  feed.tell(1, 6);
  end();
  feed.tell(1, 7);
  expect(heard).toEqual([5, 6]);
});

it('a change that another process writes is reported soon, and a new listener hears the current version', async () => {
  const other = await openDatabase(directory);
  const write = (sql: string): Promise<void> => other.write((transaction) => other.run(sql, [], transaction));
  await write(`INSERT INTO companies (id, name, currency, start_month, created_at, version) VALUES (1, 'Shop', 'USD', 1, '2026-01-01', 3)`);
  const heard: number[] = [];
  feed.listen(1, (version) => heard.push(version));
  await vi.waitFor(() => expect(heard).toEqual([3]), 5000);
  await write('UPDATE companies SET version = 4 WHERE id = 1');
  await vi.waitFor(() => expect(heard).toEqual([3, 4]), 5000);
  feed.listen(1, (version) => heard.push(version));
  expect(heard).toEqual([3, 4, 4]);
  await other.close();
});

it('where the folder cannot be watched, a change is found by the look each second', async () => {
  const write = (sql: string): Promise<void> => database.write((transaction) => database.run(sql, [], transaction));
  await write(`INSERT INTO companies (id, name, currency, start_month, created_at, version) VALUES (1, 'Shop', 'USD', 1, '2026-01-01', 3)`);
  const unwatched = new VersionFeed({ ...database, directory: join(directory, 'not there') });
  const heard: number[] = [];
  unwatched.listen(1, (version) => heard.push(version));
  await vi.waitFor(() => expect(heard).toEqual([3]), 5000);
  await write('UPDATE companies SET version = 4 WHERE id = 1');
  await vi.waitFor(() => expect(heard).toEqual([3, 4]), 5000);
  unwatched.close();
});
