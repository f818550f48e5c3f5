// Figures of a data folder, to compare two versions of the code: every view and every budget of every company.
//   npx tsx tests/figures/run.ts capture DATA-FOLDER FIGURES.json
//   npx tsx tests/figures/run.ts compare BEFORE.json AFTER.json
// Field names and texts may change between the two; numbers, their order and what has none may not.
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { createApp, openApplication } from '@wise-margin/server';
import { pino } from 'pino';

import { filterText } from '../support/filter-text.ts';
import { differences, type Figures, numbersOf } from './differences.ts';

type Get = (path: string) => Promise<unknown>;
const LAST_MONTHS = 14;
const MOST_DRILL_DOWNS = 12;

async function capture(get: Get): Promise<Figures> {
  const figures: Record<string, (number | null)[]> = {};
  const note = async <Answer>(name: string, path: string): Promise<Answer> => {
    const answer = await get(path);
    figures[name] = numbersOf(answer);
    return answer as Answer;
  };
  for (const { id, name: company } of (await get('/companies')) as { id: number; name: string }[]) {
    const at = `/companies/${id}`;
    const { periods, lastPosted, dimensions } = await note<{
      periods: { key: string }[];
      lastPosted: string;
      dimensions: { name: string; values: string[] }[];
    }>(`${company}, company`, at);
    const keys = periods.map(({ key }) => key);
    const last = keys.indexOf(lastPosted);
    const months = keys.slice(Math.max(0, last - LAST_MONTHS), last + 2);
    const slices = dimensions.flatMap(({ name, values }) =>
      values.map((value) => ({ words: `${name} ${value || 'none'}`, query: filterText({ [name]: [value] }) })),
    );
    for (const { key } of (await get(`${at}/views`)) as { key: string }[]) {
      for (const month of months) await note(`${company}, view ${key}, ${month}`, `${at}/statements/${key}?asOf=${month}`);
      for (const { words, query } of slices)
        await note(`${company}, view ${key}, ${words}`, `${at}/statements/${key}?asOf=${lastPosted}&${query}`);
      await note(`${company}, trends of ${key}`, `${at}/statements/${key}/line-trends?asOf=${lastPosted}`);
      await captureDrillDowns({ get, note, company, at, view: key, month: lastPosted });
    }
    await note(`${company}, months`, `${at}/period-strip?asOf=${lastPosted}`);
    await note(`${company}, trial balance`, `${at}/reports/trial-balance?limit=2000&range=${lastPosted}`);
    await note(`${company}, accounts`, `${at}/accounts?year=${lastPosted.slice(0, 4)}`);
    await note(`${company}, statistics`, `${at}/statistics`);
    const budgets = (await get(`${at}/budgets`)) as { id: number }[];
    for (const { id: budget } of budgets) {
      const own = `${at}/budgets/${budget}`;
      const name = `${company}, budget ${budget}`;
      await note(`${name}, grid`, own);
      await note(`${name}, worksheet`, `${own}/worksheet?session=figures`);
      await note(`${name}, balance plan`, `${own}/balance-plan?session=figures`);
      await note(`${name}, checks`, `${own}/checks`);
      await note(`${name}, history`, `${own}/history`);
      for (const { id: other } of budgets) if (other !== budget) await note(`${name}, against ${other}`, `${own}/comparison?with=${other}`);
    }
  }
  return figures;
}

/** The figures behind some cells of a view, spread over the grid. */
async function captureDrillDowns(options: {
  readonly get: Get;
  readonly note: (name: string, path: string) => Promise<unknown>;
  readonly company: string;
  readonly at: string;
  readonly view: string;
  readonly month: string;
}): Promise<void> {
  const { get, note, company, at, view, month } = options;
  const { lines, columns } = (await get(`${at}/statements/${view}?asOf=${month}`)) as {
    lines: { key: string }[];
    columns: { key: string }[];
  };
  const cells = lines.flatMap((line) => columns.map((column) => ({ line: line.key, column: column.key })));
  const step = Math.max(1, Math.floor(cells.length / MOST_DRILL_DOWNS));
  for (let place = 0; place < cells.length; place += step) {
    const { line, column } = cells[place]!;
    const query = `asOf=${month}&line=${encodeURIComponent(line)}&column=${encodeURIComponent(column)}`;
    await note(`${company}, view ${view}, behind ${line} ${column}`, `${at}/statements/${view}/drill-down?${query}`);
  }
}

async function captureFolder(folder: string, file: string): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wise-margin-figures-'));
  cpSync(folder, directory, { recursive: true, filter: (path) => !path.endsWith('.lock') });
  const application = await openApplication({
    directory,
    recover: true,
    actor: { name: 'Analyst', now: () => new Date('2026-11-09T08:00:00Z') },
  });
  const app = createApp({ application, logger: pino({ level: 'warn' }), webDirectory: null, hostNames: [], requestsPerMinute: 1e6 });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  const figures = await capture(async (path) => {
    const response = await fetch(base + path);
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return response.json();
  });
  writeFileSync(file, JSON.stringify(figures));
  const answers = Object.values(figures);
  process.stdout.write(`${answers.length} answers, ${answers.reduce((sum, { length }) => sum + length, 0)} figures\n`);
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  await application.close();
  rmSync(directory, { recursive: true, force: true });
}

const read = (file: string): Figures => JSON.parse(readFileSync(file, 'utf8')) as Figures;
const [verb, first, second] = process.argv.slice(2);
if (verb === 'capture' && first && second) await captureFolder(first, second);
else if (verb === 'compare' && first && second) {
  const found = differences(read(first), read(second));
  process.stdout.write(found.length === 0 ? `${Object.keys(read(first)).length} answers are the same.\n` : `${found.join('\n')}\n`);
  process.exitCode = found.length === 0 ? 0 : 1;
} else process.stderr.write('Use: run.ts capture DATA-FOLDER FIGURES.json, or run.ts compare BEFORE.json AFTER.json\n');
