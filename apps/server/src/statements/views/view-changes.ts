import type { AuditChange } from '../../database/audit-chain.ts';
import type { ViewRow } from './view-row.ts';

/** What of a view a save writes. */
export type SavedView = Pick<
  ViewRow,
  'name' | 'folder' | 'note' | 'line_set' | 'column_set' | 'lines_of' | 'columns_of' | 'display' | 'choices' | 'shared'
>;
const TEXTS = { name: 'name', folder: 'folder', note: 'description' } as const;
const DEFINITIONS = { line_set: 'lines', column_set: 'columns', display: 'display', choices: 'filters' } as const;
const SOURCES = { lines_of: 'lines', columns_of: 'columns' } as const;
const keysOf = <Key extends string>(names: Readonly<Record<Key, string>>) => Object.keys(names) as Key[];

/** What a save changes: texts as they were and are, definitions by the version that holds them or the view they are taken from. */
export function viewChanges(before: ViewRow, after: SavedView, version: number): AuditChange[] {
  const texts = keysOf(TEXTS).map((field) => ({ what: TEXTS[field], from: before[field], to: after[field] }));
  const inWords = (shared: number) => (shared === 1 ? 'yes' : 'no');
  const shared = { what: 'shared', from: inWords(before.shared), to: inWords(after.shared) };
  const moved = keysOf(SOURCES).filter((source) => before[source] !== after[source]);
  const sources = moved.map((source) => ({
    what: SOURCES[source],
    from: before[source] === null ? 'own' : `of ${before[source]}`,
    to: after[source] === null ? 'own' : `of ${after[source]}`,
  }));
  const definitions = keysOf(DEFINITIONS)
    .filter((part) => before[part] !== after[part] && !moved.some((source) => SOURCES[source] === DEFINITIONS[part]))
    .map((part) => ({ what: DEFINITIONS[part], from: `version ${before.version}`, to: `version ${version}` }));
  return [...[...texts, shared].filter(({ from, to }) => from !== to), ...sources, ...definitions];
}
