import type { Transaction } from 'sequelize';

import type { Database } from '../database/database.ts';

/** What belongs to a company, in an order in which nothing refers to what is gone. Budgets take their lines with them. */
const DELETIONS = [
  'DELETE FROM nonrecurring_items WHERE company_id = $1',
  'DELETE FROM finding_notes WHERE finding_id IN (SELECT id FROM findings WHERE company_id = $1)',
  'DELETE FROM findings WHERE company_id = $1',
  'DELETE FROM materiality WHERE company_id = $1',
  'UPDATE bank_lines SET clearing_id = NULL WHERE statement_id IN (SELECT id FROM bank_statements WHERE company_id = $1)',
  'DELETE FROM cleared_lines WHERE clearing_id IN (SELECT id FROM clearings WHERE company_id = $1)',
  'DELETE FROM clearings WHERE company_id = $1',
  'DELETE FROM bank_lines WHERE statement_id IN (SELECT id FROM bank_statements WHERE company_id = $1)',
  'DELETE FROM bank_statements WHERE company_id = $1',
  'DELETE FROM bank_accounts WHERE company_id = $1',
  'DELETE FROM outstanding_lines WHERE company_id = $1',
  'DELETE FROM line_drivers WHERE company_id = $1',
  'DELETE FROM personal_choices WHERE company_id = $1',
  'DELETE FROM schedule_runs WHERE schedule_id IN (SELECT id FROM schedules WHERE company_id = $1)',
  'DELETE FROM schedules WHERE company_id = $1',
  'DELETE FROM holidays WHERE company_id = $1',
  'DELETE FROM mail_log WHERE message_id IN (SELECT id FROM mail_messages WHERE company_id = $1)',
  'DELETE FROM mail_attachments WHERE message_id IN (SELECT id FROM mail_messages WHERE company_id = $1)',
  'DELETE FROM mail_files WHERE company_id = $1',
  'DELETE FROM mail_messages WHERE company_id = $1',
  'DELETE FROM mail_lists WHERE company_id = $1',
  'DELETE FROM company_run_results WHERE company_id = $1',
  'DELETE FROM company_runs WHERE $1 > 0 AND id NOT IN (SELECT run_id FROM company_run_results)',
  'DELETE FROM pack_shares WHERE company_id = $1',
  'DELETE FROM pack_files WHERE issue_id IN (SELECT id FROM pack_issues WHERE company_id = $1)',
  'DELETE FROM pack_documents WHERE issue_id IN (SELECT id FROM pack_issues WHERE company_id = $1)',
  'DELETE FROM pack_issues WHERE company_id = $1',
  'DELETE FROM pack_months WHERE company_id = $1',
  'DELETE FROM packs WHERE company_id = $1',
  'DELETE FROM company_group_members WHERE company_id = $1',
  'DELETE FROM company_groups WHERE (lead_id IS NULL OR lead_id = $1) AND id NOT IN (SELECT group_id FROM company_group_members)',
  'UPDATE company_groups SET lead_id = NULL WHERE lead_id = $1',
  'DELETE FROM posting_answers WHERE company_id = $1',
  'DELETE FROM view_stars WHERE company_id = $1',
  'DELETE FROM view_choices WHERE company_id = $1',
  'DELETE FROM views WHERE company_id = $1',
  'DELETE FROM benchmarks WHERE company_id = $1',
  'DELETE FROM company_logos WHERE company_id = $1',
  'DELETE FROM statistics WHERE company_id = $1',
  'DELETE FROM budgets WHERE company_id = $1',
  'DELETE FROM balances WHERE company_id = $1',
  'DELETE FROM period_states WHERE company_id = $1',
  'DELETE FROM period_people WHERE company_id = $1',
  'DELETE FROM entry_templates WHERE company_id = $1',
  'DELETE FROM entry_filters WHERE company_id = $1',
  'DELETE FROM entry_versions WHERE change_id IN (SELECT id FROM entry_changes WHERE company_id = $1)',
  'UPDATE entry_changes SET undoes = NULL, undone_by = NULL WHERE company_id = $1',
  'DELETE FROM entry_changes WHERE company_id = $1',
  'DELETE FROM lines WHERE entry_id IN (SELECT id FROM entries WHERE company_id = $1)',
  'DELETE FROM entries WHERE company_id = $1',
  'DELETE FROM imports WHERE company_id = $1',
  'DELETE FROM parties WHERE company_id = $1',
  'DELETE FROM combinations WHERE company_id = $1',
  'DELETE FROM dimensions WHERE company_id = $1',
  'DELETE FROM accounts WHERE company_id = $1',
  'DELETE FROM fiscal_years WHERE company_id = $1',
  'DELETE FROM companies WHERE id = $1',
];
/** Without these, each party and combination that goes would be looked for in every line of every other company. */
const LOOKUPS = [
  ['lines_by_party_removed', 'lines (party_id)'],
  ['lines_by_combination_removed', 'lines (combination_id)'],
  ['balances_by_combination_removed', 'balances (combination_id)'],
  ['balances_by_account_removed', 'balances (account_id)'],
] as const;

/** Deletes companies with everything that belongs to them; the audit record stays. */
export async function deleteCompanies(database: Database, ids: readonly number[], transaction: Transaction): Promise<void> {
  for (const [name, columns] of LOOKUPS) await database.run(`CREATE INDEX ${name} ON ${columns}`, [], transaction);
  for (const id of ids) for (const statement of DELETIONS) await database.run(statement, [id], transaction);
  for (const [name] of LOOKUPS) await database.run(`DROP INDEX ${name}`, [], transaction);
}
