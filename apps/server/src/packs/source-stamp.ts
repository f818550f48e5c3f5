import { createHash } from 'node:crypto';

import type { Transaction } from 'sequelize';

import type { Database } from '../database/database.ts';

/**
 * Everything a pack can be made of, each as what says that it changed: versions where they are kept, else the contents.
 * `$1` is the company.
 */
const SOURCES = {
  ledger: `SELECT version FROM companies WHERE id = $1`,
  budgets: `SELECT id, version, state, name, note FROM budgets WHERE company_id = $1 ORDER BY id`,
  'budget explanations': `SELECT a.budget_id, a.finding, a.text FROM budget_answers a JOIN budgets b ON b.id = a.budget_id WHERE b.company_id = $1 ORDER BY 1, 2`,
  'nonrecurring items': `SELECT id, reason FROM nonrecurring_items WHERE company_id = $1 ORDER BY id`,
  views: `SELECT id, version, name, shared FROM views WHERE company_id = $1 OR company_id IS NULL ORDER BY id`,
  'comments on findings': `SELECT id, status, owner, due, is_timing, comment, rejected FROM findings WHERE company_id = $1 ORDER BY id`,
  'questions on findings': `SELECT max(n.id) AS last FROM finding_notes n JOIN findings f ON f.id = n.finding_id WHERE f.company_id = $1`,
  'materiality limits': `SELECT limits FROM materiality WHERE company_id = $1 UNION ALL SELECT limits FROM materiality_for_all`,
  benchmarks: `SELECT line_key, kind, value FROM benchmarks WHERE company_id = $1 UNION ALL SELECT line_key, kind, value FROM benchmarks_for_all ORDER BY 1`,
  'price and volume settings': `SELECT line, series, planned, input, planned_input FROM line_drivers WHERE company_id = $1 ORDER BY line`,
  'posting checks': `SELECT posting, answer, reason FROM posting_answers WHERE company_id = $1 ORDER BY posting`,
  'bank reconciliation': `SELECT max(c.id) AS last, count(*) AS clearings, sum(length(c.explanation)) AS explained, (SELECT count(*) FROM outstanding_lines WHERE company_id = $1) AS outstanding FROM clearings c WHERE c.company_id = $1`,
  'bank statements': `SELECT id FROM bank_statements WHERE company_id = $1 ORDER BY id`,
  'exchange rates': `SELECT from_currency, to_currency, month, average, closing FROM exchange_rates ORDER BY 1, 2, 3`,
  logo: `SELECT version FROM company_logos WHERE company_id = $1`,
  'pack design': `SELECT id, version FROM packs WHERE company_id = $1 OR company_id IS NULL ORDER BY id`,
  'texts of the pack': `SELECT pack, month, version FROM pack_months WHERE company_id = $1 ORDER BY 1, 2`,
} as const satisfies Readonly<Record<string, string>>;

/** A digest of each source, by its name. */
export type SourceStamp = ReadonlyMap<string, string>;

/** What the documents of a company are made of at this moment. */
export async function sourceStamp(database: Database, company: number, transaction?: Transaction): Promise<SourceStamp> {
  const digests = new Map<string, string>();
  for (const [name, sql] of Object.entries(SOURCES)) {
    const rows = await database.select(sql, sql.includes('$1') ? [company] : [], transaction);
    digests.set(name, createHash('sha256').update(JSON.stringify(rows)).digest('hex'));
  }
  return digests;
}

/** The names of the sources that changed between two moments. */
export const changedSources = (before: SourceStamp, after: SourceStamp): string[] =>
  [...after].flatMap(([name, digest]) => (before.get(name) === digest ? [] : [name]));
