import { budgetMonth, expect, expectAccessible, open, test } from './support.ts';

test('a line is derived by a sentence: shown before it is set, following another line, stepping, refused in a circle', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1/budgets/3?row=5010');
  const panel = page.getByRole('complementary', { name: 'Line' });
  await expect(panel.getByLabel('Basis of the year')).toHaveValue('percentOf');
  await panel.getByLabel('Of accounts').fill('');
  await expect(panel.getByRole('alert')).toContainText('Accounts: enter those it depends on');
  await panel.getByLabel('Percent', { exact: true }).fill('39');
  await panel.getByLabel('Of accounts').fill('4010');
  await expect(panel.getByRole('status')).toContainText(/Result: [\d,]+ for the year, [\d,]+ (more|less) than now\./);
  await expect(panel.getByRole('table', { name: /by month and year/ })).toContainText('with this basis');
  await expectAccessible(page, panel);
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(panel.getByRole('button', { name: 'Apply' })).toHaveCount(0);
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();

  // it follows at once what is typed in the other line
  const materials = page.locator('tr', { hasText: 'Kayak materials' });
  const before = await materials.innerText();
  const april = page.locator('tr', { hasText: 'Kayaks to dealers' }).getByRole('button', { name: /Apr/ }).first();
  await april.click();
  await page.keyboard.type('+10%');
  await page.keyboard.press('Enter');
  await expect.poll(() => materials.innerText()).not.toBe(before);

  // the other way round would be a circle
  await open(page, demo, '/c/1/budgets/3?row=4010');
  await panel.getByLabel('Basis of the year').selectOption('percentOf');
  await panel.getByLabel('Percent', { exact: true }).fill('200');
  await panel.getByLabel('Of accounts').fill('5010');
  await expect(panel.getByRole('alert')).toContainText('depend on each other: ');
  await expect(panel.getByRole('button', { name: 'Apply' })).toBeDisabled();

  // rent steps in a month, in one department
  await open(page, demo, '/c/1/budgets/3?row=6110');
  await page.getByLabel('Department').selectOption({ index: 1 });
  await panel.getByLabel('Basis of the year').selectOption('fixedMonths');
  await panel.getByLabel('Amount a month', { exact: true }).fill('1600');
  await panel.getByRole('button', { name: 'Step' }).click();
  await panel.getByLabel('Amount a month, step 2').fill('1700');
  await panel.getByLabel('From, step 2').selectOption('Sep');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(panel.getByRole('button', { name: 'Apply' })).toHaveCount(0);
  await expect(budgetMonth(page, 'Rent', 'Sep')).toHaveText('1,700');
});
