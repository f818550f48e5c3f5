import { budgetMonth, expect, expectAccessible, figure, open, test } from './support.ts';

test('a budget is created, a month and a year typed, and both are there after a reload', async ({ page, demo }) => {
  await open(page, demo, '/c/1/budgets');
  await page.getByRole('button', { name: 'New budget' }).click();
  const form = page.getByRole('form', { name: 'New budget' });
  await form.getByLabel('Fiscal year of the budget').selectOption('2028');
  await form.getByLabel('Year it starts from').selectOption('2027');
  await form.getByLabel('Fill remaining months from the approved budget').uncheck();
  await expect(form.getByText('Months without an amount start at zero.')).toBeVisible();
  await form.getByLabel('Year it starts from').selectOption('2026');
  await form.getByLabel('Name of the budget').fill('Journey');
  await form.getByLabel('Percent change', { exact: true }).fill('much');
  await form.getByRole('button', { name: 'Create budget' }).click();
  await expect(form.getByText('Enter a percentage such as 3 or -1.5')).toBeVisible();
  await form.getByLabel('Percent change', { exact: true }).fill('4');
  await form.getByLabel('Percent change of revenue', { exact: true }).fill('6');
  await form.getByLabel('Starting method of operating expenses').selectOption('Same months of the year');
  await form.getByRole('button', { name: 'Create budget' }).click();
  await expect(page.getByRole('heading', { name: 'Journey, FY2028' })).toBeVisible();

  const month = (name: string) => figure(page, `Rent, Budget, ${name} 202`);
  await month('Jun').focus();
  await page.keyboard.type('15k');
  await page.keyboard.press('Enter');
  await expect(month('Jun')).toHaveText('15,000');
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  await month('Jun').focus();
  await expect(page.getByText('Manual overrides')).toBeVisible();

  const year = figure(page, 'Rent, Budget, Apr 2027 to Mar 2028');
  await year.focus();
  await page.keyboard.type('180000');
  await page.keyboard.press('Tab');
  await expect(year).toHaveText('180,000');
  await expect(month('Jun')).toHaveText('15,000');
  await expect(month('Jul')).not.toHaveText('15,400');

  await month('Aug').focus();
  await page.keyboard.type('+10%');
  await page.keyboard.press('Enter');
  await expect(month('Aug')).toHaveText('16,500');
  await month('Sep').focus();
  await page.keyboard.type('*lots');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('6110 Rent: "*lots" is not an amount');
  await page.reload();
  await expect(month('Jun')).toHaveText('15,000');
  await expect(month('Aug')).toHaveText('16,500');
  await month('Jun').focus();
  await page.getByRole('button', { name: 'Remove override Jun' }).click();
  // the basis is the year typed: what August holds is taken off, the rest is spread, and the year stands
  await expect(month('Jun')).toHaveText('14,864');
  await expect(year).toHaveText('180,000');
});

test('edits wait while the connection is lost and are sent when it is back', async ({ page, context, demo }) => {
  await open(page, demo, '/c/1/budgets/3');
  const july = figure(page, 'Software, Budget, Jul 2027');
  await expect(july).toBeVisible();
  await context.setOffline(true);
  await july.focus();
  await page.keyboard.type('777');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('not saved');
  await expect(july).toHaveText('777');
  await context.setOffline(false);
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  await page.reload();
  await expect(july).toHaveText('777');
});

test('a block pasted from a spreadsheet fills months and rows', async ({ page, demo }) => {
  await open(page, demo, '/c/1/budgets/3');
  const cell = (name: string, month: string) => budgetMonth(page, name, month);
  await cell('Training', 'Apr').focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '1,100\t1,200\r\n13,000\t14,000\r\n');
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(cell('Training', 'May')).toHaveText('1,200');
  await expect(cell('Rent', 'Apr')).toHaveText('13,000');
  await expect(cell('Rent', 'May')).toHaveText('14,000');
});

