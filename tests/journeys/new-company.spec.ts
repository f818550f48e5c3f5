import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { temporaryFolder } from '../support/process.ts';
import { budgetMonth, expect, expectAccessible, figure, open, test } from './support.ts';

const LEDGER = [
  'entry,date,account,debit,credit',
  ...['2026-08-15', '2026-09-15', '2026-10-15'].flatMap((date, index) => [
    `S${index},${date},1000,${1000 + 100 * index}.00,`,
    `S${index},${date},4000,,${1000 + 100 * index}.00`,
    `R${index},${date},6000,150.50,`,
    `R${index},${date},1000,,150.50`,
  ]),
  '',
].join('\n');
const LONG = 'Sales of a company whose name is much longer than any column could hold in one line';
const CHART = ['account,name,class,active', '1000,Cash,cash,yes', `4000,${LONG},revenue,yes`, '6000,Rent,operatingExpenses,yes', ''].join(
  '\n',
);

test('a company with a part of a year plans its first whole one, and a slip past what can be held is refused', async ({ page, empty }) => {
  const folder = temporaryFolder();
  for (const [name, text] of Object.entries({ accounts: CHART, ledger: LEDGER })) writeFileSync(join(folder, `${name}.csv`), text);
  const { id } = await empty.upload(
    { name: 'Shop', currency: 'USD', startMonth: '4', hasAdjustmentPeriod: 'false' },
    { accounts: join(folder, 'accounts.csv'), ledger: join(folder, 'ledger.csv') },
  );
  rmSync(folder, { recursive: true });
  const { companyId } = (await (await fetch(`${empty.base}/imports/${id}/post`, { method: 'POST' })).json()) as { companyId: number };
  await open(page, empty, `/c/${companyId}/budgets`);
  await page.getByRole('button', { name: 'New budget' }).first().click();
  const form = page.getByRole('form', { name: 'New budget' });
  await expect(form).toContainText('FY2027 has actuals for 3 of 12 months, Aug 2026 to Oct 2026.');
  await expect(form).toContainText('Months without an amount start at zero.');
  await expectAccessible(page, form);
  await form.getByRole('button', { name: 'Annualize these months' }).click();
  await form.getByLabel('Percent change', { exact: true }).fill('0');
  await form.getByRole('button', { name: 'Create budget' }).click();
  const cell = (account: string, month: string) => budgetMonth(page, account, month);
  await expect(cell(LONG, 'Apr')).toHaveText('1,100');
  await expect(figure(page, 'Rent, Budget, Apr 2027 to Mar 2028')).toHaveText('1,800');

  // a line through years says that there are none yet
  await cell(LONG, 'Apr').focus();
  const panel = page.getByRole('complementary', { name: 'Line' });
  await panel.getByLabel('Basis of the year').selectOption('trend');
  await expect(panel).toContainText('A trend of years needs two full years; none of these is.');
  await expect(panel.getByRole('status')).toContainText('Result: zero for the year');
  // what was begun waits while another line is looked at
  await cell('Rent', 'May').focus();
  await expect(panel.getByRole('heading', { name: 'Rent' })).toBeVisible();
  await cell(LONG, 'Apr').focus();
  await expect(panel.getByLabel('Basis of the year')).toHaveValue('trend');
  await panel.getByRole('button', { name: 'Discard' }).click();
  await expect(panel.getByLabel('Basis of the year')).toHaveValue('latestMonths');

  for (const [month, stands] of [
    ['Apr', '80,000,000,000,000'],
    ['May', '200'],
  ] as const) {
    await cell('Rent', month).focus();
    await page.keyboard.type('80000000000000');
    await page.keyboard.press('Enter');
    await expect(cell('Rent', month)).toHaveText(stands);
  }
  await expect(page.getByRole('alert')).toContainText('6000 Rent: "80000000000000" would bring the amounts of the budget');
  await expect(cell('Rent', 'May')).toHaveText('200');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell('Rent', 'Apr')).toHaveText('200');
  await page.getByRole('link', { name: 'Cash' }).click();
  await expect(page.getByText('no approved budget and no actuals a year earlier. Income is zero for these months.')).toBeVisible();
  await expect(page.getByRole('img', { name: /Planned cash at month end, US dollars:/ })).toBeVisible();
});
