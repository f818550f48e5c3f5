import { readFileSync } from 'node:fs';

import { expect, expectAccessible, open, test } from './support.ts';

// each step starts from what the one before it left
test.describe.configure({ mode: 'serial', timeout: 240_000 });
// files of two companies are written
const ISSUED = { timeout: 120_000 };

test('two companies are set side by side with their total, and a figure leads to each of them', async ({ page, companies }) => {
  await open(page, companies, '/c/1/statements?asOf=2026-10');
  await page.getByRole('link', { name: 'Combined', exact: true }).click();
  await expect(page.getByText('No company groups yet')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New group' }).click();
  const dialog = page.getByRole('dialog', { name: 'New company group' });
  await expect(dialog.getByRole('button', { name: 'Choose at least two companies' })).toBeDisabled();
  await dialog.getByLabel('Name', { exact: true }).fill('Island group');
  await dialog.getByRole('checkbox').nth(1).check();
  // a leading company that is taken out is not asked for any more
  await dialog.getByRole('checkbox').first().uncheck();
  await expect(dialog.getByLabel('Fiscal year and views of')).toHaveValue('2');
  await dialog.getByRole('checkbox').first().check();
  await expect(dialog.getByLabel('Fiscal year and views of')).toHaveValue('1');
  await dialog.getByLabel(/^Intercompany accounts of Gannet Rock/).fill('99');
  await dialog.getByRole('button', { name: 'Save 2 companies' }).click();
  await expect(dialog.getByRole('alert')).toContainText(/Gannet Rock.* has no account 99\. Enter account numbers of/);
  await expectAccessible(page, dialog);
  await dialog.getByLabel(/^Intercompany accounts of Gannet Rock/).fill('');
  await dialog.getByRole('button', { name: 'Save 2 companies' }).click();

  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Income statement, combined');
  const headings = page.getByRole('columnheader');
  await expect(headings.filter({ hasText: 'Combined' })).toBeVisible();
  await expect(page.getByText(/Island group; .*Oct 2026; fiscal year of Tern Island/)).toBeVisible();
  await expectAccessible(page);

  // by keyboard from the total to what it is made of, and back to the same figure
  const total = page
    .getByRole('row', { name: /^Operating income/ })
    .getByRole('button')
    .last();
  await total.focus();
  await page.keyboard.press('Enter');
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await expect(panel.getByRole('row', { name: /^Tern Island/ })).toBeVisible();
  await expect(panel.getByRole('row', { name: /^Gannet Rock/ })).toBeVisible();
  await expect(panel).toContainText('Adds up to the amount');
  await expectAccessible(page, panel);
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(total).toBeFocused();
  // and on from a company of the total to the entries it is made of
  await page.keyboard.press('Enter');
  await panel.getByRole('link', { name: 'Gannet Rock Sea Salt' }).first().click();
  await expect(page.getByRole('button', { name: 'Company: Gannet Rock Sea Salt' })).toBeVisible();
  await expect(page.getByText(/^[\d,]+ lines of [\d,]+ entries$/)).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Income statement, combined');

  await page.getByLabel('View', { exact: true }).selectOption({ label: 'Balance sheet' });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Balance sheet, combined');
  await page.getByLabel('As of', { exact: true }).selectOption({ label: 'Dec 2026' });
  await expect(page.getByRole('alert')).toContainText('Actuals through October 2026');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('button', { name: 'Download' })
      .click()
      .then(() => page.getByRole('link', { name: 'CSV' }).click()),
  ]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('Island group');
});

