import { readFileSync } from 'node:fs';

import workbooks from 'exceljs';

import { budgetMonth, expect, expectAccessible, open, test } from './support.ts';

// guests the tours department expects, by fiscal month
const GUESTS = [120, 310, 820, 1240, 1180, 560, 190, 20, 15, 10, 25, 60];

test('from no budget at all, a year is planned from its projection to approval: bases, nonrecurring items, people, a department’s file, findings', async ({
  page,
  ledger,
}) => {
  test.setTimeout(150_000);
  // the year under way first, so that what it will end at is known
  await open(page, ledger, '/c/1/budgets');
  await expect(page.getByRole('heading', { name: 'No budget yet' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New budget' }).first().click();
  const form = page.getByRole('form', { name: 'New budget' });
  await form.getByLabel('Name of the budget').fill('Plan 2027');
  await form.getByLabel('Fiscal year of the budget').selectOption('2027');
  await form.getByLabel('Year it starts from').selectOption('2026');
  await form.getByRole('button', { name: 'Create budget' }).click();
  await expect(page.getByRole('heading', { name: 'Plan 2027, FY2027' })).toBeVisible();
  await page.getByRole('button', { name: 'Submit for review' }).click();
  await page.getByRole('button', { name: 'Submit and lock' }).click();
  // methods of its own history leave nothing to ask about
  await page.getByRole('button', { name: 'Approve', exact: true }).click();
  // the checks before an approval start their worker thread here, which a busy machine takes its time for
  await expect(page.getByText('Approved and locked', { exact: true })).toBeVisible({ timeout: 45_000 });

  await open(page, ledger, '/c/1/budgets');
  await page.getByRole('button', { name: 'New budget' }).click();
  await form.getByLabel('Name of the budget').fill('Plan 2028');
  await expect(form.getByLabel('Fiscal year of the budget')).toHaveValue('2028');
  await expect(form.getByLabel('Year it starts from')).toHaveValue('2027');
  await expect(form.getByLabel('Starting method of operating expenses')).toHaveValue('ownHistory');
  await expectAccessible(page, form);
  await form.getByRole('button', { name: 'Create budget' }).click();
  await expect(page.getByRole('heading', { name: 'Plan 2028, FY2028' })).toBeVisible();
  const saved = page.getByText('Draft, all changes saved');
  const panel = page.getByRole('complementary', { name: 'Line' });
  const cell = (name: string, month: string) => budgetMonth(page, name, month);
  const choose = async (account: string, month = 'Apr') => {
    await cell(account, month).focus();
    await expect(panel.getByRole('heading', { name: account })).toBeVisible();
  };

  // the guests it expects come from the tours department
  await open(page, ledger, '/c/1/ledger/statistics');
  const rows = GUESTS.map((guests, month) => `guests_planned,2028-${String(month + 1).padStart(2, '0')},${guests},Tours`);
  const guestFile = {
    name: 'guests.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['series,period,value,department', ...rows].join('\n')),
  };
  await page.getByLabel('Statistics file', { exact: true }).setInputFiles(guestFile);
  await page.getByRole('button', { name: 'Import 12 values' }).click();
  await expect(page.getByRole('row', { name: /^guests planned .*120/ })).toBeVisible();
  await open(page, ledger, '/c/1/budgets/2');

  // the boat show's invoice does not recur
  await choose('Repairs and maintenance');
  await panel.getByRole('button', { name: 'Exclude a month or an entry' }).click();
  await panel.getByLabel('Month', { exact: true }).selectOption('Sep 2026');
  const boatShow = panel.getByLabel('Exclude').locator('option', { hasText: /boat show/i });
  await panel.getByLabel('Entry').selectOption(await boatShow.first().innerText());
  await panel.getByLabel('Reason').fill('A stand at the show, posted here by mistake');
  await panel.getByRole('button', { name: 'Exclude' }).click();
  await expect(panel.getByRole('form', { name: 'Basis' })).toContainText(/nonrecurring items .*: \d[\d,]+\./);

  // materials follow the kayaks
  await choose('Kayak materials');
  const derive = async (kind: string, fields: readonly (readonly [string, string])[]) => {
    await panel.getByLabel('Basis of the year').selectOption(kind);
    for (const [label, value] of fields) await panel.getByLabel(label, { exact: true }).fill(value);
    await panel.getByRole('button', { name: 'Apply' }).click();
    await expect(panel.getByRole('button', { name: 'Apply' })).toHaveCount(0);
    await expect(saved).toBeVisible();
  };
  await derive('percentOf', [
    ['Percent', '41'],
    ['Of accounts', '4010'],
  ]);
  await expect(panel.getByLabel('Percent', { exact: true })).toHaveValue('41');

  // guides by guests, rent that steps, and two people more: each in its department
  await page.getByLabel('Department', { exact: true }).selectOption('Tours');
  await choose('Guide wages');
  await panel.getByLabel('Basis of the year').selectOption('driverRate');
  await panel.getByLabel('Driver', { exact: true }).selectOption('guests_planned');
  await panel.getByLabel('Rate', { exact: true }).fill('42.50');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(cell('Guide wages', 'Apr')).toHaveText('5,100');
  await expect(cell('Guide wages', 'Jul')).toHaveText('52,700');
  await page.getByLabel('Department', { exact: true }).selectOption('Workshop');
  await choose('Rent');
  await panel.getByLabel('Basis of the year').selectOption('fixedMonths');
  await panel.getByLabel('Amount a month', { exact: true }).fill('5000');
  await panel.getByRole('button', { name: 'Step' }).click();
  await panel.getByLabel('Amount a month, step 2').fill('5400');
  await panel.getByLabel('From, step 2').selectOption('Sep');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(cell('Rent', 'Aug')).toHaveText('5,000');
  await expect(cell('Rent', 'Sep')).toHaveText('5,400');
  await page.getByLabel('Department', { exact: true }).selectOption('Office');
  await choose('Salaries');
  await panel.getByLabel('Basis of the year').selectOption('payroll');
  await panel.getByLabel('Current staff').selectOption('2026');
  await panel.getByLabel('Current pay changed by percent').fill('3');
  await panel.getByRole('button', { name: 'Position' }).click();
  for (const [index, [name, pay, start]] of (
    [
      ['Bookkeeper', '48000', 'Apr'],
      ['Controller', '84000', 'Jul'],
    ] as const
  ).entries()) {
    await panel.getByLabel(`Name, position ${index + 1}`).fill(name);
    await panel.getByLabel(`Yearly pay, position ${index + 1}`).fill(pay);
    await panel.getByLabel(`Starts, position ${index + 1}`).selectOption(start);
  }
  await panel.getByLabel('Payroll taxes and benefits, percent').fill('25');
  await panel.getByRole('button', { name: 'Apply' }).click();
  // who was there at 3% more, and the new ones' pay with its costs on top
  const paid = async (month: string) => {
    const row = panel.getByRole('table', { name: 'The line by month and year' }).getByRole('row', { name: new RegExp(`^${month}`) });
    return Number((await row.getByRole('cell').nth(1).innerText()).replaceAll(',', ''));
  };
  // rounded so that the year is right: a month lies within a rounding unit of its exact amount
  const distance = async (month: string, more: number) => {
    const exact = (await paid(month)) * 1.03 + more;
    return Math.abs(Number((await cell('Salaries', month).innerText()).replaceAll(',', '')) - exact);
  };
  for (const [month, more] of [
    ['May', 5000],
    ['Jul', 13_750],
    ['Aug', 13_750],
  ] as const)
    await expect.poll(() => distance(month, more)).toBeLessThan(100);
  const [may, august] = [await cell('Salaries', 'May').innerText(), await cell('Salaries', 'Aug').innerText()];

  // typed, pasted, undone, redone, also after a reload
  await cell('Salaries', 'May').focus();
  await page.keyboard.type('6k');
  await page.keyboard.press('Enter');
  await expect(cell('Salaries', 'May')).toHaveText('6,000');
  await cell('Salaries', 'Jun').focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '7,000\tlots\t9,000\n');
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(page.getByRole('alert').filter({ hasText: 'One amount was rejected' })).toContainText('"lots" is not an amount');
  await expect(cell('Salaries', 'Aug')).toHaveText('9,000');
  await expect(saved).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell('Salaries', 'Aug')).toHaveText(august);
  await page.reload();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell('Salaries', 'May')).toHaveText(may);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(cell('Salaries', 'May')).toHaveText('6,000');

  // several at once: their sum, and a change of all
  await cell('Salaries', 'Apr').focus();
  await page.keyboard.press('Shift+ArrowRight');
  const selection = page.getByRole('status', { name: 'Selection' });
  await expect(selection).toContainText(/2 amounts, sum [\d,]+\.\d\d, average [\d,]+\.\d\d/);
  await selection.getByLabel('Change all selected amounts').fill('+10%');
  await selection.getByRole('button', { name: 'Change all' }).click();
  await expect(cell('Salaries', 'May')).toHaveText('6,600');
  await panel.getByLabel('Note on the line').fill('Two people for the books');
  await panel.getByLabel('Note on the line').blur();
  await expect(saved).toBeVisible();

  // a department fills its spreadsheet in
  await page.getByLabel('Department', { exact: true }).selectOption('Store');
  await page.getByRole('button', { name: 'Files' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Budget template (XLSX)' }).click();
  const path = await (await download).path();
  const workbook = new workbooks.Workbook();
  await workbook.xlsx.load(readFileSync(path) as never);
  const sheet = workbook.getWorksheet('Budget')!;
  sheet.eachRow((row) => {
    if (row.getCell(1).value !== '6110') return;
    row.getCell(4).value = 8123;
    row.getCell(sheet.columnCount - 1).value = 'The landlord wrote in May';
  });
  const filled = { name: 'store.xlsx', mimeType: 'application/octet-stream', buffer: Buffer.from(await workbook.xlsx.writeBuffer()) };
  await page.getByRole('button', { name: 'Files' }).click();
  await page.getByLabel('Upload completed template').setInputFiles(filled);
  const preview = page.getByRole('dialog');
  await expect(preview).toContainText('1 amount and 1 note will change');
  await expect(preview.getByRole('row', { name: /6110 Rent/ })).toContainText('8,123.00');
  await expectAccessible(page, preview);
  await preview.getByRole('button', { name: 'Apply 2 changes' }).click();
  await expect(cell('Rent', 'Apr')).toHaveText('8,123');

  // what it does to cash: a purchase, and where the year is shortest of money
  await page.getByRole('link', { name: 'Cash' }).click();
  await expect(page.getByRole('heading', { name: 'Plan 2028, FY2028: cash' })).toBeVisible();
  await expect(page.getByText('Low point', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Budget by month' }).click();
  await page.getByLabel('Department', { exact: true }).selectOption('Store');

  // budget checks lead to lines and take explanations; approval asks about the rest
  await page.getByLabel('Panel', { exact: true }).selectOption({ index: 1 });
  const list = page.getByRole('complementary', { name: 'Budget checks' });
  await expect(list.getByText(/ open\. Largest/)).toBeVisible();
  const finding = list.getByRole('listitem').first();
  await finding.getByRole('button', { name: 'Explain' }).click();
  await finding.getByRole('textbox').fill('Known, and meant');
  await finding.getByRole('button', { name: 'Save' }).click();
  await expect(list.getByText(/Known, and meant/)).toBeVisible();
  await page.getByLabel('Panel', { exact: true }).selectOption('history');
  await expect(page.getByRole('complementary', { name: 'History' })).toContainText('Imported from store.xlsx');
  await expectAccessible(page, page.getByRole('complementary', { name: 'History' }));
  await page.getByRole('button', { name: 'Submit for review' }).click();
  await page.getByRole('button', { name: 'Submit and lock' }).click();
  await page.getByRole('button', { name: 'Approve', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('of the budget checks');
  await page.getByRole('button', { name: 'Approve anyway' }).click();
  await expect(page.getByText('Approved and locked', { exact: true })).toBeVisible();

  await open(page, ledger, '/c/1/statements/income?asOf=2027-04');
  await expect(page.getByText('against FY2028 Plan 2028 (approved)')).toBeVisible();
  await open(page, ledger, '/c/1/budgets/1/comparison?with=projection');
  await expect(page.getByRole('row', { name: /^6110 Rent/ })).toContainText('Total of FY2026, plus 3%, spread evenly');
  await expectAccessible(page);
});

test('two places at one budget see each other, and are asked about the same figure', async ({ page, demo, browser }) => {
  const elsewhere = await (await browser.newContext()).newPage();
  for (const each of [page, elsewhere]) await open(each, demo, '/c/1/budgets/3');
  const [here, there] = [page, elsewhere].map((each) => (name: string) => budgetMonth(each, name, 'Jun'));
  await there!('Telephone and internet').focus();
  await elsewhere.keyboard.type('321');
  await elsewhere.keyboard.press('Enter');
  await expect(here!('Telephone and internet')).toHaveText('321');
  await expect(page.getByText(/Changed by others: .*Jun of .* 321/)).toBeVisible();

  // both are offline of each other's last change: the second is asked
  await page.route('**/changes?*', (route) => route.abort());
  await there!('Telephone and internet').focus();
  await elsewhere.keyboard.type('333');
  await elsewhere.keyboard.press('Enter');
  await expect(elsewhere.getByText('Draft, all changes saved')).toBeVisible();
  await here!('Telephone and internet').focus();
  await page.keyboard.type('444');
  await page.keyboard.press('Enter');
  const asked = page.getByRole('dialog', { name: 'Which amount should be kept?' });
  await expect(asked).toContainText('Jun: Analyst entered 333.00');
  await expectAccessible(page, asked);
  await page.unroute('**/changes?*');
  await asked.getByRole('button', { name: 'Keep mine' }).click();
  await expect(there!('Telephone and internet')).toHaveText('444');
  await elsewhere.close();
});

test('a what-if is seen against the budget and a target allocated, applied and undone', async ({ page, demo }) => {
  await open(page, demo, '/c/1/budgets/3?panel=what-if');
  const tried = page.getByRole('complementary', { name: 'What-if' });
  const row = (name: string) => tried.getByRole('row', { name: new RegExp(`^${name}`) });
  await expect(row('Revenue, net')).toContainText('–');
  await tried.getByLabel('Revenue', { exact: true }).fill('ten');
  await expect(tried.getByRole('alert')).toContainText('is not a percentage');
  await tried.getByLabel('Revenue', { exact: true }).fill('-10');
  const budgeted = async (name: string) =>
    (await row(name).getByRole('cell').allInnerTexts()).map(
      (text) => Number(text.replaceAll(/[(),]/g, '')) * (text.includes('(') ? -1 : 1),
    );
  await expect.poll(async () => (await budgeted('Operating income'))[2]).toBeLessThan(-100_000);
  const [before, after, difference] = await budgeted('Operating income');
  expect(Math.abs(after! - before! - difference!)).toBeLessThanOrEqual(1);
  await expectAccessible(page, tried);

  await page.getByLabel('Panel', { exact: true }).selectOption('target');
  const target = page.getByRole('complementary', { name: 'Target' });
  await target.getByLabel('Annual amount').fill('600,000');
  await target.getByLabel('Allocate to accounts').fill('9999');
  await expect(target.getByRole('alert')).toContainText('The budget has no line in these accounts');
  await target.getByLabel('Allocate to accounts').fill('6310, 6410');
  const proposal = target.getByRole('table', { name: 'Proposal' });
  await expect(proposal.getByRole('row')).toHaveCount(3);
  const travel = proposal.getByRole('row', { name: /^6410/ });
  const bySize = await travel.innerText();
  await target.getByLabel('Allocate by', { exact: true }).selectOption('typed');
  await target.getByLabel('Weight of 6410 Travel').fill('much');
  await expect(target.getByRole('alert')).toContainText('6410: “much” is not a weight.');
  await target.getByLabel('Weight of 6410 Travel').fill('3');
  await expect(travel).not.toHaveText(bySize);
  await expectAccessible(page, target);
  await target.getByRole('button', { name: 'Apply' }).click();
  const result = page.getByLabel('Annual summary').getByText('600,000');
  await expect(result).toBeVisible();
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(result).toHaveCount(0);
});
