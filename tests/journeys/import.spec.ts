import { ACCOUNTS, GOOD_LEDGER } from '../support/server.ts';
import { expect, expectAccessible, open, test } from './support.ts';

const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('two files in: one bad row is refused, corrected, previewed and posted', async ({ page, empty }) => {
  await open(page, empty, '/');
  await expect(page.getByRole('heading', { name: 'Begin with a ledger' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Check the files' }).click();
  await expect(page.getByText('Give the company a name')).toBeVisible();

  await page.getByLabel('Company name').fill('Heron Street Books');
  await page.getByLabel('Accounts file (CSV)').setInputFiles(file('accounts.csv', ACCOUNTS));
  await page.getByLabel('Ledger file (CSV)').setInputFiles(file('ledger.csv', GOOD_LEDGER.replace('250.10,', '250.1O,')));
  await page.getByRole('button', { name: 'Check the files' }).click();
  const refused = page.getByRole('region', { name: 'Rejected rows' });
  await expect(refused.getByRole('heading', { name: '1 error. Nothing was posted.' })).toBeVisible();
  const row = refused.getByRole('listitem');
  await expect(row).toContainText('250.1O');
  await expect(row).toContainText('This is not an amount');
  await expectAccessible(page);
  const download = page.waitForEvent('download');
  await refused.getByRole('link', { name: 'Download rejected rows' }).click();
  expect((await download).suggestedFilename()).toBe('import-1-refused-rows.csv');
  await page.getByRole('button', { name: 'Discard import' }).click();

  await page.getByLabel('Company name').fill('Heron Street Books');
  await page.getByLabel('Accounts file (CSV)').setInputFiles(file('accounts.csv', ACCOUNTS));
  await page.getByLabel('Ledger file (CSV)').setInputFiles(file('ledger.csv', GOOD_LEDGER));
  await page.getByRole('button', { name: 'Check the files' }).click();
  const preview = page.getByRole('region', { name: 'Preview' });
  await expect(preview).toContainText('2026-01-02 to 2026-02-03');
  await expect(preview).toContainText('1,350.09');
  await expect(preview).toContainText('department: North, South');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Post 3 entries' }).click();
  await expect(page).toHaveURL(/ledger\/trial-balance/);
  await expect(page.getByText('Debits equal credits.')).toBeVisible();
  await expect(page.getByRole('row', { name: /1000 Cash/ })).toContainText('1,150.11');
});

test('a budget wants history first, and an unposted import waits in the list', async ({ page, empty }) => {
  await open(page, empty, '/c/1/budgets');
  await page.getByRole('button', { name: 'New budget' }).first().click();
  await expect(page.getByRole('form', { name: 'New budget' })).toBeVisible();
  await open(page, empty, '/c/1/ledger/imports/new');
  await page.getByLabel('Ledger file (CSV)').setInputFiles(file('again.csv', GOOD_LEDGER));
  await page.getByRole('button', { name: 'Check the files' }).click();
  await expect(page.getByRole('listitem')).toContainText('was posted as import');
  await page.getByRole('link', { name: 'Imports' }).first().click();
  await expect(page.getByRole('row', { name: /again\.csv/ })).toContainText('refused');
});
