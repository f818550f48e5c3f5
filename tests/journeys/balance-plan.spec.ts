import { budgetMonth, expect, expectAccessible, open, test } from './support.ts';

test('cash and balance sheet of a budget: assumptions from history, changed, seen, undone', async ({ page, demo }) => {
  await open(page, demo, '/c/1/budgets/3');
  await page.getByRole('link', { name: 'Cash' }).click();
  await expect(page.getByRole('heading', { name: 'Working draft, FY2028: cash' })).toBeVisible();
  await expect(page.getByText('Opening balances: ledger at Oct 31, 2026.')).toBeVisible();
  const figures = page.getByLabel('Cash for the year');
  const lowest = figures.locator('dd').nth(2);
  const before = await lowest.innerText();
  await expectAccessible(page);
  const sheet = page.getByRole('region', { name: 'Statement of cash flows' });
  // the lowest point may be where the year begins
  await expect(
    sheet
      .getByRole('row', { name: /^Cash at (beginning|end) of period/ })
      .filter({ hasText: before })
      .first(),
  ).toBeVisible();
  await expect(sheet.getByRole('row', { name: /not explained/ })).toHaveCount(0);

  // a fleet bought in May, more than the company can pay
  const assumptions = page.getByRole('complementary', { name: 'Assumptions' });
  await expect(assumptions).toContainText('Same days of revenue as a year earlier');
  await assumptions.getByRole('button', { name: /1520 Rental fleet/ }).click();
  const panel = page.getByRole('complementary', { name: '1520 Rental fleet' });
  await expect(panel.getByLabel('Balance method')).toHaveValue('purchases');
  await panel.getByLabel('Description, purchase 1').fill('A second fleet');
  await panel.getByLabel('Amount, purchase 1').fill('a lot');
  await expect(panel.getByRole('alert')).toContainText('A second fleet: “a lot” is not an amount above zero.');
  await expect(panel.getByRole('button', { name: 'Apply' })).toBeDisabled();
  await expectAccessible(page, panel);
  await panel.getByLabel('Amount, purchase 1').fill('2.5m');
  await panel.getByLabel('Paid in, purchase 1').selectOption('May');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(panel).toContainText('A second fleet for 2,500,000 in May');
  await expect(figures).toContainText('below zero: additional funding is needed');
  await expect(sheet.getByRole('row', { name: /^Purchases: boathouse and equipment/ })).toContainText('(2,500,000)');
  const short = await lowest.innerText();
  await expect(page.getByRole('img', { name: /Planned cash at month end/ })).toBeVisible();

  // undone, redone, also after a reload
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lowest).toHaveText(before);
  await page.reload();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(lowest).toHaveText(short);
  await panel.getByRole('button', { name: 'Reset to history' }).click();
  await expect(lowest).toHaveText(before);

  // the loan's schedule; its interest goes into the income budget, and is seen there
  await page.getByRole('button', { name: 'All assumptions' }).click();
  await assumptions.getByRole('button', { name: /2500 Boathouse loan/ }).click();
  const loan = page.getByRole('complementary', { name: '2500 Boathouse loan' });
  const first = (await loan.getByRole('row', { name: /^Apr/ }).getByRole('cell').first().innerText()).trim();
  await page.getByRole('button', { name: 'Budget scheduled interest on 7510' }).click();
  await expect(page.getByText('The loan schedules come to')).toHaveCount(0);
  await page.getByLabel('Show', { exact: true }).selectOption('balance');
  await expect(page.getByRole('region', { name: 'Balance sheet' }).getByRole('row', { name: /^Total assets/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Budget by month' }).click();
  const interest = budgetMonth(page, 'Interest expense', 'Apr');
  await expect(interest).toContainText(Math.round(Number(first.replaceAll(',', ''))).toLocaleString('en-US'));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();

  // an approved budget is looked at and not changed; an unknown account is reported
  await open(page, demo, '/c/1/budgets/2/balance-plan?account=9999');
  await expect(page.getByText('is approved and locked. Create a new version to change it.')).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('There is no account 9999 in the balance sheet.');
});
