import type { BankFilePreviewDto, BankMappingDto, ReconciliationDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { BANK_FORMAT_NAMES, dayWords } from '@wise-margin/presentation';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { DateField } from '../ui/date-field.tsx';
import { MappingFields } from './mapping-fields.tsx';
import { type Stated, useStatementFile } from './use-reconciliation.ts';

/** A bank's file before it is imported: what it holds, how its columns are read, and what keeps it from being imported. */
export function StatementForm({ of, file, close }: { readonly of: ReconciliationDto; readonly file: File; readonly close: () => void }) {
  const company = useCompany();
  const [stated, setStated] = useState<Stated>({});
  const { preview: look, add } = useStatementFile({ company: company.id, account: of.account, file, stated });
  const preview = look.data ?? null;
  const error = add.error ?? look.error;
  return (
    <section
      aria-label="Statement to import"
      className="mb-2 max-h-[70%] shrink-0 overflow-y-auto border border-hairline bg-sheet px-4 py-3 text-[14px]"
    >
      <h2 className="font-serif text-lg font-semibold">
        {file.name}, for {of.account} {of.accountName}
      </h2>
      {error ? (
        <p role="alert" className="mt-1 text-brick">
          {error.message}
        </p>
      ) : null}
      {preview ? (
        <>
          <Summary preview={preview} exponent={company.exponent} />
          {preview.faults.length > 0 ? (
            <div role="alert" className="mt-1 max-h-32 overflow-y-auto border-l-2 border-brick pl-3 text-[13px]">
              <ul>
                {preview.faults.map((fault) => (
                  <li key={fault}>{fault}</li>
                ))}
              </ul>
            </div>
          ) : null}
          {preview.csv ? (
            <CsvFields
              preview={preview}
              stated={stated}
              state={(change) => setStated({ ...stated, ...change })}
              needsOpening={needsOpening(preview, of)}
            />
          ) : null}
        </>
      ) : look.isPending ? (
        <p role="status">Reading the file…</p>
      ) : null}
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          className="button button-primary"
          disabled={!preview || preview.faults.length > 0 || look.isFetching || add.isPending}
          onClick={() => add.mutate(preview!.fingerprint, { onSuccess: close })}
        >
          Import the statement
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </div>
    </section>
  );
}

/** Neither the file nor a statement before it says with what it begins. */
const needsOpening = ({ csv }: BankFilePreviewDto, { statements }: ReconciliationDto): boolean =>
  csv?.mapping.balance === null && statements.length === 0;

function Summary({ preview, exponent }: { readonly preview: BankFilePreviewDto; readonly exponent: number }) {
  const { format, from, to, lines, moneyIn, moneyOut, opening, closing, bankAccount } = preview;
  if (lines === 0) return null;
  const amount = (value: number) => <strong>{formatAmount(value as Minor, { exponent, unit: 'cents' })}</strong>;
  return (
    <p className="mt-1">
      {BANK_FORMAT_NAMES[format]}
      {bankAccount === '' ? '' : `, bank account ${bankAccount}`}, {dayWords(from)} to {dayWords(to)}, {lines.toLocaleString('en-US')}{' '}
      lines: money in {amount(moneyIn)}, money out {amount(moneyOut)}
      {opening === null ? null : <>; balance from {amount(opening)}</>}
      {closing === null ? null : <> to {amount(closing)}</>}.
    </p>
  );
}

function CsvFields({
  preview,
  stated,
  state,
  needsOpening: needsBalance,
}: {
  readonly preview: BankFilePreviewDto;
  readonly stated: Stated;
  readonly state: (change: Stated) => void;
  readonly needsOpening: boolean;
}) {
  const { columns, mapping, rows } = preview.csv!;
  const [opening, setOpening] = useState(stated.opening ?? '');
  const change = (part: Partial<BankMappingDto>) => state({ mapping: { ...mapping, ...part } });
  return (
    <>
      <MappingFields columns={columns} mapping={mapping} change={change} />
      <div className="mt-2 flex flex-wrap items-end gap-3 text-[13px]">
        {(['from', 'to'] as const).map((name) => (
          <label key={name}>
            <span className="block text-ink-soft">{name === 'from' ? 'First day' : 'Last day'}</span>
            <DateField className="field py-0.5 text-[13px]" value={stated[name] ?? preview[name]} set={(day) => state({ [name]: day })} />
          </label>
        ))}
        {needsBalance ? (
          <label>
            <span className="block text-ink-soft">Balance before the first line</span>
            <input
              className="field w-40 py-0.5 text-[13px]"
              value={opening}
              onChange={(event) => setOpening(event.target.value)}
              onBlur={() => state({ opening })}
            />
          </label>
        ) : null}
      </div>
      <div className="mt-2 overflow-x-auto">
        <table className="ledger-table text-[13px]" aria-label="First rows of the file">
          <thead>
            <tr>
              {columns.map((column, at) => (
                <th key={at} scope="col" className="px-2!">
                  {column}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, at) => (
              <tr key={at}>
                {columns.map((_, column) => (
                  <td key={column} className="px-2!">
                    {row[column] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
