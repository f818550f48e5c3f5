import type { Account } from '../chart/account.ts';
import type { Polarity } from '../chart/account-class.ts';
import { findClass } from '../chart/account-class.ts';
import { controlIn, MOST_IN_NAME, withoutControls } from '../text/plain-text.ts';
import type { ImportIssue, ImportIssueCode } from './import-issue.ts';

const POLARITIES: readonly Polarity[] = ['higherIsBetter', 'lowerIsBetter', 'neutral'];
const YES = ['', 'yes', 'true', '1', 'y', 'active'];
const NO = ['no', 'false', '0', 'n', 'inactive'];
const NEEDED = ['account', 'name', 'class'] as const;

export type AccountsFileResult = { readonly accounts: readonly Account[]; readonly issues: readonly ImportIssue[] };

/**
 * Reads the rows of an accounts file, header first: `account,name,class,active` and optionally
 * `group,polarity,cashflow`. Every fault is listed; accounts are the good rows.
 * @param existing accounts held, by number: a class may not change under posted history
 */
export function readAccountsFile(rows: readonly (readonly string[])[], existing: ReadonlyMap<string, Account>): AccountsFileResult {
  const issues: ImportIssue[] = [];
  const issue = (at: { row: number; column: string; text: string }, code: ImportIssueCode, details?: ImportIssue['details']) =>
    issues.push({ file: 'accounts', ...at, code, ...(details ? { details } : {}) });
  const [header = [], ...body] = rows;
  const names = header.map((name) => name.trim().toLowerCase());
  names.forEach((name, position) => {
    if (name !== '' && names.indexOf(name) !== position) issue({ row: 1, column: name, text: header[position]! }, 'repeatedColumn');
  });
  for (const name of NEEDED)
    if (!names.includes(name)) issue({ row: 1, column: name, text: header.join(', ').slice(0, 200) }, 'missingColumn');
  if (issues.length > 0) return { accounts: [], issues };

  const accounts: Account[] = [];
  const seen = new Map<string, number>();
  body.forEach((cells, position) => {
    const row = position + 2;
    if (cells.length === 1 && cells[0]!.trim() === '') return;
    if (cells.length !== names.length) {
      return void issue({ row, column: '', text: cells.join(',').slice(0, 200) }, 'cellCount', {
        expected: names.length,
        found: cells.length,
      });
    }
    const text = (name: string) => cells[names.indexOf(name)]?.trim() ?? '';
    const before = issues.length;
    for (const name of NEEDED) if (text(name) === '') issue({ row, column: name, text: '' }, 'required');
    names.forEach((name, column) => {
      const found = controlIn(cells[column]!);
      if (found !== null) issue({ row, column: name, text: withoutControls(cells[column]!).slice(0, 80) }, 'controlCharacter', { found });
      else if (cells[column]!.length > MOST_IN_NAME)
        issue({ row, column: name, text: cells[column]!.slice(0, 80) }, 'tooLong', { most: MOST_IN_NAME });
    });
    const number = text('account');
    if (seen.has(number)) issue({ row, column: 'account', text: number }, 'accountRepeated', { before: seen.get(number)! });
    seen.set(number, row);
    const accountClass = findClass(text('class'));
    if (!accountClass && text('class') !== '') issue({ row, column: 'class', text: text('class') }, 'unknownClass');
    const held = existing.get(number);
    if (accountClass && held && held.class !== accountClass)
      issue({ row, column: 'class', text: text('class') }, 'classDiffers', { held: held.class });
    const flag = text('active').toLowerCase();
    if (![...YES, ...NO].includes(flag)) issue({ row, column: 'active', text: text('active') }, 'badFlag');
    const polarity = POLARITIES.find((each) => each.toLowerCase() === text('polarity').toLowerCase()) ?? null;
    if (text('polarity') !== '' && !polarity)
      issue({ row, column: 'polarity', text: text('polarity') }, 'unknownPolarity', { allowed: POLARITIES.join(', ') });
    if (issues.length > before || !accountClass) return;
    accounts.push({
      number,
      name: text('name'),
      class: accountClass,
      active: !NO.includes(flag),
      polarity,
      group: text('group') || null,
      cashflow: text('cashflow') || null,
    });
  });
  if (accounts.length === 0 && issues.length === 0) issue({ row: 0, column: '', text: '' }, 'noRows');
  return { accounts, issues };
}
