import type { ScheduledWork, ScheduleFormat } from '@wise-margin/contract';
import { longPeriodName, periodAt, type PeriodIndex, type ScheduledRun } from '@wise-margin/core';
import { stringify } from 'csv-stringify/sync';

import type { Books } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import { safeText } from '../formats/safe-text.ts';
import { refused } from '../http/problem.ts';
import type { MailFields, MailFile, MailService } from '../mail/index.ts';
import type { PackStore } from '../packs/index.ts';
import { EXPORT_FORMATS, exportedStatement, type StatementService, type ViewStore } from '../statements/index.ts';
import type { WorkPool } from '../work/work-pool.ts';
import type { StoredSchedule } from './schedule-store.ts';
import { WATCH_NAMES, type WatchReports } from './watch-reports.ts';

/** Lines of a watch report that stand in the mail itself; all are in the file attached. */
const LINES_IN_TEXT = 50;
type Parts = {
  readonly packStore: PackStore;
  readonly views: ViewStore;
  readonly statements: StatementService;
  readonly watchReports: WatchReports;
  readonly mail: MailService;
  readonly work: WorkPool;
  readonly actor: Actor;
};
/** What a run of a view or a watch report mails; null when it has nothing to say. */
export type Prepared = {
  readonly fields: MailFields;
  readonly more: string;
  readonly files: readonly MailFile[];
  readonly note: string;
} | null;
type Asked = {
  readonly books: Books;
  readonly schedule: StoredSchedule;
  readonly run: ScheduledRun;
  readonly period: PeriodIndex;
  /** the moment of the report before */
  readonly since: number | null;
};

/** Views and watch reports as they are mailed. */
export class ScheduledMail {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** What is sent, by its name. @throws ProblemError 404 for a pack or view that is not there */
  async nameOf(companyId: number, what: ScheduledWork): Promise<string> {
    const { packStore, views, actor } = this.#parts;
    switch (what.kind) {
      case 'pack':
        return (await packStore.of({ company: companyId, pack: what.pack })).name;
      case 'view':
        return (await views.of(companyId, what.view, actor)).name;
      case 'watch':
        return WATCH_NAMES[what.watch.kind];
    }
  }

  /** The fields that the texts of a schedule may hold, with what they would stand for. */
  fieldsOf(
    companyId: number,
    what: ScheduledWork,
    of: { readonly name: string; readonly company: string; readonly month: string },
  ): MailFields {
    const path =
      what.kind === 'pack' ? `packs/${what.pack}` : what.kind === 'view' ? `statements/${what.view}` : WATCH_PAGES[what.watch.kind];
    const fields = { ...of, link: this.#parts.mail.pageAddress(companyId, path) };
    return what.kind === 'pack' ? { ...fields, pack: of.name, issue: '1', fingerprint: '' } : fields;
  }

  /** A view in the formats asked for. */
  async view(view: string, { books, schedule, period }: Asked): Promise<Prepared> {
    const { statements, work } = this.#parts;
    const { key: asOf } = periodAt(books.calendar, period);
    const evaluated = await statements.evaluated(books.id, view, { asOf, filter: {} });
    const { openAll } = evaluated.dto().view;
    const statement = exportedStatement(evaluated, { query: { open: openAll ? 'all' : '' }, logo: null });
    const files: MailFile[] = [];
    for (const { extension, type, write } of EXPORT_FORMATS) {
      if (!schedule.formats.includes(extension)) continue;
      const content = await write(statement, { pool: work, signal: new AbortController().signal });
      files.push({ name: `${view}-${asOf}.${extension}`, type, content: Buffer.from(content) });
    }
    const month = longPeriodName(books.calendar, period);
    const fields = this.fieldsOf(books.id, schedule.what, { name: statement.dto.head.title, company: books.name, month });
    return { fields, more: '', files, note: `${statement.dto.head.title}, ${month}` };
  }

  /** A watch report; null while there is nothing to report. */
  async watch(watch: Extract<ScheduledWork, { readonly kind: 'watch' }>['watch'], asked: Asked): Promise<Prepared> {
    const { books, schedule, run, period, since } = asked;
    const { lines, table } = await this.#parts.watchReports.report(books, watch, { since, until: run.at, asOf: period });
    if (lines.length === 0) return null;
    const name = WATCH_NAMES[watch.kind];
    const month = longPeriodName(books.calendar, period);
    const more = lines.length > LINES_IN_TEXT ? [`${lines.length - LINES_IN_TEXT} more are in the file attached.`] : [];
    const csv = stringify([table.headings, ...table.rows].map((row) => row.map(csvText)));
    return {
      fields: this.fieldsOf(books.id, schedule.what, { name, company: books.name, month }),
      more: [...lines.slice(0, LINES_IN_TEXT), ...more].join('\n'),
      files: [
        {
          name: `${watch.kind === 'tieOuts' ? 'tie-outs' : watch.kind}-${run.date}.csv`,
          type: 'text/csv',
          content: Buffer.from(`\ufeff${csv}`),
        },
      ],
      note: `${lines.length} ${lines.length === 1 ? 'line' : 'lines'} reported`,
    };
  }
}

const WATCH_PAGES = { postings: 'ledger/entries', tieOuts: 'findings/tie-outs', drafts: 'ledger/drafts' } as const;
const csvText = (text: string): string => (/^-?\d+(\.\d+)?$/.test(text) ? text : safeText(text));

/** Formats that a kind of work is not written in are refused. @throws ProblemError 422 */
export function refuseOtherFormats(what: ScheduledWork, formats: readonly ScheduleFormat[]): void {
  const known: readonly ScheduleFormat[] = what.kind === 'pack' ? ['pdf', 'docx', 'xlsx', 'html'] : ['pdf', 'docx', 'xlsx', 'csv'];
  const other = what.kind === 'watch' ? undefined : formats.find((format) => !known.includes(format));
  if (other !== undefined)
    throw refused(
      `A ${what.kind} is not written as ${other.toUpperCase()}. Choose ${known.map((format) => format.toUpperCase()).join(', ')}.`,
      'formats',
    );
  if (what.kind === 'view' && formats.length === 0) throw refused('Choose at least one format for the view.', 'formats');
}
