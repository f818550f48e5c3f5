import type { EntryDto, EntryListDto, LedgerPeriodsDto } from '@wise-margin/contract';

import { expect, expectAccessible, open, test } from './support.ts';

test('a month is closed after a look at what is unfinished; a correction in it is posted in the open one', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/periods');
  await page.getByRole('button', { name: 'Sep 2026, open' }).click();
  const dialog = page.getByRole('dialog', { name: 'Sep 2026: open' });
  await expect(dialog.getByText('Nothing is unfinished through Sep 2026.')).toBeVisible();
  await dialog.getByLabel('Close every earlier period too').check();
  await dialog.getByRole('button', { name: 'Close Sep 2026' }).click();
  await expect(page.getByRole('button', { name: 'Sep 2026, closed' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Aug 2026, closed' })).toBeVisible();
  await page.getByRole('button', { name: 'Oct 2026, open' }).click();
  await expect(page.getByRole('dialog').getByText('3 entries are still in draft.')).toBeVisible();
  await expectAccessible(page, page.getByRole('dialog'));
  await page.keyboard.press('Escape');

  await open(page, demo, '/c/1/ledger/entries?find=BS-2609-2&accounts=6000-6999');
  await page.getByRole('button', { name: /^Entry PU-001213, / }).click();
  await page.getByRole('button', { name: 'Correct' }).click();
  const correction = page.getByRole('dialog', { name: 'Correct entry PU-001213' });
  await correction.getByLabel('Account, line 1').fill('6220');
  await expect(correction.getByText('Sep 2026 is closed.')).toBeVisible();
  await correction.getByRole('button', { name: 'Post a correcting entry on Oct 1, 2026 instead' }).click();
  await expect(correction.getByRole('row', { name: /^6220 Boat shows 12,840\.00/ })).toBeVisible();
  await correction.getByLabel('Reason').fill('Stand of the fall show');
  await correction.getByRole('button', { name: 'Post correction' }).click();
  await expect(correction).toBeHidden();
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await panel.getByRole('button', { name: 'AJ-000001', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Entry AJ-000001' })).toBeVisible();
  await expect(panel.getByRole('button', { name: 'PU-001213', exact: true })).toBeVisible();

  // what was changed is ticked off
  await open(page, demo, '/c/1/ledger/audit?find=fall+show');
  const tick = page.getByRole('checkbox', { name: /^Reviewed: Correction of PU-001213 by entry AJ-000001/ });
  await tick.check();
  await expect(page.getByText('1 change, 1 reviewed')).toBeVisible();

  await open(page, demo, '/c/1/ledger/periods');
  await page.getByRole('button', { name: 'Sep 2026, closed' }).click();
  const reopening = page.getByRole('dialog', { name: 'Sep 2026: closed' });
  await expect(reopening.getByRole('button', { name: 'Reopen' })).toBeDisabled();
  await reopening.getByLabel('Reason for reopening').fill('A late bill');
  await reopening.getByRole('button', { name: 'Reopen' }).click();
  await expect(page.getByRole('button', { name: 'Sep 2026, open' })).toBeVisible();

  // the journeys after this one find every month open
  const { periods } = await demo.get<LedgerPeriodsDto>('/companies/1/periods');
  for (const { year, number } of periods.filter(({ state }) => state !== 'open'))
    await fetch(`${demo.base}/companies/1/periods`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ year, number, state: 'open', reason: 'For the next journey' }),
    });
});

test('who owes the most past 60 days, as of a day of its own, by keyboard to the document; the choices are remembered', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1/ledger/reports/aging?asOf=2026-10');
  await page.getByLabel('As of', { exact: true }).fill('Nov 9, 2026');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Agrees with the balance of 1100 Trade receivables.')).toBeVisible();
  await page.getByRole('button', { name: 'Over 90', exact: true }).focus();
  await page.keyboard.press('Enter');
  const first = page.getByRole('region', { name: 'Receivables aging' }).getByRole('row').nth(1);
  await expect(first).toContainText('Brackwater Marine Supply');
  await page.getByRole('button', { name: /^Brackwater Marine Supply, / }).focus();
  await page.keyboard.press('Enter');
  await page
    .getByRole('button', { name: /^D-260517, |D-260517/ })
    .first()
    .focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('D-260517');
  // another day, the same report: as it was left, the statement's month untouched
  await open(page, demo, '/c/1/ledger/reports/aging');
  await expect(page.getByLabel('As of', { exact: true })).toHaveValue('Nov 9, 2026');
  await expect(page.getByRole('combobox', { name: 'As-of month' })).toHaveValue('2026-10');
});