test('a pack is issued for both companies in one run; a link to an issue is read on a phone and withdrawn', async ({ page, companies }) => {
  await open(page, companies, '/c/1/packs?asOf=2026-10');
  await page.getByRole('link', { name: 'Companies', exact: true }).click();
  await page.getByLabel('Pack', { exact: true }).selectOption({ label: 'Lender pack' });
  await page.getByRole('button', { name: 'Issue for 2 companies' }).click();
  await expect(page.getByText('2 of 2 issued')).toBeVisible(ISSUED);
  await expect(page.getByRole('row', { name: /^Gannet Rock.* Issue 1$/ })).toBeVisible();
  await expectAccessible(page);
  const [zip] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'PDF', exact: true }).click()]);
  expect(zip.suggestedFilename()).toBe('lender-pack-2026-10.zip');

  await page
    .getByRole('row', { name: /^Tern Island/ })
    .getByRole('link', { name: 'Issue 1' })
    .click();
  await page.getByRole('button', { name: 'Share…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Share Lender pack' });
  await dialog.getByLabel('Allow drill-down to accounts').check();
  await dialog.getByRole('button', { name: 'Create link' }).click();
  const link = await dialog.getByLabel('Link', { exact: true }).inputValue();
  await expectAccessible(page, dialog);

  const reader = await page.context().newPage();
  await reader.setViewportSize({ width: 390, height: 780 });
  await reader.goto(new URL(new URL(link).pathname, page.url()).href);
  await expect(reader.getByText('Lender pack', { exact: true }).first()).toBeVisible();
  await expectAccessible(reader);
  const heading = reader.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText('Financial statements');
  await reader.keyboard.press('End');
  await expect(reader.getByRole('button', { name: 'Next' })).toBeDisabled();
  await reader.keyboard.press('Home');
  await reader.keyboard.press('ArrowRight');
  await expect(reader.getByRole('heading', { level: 1, name: 'Income statement' })).toBeVisible();
  await expectAccessible(reader);
  // the page itself does not scroll sideways; its tables do
  expect(await reader.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  await reader
    .getByRole('button', { name: /^Revenue, net, / })
    .first()
    .click();
  await expect(reader.getByRole('table', { name: 'Accounts' })).toContainText('Total');
  await expectAccessible(reader);

  await dialog.getByRole('button', { name: 'Revoke' }).click();
  await expect(dialog.getByText('Revoked')).toBeVisible();
  await reader.reload();
  await expect(reader.getByText('This link was withdrawn. Ask whoever sent it for a new one.')).toBeVisible();
  await expectAccessible(reader);
  await reader.close();
});

test('a view that is saved for all companies is there for the second, which then has its own', async ({ page, companies }) => {
  await open(page, companies, '/c/1/statements/income/edit?asOf=2026-10');
  await page.getByRole('button', { name: 'Save as' }).click();
  const form = page.getByRole('form', { name: 'Save as' });
  await form.getByLabel('Name').fill('Board income');
  await form.getByLabel('Share with colleagues').check();
  await form.getByLabel('For').selectOption({ label: 'All companies' });
  await form.getByRole('button', { name: 'Save view' }).click();
  await expect(page).toHaveURL(/\/c\/1\/statements\/view-\d+\?/);
  const address = new URL(page.url()).pathname;

  await open(page, companies, `${address.replace('/c/1/', '/c/2/')}/edit?asOf=2026-10`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Edit Board income');
  await page.getByLabel('for', { exact: true }).selectOption('company');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await expectAccessible(page);

  await open(page, companies, `${address}/edit?asOf=2026-10`);
  await expect(page.getByText(/^Gannet Rock.* has its own version and keeps it\.$/)).toBeVisible();
});

test('a watch report is a sentence, and a comment is written on the page of the pack', async ({ page, companies }) => {
  await open(page, companies, '/c/1/packs/schedules');
  await page.getByRole('button', { name: 'New schedule' }).first().click();
  await page.getByLabel('Name of the schedule').fill('Watch suspense');
  await page.getByLabel('Day', { exact: true }).selectOption({ label: 'every business day' });
  await page.getByLabel('What', { exact: true }).selectOption({ label: 'draft entries' });
  await page.getByLabel('To', { exact: true }).fill('ann@bank.com');
  await page.getByRole('button', { name: 'Create schedule' }).click();
  const schedule = page.getByRole('region', { name: 'Watch suspense' });
  await expect(schedule.getByText(/^Next: .+; .+; .+\.$/)).toBeVisible();
  await expectAccessible(page);
  await schedule.getByRole('button', { name: 'Run now' }).click();
  await expect(schedule).toContainText(/(Mailed, \d+ lines? reported|Skipped, Nothing to report)/);

  await open(page, companies, '/c/1/packs/monthly-review?asOf=2026-10');
  await page.getByRole('button', { name: /^Findings/ }).click();
  const comments = page.getByRole('region', { name: 'Comments of the findings' });
  const first = comments.getByRole('textbox', { name: /Oct 2026/ }).first();
  await first.fill('The carrier raised its rates.');
  await first.blur();
  await expect(comments.getByText('Saved', { exact: true })).toBeVisible();
  await expectAccessible(page, comments);
  await comments.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('region', { name: 'Preview' })).toContainText('carrier');
});