test('cells are dragged over: their total for the rest of the year, and one basis for the lines', async ({ page, demo }) => {
  await open(page, demo, '/c/1/budgets/3');
  const cell = (name: string, month: string) => budgetMonth(page, name, month);
  const drag = async (from: [string, string], to: [string, string]) => {
    await cell(...from).scrollIntoViewIfNeeded();
    await cell(...from).hover();
    await page.mouse.down();
    await cell(...to).hover();
    await page.mouse.up();
  };
  const selection = page.getByRole('status', { name: 'Selection' });
  await drag(['Travel', 'Aug'], ['Travel', 'Oct']);
  await expect(selection).toContainText('3 amounts');
  await selection.getByLabel('Change all selected amounts').fill('1,000');
  await selection.getByRole('button', { name: 'Set as total' }).click();
  await expect(selection).toContainText('sum 1,000.00');
  await drag(['Travel', 'Jun'], ['Fuel', 'Jun']);
  await expect(selection).toContainText('2 amounts');
  const panel = page.getByRole('complementary', { name: 'Line' });
  await expect(panel.getByRole('heading', { name: 'Travel' })).toBeVisible();
  await panel.getByLabel('Changed by percent').fill('50');
  await panel.getByLabel('Apply to').selectOption({ label: 'the 2 selected lines' });
  await panel.getByRole('button', { name: 'Apply' }).click();
  for (const name of ['Travel', 'Fuel']) {
    await cell(name, 'Apr').focus();
    await expect(panel.getByLabel('Changed by percent')).toHaveValue('50');
  }
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  for (let step = 0; step < 2; step += 1) await page.getByRole('button', { name: 'Undo' }).click();

  // the boat shows are in one month; fuel takes that shape and keeps its year
  const year = figure(page, 'Fuel, Budget, Apr 2027 to Mar 2028');
  // what was undone is back in the grid before its year is read
  await cell('Fuel', 'Apr').focus();
  await expect(panel.getByLabel('Changed by percent')).not.toHaveValue('50');
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  const before = await year.innerText();
  await cell('Boat shows', 'Apr').focus();
  await selection.getByRole('button', { name: 'Copy pattern of 6220' }).click();
  await cell('Fuel', 'Apr').focus();
  await selection.getByRole('button', { name: 'Paste pattern of 6220' }).click();
  await expect(cell('Fuel', 'Apr')).toHaveText('–');
  await expect(year).toHaveText(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell('Fuel', 'Apr')).not.toHaveText('–');
});

test('October is read, the month stepped, and a difference followed to its entry and back', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income');
  await expect(page.getByText('October 2026; against FY2027 Annual plan (approved)')).toBeVisible();
  const row = page.locator('tr', { hasText: 'Freight in' });
  await expect(row).toContainText('12,266');
  await page.keyboard.press(',');
  await expect(page.getByText('September 2026; against')).toBeVisible();
  await expect(page).toHaveURL(/asOf=2026-09/);
  await page.keyboard.press('.');
  await expect(page.getByText('October 2026; against')).toBeVisible();

  const freight = figure(page, 'Freight in, Actual, Oct 2026, less Budget, Oct 2026: ');
  await freight.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowRight');
  await expect(freight).toBeFocused();
  await page.keyboard.press('Enter');
  const drillDown = page.getByRole('complementary', { name: 'Drill-down' });
  await expect(drillDown).toContainText('Unfavorable');
  await drillDown.getByRole('button', { name: 'Freight in', exact: true }).click();
  await expect(drillDown).toContainText('Listed accounts 12,265.85');
  await expect(drillDown).toContainText('Adds up to the amount');
  await drillDown.getByRole('button', { name: '5210 Freight in' }).click();
  await expect(drillDown).toContainText('Listed entries 12,265.85');
  await drillDown.getByRole('listitem').filter({ hasText: 'D-4471A' }).getByRole('button').click();
  await expect(drillDown.getByRole('row', { name: /2010 Trade payables/ })).toContainText('4,890.00');
  const address = page.url();

  await page.keyboard.press('Escape');
  await expect(drillDown).toContainText('Listed entries 12,265.85');
  await page.keyboard.press('Escape');
  await expect(drillDown).toContainText('Listed accounts');
  await page.goBack();
  await expect(drillDown).toContainText('Listed entries 12,265.85');
  await page.goto(address);
  await expect(drillDown.getByRole('row', { name: /2010 Trade payables/ })).toContainText('4,890.00');
  await page.reload();
  await expect(drillDown.getByRole('row', { name: /2010 Trade payables/ })).toContainText('4,890.00');
  await drillDown.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(drillDown).toHaveCount(0);
});

