import { isFilterParameter, type ReportKey } from '@wise-margin/contract';

/** A report's choices as the address holds them: each with its value when nothing is chosen. `range` follows the as-of month. */
export const CHOICES: Readonly<Record<ReportKey, Readonly<Record<string, string>>>> = {
  'trial-balance': { range: '', compare: 'none', budget: '', unit: 'cents', drafts: 'no', zero: 'no', inactive: 'no' },
  'account-detail': { range: '', accounts: '', class: '', find: '', unit: 'cents', drafts: 'no', idle: 'no', apart: 'no' },
  journals: { range: '', detail: 'no', unit: 'cents', drafts: 'no' },
  activity: { range: '', kind: 'customers', unit: 'cents', drafts: 'no' },
  aging: {
    kind: 'receivables',
    day: 'today',
    by: 'due',
    per: 'days',
    size: '30',
    count: '3',
    detail: 'no',
    unit: 'cents',
    percents: '',
    party: '',
  },
};
export const REPORT_NAMES: Readonly<Record<ReportKey, string>> = {
  'trial-balance': 'Trial balance',
  'account-detail': 'Account detail',
  journals: 'Journals',
  activity: 'Customers and vendors',
  aging: 'Aging',
};

/** What a report is run with, as texts. */
export type ReportChoices = Readonly<Record<string, string>>;

/** The choices in the address over those a report has at first; its range is the as-of month while none is typed. */
export function readChoices(report: ReportKey, search: URLSearchParams, asOf: string): ReportChoices {
  return Object.fromEntries(
    Object.entries(CHOICES[report]).map(([name, byDefault]) => [name, search.get(name) ?? (name === 'range' ? asOf : byDefault)]),
  );
}

/** The choices made in an address, as an address. */
export function chosenIn(report: ReportKey, search: URLSearchParams): string {
  const chosen = [...search].filter(([name]) => name in CHOICES[report] || isFilterParameter(name));
  return new URLSearchParams(chosen).toString();
}

const place = (company: number, report: ReportKey): string => `wise-margin.report.${company}.${report}`;
/** What a person last chose for a report on this computer, as an address; empty for nothing. */
export const rememberedChoices = (company: number, report: ReportKey): string => localStorage.getItem(place(company, report)) ?? '';
export const rememberChoices = (company: number, report: ReportKey, chosen: string): void =>
  localStorage.setItem(place(company, report), chosen);

/** The query that choices stand for; the day of an aging is `asOf` to the server, which the address keeps for the statement's month. */
export function reportQuery(report: ReportKey, choices: ReportChoices): Record<string, string> {
  const { day, ...others } = choices;
  return report === 'aging' ? { ...others, asOf: day === 'today' ? '' : day! } : others;
}
