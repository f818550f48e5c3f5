import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import type { Page } from '@playwright/test';

import { expect, expectAccessible, open, test } from './support.ts';

/** A bank statement of the demo data. */
const statement = (name: string): Buffer => readFileSync(join(process.env['JOURNEY_DATA']!, 'demo/files/tern-island', name));
const lines = (page: Page) => page.getByRole('region', { name: 'Lines' });
const summary = (page: Page) => page.getByRole('table', { name: 'Reconciliation' });

async function importStatement(page: Page, name: string): Promise<void> {
  await page.getByLabel('Bank statement', { exact: true }).setInputFiles({ name, mimeType: 'text/plain', buffer: statement(name) });
  await page.getByRole('button', { name: 'Import the statement' }).click();
  await expect(page.getByRole('region', { name: 'Statement to import' })).toHaveCount(0);
}

// one after the other, so that one server serves them all
test.describe.configure({ mode: 'default' });

test('October is reconciled with the bank: statements imported, proposals accepted, the fee posted, the deposit corrected', async ({
  page,
  bank,
}) => {
  await open(page, bank, '/c/1/ledger/reconciliation');
  await expect(page.getByRole('heading', { name: 'No bank statement yet' })).toBeVisible();
  await importStatement(page, 'bank-2026-09.csv');
  await importStatement(page, 'bank-2026-10.ofx');
  await expectAccessible(page);

  await lines(page)
    .getByRole('button', { name: /^Accept these \d+$/ })
    .press('Enter');
  await expect(lines(page).getByText('0 of them by reference, name or words')).toBeVisible();
  await lines(page)
    .getByRole('button', { name: /^Accept all \d+$/ })
    .press('Enter');
  await expect(lines(page).getByText('Transposed digits: 3,585.75 on the statement, 3,855.75 in the ledger')).toBeVisible();
  await expect(summary(page)).toContainText('2 outstanding checks and payments');

  // the fee: its account is suggested
  await lines(page)
    .getByRole('checkbox', { name: /ACCOUNT ANALYSIS FEE/ })
    .check();
  await expect(page.getByLabel('Post to account')).toHaveValue('6640');
  await page.getByLabel('Department').selectOption('Office');
  await page.getByRole('button', { name: 'Post entry' }).click();
  await expect(lines(page).getByRole('checkbox', { name: /ACCOUNT ANALYSIS FEE/ })).toHaveCount(0);

  // a deposit that differs is not matched by hand, but its difference can be forced
  await lines(page)
    .getByRole('checkbox', { name: /SLATE RIVER CANOE D260902/ })
    .check();
  await lines(page)
    .getByRole('checkbox', { name: /Slate River Canoe, Receipt for D-260902/ })
    .check();
  await expect(page.getByRole('region', { name: 'Selected lines' })).toContainText('(270.00)');
  await page.getByLabel('Why they may differ').fill('The bank is asked');
  await page.getByRole('button', { name: 'Clear, difference to 6790' }).click();
  await expect(page.getByText('1 forced difference without an explanation. See Cleared.')).toBeVisible();
  await page.getByRole('button', { name: /^Cleared/ }).click();
  await page.getByLabel('What it was').fill('Transposed digits on the slip');
  await page.getByRole('button', { name: 'Explain' }).click();
  await expect(page.getByText('Reconciled: the ledger agrees with the bank.')).toBeVisible();

  // what is on its way, and as of any day
  await page.getByRole('button', { name: /^Outstanding \(3\)$/ }).click();
  await expect(lines(page).getByRole('table')).toContainText('Deposit for carbon cloth');
  await page.getByLabel('As of', { exact: true }).fill('2026-09-30');
  await expect(page.getByRole('heading', { name: '1010 on Sep 30, 2026' })).toBeVisible();
  await expect(page.getByText('Reconciled: the ledger agrees with the bank.')).toBeVisible();
  await expectAccessible(page);

  await open(page, bank, '/c/1/findings/tie-outs?asOf=2026-10');
  await expect(page.getByRole('row', { name: /1010 Operating cash agrees with the bank/ })).toContainText('✓ Agrees');
});

test('a file that does not fit says why, and is not imported', async ({ page, bank }) => {
  await open(page, bank, '/c/1/ledger/reconciliation?account=1020');
  const rows = 'Date,Description,Amount\n10/05/2026,DEPOSIT,100.00\n10/28/2026,FEE,much\n';
  await page
    .getByLabel('Bank statement', { exact: true })
    .setInputFiles({ name: 'payroll.csv', mimeType: 'text/csv', buffer: Buffer.from(rows) });
  const form = page.getByRole('region', { name: 'Statement to import' });
  await expect(form.getByRole('alert')).toContainText('Row 3, Amount: "much" is not an amount.');
  await expect(form.getByRole('button', { name: 'Import the statement' })).toBeDisabled();
  await expectAccessible(page, form);
  await form.getByRole('button', { name: 'Cancel' }).press('Enter');
  await expect(form).toHaveCount(0);
});
