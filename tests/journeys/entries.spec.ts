import { expect, expectAccessible, open, test } from './support.ts';

test('an entry is found by its amount and its text, by mouse; the address opens the same list', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/entries');
  const all = await page.getByText(/lines of/).textContent();
  await page.getByRole('textbox', { name: 'Find entries' }).fill('freight');
  await expect(page.getByText(/lines? of/)).not.toHaveText(all!);
  await page.getByRole('button', { name: /^Filters/ }).click();
  await page.getByRole('textbox', { name: 'Amount from' }).fill('4800');
  await page.getByRole('textbox', { name: 'Amount to' }).fill('4,999.99');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Filters 2' })).toBeVisible();
  const first = page.getByRole('button', { name: /^Entry / }).first();
  await expect(first).toHaveAccessibleName(/(debit|credit) 4,[89]\d\d\.\d\d$/);
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Find entries' })).toHaveValue('freight');
  await page
    .getByRole('button', { name: /^Entry / })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: /^Entry [A-Z]{2}-/ })).toBeVisible();
});

test('by keyboard: one tab stop for the rows, Enter opens the entry, Escape gives the focus back', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/entries?fromMonth=2026-10&toMonth=2026-10&sort=amount');
  const rows = page.getByRole('button', { name: /^Entry / });
  await rows.first().focus();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('ArrowDown');
  const focused = page.locator('[data-row="16"]');
  await expect(focused).toBeFocused();
  const number = await focused.textContent();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `Entry ${number}` })).toBeFocused();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(focused).toBeFocused();
  await page.keyboard.press('End');
  // the last row there was; more are loaded as the end comes near
  await expect
    .poll(() => page.evaluate(() => Number((document.activeElement as HTMLElement).dataset['row'] ?? -1)))
    .toBeGreaterThanOrEqual(199);
});

test('columns are chosen and remembered, a heading sorts, and the list leaves as a file', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/entries?fromMonth=2026-10');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'Journal' }).check();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Journal' })).toBeVisible();
  await page.getByRole('button', { name: 'Debit', exact: true }).click();
  await expect(page.getByRole('columnheader', { name: 'Debit' })).toHaveAttribute('aria-sort', 'descending');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export CSV' }).click();
  expect((await download).suggestedFilename()).toBe('entries.csv');
});

test('the audit trail names what was changed, and says that nothing was altered', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/audit');
  await page.getByLabel('Area').selectOption('Ledger');
  await expect(page.getByRole('cell', { name: 'Import 1 posted', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Verify' }).click();
  await expect(page.getByText(/^\d+ events verified, none altered$/)).toBeVisible();
});
