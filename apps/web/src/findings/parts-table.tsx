import type { VarianceExplanationDto } from '@wise-margin/contract';
import { useState } from 'react';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import type { ListColumn } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';

export type Layout = VarianceExplanationDto['layouts'][number];
type Part = Layout['parts'][number];

/** The fewest parts that explain four fifths of a difference; the others folded with their sum. They add up to it exactly. */
export function PartsTable({
  explanation: { headings, line },
  layout,
  addressOf,
  openEntry,
}: {
  readonly explanation: VarianceExplanationDto;
  readonly layout: Layout;
  readonly addressOf: (key: string) => string | null;
  readonly openEntry: (entry: number) => void;
}) {
  const { exponent } = useCompany();
  const [isOpen, setOpen] = useState(false);
  const { parts, shown, rest, total } = layout;
  const folds = parts.length + rest.count > shown + 1;
  const listed = folds && !isOpen ? parts.slice(0, shown) : parts;
  const left = parts.slice(listed.length);
  const others = { count: left.length + rest.count, amount: left.reduce((sum, { amount }) => sum + amount, rest.amount) };
  const columns: readonly ListColumn<Part>[] = [
    { key: 'name', name: layout.name, value: ({ name }) => name, cell: () => null },
    ...(['compared', 'base', 'amount'] as const).map((key): ListColumn<Part> => ({
      key,
      name: key === 'amount' ? 'Variance' : headings[key],
      file: (part) => part[key] / 10 ** exponent,
      cell: () => null,
    })),
  ];
  return (
    <>
      <table className="ledger-table w-full" aria-label={`${line.name} by ${layout.name.toLowerCase()}`}>
        <thead>
          <tr className="text-[12.5px]">
            <th scope="col">{layout.name}</th>
            {[headings.compared, headings.base, 'Variance'].map((name) => (
              <th key={name} scope="col" className="pl-3! text-right!">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {listed.map((part) => (
            <tr key={part.key} className="hover:bg-wash">
              <td className="border-b border-hairline whitespace-normal!">
                <PartName part={part} address={addressOf(part.key)} openEntry={openEntry} />
              </td>
              {[part.compared, part.base, part.amount].map((value, at) => (
                <td key={at} className="figure border-b border-hairline">
                  <Amount value={value} exponent={exponent} unit="dollars" />
                </td>
              ))}
            </tr>
          ))}
          {others.count > 0 ? (
            <tr>
              <td className="border-b border-hairline text-ink-soft">
                {folds && !isOpen ? (
                  <button type="button" className="link" onClick={() => setOpen(true)}>
                    {others.count.toLocaleString('en-US')} more {others.count === 1 ? 'part' : 'parts'}
                  </button>
                ) : (
                  `${others.count.toLocaleString('en-US')} smaller parts`
                )}
              </td>
              <td className="border-b border-hairline" colSpan={2} />
              <td className="figure border-b border-hairline">
                <Amount value={others.amount} exponent={exponent} unit="dollars" />
              </td>
            </tr>
          ) : null}
          <tr className="font-semibold">
            <td>Total</td>
            <td colSpan={2} />
            <td className="figure">
              <Amount value={total} exponent={exponent} unit="cents" />
            </td>
          </tr>
        </tbody>
      </table>
      <p className="flex gap-4 text-[13px]">
        {isOpen && folds ? (
          <button type="button" className="link" onClick={() => setOpen(false)}>
            Show fewer
          </button>
        ) : null}
        <ListExport name={`variance-by-${layout.by}`} columns={columns} rows={parts} />
      </p>
    </>
  );
}

/** A part's name, which leads to what makes it. */
export function PartName({
  part: { name, entry },
  address,
  openEntry,
}: {
  readonly part: Part;
  readonly address: string | null;
  readonly openEntry: (entry: number) => void;
}) {
  if (entry !== null)
    return (
      <button type="button" className="link text-left" onClick={() => openEntry(entry)}>
        {name}
      </button>
    );
  return address === null ? (
    name
  ) : (
    <Link className="link" to={address}>
      {name}
    </Link>
  );
}
