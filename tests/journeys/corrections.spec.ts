import type { EntryListDto } from '@wise-margin/contract';

import { expect, expectAccessible, figure, open, test } from './support.ts';

test('from year-to-date utilities over budget to the entry with the extra digit, corrected by keyboard with a reason', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1/statements/income?asOf=2026-10');
  const variance = figure(page, 'Rent and utilities, Actual, Apr to Oct 2026, less Budget, Apr to Oct 2026: ');
  await expect(variance).toHaveAccessibleName(/: 22,183$/);
  const enter = async (name: RegExp) => {
    await panel.getByRole('button', { name }).first().focus();
    await page.keyboard.press('Enter');
  };
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await variance.focus();
  await page.keyboard.press('Enter');
  await enter(/^Rent and utilities$/);
  await enter(/^6120 Electricity/);
  await enter(/22,143\.00, entry PU-001163$/);
  await expect(page.getByRole('heading', { name: 'Entry PU-001163' })).toBeFocused();
  await page.getByRole('button', { name: 'Correct' }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Correct entry PU-001163' });
  await dialog.getByLabel('Debit, line 1').focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('2,214.30');
  await expect(dialog.getByRole('alert')).toHaveText(/Debits and credits differ by 19,928\.70: debits are short/);
  await dialog.getByLabel('Credit, line 2').focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('2214.30');
  await expect(dialog.getByRole('row', { name: '6120 Electricity (19,928.70)' })).toBeVisible();
  await expect(dialog.getByRole('row', { name: 'Operating income 19,928.70' })).toBeVisible();
  await expectAccessible(page, dialog);
  await dialog.getByLabel('Reason').focus();
  await page.keyboard.type('Extra digit on the bill');
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('region', { name: 'History' })).toContainText('Extra digit on the bill');
  // the statement beside it follows
  await expect(variance).toHaveAccessibleName(/: 2,255$/);
  await open(page, demo, '/c/1/ledger/audit?find=Extra+digit');
  await expect(page.getByRole('button', { name: 'Entry PU-001163 corrected' })).toBeVisible();
  await expectAccessible(page);
});

test('open statements in two windows, and a budget’s history, follow a change that a script posted', async ({ page, context, demo }) => {
  await open(page, demo, '/c/1/statements/income?asOf=2026-06');
  const amount = figure(page, 'Rent and utilities, Actual, Jun 2026: ');
  const before = await amount.getAttribute('aria-label');
  const other = await context.newPage();
  await open(other, demo, '/c/1/statements/income?asOf=2026-06');
  await expect(other.getByRole('button', { name: before!, exact: true })).toBeVisible();
  const budget = await context.newPage();
  await open(budget, demo, '/c/1/budgets/3?row=6110');
  const june = budget.getByRole('complementary').getByRole('row', { name: /^Jun/ });
  await expect(june).toBeVisible();
  const history = await june.innerText();
  const { lines } = await demo.get<EntryListDto>('/companies/1/entries?accounts=6110&from=2026-06&to=2026-06&limit=1');
  const request = { lines: [lines[0]!.lineId], account: '6410', reason: 'Moved in another window' };
  const response = await fetch(`${demo.base}/companies/1/reclassifications`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(request),
  });
  expect(response.status).toBe(204);
  for (const each of [page, other])
    await expect(figure(each, 'Rent and utilities, Actual, Jun 2026: ')).not.toHaveAttribute('aria-label', before!);
  await expect(june).not.toHaveText(history, { useInnerText: true });
});

test('the boat-show bill is reclassified by mouse after a look at what it does, and undone', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/entries?find=BS-2609-2&accounts=6000-6999');
  const box = page.getByRole('checkbox', { name: /^Select Entry PU-001213, / });
  await box.check();
  await page.getByRole('button', { name: 'Reclassify 1 line' }).click();
  const dialog = page.getByRole('dialog', { name: 'Reclassify 1 line' });
  await dialog.getByLabel('To account').fill('9999');
  await expect(dialog.getByRole('alert')).toHaveText('There is no account 9999.');
  await dialog.getByLabel('To account').fill('6220');
  await expect(dialog.getByRole('row', { name: /^6220 Boat shows/ })).toBeVisible();
  await expect(dialog.getByRole('row', { name: /^Repairs and maintenance/ })).toBeVisible();
  await dialog.getByLabel('Reason').fill('A booth is no repair');
  await dialog.getByRole('button', { name: 'Reclassify 1 line' }).click();
  await expect(dialog).toBeHidden();
  const moved = page.getByRole('button', { name: /^Entry PU-001213, .*Boat shows/ });
  await expect(moved).toBeVisible();
  await moved.click();
  await page.getByRole('button', { name: 'Undo this change' }).click();
  await page.getByLabel('Reason for undoing it').fill('Asked for by the controller');
  await page.getByRole('button', { name: 'Undo change' }).click();
  await expect(page.getByRole('button', { name: /^Entry PU-001213, .*Repairs and maintenance/ })).toBeVisible();
  await expect(
    page
      .getByRole('region', { name: 'History' })
      .getByRole('listitem')
      .filter({ hasText: /^Undone/ }),
  ).toBeVisible();
});
