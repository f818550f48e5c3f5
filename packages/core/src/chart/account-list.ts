import type { AccountSelection } from './selection.ts';

export type AccountList = Pick<AccountSelection, 'ranges' | 'accounts'>;
export type ParsedAccountList = { readonly ok: true; readonly list: AccountList } | { readonly ok: false; readonly part: string };

/**
 * Reads numbers and ranges of accounts as people type them: `4000-4999, 6100`. Spaces do not count;
 * numbers may hold letters and dots. An empty text selects nothing.
 * @example parseAccountList('6100') // { ok: true, list: { accounts: ['6100'] } }
 */
export function parseAccountList(text: string): ParsedAccountList {
  const ranges: { from: string; to: string }[] = [];
  const accounts: string[] = [];
  for (const part of text.split(/[,;\n]/)) {
    const trimmed = part.trim();
    if (trimmed === '') continue;
    const match = /^([\w.]+)(?:\s*[-–]\s*([\w.]+))?$/.exec(trimmed);
    if (!match) return { ok: false, part: trimmed };
    if (match[2] === undefined) accounts.push(match[1]!);
    else ranges.push({ from: match[1]!, to: match[2] });
  }
  return { ok: true, list: { ...(ranges.length > 0 ? { ranges } : {}), ...(accounts.length > 0 ? { accounts } : {}) } };
}

/** The list as it is typed. */
export function accountListText({ ranges = [], accounts = [] }: AccountList): string {
  return [...ranges.map(({ from, to }) => `${from}-${to}`), ...accounts].join(', ');
}
