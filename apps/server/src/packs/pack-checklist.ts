import type { PackChecklistDto } from '@wise-margin/contract';
import { isEmptyText, longPeriodName, periodAt } from '@wise-margin/core';

import { type Books, periodCode, periodOf, periodStates } from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import type { FindingList, TieOuts } from '../findings/index.ts';
import type { PackContent } from './content/content.ts';
import type { PackRequest } from './content/pack-builder.ts';

type Item = PackChecklistDto['items'][number];
type Parts = { readonly database: Database; readonly findingList: FindingList; readonly tieOuts: TieOuts };

/** Whether anything of a document shows: a section that is neither hidden nor left out by its condition. */
export const hasSections = ({ sections }: PackContent): boolean => sections.some(({ omissionReason }) => omissionReason === '');

/** What wants a look before a pack is issued. Nothing of it stops the issue: whoever issues decides, having read it. */
export async function packChecklist(
  { database, findingList, tieOuts }: Parts,
  books: Books,
  { request, contents }: { readonly request: PackRequest; readonly contents: readonly PackContent[] },
): Promise<Item[]> {
  const { month, design, texts } = request;
  const items: Item[] = [];
  const asOf = periodOf(books, month);
  const period = periodAt(books.calendar, asOf);
  const monthName = longPeriodName(books.calendar, asOf);
  const [drafts] = await database.select<{ count: number }>(
    `SELECT count(*) AS count FROM entries WHERE company_id = $1 AND state = 'draft' AND date <= $2`,
    [books.id, period.end],
  );
  if (drafts!.count > 0)
    items.push({
      kind: 'drafts',
      words: counted(drafts!.count, 'draft entry is', 'draft entries are') + ` not posted through ${monthName}.`,
      link: 'ledger/drafts',
    });
  const state = (await periodStates(database, books.id)).get(periodCode(period.year, period.number)) ?? 'open';
  if (state === 'open') items.push({ kind: 'openMonth', words: `${monthName} is not closed.`, link: 'ledger/periods' });
  const ties = await tieOuts.list(books.id, month);
  for (const { agrees, name } of ties.tieOuts)
    if (!agrees) items.push({ kind: 'tieOuts', words: `Tie-out fails: ${name}.`, link: `findings/tie-outs?asOf=${month}` });
  const { findings } = await findingList.list(books.id, { view: 'income', asOf: month, comparison: 'budget' });
  const open = findings.filter(({ status, isEarlier }) => (status === 'open' || status === 'needsCorrection') && !isEarlier);
  if (open.length > 0)
    items.push({
      kind: 'findings',
      words: `${counted(open.length, 'finding exceeding its threshold is', 'findings exceeding their thresholds are')} still open: ${listed(open.map(({ name }) => name))}.`,
      link: `findings/variances?asOf=${month}`,
    });
  const shown = new Set(
    contents.flatMap(({ sections }) => sections.filter(({ omissionReason }) => omissionReason === '').map(({ id }) => id)),
  );
  for (const section of design.sections)
    if (
      section.kind === 'text' &&
      shown.has(section.id) &&
      isEmptyText(section.written === 'monthly' ? (texts[section.id] ?? section.text) : section.text)
    )
      items.push({ kind: 'missingText', words: `${section.title} has no text.`, link: '' });
  for (const content of contents)
    if (!hasSections(content))
      items.push({ kind: 'section', words: `${content.slice === '' ? design.name : content.slice}: no section is included.`, link: '' });
  for (const { slice, sections } of contents)
    for (const { kind, title, notes } of sections)
      if (kind !== 'text')
        for (const note of notes) items.push({ kind: 'section', words: `${slice === '' ? '' : `${slice}: `}${title}: ${note}`, link: '' });
  return items;
}

const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;
const MOST_LISTED = 5;
const listed = (names: readonly string[]): string =>
  names.length <= MOST_LISTED ? names.join(', ') : `${names.slice(0, MOST_LISTED).join(', ')} and ${names.length - MOST_LISTED} more`;
