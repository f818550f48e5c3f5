/** A page of the application, or a command on one: where it is, and what else people call it. */
export type Place = {
  readonly kind: 'page' | 'command';
  readonly name: string;
  /** below the company */
  readonly path: string;
  readonly synonyms: readonly string[];
};

const page = (name: string, path: string, ...synonyms: readonly string[]): Place => ({ kind: 'page', name, path, synonyms });
const command = (name: string, path: string, ...synonyms: readonly string[]): Place => ({ kind: 'command', name, path, synonyms });

/** Everywhere a search can lead that is the same for every company. */
export const PLACES: readonly Place[] = [
  page('Overview', '', 'Home', 'Dashboard'),
  page('Statements', 'statements', 'Views', 'Library'),
  page('Combined statements', 'statements/combined', 'Consolidation', 'Company groups', 'All companies', 'Exchange rates'),
  page('Budgets', 'budgets', 'Forecast'),
  page('Packs', 'packs', 'Review packs', 'Board pack', 'Management report'),
  page('Schedules', 'packs/schedules', 'Send every month', 'Automatic mail'),
  page('Issue for companies', 'packs/companies', 'All companies', 'Batch', 'ZIP'),
  page('Outbox', 'packs/outbox', 'Mail', 'Sent messages'),
  page('Variances', 'findings/variances', 'Findings'),
  page('Posting checks', 'findings/postings', 'Suspects', 'Duplicates'),
  page('Tie-outs', 'findings/tie-outs', 'Checks', 'Does it balance'),
  page('Bank reconciliation', 'ledger/reconciliation', 'Reconcile', 'Bank statement', 'Outstanding checks'),
  page('Materiality limits', 'findings/limits', 'Thresholds'),
  page('Entries', 'ledger/entries', 'General ledger', 'Lines', 'Postings'),
  page('Draft entries', 'ledger/drafts', 'Unposted'),
  page('Accounts', 'ledger/accounts', 'Chart of accounts'),
  page('Imports', 'ledger/imports', 'Files'),
  page('Periods', 'ledger/periods', 'Month-end close', 'Lock'),
  page('Statistics', 'ledger/statistics', 'Headcount', 'Drivers', 'Units'),
  page('Audit trail', 'ledger/audit', 'History', 'Who changed'),
  page('Trial balance', 'ledger/reports/trial-balance', 'TB'),
  page('Account detail', 'ledger/reports/account-detail', 'GL detail'),
  page('Journals', 'ledger/reports/journals', 'Sales journal', 'Purchase journal'),
  page('Customers and vendors', 'ledger/reports/activity', 'Suppliers', 'Parties'),
  page('Receivables aging', 'ledger/reports/aging?kind=receivables', 'AR aging', 'Who owes us'),
  page('Payables aging', 'ledger/reports/aging?kind=payables', 'AP aging', 'Open bills'),
  command('Import files', 'ledger/imports/new', 'Upload', 'New import'),
  command('Import a bank statement', 'ledger/reconciliation', 'OFX', 'camt.053'),
  command('Design a new view', 'statements/new', 'New statement', 'Create report'),
  command('Close a period', 'ledger/periods', 'Lock month', 'Month-end close'),
];

/** What else people call the shipped views. */
export const VIEW_SYNONYMS: Readonly<Record<string, readonly string[]>> = {
  income: ['P&L', 'Profit and loss', 'Results of operations'],
  balance: ['Statement of financial position', 'BS'],
  'cash-flow': ['Cash flow statement'],
  outlook: ['Forecast', 'Projection'],
  ratios: ['KPI', 'DSO', 'Current ratio'],
  vertical: ['Common size', 'Percent of revenue'],
  'balance-vertical': ['Common size'],
};
