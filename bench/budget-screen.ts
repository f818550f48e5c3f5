// npm run bench:budget: what typing and pasting into the month grid costs in the browser. Nothing here asserts.
import type { Locator } from '@playwright/test';
import type { BudgetDto } from '@wise-margin/contract';

import { company, end, median, page, tell } from './browser.ts';

// 625 accounts, four of five of them of income: 500 lines in the month grid, by four departments
const planned = await company(625);
const made = (await (
  await fetch(`${planned.base}/companies/1/budgets`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Bench', year: 2026, from: 2025, change: '3' }),
  })
).json()) as BudgetDto;
await page.goto(`${planned.base.replace(/\/api$/, '')}/c/1/budgets/${made.id}?panel=none`);
const first = page.locator('[data-row][data-column="0"]').nth(1);
await first.waitFor();
/** Milliseconds from an act on the focused cell until the year's summary shows what came of it, a frame after the grid is drawn. */
const untilPainted = (act: { readonly key: string } | { readonly paste: string }): Promise<number> =>
  page.evaluate(async (asked) => {
    const summary = document.querySelector('[aria-label="Annual summary"]')!;
    const [before, from] = [summary.textContent, performance.now()];
    const at = document.activeElement!;
    if ('paste' in asked) {
      const data = new DataTransfer();
      data.setData('text/plain', asked.paste);
      at.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    } else at.dispatchEvent(new KeyboardEvent('keydown', { key: asked.key, bubbles: true, cancelable: true }));
    while (summary.textContent === before) await new Promise(requestAnimationFrame);
    return performance.now() - from;
  }, act);
/** Types a dozen figures into a cell, one after the other. */
async function typeInto(cell: Locator, what: string): Promise<void> {
  const typed: number[] = [];
  for (let turn = 0; turn < 12; turn += 1) {
    await cell.focus();
    await page.keyboard.type(`${1000 * (turn + 1)}`);
    typed.push(await untilPainted({ key: 'Enter' }));
    await page.getByText('all changes saved').waitFor();
  }
  tell({
    what: `${what}, ${made.lineCount} lines as 500 x 12: until the grid and its totals are painted`,
    measured: `median ${median(typed).toFixed(0)} ms, longest ${Math.max(...typed).toFixed(0)} ms`,
  });
}
await typeInto(first, 'a figure of revenue typed, of which every row shows its share');
const grid = page.getByRole('region', { name: 'Budget by month' });
await grid.evaluate((region) => region.scrollTo(0, region.scrollHeight / 2));
const middle = page.locator('[data-row][data-column="0"]').nth(12);
await middle.waitFor();
await typeInto(middle, 'a figure of cost typed');
// the same with the line's panel beside it, as it usually stands
await page.getByLabel('Compare with', { exact: true }).selectOption('line');
await page.getByRole('complementary', { name: 'Line' }).waitFor();
await typeInto(middle, 'a figure of cost typed, its line beside the grid');
await page.getByLabel('Compare with', { exact: true }).selectOption('none');
await grid.evaluate((region) => region.scrollTo(0, 0));
await first.waitFor();
const block = Array.from({ length: 500 }, (_, row) => Array.from({ length: 12 }, (_unused, month) => 100 + row + month).join('\t')).join(
  '\n',
);
await first.focus();
const pasted = await untilPainted({ paste: block });
const from = performance.now();
await page.getByText('all changes saved').waitFor({ timeout: 60_000 });
tell({
  what: 'a block of 6,000 figures pasted',
  measured: `painted after ${pasted.toFixed(0)} ms, saved ${(performance.now() - from).toFixed(0)} ms later`,
});
await planned.stop('SIGTERM');
await end();
