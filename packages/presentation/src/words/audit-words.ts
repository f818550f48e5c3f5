import type { AuditArea } from '@wise-margin/contract';

import { budgetMilestoneWords } from './budget-milestone-words.ts';
import { capitalized } from './capitalized.ts';

/** What is recorded of a change, as far as its words need it. */
export type AuditRecord = {
  /** such as `import.post` */
  readonly action: string;
  /** such as `import 3` */
  readonly subject: string;
  readonly details: Readonly<Record<string, unknown>>;
};
/** Names of budgets and views by the numbers and keys that records hold. */
export type AuditNames = { readonly budget: (id: number) => string; readonly view: (key: string) => string };

type Words = (record: AuditRecord, names: AuditNames) => string;
const subjectThen =
  (words: string): Words =>
  ({ subject }) =>
    `${subject.charAt(0).toUpperCase()}${subject.slice(1)} ${words}`;
const viewThen =
  (words: string): Words =>
  ({ subject, details }, { view }) =>
    `View ${typeof details['name'] === 'string' ? details['name'] : view(subject)} ${words}${details['scope'] === 'all' ? ' for all companies' : ''}`;

const packThen =
  (words: string): Words =>
  ({ details }) =>
    `Pack ${String(details['name'])} ${words}${details['scope'] === 'all' ? ' for all companies' : ''}`;

const forAll =
  (words: string): Words =>
  ({ details }) =>
    `${words}${details['scope'] === 'all' ? ' for all companies' : ''}`;

