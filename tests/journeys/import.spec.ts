import type { Page } from '@playwright/test';
import type { CompanyListDto, ImportDto } from '@wise-margin/contract';

import { ACCOUNTS, GOOD_LEDGER } from '../support/small-ledger.ts';
import { expect, expectAccessible, open, test } from './support.ts';

// each test goes on with what the one before imported
test.describe.configure({ mode: 'default' });

/** Drops a file beside its field, as from a window of files. */
async function drop(page: Page, label: string, { name, buffer }: { readonly name: string; readonly buffer: Buffer }): Promise<void> {
  const field = page.getByLabel(label);
  const dataTransfer = await page.evaluateHandle(
    ([title, text]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([text!], title!));
      return transfer;
    },
    [name, buffer.toString('utf8')],
  );
  await field.locator('..').dispatchEvent('drop', { dataTransfer });
  await expect.poll(() => field.evaluate((input: HTMLInputElement) => input.files?.[0]?.name)).toBe(name);
}

const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('demo companies are added at a click, looked at, and removed as easily', async ({ page, empty }) => {
  await open(page, empty, '/');
  await expect(page.getByRole('heading', { name: 'What an import needs' })).toBeVisible();
  const sample = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download a sample ledger file' }).click();
  expect((await sample).suggestedFilename()).toBe('sample-ledger.csv');
  await page.getByRole('button', { name: 'Add demo companies' }).click();
  await expect(page.getByRole('button', { name: 'Adding demo companies…' })).toBeDisabled();
  await expect(page.getByRole('heading', { name: 'Tern Island Kayak Works' })).toBeVisible({ timeout: 45_000 });
  await expect(page.getByRole('region', { name: 'October 2026' })).toContainText('219,617');
  await page.getByRole('button', { name: 'remove the demo companies' }).click();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'remove the demo companies' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove demo companies' }).click();
  await expect(page.getByRole('heading', { name: 'Import your ledger' })).toBeVisible();
});

test('two files in: one bad row is refused, corrected, previewed and posted', async ({ page, empty }) => {
  await open(page, empty, '/');
  await expect(page.getByRole('heading', { name: 'Import your ledger' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Check files' }).click();
  await expect(page.getByText('Enter a company name')).toBeVisible();

  await page.getByLabel('Company name').fill('Heron Street Books');
  await page.getByLabel('Accounts file (CSV)').setInputFiles(file('accounts.csv', ACCOUNTS));
  await page.getByLabel('Ledger file (CSV)').setInputFiles(file('ledger.csv', GOOD_LEDGER.replace('250.10,', '250.1O,')));
  await page.getByRole('button', { name: 'Check files' }).click();
  const refused = page.getByRole('region', { name: 'Rejected rows' });
  await expect(refused.getByRole('heading', { name: '1 error. Nothing was posted.' })).toBeVisible();
  const row = refused.getByRole('listitem');
  await expect(row).toContainText('250.1O');
  await expect(row).toContainText('This is not an amount');
  await expectAccessible(page);
  const download = page.waitForEvent('download');
  await refused.getByRole('link', { name: 'Download rejected rows' }).click();
  expect((await download).suggestedFilename()).toMatch(/^import-\d+-rejected-rows\.csv$/);
  await page.getByRole('button', { name: 'Discard import' }).click();

  await page.getByLabel('Company name').fill('Heron Street Books');
  await drop(page, 'Accounts file (CSV)', file('accounts.csv', ACCOUNTS));
  await drop(page, 'Ledger file (CSV)', file('ledger.csv', GOOD_LEDGER));
  await page.getByRole('button', { name: 'Check files' }).click();
  const preview = page.getByRole('region', { name: 'Preview' });
  await expect(preview).toContainText('Jan 2, 2026 to Feb 3, 2026');
  await expect(preview).toContainText('1,350.09');
  await expect(preview).toContainText('department: North, South');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Post 3 entries' }).click();
  await expect(page).toHaveURL(/ledger\/reports\/trial-balance/);
  await expect(page.getByText('Debits equal credits.')).toBeVisible();
  await expect(page.getByRole('row', { name: /1000, Cash/ })).toContainText('1,150.11');
});

test('a budget wants history first, and an unposted import waits in the list', async ({ page, empty }) => {
  const [company] = await empty.get<CompanyListDto>('/companies');
  const at = `/c/${company!.id}`;
  await open(page, empty, `${at}/budgets`);
  await page.getByRole('button', { name: 'New budget' }).first().click();
  await expect(page.getByRole('form', { name: 'New budget' })).toBeVisible();
  await open(page, empty, `${at}/ledger/imports/new`);
  await page.getByLabel('Ledger file (CSV)').setInputFiles(file('again.csv', GOOD_LEDGER));
  await page.getByRole('button', { name: 'Check files' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'was posted as import' })).toBeVisible();
  await page.getByRole('link', { name: 'Imports' }).first().click();
  await expect(page.getByRole('row', { name: /again\.csv/ })).toContainText('Rejected');
  // a short list says what comes next
  await page.getByRole('link', { name: 'check the trial balance' }).click();
  await expect(page).toHaveURL(/ledger\/reports\/trial-balance/);
});

test('on a phone a long company name leaves room for the month', async ({ page, empty }) => {
  const form = new FormData();
  const target = { name: `A Company With a Long Name, ${'Incorporated in Several States '.repeat(4)}`, currency: 'USD', startMonth: '1' };
  for (const [name, value] of Object.entries(target)) form.set(name, value);
  form.set('accounts', new Blob([ACCOUNTS]), 'accounts.csv');
  form.set('ledger', new Blob([GOOD_LEDGER]), 'ledger.csv');
  const { id } = (await (await fetch(`${empty.base}/imports`, { method: 'POST', body: form })).json()) as ImportDto;
  await expect.poll(async () => (await empty.get<ImportDto>(`/imports/${id}`)).state).toBe('ready');
  const { companyId } = (await (await fetch(`${empty.base}/imports/${id}/post`, { method: 'POST' })).json()) as ImportDto;
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, empty, `/c/${companyId}/statements/income`);
  const month = (await page.getByLabel('As-of month').boundingBox())!;
  expect(month.x + month.width).toBeLessThanOrEqual(390);
});
