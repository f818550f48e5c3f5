import { EMPTY_TEXT, type Section, type SectionContent, type SectionKind } from '@wise-margin/core';

/** Names of the kinds of sections, in the order they are offered. */
export const SECTION_KINDS: readonly (readonly [SectionKind, string])[] = [
  ['cover', 'Cover'],
  ['contents', 'Contents'],
  ['text', 'Text'],
  ['statement', 'Statement'],
  ['measures', 'Key measures'],
  ['charts', 'Charts by month'],
  ['bridge', 'Bridge'],
  ['findings', 'Findings with comments'],
  ['budgetChecks', 'Budget checks'],
  ['aging', 'Aging'],
  ['parties', 'Largest customers or vendors'],
  ['trialBalance', 'Trial balance'],
  ['accountDetail', 'Account detail'],
  ['notes', 'Notes'],
];
const NAMES = new Map(SECTION_KINDS);
export const kindName = (kind: SectionKind): string => NAMES.get(kind) ?? kind;

const CONTENTS: Readonly<Record<SectionKind, SectionContent>> = {
  cover: { kind: 'cover', subtitle: '', preparedBy: '', logo: true },
  contents: { kind: 'contents' },
  text: { kind: 'text', written: 'monthly', text: EMPTY_TEXT },
  statement: { kind: 'statement', view: 'income', comparison: 'asSaved', filter: {}, display: {}, open: [] },
  measures: { kind: 'measures', lines: ['revenue', 'gross_margin', 'operating_income'] },
  charts: { kind: 'charts', view: 'income', lines: ['revenue', 'operating_income'] },
  bridge: { kind: 'bridge', view: 'income', line: 'operating_income', comparison: 'budget', span: 'month', by: 'line' },
  findings: { kind: 'findings', comparison: 'budget', onlyCommented: false },
  budgetChecks: { kind: 'budgetChecks' },
  aging: { kind: 'aging', of: 'receivables', detail: false },
  parties: { kind: 'parties', of: 'customers', count: 10 },
  trialBalance: { kind: 'trialBalance', compare: 'none' },
  accountDetail: { kind: 'accountDetail', accountClass: 'operatingExpenses' },
  notes: { kind: 'notes' },
};
const TITLES: Readonly<Partial<Record<SectionKind, string>>> = {
  statement: 'Income statement',
  aging: 'Receivables aging',
  parties: 'Largest customers',
};

/** A new section of a kind, with an id that none of the others has. Receivables begin as of the meeting. */
export function newSection(kind: SectionKind, others: readonly Section[]): Section {
  return {
    id: freeId(kind.toLowerCase(), others),
    title: TITLES[kind] ?? kindName(kind),
    date: { kind: kind === 'aging' ? 'meeting' : 'month' },
    hidden: false,
    condition: { kind: 'always' },
    orientation: 'auto',
    startsPage: true,
    ...CONTENTS[kind],
  };
}

/** A section again, right after itself. */
export function withCopy(sections: readonly Section[], id: string): Section[] {
  return sections.flatMap((section) =>
    section.id === id
      ? [section, { ...section, id: freeId(section.kind.toLowerCase(), sections), title: `${section.title}, copy` }]
      : [section],
  );
}

function freeId(kind: string, others: readonly Section[]): string {
  const taken = new Set(others.map(({ id }) => id));
  for (let number = 1; ; number += 1) {
    const id = number === 1 ? kind : `${kind}-${number}`;
    if (!taken.has(id)) return id;
  }
}

/** The sections with one of them at another place. */
export function moved(sections: readonly Section[], id: string, to: number): Section[] {
  const section = sections.find((each) => each.id === id);
  if (!section) return [...sections];
  const others = sections.filter((each) => each.id !== id);
  return [...others.slice(0, to), section, ...others.slice(to)];
}
