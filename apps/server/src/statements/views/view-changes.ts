import type { NewView } from '@wise-margin/contract';

import type { AuditChange } from '../../database/audit-chain.ts';
import type { ViewRow } from './view-row.ts';

const DEFINITIONS = { lineSet: 'lines', columnSet: 'columns', display: 'display', choices: 'filters' } as const;

/** What a save changes: texts as they were and are, definitions by the version that holds them. */
export function viewChanges(row: ViewRow, parts: Partial<NewView>, next: number): AuditChange[] {
  const texts = (
    [
      ['name', row.name],
      ['folder', row.folder],
      ['note', row.note],
    ] as const
  ).flatMap(([what, from]) => {
    const to = parts[what];
    return to === undefined || to === from ? [] : [{ what: what === 'note' ? 'description' : what, from, to }];
  });
  const shared =
    parts.shared === undefined || parts.shared === (row.shared === 1)
      ? []
      : [{ what: 'shared', from: parts.shared ? 'no' : 'yes', to: parts.shared ? 'yes' : 'no' }];
  const version = (number: number) => `version ${number}`;
  const definitions = (Object.keys(DEFINITIONS) as (keyof typeof DEFINITIONS)[]).flatMap((part) =>
    parts[part] === undefined ? [] : [{ what: DEFINITIONS[part], from: version(row.version), to: version(next) }],
  );
  return [...texts, ...shared, ...definitions];
}