test('a trial balance of typed months against the prior year in thousands, then an account’s detail', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/reports/trial-balance');
  await page.getByLabel('Months').fill('Q2 FY2027');
  await page.keyboard.press('Enter');
  await page.getByLabel('Compare with').selectOption({ label: 'Prior year' });
  await page.getByLabel('Units').selectOption('thousands');
  await expect(page.getByText('Jul to Sep 2026; thousands of US dollars')).toBeVisible();
  await expect(page.getByText('Debits equal credits.')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Closing Sep 30, 2025' })).toBeVisible();
  await page.getByLabel('Months').fill('someday');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('“someday” is not a date or range');
  await page.getByRole('link', { name: 'Account detail' }).click();
  await page.getByLabel('Accounts').fill('6120');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('rowheader', { name: '6120 Electricity' })).toBeVisible();
  await expect(page.getByRole('row', { name: /Closing balance/ })).toBeVisible();
});

test('an entry is made in draft by keyboard, posted and discarded; a correction overtaken by another shows both', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1/ledger/drafts');
  await page.getByRole('button', { name: 'New entry' }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'New entry' });
  const places = async () => {
    const parts = [
      dialog.getByLabel('Keep as a template'),
      dialog.getByLabel('Reason'),
      dialog.getByRole('button', { name: 'Post entry' }),
    ];
    return Promise.all(parts.map((part) => part.boundingBox()));
  };
  await expect(dialog.getByText('shown here before posting')).toBeVisible();
  await expect(dialog.getByText('Debits equal credits')).toHaveCount(0);
  const before = await places();
  for (const [label, text] of [
    ['Account, line 1', '6610'],
    ['Debit, line 1', '150'],
    ['Account, line 2', '2050'],
    ['Credit, line 2', '150'],
    ['Reason', 'Audit fee of the month'],
  ] as const) {
    await dialog.getByLabel(label, { exact: true }).focus();
    await page.keyboard.type(text);
  }
  // the effect that arrives while a person points at a field moves none
  await expect(dialog.getByRole('cell', { name: '6610 Accounting and legal' })).toBeVisible();
  await expect(dialog.getByText('Debits equal credits')).toBeVisible();
  expect(await places()).toEqual(before);
  await dialog.getByLabel('Save as').selectOption('draft');
  await dialog.getByLabel('Keep as a template').check();
  await dialog.getByLabel('Template name').fill('Audit fee');
  await dialog.getByLabel('Every month').check();
  await expectAccessible(page, dialog);
  await dialog.getByRole('button', { name: 'Save draft' }).click();
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Post draft' }).click();
  await expect(page.getByRole('button', { name: 'Correct' })).toBeVisible();
  await page.getByRole('button', { name: 'Templates 1' }).click();
  await page.getByRole('button', { name: 'Create draft for Nov 30, 2026' }).click();
  await page.keyboard.press('Escape');
  const recurring = page.getByRole('button', { name: /^Entry AJ-\d+, Nov 30, 2026/ });
  await recurring.click();
  await page.getByRole('button', { name: 'Discard', exact: true }).click();
  await page.getByRole('button', { name: 'Discard draft' }).click();
  await expect(recurring).toBeHidden();

  const { lines } = await demo.get<EntryListDto>('/companies/1/entries?accounts=6610&from=2026-10&to=2026-10&origin=manual');
  const entry = await demo.get<EntryDto>(`/companies/1/entries/${lines[0]!.entryId}`);
  await open(page, demo, `/c/1/ledger/entries?entry=${entry.id}`);
  await page.getByRole('button', { name: 'Correct' }).click();
  const correction = page.getByRole('dialog', { name: `Correct entry ${entry.number}` });
  await correction.getByLabel('Memo, line 1').fill('Mine');
  const content = {
    ...entry,
    lines: entry.lines.map(({ account, debit, credit, party, document, due, dimensions }) => ({
      account,
      amount: 2 * ((debit ?? 0) - (credit ?? 0)),
      memo: '',
      party,
      document,
      due,
      dimensions,
    })),
  };
  const { date, source, kind, state } = content;
  const response = await fetch(`${demo.base}/companies/1/entries/${entry.id}/correction`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ version: entry.version, content: { date, source, kind, state, lines: content.lines }, reason: 'Twice as much' }),
  });
  expect(response.status).toBe(204);
  const conflict = correction.getByRole('alert', { name: 'Changed by someone else' });
  await expect(conflict.getByRole('row', { name: 'line 1, amount debit 150.00 debit 300.00 debit 150.00' })).toBeVisible();
  await expect(conflict.getByRole('row', { name: 'line 1, memo none none Mine' })).toBeVisible();
  await expectAccessible(page, correction);
  await conflict.getByRole('button', { name: 'Start again from theirs' }).click();
  await expect(correction.getByLabel('Debit, line 1')).toHaveValue('300.00');
});
