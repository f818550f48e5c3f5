import { nearMatches } from '../text/near-matches.ts';
import { MOST_IN_NAME } from '../text/plain-text.ts';
import type { ImportIssue } from './import-issue.ts';

const FIELDS = [
  'entry',
  'date',
  'account',
  'debit',
  'credit',
  'amount',
  'memo',
  'party',
  'document',
  'due',
  'source',
  'kind',
  'state',
] as const;
export type LedgerField = (typeof FIELDS)[number];
/** Column positions by field, -1 when a file has no such column, and the further columns as dimensions. */
export type LedgerLayout = {
  readonly columns: Readonly<Record<LedgerField, number>>;
  readonly width: number;
  readonly dimensions: readonly { readonly name: string; readonly column: number }[];
};
export type LayoutResult =
  | { readonly ok: true; readonly layout: LedgerLayout }
  | { readonly ok: false; readonly issues: readonly ImportIssue[] };

/** Names a person is likely to have given a column, offered as a hint and never taken silently. */
const LIKELY: Readonly<Record<string, LedgerField>> = {
  'entry number': 'entry',
  'entry no': 'entry',
  journal: 'entry',
  'posting date': 'date',
  'entry date': 'date',
  'account number': 'account',
  'account no': 'account',
  acct: 'account',
  dr: 'debit',
  debits: 'debit',
  cr: 'credit',
  credits: 'credit',
  description: 'memo',
  text: 'memo',
};

/**
 * Reads the header of a ledger file. Needed: entry, date, account, and either debit and credit or one
 * signed amount. Names are matched without regard to case and outer spaces. Every other named column
 * becomes a dimension: one that the company does not have yet, and that is not a plain word or is nearly
 * one it has or a field of ours, has to be confirmed first.
 * @param confirmed further names that are dimensions, in small letters
 * @param known dimensions of the company
 */
export function readLedgerHeader(
  header: readonly string[],
  confirmed: readonly string[] = [],
  known: readonly string[] = [],
): LayoutResult {
  const issues: ImportIssue[] = [];
  const issue = (code: ImportIssue['code'], at: Pick<ImportIssue, 'column' | 'text'>, details?: ImportIssue['details']) =>
    issues.push({ file: 'ledger', row: 1, ...at, code, ...(details ? { details } : {}) });
  const names = header.map((name) => name.trim().toLowerCase());
  if (names.every((name) => name === '')) {
    return { ok: false, issues: [{ file: 'ledger', row: 1, column: '', text: '', code: 'noHeader' }] };
  }
  const seen = new Set<string>();
  names.forEach((name, position) => {
    if (name === '') issue('unnamedColumn', { column: `column ${position + 1}`, text: '' });
    else if (seen.has(name)) issue('repeatedColumn', { column: name, text: header[position]! });
    seen.add(name);
  });
  const at = (field: string) => names.indexOf(field);
  const hasAmount = at('amount') >= 0;
  if (hasAmount && (at('debit') >= 0 || at('credit') >= 0)) issue('amountAndDebitCredit', { column: 'amount', text: 'amount' });
  const needed: readonly LedgerField[] = hasAmount ? ['entry', 'date', 'account'] : ['entry', 'date', 'account', 'debit', 'credit'];
  for (const field of needed) {
    if (at(field) >= 0) continue;
    const similar = names.find((name) => LIKELY[name.replaceAll(/[_.-]/g, ' ')] === field);
    issue(
      similar ? 'similarColumn' : 'missingColumn',
      { column: field, text: header.join(', ').slice(0, 200) },
      similar ? { similar } : undefined,
    );
  }
  // names that are wanted come first: what is missing explains what looks new
  if (issues.length > 0) return { ok: false, issues };
  names.forEach((name, position) => {
    if (name === '' || (FIELDS as readonly string[]).includes(name) || known.includes(name) || confirmed.includes(name)) return;
    if (name.length > MOST_IN_NAME) return issue('tooLong', { column: name.slice(0, 80), text: name.slice(0, 80) }, { most: MOST_IN_NAME });
    const near = nearMatches(name, [...known, ...FIELDS])[0];
    const isPlain = /^[\p{L}][\p{L}\p{N} _-]*$/u.test(name);
    if (known.length > 0 || near !== undefined || !isPlain)
      issue('newDimension', { column: name, text: header[position]!.slice(0, 200) }, near === undefined ? {} : { near });
  });
  if (issues.length > 0) return { ok: false, issues };
  const columns = Object.fromEntries(FIELDS.map((field) => [field, at(field)])) as Record<LedgerField, number>;
  const dimensions = names.flatMap((name, column) => ((FIELDS as readonly string[]).includes(name) ? [] : [{ name, column }]));
  return { ok: true, layout: { columns, width: names.length, dimensions } };
}
