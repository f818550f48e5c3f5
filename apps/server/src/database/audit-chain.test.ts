import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { AuditChainReader, type AuditFault, auditHash, type AuditHead, type AuditRow, FIRST_HASH } from './audit-chain.ts';

function chainOf(subjects: readonly string[]): AuditRow[] {
  let previous_hash = FIRST_HASH;
  return subjects.map((subject, index) => {
    const content = { id: index + 1, company_id: 1, at: '2026-11-09T08:00:00.000Z', actor: 'Dana', action: 'import.post', subject };
    const row = { ...content, details: '{}', reason: '', changes: '[]', previous_hash };
    previous_hash = auditHash(row);
    return { ...row, hash: previous_hash };
  });
}
const headOf = (rows: readonly AuditRow[]): AuditHead => ({ id: rows.length, hash: rows.at(-1)?.hash ?? FIRST_HASH });
function faultsOf(rows: readonly AuditRow[], head: AuditHead): readonly AuditFault[] {
  const reader = new AuditChainReader();
  for (const row of rows) reader.read(row);
  return reader.finish(head).faults;
}
const five = chainOf(['import 1', 'import 2', 'FY2028', 'import 3', 'logo']);

describe('a chain of audit events', () => {
  it('has no fault as it was written, and none when it is empty', () => {
    expect(faultsOf(five, headOf(five))).toEqual([]);
    expect(faultsOf([], { id: 0, hash: FIRST_HASH })).toEqual([]);
  });

  it('names an event whose content was changed', () => {
    const rows = five.map((row) => (row.id === 3 ? { ...row, actor: 'Nobody' } : row));
    expect(faultsOf(rows, headOf(five))).toEqual([
      { id: 3, kind: 'changed', words: 'Event 3 was changed: import.post of FY2028 by Nobody, 2026-11-09T08:00:00.000Z.' },
    ]);
  });

  it('names the place where an event was changed and its hash made again', () => {
    const forged = { ...five[2]!, actor: 'Nobody' };
    const rows = five.map((row) => (row.id === 3 ? { ...forged, hash: auditHash(forged) } : row));
    expect(faultsOf(rows, headOf(five))).toMatchObject([{ id: 4, kind: 'inserted' }]);
  });

  it('names events that were removed: in the middle, and at the end', () => {
    expect(faultsOf([...five.slice(0, 1), ...five.slice(3)], headOf(five))).toEqual([
      { id: 2, kind: 'removed', words: 'Events 2 to 3 were removed.' },
    ]);
    expect(faultsOf(five.slice(0, 4), headOf(five))).toEqual([{ id: 5, kind: 'removed', words: 'Event 5 was removed.' }]);
  });

  it('names an event inserted at the end, and one replaced there', () => {
    const longer = chainOf([...five.map(({ subject }) => subject), 'import 9']);
    expect(faultsOf(longer, headOf(five))).toMatchObject([{ id: 6, kind: 'inserted' }]);
    const replaced = chainOf([...five.slice(0, 4).map(({ subject }) => subject), 'import 9']);
    expect(faultsOf(replaced, headOf(five))).toMatchObject([{ id: 5, kind: 'changed' }]);
  });

  it('has a fault after any change of any field of any event', () => {
    const field = fc.constantFrom('at', 'actor', 'action', 'subject', 'details', 'reason', 'changes', 'previous_hash', 'hash');
    fc.assert(
      fc.property(fc.array(fc.string(), { minLength: 1, maxLength: 8 }), fc.nat(), field, fc.string(), (subjects, at, name, text) => {
        const rows = chainOf(subjects);
        const position = at % rows.length;
        const before = rows[position]![name as keyof AuditRow];
        fc.pre(before !== text);
        const changed = rows.map((row, index) => (index === position ? { ...row, [name]: text } : row));
        expect(faultsOf(changed, headOf(rows)).length).toBeGreaterThan(0);
      }),
      { seed: 12, numRuns: 200 },
    );
  });
});
