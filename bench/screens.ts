// npm run bench:screens: measures in the browser what the goals of speed say of statements. Nothing here asserts.
import type { Page } from '@playwright/test';
import type { ViewDto } from '@wise-margin/contract';
import { type ColumnSet, INCOME_LINES, type LineSet, MONTHS_COLUMNS } from '@wise-margin/core';

import type { ServerProcess } from '../tests/support/process.ts';
import { company, end, median, page, tell } from './browser.ts';

async function saveView(server: ServerProcess, lineSet: LineSet, columnSet: ColumnSet): Promise<string> {
  const answer = await fetch(`${server.base}/companies/1/views`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: columnSet.name, lineSet, columnSet }),
  });
  return ((await answer.json()) as ViewDto).key;
}
/** Milliseconds between frames while a region is scrolled, one step a frame. */
const framesOf = (page: Page, step: { readonly top: number; readonly left: number }): Promise<number[]> =>
  page.evaluate(async ({ top, left }) => {
    const region = document.querySelector('[role=region][aria-label=Statement]')!;
    const gaps: number[] = [];
    let before = performance.now();
    for (let frame = 0; frame < 120; frame += 1) {
      region.scrollBy(left, top);
      await new Promise(requestAnimationFrame);
      gaps.push(performance.now() - before);
      before = performance.now();
    }
    return gaps;
  }, step);

const large = await company(2000);
const everyAccount: LineSet = {
  key: 'every_account',
  name: 'Every account',
  percentBase: 'all',
  lines: [{ kind: 'accounts', key: 'all', name: 'All accounts', selection: { ranges: [{ from: '0', to: '99999' }] }, sign: 'debit' }],
};
const sixty: ColumnSet = {
  key: 'sixty',
  name: 'Sixty months',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: { kind: 'month' },
      repeat: { over: 'months', last: 60 },
      columns: [{ kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind: 'month' } }],
    },
  ],
};
const wide = await saveView(large, everyAccount, sixty);
const site = large.base.replace(/\/api$/, '');
const opened = performance.now();
await page.goto(`${site}/c/1/statements/${wide}?asOf=2025-12`);
await page.getByRole('button', { name: 'Open all lines' }).click();
await page.getByRole('rowheader', { name: '10000' }).waitFor();
tell({
  what: '2,000 lines x 60 columns: from the address to the opened lines drawn',
  measured: `${(performance.now() - opened).toFixed(0)} ms`,
});
for (const [words, step] of [
  ['down', { top: 220, left: 0 }],
  ['sideways', { top: 0, left: 40 }],
] as const) {
  const client = await page.context().newCDPSession(page);
  await client.send('Performance.enable');
  const metricsOf = async () => new Map((await client.send('Performance.getMetrics')).metrics.map(({ name, value }) => [name, value]));
  const begun = await metricsOf();
  const gaps = await framesOf(page, step);
  const ended = await metricsOf();
  const spent = (name: string): string => `${(((ended.get(name)! - begun.get(name)!) * 1000) / 120).toFixed(1)} ms`;
  const late = gaps.filter((gap) => gap > 34).length;
  tell({
    what: `the same scrolled ${words}, 120 steps`,
    measured: `median ${median(gaps).toFixed(1)} ms a frame, longest ${Math.max(...gaps).toFixed(0)} ms, ${late} of 120 past two frames; a frame's script ${spent('ScriptDuration')}, layout ${spent('LayoutDuration')}, style ${spent('RecalcStyleDuration')}, all tasks ${spent('TaskDuration')}`,
  });
}
await large.stop('SIGTERM');

const usual = await company(500);
const months = await saveView(usual, INCOME_LINES, MONTHS_COLUMNS);
await page.goto(`${usual.base.replace(/\/api$/, '')}/c/1/statements/${months}/edit?asOf=2025-06`);
await page.getByRole('columnheader', { name: 'Actual' }).first().waitFor();
const edits: number[] = [];
const answers: number[] = [];
await page
  .getByRole('region', { name: 'Columns' })
  .getByRole('button', { name: /^Actual month/ })
  .first()
  .click();
const heading = page.getByLabel('Heading', { exact: true });
for (let turn = 0; turn < 12; turn += 1) {
  await heading.fill(`Actual ${turn}`);
  const taken = await page.evaluate(async (text) => {
    const from = performance.now();
    document.querySelector<HTMLElement>(':focus')!.blur();
    while (![...document.querySelectorAll('thead th')].some((cell) => cell.textContent?.includes(text)))
      await new Promise(requestAnimationFrame);
    return performance.now() - from;
  }, `Actual ${turn}`);
  edits.push(taken);
  const [asked] = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter(({ name }) => name.endsWith('/statement-preview'))
      .slice(-1)
      .map(({ duration }) => duration),
  );
  answers.push(asked ?? NaN);
}
tell({
  what: 'a column edited, 500 accounts x 36 columns: until the preview shows it',
  measured: `median ${median(edits).toFixed(0)} ms, longest ${Math.max(...edits).toFixed(0)} ms, of which the server’s answer ${median(answers).toFixed(0)} ms`,
});
const pdfs: number[] = [];
for (let turn = 0; turn < 4; turn += 1) {
  const from = performance.now();
  await (await fetch(`${usual.base}/companies/1/statements/${months}/export.pdf?asOf=2025-06`)).arrayBuffer();
  pdfs.push(performance.now() - from);
}
tell({ what: 'PDF of the 36 columns', measured: `first ${pdfs[0]!.toFixed(0)} ms, then ${median(pdfs.slice(1)).toFixed(0)} ms` });
await usual.stop('SIGTERM');

await end();
