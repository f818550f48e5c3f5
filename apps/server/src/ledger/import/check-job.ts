import type { ImportDto } from '@wise-margin/contract';

import type { Seal } from './seal.ts';

/** What a check needs to know; it goes to a worker, so it is plain data. */
export type CheckJob = {
  readonly dataDirectory: string;
  readonly directory: string;
  readonly importId: number;
  readonly companyId: number | null;
  readonly company: { readonly currency: string; readonly startMonth: number; readonly hasAdjustmentPeriod: boolean };
  readonly accountsFile: boolean;
  readonly ledgerFile: boolean;
  readonly fileNames: { readonly accounts?: string; readonly ledger?: string };
  readonly choices: ImportChoices;
  /** periods that take no entry of whoever imports, as fiscal year times 100 and period number */
  readonly closed: readonly number[];
};

/** What a person answered to what a check asked. */
export type ImportChoices = {
  /** how files with stray bytes are read */
  readonly encoding?: 'utf-8' | 'windows-1252';
  /** unknown columns that are dimensions */
  readonly dimensions?: readonly string[];
};

/** Highest row numbers when the check ran: staged rows are numbered after them, and a posting in between asks for a new check. */
export type NumberBase = Readonly<Record<'companies' | 'accounts' | 'combinations' | 'parties' | 'entries' | 'lines', number>>;

export type CheckResult = {
  readonly files: ImportDto['files'];
  readonly preview: ImportDto['preview'];
  readonly base: NumberBase;
  readonly rowsRead: number;
  readonly issueCount: number;
  readonly seal: Seal;
};

/** Small lists staged beside the chunks, inserted before them. */
export type StagedSetup = {
  readonly years: readonly number[];
  readonly dimensions: readonly string[];
  readonly accounts: readonly {
    id: number;
    position: number;
    number: string;
    name: string;
    class: string;
    group: string | null;
    active: boolean;
    polarity: string | null;
    cashflow: string | null;
  }[];
  readonly changedAccounts: readonly {
    id: number;
    name: string;
    group: string | null;
    active: boolean;
    polarity: string | null;
    cashflow: string | null;
  }[];
  readonly combinations: readonly { id: number; values: string }[];
  readonly parties: readonly { id: number; name: string }[];
};

/** Messages a check worker sends. */
export type CheckMessage =
  | { readonly kind: 'progress'; readonly rowsRead: number }
  | { readonly kind: 'done'; readonly result: CheckResult }
  | { readonly kind: 'failed'; readonly message: string };
