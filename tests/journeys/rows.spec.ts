import { budgetMonth, expect, expectAccessible, open, test } from './support.ts';

const LINES = {
  key: 'own',
  name: 'Tours before all',
  percentBase: 'all',
  lines: [
    {
      kind: 'accounts',
      key: 'tours',
      name: 'Guided tours',
      selection: { ranges: [{ from: '4110', to: '4120' }] },
      sign: 'credit',
    },
    { kind: 'accounts', key: 'guides', name: 'Guides', selection: { accounts: ['5410'] }, sign: 'credit' },
    { kind: 'formula', key: 'all', name: 'What tours leave', expression: 'tours + guides', result: 'amount', rule: { above: 'single' } },
  ],
};

test('a budget is worked on by the rows of a view of one’s own', async ({ page, demo }) => {
  const { columnSet } = (await (await fetch(`${demo.base}/companies/1/views/income`)).json()) as { columnSet: object };
  const made = await fetch(`${demo.base}/companies/1/views`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Tours before all', lineSet: LINES, columnSet }),
  });
  expect(made.status).toBe(201);
  // a page that read the list of views just before asks for it again only after some seconds
  await page.goto('about:blank');
  await open(page, demo, '/c/1/budgets/3');
  const summary = page.getByLabel('Annual summary');
  const revenue = await summary.innerText();
  await page.getByLabel('Rows', { exact: true }).selectOption({ label: 'Tours before all' });
  const names = page.getByRole('region', { name: 'Budget by month' }).getByRole('rowheader');
  await expect(names).toHaveText([/^Guided tours/, /^4110 Guided day tours/, /^4120 /, /^5410 Guide wages/, /^What tours leave/]);
  await expect(page.getByText(/budgeted accounts are not in these rows: 4010, /)).toBeVisible();
  expect(await summary.innerText()).toBe(revenue);
  await expectAccessible(page);

  // a cost is taken from what is left here, and typed as it is shown
  const april = budgetMonth(page, 'Guide wages', 'Apr');
  await expect(april).toHaveText(/^\(/);
  await april.focus();
  await page.keyboard.type('(7,000)');
  await page.keyboard.press('Enter');
  await expect(april).toHaveText('(7,000)');
  await expect(page.getByRole('complementary', { name: 'Line' }).getByText('Apr 7,000.00')).toBeVisible();
  await expect(page.getByText('Draft, all changes saved')).toBeVisible();
  await page.reload();
  await expect(april).toHaveText('(7,000)');
  await page.getByLabel('Rows', { exact: true }).selectOption({ label: 'Income statement' });
  await expect(budgetMonth(page, 'Guide wages', 'Apr')).toHaveText('7,000');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Manual overrides')).toHaveCount(0);

  await open(page, demo, '/c/1/budgets/3?rows=view-999');
  await expect(page.getByRole('alert')).toContainText('These rows cannot be shown');
});
