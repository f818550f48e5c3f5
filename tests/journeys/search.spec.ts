import type { Page } from '@playwright/test';

import { expect, expectAccessible, open, test } from './support.ts';

const box = (page: Page) => page.getByRole('combobox', { name: /^Search / });
async function opened(page: Page): Promise<void> {
  await expect(page.getByRole('button', { name: 'Search' })).toBeVisible();
  await page.keyboard.press('/');
  await expect(box(page)).toBeFocused();
}
/** The search as a person in a hurry uses it: Enter right after the last letter. */
async function find(page: Page, text: string): Promise<void> {
  await opened(page);
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await expect(box(page)).toHaveCount(0);
}

test('an entry, an amount, a name and a month are found by keyboard alone', async ({ page, demo }) => {
  await open(page, demo, '/c/1?asOf=2026-10');
  await find(page, 'PU-001230');
  await expect(page).toHaveURL(/ledger\/entries\?entry=/);
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('PU-001230');

  await find(page, '9466');
  await expect(page).toHaveURL(/findings\/variances\?asOf=2026-10&line=cost_lines.freight_in&month=2026-10&span=month/);
  await expect(page.getByRole('heading', { name: 'Freight in, 9,465.85' })).toBeVisible();

  await find(page, 'income statement');
  await expect(page.getByRole('heading', { name: 'Income statement' })).toBeVisible();
  await find(page, 'oct 2025');
  await expect(page).toHaveURL(/statements\/income\?.*asOf=2025-10/);

  // Ctrl+K from within a field; what was opened lately stands there before anything is typed
  await open(page, demo, '/c/1/ledger/entries');
  await page.getByLabel('Find entries').focus();
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('option').first()).toContainText('Income statement');
  await page.keyboard.type('freight');
  await expect(page.getByRole('option', { name: /Harbor Freight Lines/ }).first()).toBeVisible();
  await expectAccessible(page, page.getByRole('dialog'));
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { selected: false }).nth(2)).toHaveAttribute('data-focus', '');
  await page.keyboard.press('Escape');
  await expect(box(page)).toHaveCount(0);
  await expect(page.getByLabel('Find entries')).toBeFocused();
});

test('all entries that a word is in are a click away', async ({ page, demo }) => {
  await open(page, demo, '/c/1?asOf=2026-10');
  await page.getByRole('button', { name: 'Search' }).click();
  await page.keyboard.type('freight');
  await page.getByRole('option', { name: 'All entries with freight' }).click();
  await expect(page).toHaveURL(/ledger\/entries\?find=freight/);
  await expect(page.getByLabel('Find entries')).toHaveValue('freight');
});

test('what is not there says what can be searched for', async ({ page, demo }) => {
  await open(page, demo, '/c/1?asOf=2026-10');
  await opened(page);
  await page.keyboard.type('no such thing at all');
  await expect(page.getByRole('dialog').getByRole('status')).toContainText('Nothing found. A name, an account, an entry');
  await page.keyboard.press('Enter');
  await expect(box(page)).toBeFocused();
});