/** Each action outside budgets, with the area it belongs to and its words. */
const ACTIONS: Readonly<Record<string, readonly [AuditArea, Words]>> = {
  'import.post': ['ledger', subjectThen('posted')],
  'import.reverse': ['ledger', subjectThen('reversed')],
  'import.discard': ['ledger', subjectThen('discarded')],
  'entry.correct': ['ledger', subjectThen('corrected')],
  'entry.reclassify': ['ledger', subjectThen('reclassified')],
  'entry.undo': ['ledger', subjectThen('undone')],
  'entry.create': ['ledger', ({ subject }) => `${capitalized(subject)} ${subject.startsWith('draft') ? 'created' : 'posted'}`],
  'entry.post': ['ledger', subjectThen('posted')],
  'entry.discard': ['ledger', subjectThen('discarded')],
  'template.save': ['ledger', ({ subject }) => `Template “${subject}” saved`],
  'template.remove': ['ledger', ({ subject }) => `Template “${subject}” removed`],
  'period.close': ['ledger', ({ subject, details }) => `${capitalized(subject)} ${String(details['state'])}`],
  'period.reopen': [
    'ledger',
    ({ subject, details }) => `${capitalized(subject)} reopened${details['state'] === 'open' ? '' : ` to ${String(details['state'])}`}`,
  ],
  'period.lastActual': ['ledger', () => 'Last month of actuals'],
  'period.people': ['ledger', () => 'People who may post in soft-closed periods'],
  'reconciliation.import': [
    'ledger',
    ({ subject, details }) => `${capitalized(subject)} imported, ${String(details['from'])} to ${String(details['to'])}`,
  ],
  'reconciliation.remove': ['ledger', ({ details }) => `Bank statement ${String(details['file'])} removed`],
  'reconciliation.clear': [
    'ledger',
    ({ subject, details }) => `Bank reconciliation of ${subject}, ${String(details['clearings'])} cleared`,
  ],
  'reconciliation.unclear': ['ledger', subjectThen('taken back')],
  'reconciliation.explain': ['ledger', ({ subject }) => `Bank reconciliation, ${subject} explained`],
  'reconciliation.mark': [
    'ledger',
    ({ subject, details }) =>
      `Bank reconciliation of ${subject}, line ${details['isOutstanding'] === true ? 'marked' : 'no longer marked'} as outstanding`,
  ],
  'statistics.aggregation': ['ledger', ({ subject }) => `Aggregation of ${subject}`],
  'statistics.import': ['ledger', ({ details }) => `Statistics imported, ${count(details['values'])}`],
  'fiscalYear.open': ['settings', subjectThen('added')],
  'nonrecurringItem.add': ['budgets', ({ subject }) => `Nonrecurring item added, ${subject}`],
  'nonrecurringItem.remove': ['budgets', subjectThen('removed')],
  'view.create': ['views', viewThen('saved')],
  'view.change': ['views', viewThen('changed')],
  'view.remove': ['views', viewThen('deleted')],
  'finding.change': ['views', ({ subject }) => `Finding ${subject}`],
  'finding.note': ['views', ({ subject, details }) => `${details['kind'] === 'answer' ? 'Answer' : 'Question'} on finding ${subject}`],
  'posting.answer': ['ledger', ({ subject, details }) => `Suspected posting ${subject} answered: ${String(details['answer'])}`],
  'pack.create': ['views', packThen('created')],
  'pack.change': ['views', packThen('changed')],
  'pack.remove': ['views', packThen('deleted')],
  'pack.month': ['views', ({ details }) => `Pack for ${String(details['month'])}`],
  'pack.issue': [
    'views',
    ({ details }) => `Pack ${String(details['name'])} issued for ${String(details['month'])}, issue ${String(details['number'])}`,
  ],
  'mail.send': ['views', ({ subject, details }) => `Mail of ${subject}: ${String(details['subject'])}`],
  'mail.list': ['settings', ({ subject }) => `Mail list ${subject} saved`],
  'schedule.save': ['settings', ({ subject, details }) => `Schedule ${subject} ${details['isHeld'] === true ? 'held' : 'saved'}`],
  'schedule.remove': ['settings', ({ subject }) => `Schedule ${subject} deleted`],
  'holidays.import': ['settings', ({ details }) => `Holidays imported, ${String(details['days'])} days`],
  'packShare.create': ['views', ({ subject, details }) => `Link to ${subject} made, through ${String(details['expires'])}`],
  'packShare.revoke': ['views', ({ subject }) => `Link to ${subject} revoked`],
  'companyRun.start': ['views', ({ subject, details }) => `Pack ${subject} issued for companies, ${String(details['month'])}`],
  'companyGroup.create': ['settings', ({ details }) => `Company group ${String(details['name'])} created`],
  'companyGroup.change': ['settings', ({ details }) => `Company group ${String(details['name'])} changed`],
  'companyGroup.remove': ['settings', ({ details }) => `Company group ${String(details['name'])} deleted`],
  'exchangeRates.change': ['settings', ({ subject }) => `Exchange rates ${subject.replace('-', ' to ')} changed`],
  'materiality.change': ['settings', forAll('Materiality limits changed')],
  'materiality.remove': ['settings', () => 'Own materiality limits removed'],
  'driver.change': ['settings', ({ subject }) => `Driver of ${subject} changed`],
  'benchmark.change': [
    'settings',
    ({ subject, details }) =>
      `Benchmark of ${subject}${details['value'] === null ? ' removed' : ''}${details['scope'] === 'all' ? ' for all companies' : ''}`,
  ],
  'logo.change': ['settings', subjectThen('changed')],
  'logo.remove': ['settings', subjectThen('removed')],
  'demo.remove': ['settings', subjectThen('removed')],
};
const count = (value: unknown): string => (typeof value === 'number' ? `${value.toLocaleString('en-US')} values` : '');

/** Actions of an area, as patterns of what is recorded: a prefix that ends in a point, or a whole action. */
export function auditActionsOf(area: AuditArea): readonly string[] {
  const own = Object.entries(ACTIONS).flatMap(([action, [of]]) => (of === area ? [action] : []));
  return area === 'budgets' ? ['budget.', ...own] : own;
}

export function auditAreaOf(action: string): AuditArea {
  return action.startsWith('budget.') ? 'budgets' : (ACTIONS[action]?.[0] ?? 'settings');
}

/** What happened, in a few words. */
export function auditWords(record: AuditRecord, names: AuditNames): string {
  const { action, subject, details } = record;
  if (action.startsWith('budget.')) {
    const name = names.budget(Number(subject.replace(/\D+/g, '')));
    return `${name}: ${budgetMilestoneWords(action, details, names.budget)}`;
  }
  return ACTIONS[action]?.[1](record, names) ?? `${subject}: ${action}`;
}
