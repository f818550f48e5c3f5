import { writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { type LineDriverDto, type VarianceExplanationDto, varianceExplanationSchema } from '@wise-margin/contract';
import { ternIslandFiles } from '@wise-margin/demo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
  const file = join(server.directory, 'statistics.csv');
  writeFileSync(file, ternIslandFiles().statistics);
  const { statistics, actor } = server.application;
  const { preview } = await statistics.preview(1, file);
  await statistics.importFile(1, { path: file, fingerprint: preview.fingerprint, actor });
});
afterAll(() => server.close());

const TOURS = 'revenue_lines.tours';
const SALARIES = 'operating_lines.salaries_and_benefits';
const explain = async (line: string, query = 'comparison=priorYear&span=yearToDate'): Promise<VarianceExplanationDto> =>
  varianceExplanationSchema.parse(await server.get(`/companies/1/explanation?asOf=2026-10&line=${line}&${query}`));
const setDriver = (line: string, driver: Partial<LineDriverDto> | null) =>
  server.send('PUT', '/companies/1/line-drivers', { line, driver });
const run = (sql: string, ...bindings: (string | number)[]) =>
  server.application.database.write((transaction) => server.application.database.run(sql, bindings, transaction));
/** The books are read again after a change behind the application's back. */
const readAgain = () => run('UPDATE companies SET version = version + 1 WHERE id = 1');

describe('a line with a driver', () => {
  it('has none until one is chosen from the statistics there are', async () => {
    const { driver } = await explain(TOURS);
    expect(driver).toMatchObject({ chosen: null, split: null, missing: '' });
    expect(driver!.series).toContain('tour_guests');
    expect((await explain('revenue')).driver).toBeNull();
    expect(await setDriver(TOURS, { series: 'tour_guest', planned: '' })).toMatchObject({
      status: 422,
      body: { detail: expect.stringMatching(/no statistic or driver tour_guest. Choose one of/) as unknown },
    });
    expect(await setDriver(TOURS, { series: 'tour_guests', planned: 'nobody' })).toMatchObject({ status: 422 });
  });
  it('is split into volume and price, which add up to the difference; guests and amounts are those of the ledger', async () => {
    expect(await setDriver(TOURS, { series: 'tour_guests', planned: '' })).toMatchObject({ status: 204 });
    const { driver, variance, compared, base } = await explain(TOURS);
    const split = driver!.split!;
    expect([split.compared, split.base, split.parts.reduce((sum, { amount }) => sum + amount, 0)]).toEqual([compared, base, variance]);
    const { periods, series } = await server.get<{ periods: string[]; series: { name: string; values: number[] }[] }>(
      '/companies/1/statistics',
    );
    const guests = series.find(({ name }) => name === 'tour_guests')!.values;
    const of = (from: string, to: string) =>
      guests.reduce((sum, value, at) => (periods[at]! >= from && periods[at]! <= to ? sum + value : sum), 0);
    expect([split.baseVolume, split.comparedVolume]).toEqual([of('2025-04', '2025-10'), of('2026-04', '2026-10')]);
    expect(split.flexible).toBe(Math.round((base * split.comparedVolume) / split.baseVolume));
    expect(split.parts.map(({ kind }) => kind)).toEqual(['quantity', 'price']);
  });
  it('kept by department has a mix, and effects of each department that add up', async () => {
    await setDriver(SALARIES, { series: 'headcount', planned: '' });
    const { driver, variance } = await explain(SALARIES);
    const { parts, segments } = driver!.split!;
    expect(segments.map(({ name }) => name).sort()).toEqual(['Office', 'Store', 'Tours', 'Workshop']);
    expect(parts.map(({ kind }) => kind)).toEqual(['quantity', 'mix', 'price']);
    expect(segments.reduce((sum, { difference }) => sum + difference, 0)).toBe(variance);
    for (const { volumeEffect, priceEffect, difference } of segments) expect(volumeEffect + priceEffect).toBe(difference);
  });
  it('with what is used for it has an efficiency beside the rate', async () => {
    expect(await setDriver(TOURS, { series: 'tour_guests', planned: '', input: 'rental_days', plannedInput: '' })).toMatchObject({
      status: 204,
    });
    const { driver, variance } = await explain(TOURS);
    const { parts } = driver!.split!;
    expect(parts.map(({ kind }) => kind)).toEqual(['quantity', 'efficiency', 'price']);
    expect(parts.reduce((sum, { amount }) => sum + amount, 0)).toBe(variance);
    expect(await setDriver(TOURS, { series: 'tour_guests', planned: '', input: 'hours', plannedInput: '' })).toMatchObject({ status: 422 });
    await setDriver(TOURS, { series: 'tour_guests', planned: '' });
  });
  it('with a gap leaves those months apart, and names them', async () => {
    await run("DELETE FROM statistics WHERE company_id = 1 AND series = 'tour_guests' AND period_code IN (202604, 202703)");
    await readAgain();
    const { driver, variance } = await explain(TOURS);
    expect(driver!.missing).toBe('No volume on one of the sides in Jun 2026 and Jul 2026; those months are left apart.');
    const { parts } = driver!.split!;
    expect(parts.map(({ kind }) => kind)).toEqual(['quantity', 'price', 'unmatched']);
    expect(parts.reduce((sum, { amount }) => sum + amount, 0)).toBe(variance);
    await run("UPDATE statistics SET value = 0 WHERE company_id = 1 AND series = 'tour_guests'");
    await readAgain();
    expect((await explain(TOURS)).driver).toMatchObject({ split: null });
  });
  it('against a budget needs what was planned', async () => {
    const { driver } = await explain(SALARIES, 'comparison=budget');
    expect(driver).toMatchObject({ split: null, missing: expect.stringContaining('No volume on one of the sides in Oct 2026') as unknown });
    // a statistic can be the plan of another
    await setDriver(SALARIES, { series: 'headcount', planned: 'headcount' });
    const planned = (await explain(SALARIES, 'comparison=budget')).driver!.split!;
    expect(planned.comparedVolume).toBe(planned.baseVolume);
    expect(planned.flexible).toBe(planned.base);
    await setDriver(SALARIES, null);
    expect((await explain(SALARIES)).driver!.chosen).toBeNull();
  });
});

describe('an item that does not recur', () => {
  it('is named where it is in the months compared with, and comes first where it is most of the difference', async () => {
    await run(`INSERT INTO nonrecurring_items (company_id, account_id, period_code, entry_id, reason, at, actor)
      SELECT DISTINCT 1, l.account_id, l.period_code, l.entry_id, 'storm', '2026-11-09', 'Tester' FROM lines l JOIN accounts a ON a.id = l.account_id WHERE a.company_id = 1 AND a.number IN ('7110', '7810')`);
    const { lines } = await server.get<{ lines: { key: string; name: string }[] }>('/companies/1/materiality');
    const { key } = lines.find(({ name }) => name === 'Insurance recovery')!;
    const { nonrecurring, proposal } = varianceExplanationSchema.parse(
      await server.get(`/companies/1/explanation?asOf=2026-01&line=${key}&comparison=priorYear&span=yearToDate`),
    );
    expect(nonrecurring).toMatchObject([
      {
        words: expect.stringMatching(
          /^BA-\d+ of Jan 19, 2026 from .* “Storm claim settled” is a nonrecurring item, which budgets leave out$/,
        ) as unknown,
      },
    ]);
    expect(proposal.template).toContain('is a nonrecurring item');
  });
});
