import type { EntryEffectDto } from '@wise-margin/contract';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';

type Row = { readonly name: string; readonly changes: ReadonlyMap<string, number> };

/** Rows of the same name as one, with a change for each month. */
function rowsOf(changes: readonly { readonly name: string; readonly month: string; readonly change: number }[]): Row[] {
  const rows = new Map<string, Map<string, number>>();
  for (const { name, month, change } of changes) {
    const row = rows.get(name) ?? new Map<string, number>();
    rows.set(name, row);
    row.set(month, change);
  }
  return [...rows].map(([name, of]) => ({ name, changes: of }));
}

/** What a change of entries does, before it is made: accounts, then the lines of the statements, month by month. */
export function EffectTable({ effect }: { readonly effect: EntryEffectDto }) {
  const { exponent } = useCompany();
  const months = [...new Set(effect.accounts.map(({ month }) => month))];
  const statements = [...new Set(effect.statementLines.map(({ statement }) => statement))];
  if (effect.accounts.length === 0) return <p className="text-[13px] text-ink-soft">No balance changes.</p>;
  const groups = [
    ['Accounts', rowsOf(effect.accounts.map(({ number, name, ...of }) => ({ name: `${number} ${name}`, ...of })))] as const,
    ...statements.map(
      (each) =>
        [
          each,
          rowsOf(effect.statementLines.filter(({ statement }) => statement === each).map(({ line, ...of }) => ({ name: line, ...of }))),
        ] as const,
    ),
  ];
  return (
    <table className="ledger-table">
      <thead>
        <tr>
          <th scope="col" className="border-b border-ink pr-6">
            Change
          </th>
          {months.map((month) => (
            <th key={month} scope="col" className="border-b border-ink pl-4 text-right!">
              {month}
            </th>
          ))}
        </tr>
      </thead>
      {groups.map(([title, rows]) => (
        <tbody key={title}>
          <tr>
            <th scope="rowgroup" colSpan={months.length + 1} className="text-ink-soft">
              {title}
            </th>
          </tr>
          {rows.map(({ name, changes }) => (
            <tr key={name}>
              <td className="pl-4!">{name}</td>
              {months.map((month) => (
                <td key={month} className="figure">
                  {changes.has(month) ? <Amount value={changes.get(month)!} exponent={exponent} /> : null}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  );
}
