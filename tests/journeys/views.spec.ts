import type { Locator } from '@playwright/test';
import { unpackGrid, type PackedGrid } from '@wise-margin/contract';
import { expect, expectAccessible, open, test } from './support.ts';

const choose = (within: Locator, label: string, value: string) => within.getByLabel(label, { exact: true }).selectOption(value);
const fill = async (within: Locator, label: string, text: string) => {
  await within.getByLabel(label, { exact: true }).fill(text);
  await within.getByLabel(label, { exact: true }).press('Enter');
};

test('the view of 36 columns is built by hand from nothing, saved, and moves with the month', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements?asOf=2026-10');
  await page.getByRole('link', { name: 'New view' }).click();
  await expect(page.getByRole('heading', { name: 'No columns yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Block', exact: true }).click();
  const block = page.getByRole('region', { name: 'Block block' });
  await choose(block, 'How often it stands', 'months:year');
  await block.getByLabel('With a total block').check();
  await block.getByRole('button', { name: 'Column', exact: true }).click();
  await block.getByRole('button', { name: 'Column', exact: true }).click();
  await fill(block, 'Heading', 'Budget');
  await choose(block, 'Figures', 'budget');
  await block.getByRole('button', { name: 'Column', exact: true }).click();
  await choose(block, 'Kind', 'percentDifference');
  await fill(block, 'Heading', '%');
  await choose(block, 'Of', 'actual');
  await choose(block, 'Against', 'actual_2');
  await expect(page.getByRole('columnheader', { name: 'Apr 2026', exact: true })).toBeVisible();
  // only the columns in view are drawn: the last ones are there when scrolled to
  await page.getByRole('region', { name: 'Statement' }).evaluate((region) => region.scrollTo({ left: region.scrollWidth }));
  await expect(page.getByRole('columnheader', { name: 'Mar 2027', exact: true })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Total, Apr 2026 to Mar 2027' })).toBeVisible();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Save as' }).click();
  const form = page.getByRole('form', { name: 'Save as' });
  await form.getByLabel('Name of the view').fill('Months by hand');
  await form.getByRole('button', { name: 'Save the view' }).click();
  await expect(page.getByRole('heading', { name: 'Months by hand' })).toBeVisible();

  // ten of its figures against what the database holds, read by account and month
  const key = new URL(page.url()).pathname.split('/').at(-1)!;
  const grid = unpackGrid(await demo.get<PackedGrid>(`/companies/1/statements/${key}?asOf=2026-10`));
  expect(grid.columns).toHaveLength(39);
  const accounts = await demo.get<{ periods: string[]; accounts: { number: string; months: (number | null)[] }[] }>(
    '/companies/1/accounts?year=2027',
  );
  for (const number of ['4010', '4110', '5010', '6110', '6120']) {
    const line = grid.lines.findIndex(({ account }) => account === number);
    for (const month of ['2026-07', '2026-10']) {
      const cell = grid.cells[line]![grid.columns.findIndex((column) => column.key.endsWith(`${month}.actual`))]!;
      const held = accounts.accounts.find((each) => each.number === number)!.months[accounts.periods.indexOf(month)]!;
      expect([number, month, cell]).toEqual([number, month, { kind: 'amount', value: held }]);
    }
  }
  // in another year every column moves by itself
  await page.keyboard.press(',');
  await expect(page.getByText(/^September 2026;/)).toBeVisible();
  await open(page, demo, `/c/1/statements/${key}?asOf=2026-03`);
  await expect(page.getByRole('columnheader', { name: 'Apr 2025', exact: true })).toBeVisible();
  await open(page, demo, '/c/1/statements');
  await page.getByRole('textbox', { name: 'Find a view' }).fill('by hand');
  await expect(page.getByRole('link', { name: /Months by hand/ })).toBeVisible();
  await page.getByRole('button', { name: 'Star Months by hand' }).click();
  await expect(page.getByRole('heading', { name: 'Starred' })).toBeVisible();

  // changed, it is not left without asking; renamed and shared it stands on its shelf; removed it is gone
  await open(page, demo, `/c/1/statements/${key}/edit?asOf=2026-10`);
  await page.getByRole('button', { name: /^Remove column %/ }).click();
  await page.getByRole('link', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Stay and save them' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('As saved')).toBeVisible();
  await page.getByRole('button', { name: 'Name and shelf' }).click();
  const details = page.getByRole('form', { name: 'Name and shelf' });
  await details.getByLabel('Name of the view').fill('Months of mine');
  await details.getByLabel('Shelf').fill('Monthly');
  await details.getByLabel('Share with colleagues').check();
  await details.getByRole('button', { name: 'Keep these' }).click();
  await expect(page.getByRole('heading', { name: 'Edit Months of mine' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('button', { name: 'Remove the view' }).click();
  await expect(page.getByRole('heading', { name: 'Statements', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: /Months of mine/ })).toHaveCount(0);
});

test('a line is put in the middle, its formula broken and mended, and steps are taken back', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income/edit?asOf=2026-10');
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  const list = page.getByRole('list', { name: 'Lines' });
  await expect(page.getByText('Every account with a balance stands in one line.')).toBeVisible();
  await list.getByRole('button', { name: /^Gross margin/ }).click();
  await page.getByRole('button', { name: 'Line', exact: true }).click();
  await choose(list, 'Kind', 'formula');
  await fill(list, 'Name', 'EBITDA');
  await fill(list, 'Formula over keys', 'operating_result + deprecation_line');
  await expect(page.getByRole('alert')).toContainText(
    'Line ebitda: There is no line "deprecation_line". Take the key of a line that is there.',
  );
  // the rest of the statement still shows
  await expect(page.getByRole('row', { name: /^Gross profit/ })).toContainText('85,421');
  await fill(list, 'Formula over keys', 'operating_result + operating_lines.depreciation');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByRole('row', { name: /^EBITDA/ })).toBeVisible();
  await expectAccessible(page);

  // a key renamed is renamed everywhere
  await list.getByRole('button', { name: /^Revenue, net/ }).click();
  await fill(list, 'Key in formulas', 'net_sales');
  await expect(list.getByRole('button', { name: /^Gross profit/ })).toContainText('gross_profit = net_sales - cost_of_sales');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByRole('button', { name: /^Gross profit/ })).toContainText('gross_profit = revenue - cost_of_sales');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(list.getByRole('button', { name: /^Gross profit/ })).toContainText('gross_profit = net_sales - cost_of_sales');
  // with the keyboard a line steps past its neighbor
  await list.getByRole('button', { name: /^EBITDA/ }).press('Alt+ArrowDown');
  await expect
    .poll(async () => {
      const texts = await list.getByRole('listitem').allInnerTexts();
      return texts.findIndex((text) => text.startsWith('EBITDA')) > texts.findIndex((text) => text.startsWith('Operating expenses'));
    })
    .toBe(true);
});

test('a block over June to August is chosen in a list, beside percent of budget reached', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income/edit?asOf=2026-10');
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  const block = page.getByRole('region', { name: 'Block month' });
  await block.getByLabel('How often it stands').selectOption('Chosen months');
  await block.getByLabel('Chosen months', { exact: true }).selectOption(['2026-06', '2026-07', '2026-08']);
  await expect(page.getByRole('columnheader', { name: 'Jun 2026', exact: true })).toBeVisible();
  // every block has nine columns, and only those in view are drawn
  for (const column of ['%', 'Difference', 'Prior year', '% rev'])
    await block
      .getByRole('button', { name: `Remove column ${column}`, exact: true })
      .last()
      .click();
  await block.getByLabel(/^Ready column for block/).selectOption('Percent of budget reached');
  await expect(page.getByRole('columnheader', { name: '% of budget' }).first()).toBeVisible();
  await page.getByRole('region', { name: 'Statement' }).evaluate((region) => region.scrollTo({ left: 900 }));
  await expect(page.getByRole('columnheader', { name: 'Aug 2026', exact: true })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expectAccessible(page);
});