test('choices stay in the address: units, department, zero lines, budget; another view keeps them', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income');
  await page.getByLabel('Units').selectOption('cents');
  await expect(page.locator('tr', { hasText: 'Freight in' })).toContainText('12,265.85');
  await page.getByLabel('Units').selectOption('thousands');
  await expect(page.getByRole('columnheader', { name: /Thousands of US dollars/ })).toBeVisible();
  await page.getByLabel('Department', { exact: true }).selectOption('Tours');
  await expect(page.locator('tr', { hasText: 'Kayaks to dealers' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Display' }).click();
  await page.getByLabel('Hide zero lines').click();
  await page.keyboard.press('Escape');
  await expect(page.locator('tr', { hasText: 'Kayaks to dealers' })).toHaveCount(1);
  await page.reload();
  await expect(page.getByLabel('Department', { exact: true })).toHaveValue('Tours');
  await expect(page.locator('tr', { hasText: 'Kayaks to dealers' })).toHaveCount(1);
  // the Tours department has no travel budget: a zero base shows no percentage
  await page.getByRole('button', { name: 'Expand all' }).click();
  const travel = page.locator('tr', { hasText: '6410' });
  await expect(
    travel.getByRole('button', {
      name: /Change from Budget, Oct 2026, department Tours to Actual, Oct 2026, department Tours, in percent/,
    }),
  ).toHaveText('n/m');
  await page.getByLabel('View', { exact: true }).selectOption('income-months');
  await expect(page.getByRole('columnheader', { name: 'Apr 2026', exact: true })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Full year, Apr 2026 to Mar 2027', exact: true })).toBeVisible();
  await expect(page.getByLabel('Department', { exact: true })).toHaveValue('Tours');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download' }).click();
  await page.getByRole('link', { name: 'CSV', exact: true }).click();
  expect((await download).suggestedFilename()).toBe('income-months-2026-10.csv');
});

test('the second company serves with the same statement', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income');
  await page.getByLabel('Units').selectOption('thousands');
  await page.getByRole('button', { name: /^Company/ }).click();
  await page.getByRole('option', { name: 'Gannet Rock Sea Salt' }).click();
  await expect(page.getByLabel('Units')).toHaveValue('thousands');
  await expect(page.getByText('against FY2026 House budget (approved)')).toBeVisible();
  await expect(page.getByRole('row', { name: /Smoked salt/ }).first()).toBeVisible();
  await expect(page.getByLabel('Channel', { exact: true })).toBeVisible();
});

test('an amount of the overview leads to its statement, the drill-down open on it; the draft notice to the drafts', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1?asOf=2026-10');
  const month = page.getByRole('region', { name: /^October 2026/ });
  const amount = month.getByRole('link', { name: /^Revenue, net, Actual, Oct 2026:/ });
  const shown = await amount.innerText();
  await amount.click();
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText(shown);
  await page.goBack();
  await page.getByRole('link', { name: '3 draft entries' }).click();
  const drafts = page.getByRole('region', { name: 'Draft entries' });
  await expect(drafts.getByRole('row', { name: /Advertising not billed yet/ })).toContainText('4,150.00');
  await drafts.getByRole('button', { name: /^Entry AC-000003, Oct 31, 2026,/ }).click();
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('Draft, not included');
  await expectAccessible(page, page.getByRole('complementary', { name: 'Drill-down' }));
  await page.keyboard.press('Escape');
  await expect(drafts.getByRole('button', { name: /^Entry AC-000003/ })).toBeFocused();
  await page.goto(page.url().replace(/ledger.*/, ''));
  await page.getByRole('link', { name: 'Include drafts' }).click();
  await expect(page).toHaveURL(/drafts=yes/);
  await expect(page.getByText(/draft/).first()).toBeVisible();
});

test('the library opens a view as it was saved, and offers the choices of the last time', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/vertical?asOf=2026-10');
  await page.getByLabel('Department', { exact: true }).selectOption('Tours');
  await page.getByRole('button', { name: 'Charts' }).click();
  await expect(page).toHaveURL(/show=charts/);
  await open(page, demo, '/c/1/statements?asOf=2026-10');
  await page.getByRole('link', { name: /^Vertical income statement/ }).click();
  await expect(page.getByRole('row', { name: /^Revenue, net/ }).first()).toContainText('219,617');
  await expect(page).not.toHaveURL(/Tours|charts/);
  await page.getByRole('link', { name: 'Continue with Tours, in charts' }).click();
  await expect(page).toHaveURL(/filter\.department=Tours.*show=charts|show=charts.*filter\.department=Tours/);
  await expect(page.getByRole('link', { name: /^Continue with/ })).toHaveCount(0);
});
