import { type CheckedLedger, checkPostings, type LineColumns, LineTable, type Suspect } from '@wise-margin/core';

import type { Task } from '../work/task.ts';

/** A ledger as it crosses to a worker: its columns without the table around them. */
export type PostingTaskInput = Omit<CheckedLedger, 'table'> & { readonly columns: LineColumns };

/** Looks at every posting of a ledger. */
export const POSTING_CHECK: Task<PostingTaskInput, Suspect[]> = {
  name: 'posting-check',
  run: ({ columns, ...ledger }) => Promise.resolve(checkPostings({ ...ledger, table: LineTable.fromColumns(columns) })),
};
/** What this feature runs apart from the thread that answers requests. */
export const FINDING_TASKS = [POSTING_CHECK];
