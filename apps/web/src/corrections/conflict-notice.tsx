import type { EntryDto } from '@wise-margin/contract';
import { type EntryContent, entryDifferences, formatAmount, type Minor } from '@wise-margin/core';

import { useCompany } from '../data/company.ts';
import { contentOfDraft, draftOf } from './entry-draft.ts';

/** What someone else changed since the entry was opened, beside what is typed here; the person decides which holds. */
export function ConflictNotice({
  opened,
  theirs,
  mine,
  takeTheirs,
  keepMine,
}: {
  readonly opened: EntryDto;
  readonly theirs: EntryDto;
  /** null while it cannot be read */
  readonly mine: EntryContent | null;
  readonly takeTheirs: () => void;
  readonly keepMine: () => void;
}) {
  const { exponent } = useCompany();
  const content = (entry: EntryDto): EntryContent | null => {
    const read = contentOfDraft(draftOf(entry, exponent), { ...entry, exponent });
    return 'content' in read ? read.content : null;
  };
  const before = content(opened);
  const changes = (after: EntryContent | null) =>
    new Map(before && after ? entryDifferences(before, after).map((each) => [`${each.line}\n${each.field}`, each] as const) : []);
  const [byThem, byMe] = [changes(content(theirs)), changes(mine)];
  const text = (value: string | number | null | undefined): string =>
    value === null || value === undefined || value === ''
      ? 'none'
      : typeof value === 'number'
        ? `${value < 0 ? 'credit' : 'debit'} ${formatAmount(Math.abs(value) as Minor, { exponent, unit: 'cents' })}`
        : value;
  const rows = [...new Map([...byThem, ...byMe])].map(([key, { line, field, from }]) => ({
    key,
    name: line === 0 ? field : `line ${line}, ${field}`,
    opened: text(from),
    theirs: text(byThem.has(key) ? byThem.get(key)!.to : from),
    mine: text(byMe.has(key) ? byMe.get(key)!.to : from),
  }));
  return (
    <section role="alert" aria-label="Changed by someone else" className="mt-2 border border-brick p-3">
      <p className="font-semibold text-brick">This entry was changed by someone else while it was open here.</p>
      <table className="ledger-table mt-2">
        <thead>
          <tr>
            {['Field', 'When opened', 'Theirs, in the ledger', 'Yours, not posted'].map((name) => (
              <th key={name} scope="col" className="border-b border-ink pr-6">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key}>
              <th scope="row" className="pr-6! font-normal!">
                {row.name}
              </th>
              <td className="pr-6!">{row.opened}</td>
              <td className="pr-6!">{row.theirs}</td>
              <td className="pr-6!">{row.mine}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 flex gap-2">
        <button type="button" className="button" onClick={takeTheirs}>
          Start again from theirs
        </button>
        <button type="button" className="button" onClick={keepMine}>
          Keep yours, replacing theirs
        </button>
      </p>
    </section>
  );
}
