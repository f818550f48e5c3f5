import { DuckDBInstance } from '@duckdb/node-api';
import { type DrivenSegment, priceVolume } from '@wise-margin/core';
import { seededRandom } from '@wise-margin/demo';
import { expect, it } from 'vitest';

// The definitions of price, quantity and mix written out in a general-purpose analytic SQL engine (DuckDB, from the npm
// registry), on random products: amounts in cents, volumes in whole units, in exact integers, rounded half away from zero.
const PRODUCTS = 200;
const ROUNDED = (amount: string, times: string, over: string): string =>
  `CAST(sign(${amount}) * ((abs(${amount}) * ${times} * 2 + ${over}) // (${over} * 2)) AS HUGEINT)`;
const SPLIT = `
  WITH matched AS (SELECT * FROM products WHERE compared_volume > 0 AND base_volume > 0),
    flexed AS (SELECT *, ${ROUNDED('base', 'compared_volume', 'base_volume')} AS flexible FROM matched),
    totals AS (SELECT sum(base)::HUGEINT AS base, sum(compared)::HUGEINT AS compared, sum(flexible)::HUGEINT AS flexible,
      sum(base_volume)::HUGEINT AS base_volume, sum(compared_volume)::HUGEINT AS compared_volume FROM flexed),
    mixed AS (SELECT *, ${ROUNDED('base', 'compared_volume', 'base_volume')} AS old_mix FROM totals)
  SELECT old_mix - base, flexible - old_mix, compared - flexible,
    (SELECT coalesce(sum(compared - base), 0) FROM products WHERE NOT (compared_volume > 0 AND base_volume > 0)) FROM mixed`;

it.each([1, 2, 3, 4, 5])('the analytic SQL engine finds the same parts on the random products of seed %d', async (seed) => {
  const random = seededRandom(seed);
  const whole = (most: number): number => Math.floor(random.next() * most);
  const products: DrivenSegment[] = Array.from({ length: PRODUCTS }, (_, at) => ({
    key: String(at),
    base: whole(4_000_000) - 1_000_000,
    compared: whole(4_000_000) - 1_000_000,
    // some have none
    baseVolume: whole(10) === 0 ? 0 : whole(5000) + 1,
    comparedVolume: whole(10) === 0 ? 0 : whole(5000) + 1,
  }));
  const sql = await (await DuckDBInstance.create(':memory:')).connect();
  await sql.run('CREATE TABLE products (base HUGEINT, compared HUGEINT, base_volume HUGEINT, compared_volume HUGEINT)');
  await sql.run(
    `INSERT INTO products VALUES ${products.map(({ base, compared, baseVolume, comparedVolume }) => `(${base}, ${compared}, ${baseVolume}, ${comparedVolume})`).join(', ')}`,
  );
  const [row] = (await sql.runAndReadAll(SPLIT)).getRows();
  const found = new Map(priceVolume(products)!.parts.map(({ kind, amount }) => [kind, amount]));
  expect(['quantity', 'mix', 'price', 'unmatched'].map((kind) => found.get(kind as 'quantity'))).toEqual(row!.map(Number));
});
