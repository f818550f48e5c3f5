import type { Scope } from '@wise-margin/contract';

/** A saved view as it is in the database. */
export type ViewRow = {
  id: number;
  /** null for all companies */
  company_id: number | null;
  /** the view for all companies that it is a company's version of */
  version_of: number | null;
  name: string;
  folder: string;
  note: string;
  line_set: string;
  column_set: string;
  /** keys of the views that its lines and columns are taken from; null for its own */
  lines_of: string | null;
  columns_of: string | null;
  display: string;
  choices: string;
  shared: number;
  owner: string;
  version: number;
  saved_at: string;
};

/** A view of a company: its key. */
export type ViewPlace = { readonly company: number; readonly view: string };

/** A company's version of a view has the key of the view, so that whatever names it finds either. */
export const viewKeyOf = ({ id, version_of: of }: Pick<ViewRow, 'id' | 'version_of'>): string => `view-${of ?? id}`;
/** The number in the key of a saved view; null for any other text. */
export const viewIdOf = (key: string): number | null => (/^view-\d{1,12}$/.test(key) ? Number(key.slice('view-'.length)) : null);
export const scopeOf = ({ company_id: company }: Pick<ViewRow, 'company_id'>): Scope => (company === null ? 'all' : 'company');
