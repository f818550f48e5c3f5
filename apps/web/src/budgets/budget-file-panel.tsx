import { CloseButton } from '@headlessui/react';
import { useMutation } from '@tanstack/react-query';
import type { BudgetFileEffectDto, FilterDto } from '@wise-margin/contract';
import { Download } from 'lucide-react';
import { useId, useState } from 'react';

import { queryText, sendForm } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { Amount } from '../ui/figure.tsx';
import { FileDrop } from '../ui/file-drop.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { ownSession } from './worksheet/unsaved.ts';

const SHOWN = 200;

/** Takes a budget out as a file, and reads one back that was filled in: first what it would change, then the change. */
export function BudgetFilePanel({
  budget,
  filter,
  sliceWords,
  locked,
  applied,
}: {
  readonly budget: number;
  readonly filter: FilterDto;
  /** the slice that is looked at, in words */
  readonly sliceWords: string;
  readonly locked: boolean;
  readonly applied: () => void;
}) {
  const { id } = useCompany();
  const at = `/companies/${id}/budgets/${budget}`;
  const field = useId();
  const [file, setFile] = useState<File | null>(null);
  const send = (apply: boolean, chosen: File) => {
    const form = new FormData();
    form.set('apply', apply ? 'yes' : 'no');
    form.set('session', ownSession());
    form.set('file', chosen);
    return sendForm<BudgetFileEffectDto>(`${at}/files`, form);
  };
  const preview = useMutation({ mutationFn: (chosen: File) => send(false, chosen) });
  const apply = useMutation({
    mutationFn: (chosen: File) => send(true, chosen),
    onSuccess: () => {
      setFile(null);
      applied();
    },
  });
  const query = queryText({ filter });
  return (
    <>
      <FloatingPanel label="Files" atRight>
        <p className="text-ink-soft">Budget of {sliceWords}:</p>
        <ul className="mt-1 flex flex-col gap-1">
          <li>
            <CloseButton as="a" className="link flex items-center gap-1.5" href={`/api${at}/export.xlsx${query}`} download>
              <Download size={14} aria-hidden="true" /> Budget template (XLSX)
            </CloseButton>
          </li>
          <li>
            <CloseButton as="a" className="link flex items-center gap-1.5" href={`/api${at}/export.csv${query}`} download>
              <Download size={14} aria-hidden="true" /> CSV
            </CloseButton>
          </li>
        </ul>
        {locked ? null : (
          <FileDrop className="mt-3 border-t border-hairline pt-2">
            <label htmlFor={field} className="block">
              Upload completed template
            </label>
            <input
              id={field}
              type="file"
              accept=".xlsx,.csv"
              className="mt-1 w-full text-[13px]"
              onChange={(event) => {
                const chosen = event.target.files?.[0];
                if (!chosen) return;
                setFile(chosen);
                apply.reset();
                preview.mutate(chosen);
                event.target.value = '';
              }}
            />
            {preview.isError ? (
              <p role="alert" className="mt-1 text-brick">
                {preview.error.message}
              </p>
            ) : null}
          </FileDrop>
        )}
      </FloatingPanel>
      {file && preview.data ? (
        <Preview
          effect={preview.data}
          failure={apply.error?.message ?? null}
          isApplying={apply.isPending}
          apply={() => apply.mutate(file)}
          close={() => setFile(null)}
        />
      ) : null}
    </>
  );
}

function Preview({
  effect,
  failure,
  isApplying,
  apply,
  close,
}: {
  readonly effect: BudgetFileEffectDto;
  readonly failure: string | null;
  readonly isApplying: boolean;
  readonly apply: () => void;
  readonly close: () => void;
}) {
  const { exponent } = useCompany();
  const { changes, notes, same, issues, file, from } = effect;
  const nothing = changes.length === 0 && notes.length === 0;
  const count = (number: number, one: string) => `${number.toLocaleString('en-US')} ${number === 1 ? one : `${one}s`}`;
  return (
    <DialogFrame title={`Changes in ${file}`} width="large" close={close}>
      <p className="mt-1">
        {count(changes.length, 'amount')} and {count(notes.length, 'note')} will change. {count(same, 'amount')} {same === 1 ? 'is' : 'are'}{' '}
        unchanged.
      </p>
      {from ? <p className="text-brick">The file was exported from {from}, not from this budget.</p> : null}
      {failure ? (
        <p role="alert" className="text-brick">
          {failure}
        </p>
      ) : null}
      <div className="mt-2 min-h-0 flex-1 overflow-y-auto text-[13px]" tabIndex={0} role="region" aria-label="Changes">
        {issues.length > 0 ? (
          <ul role="alert" className="border-l-2 border-brick px-3">
            {issues.slice(0, SHOWN).map(({ row, column, text, reason, fix }) => (
              <li key={`${row} ${column} ${reason}`}>
                <strong>
                  Row {row}
                  {column ? `, ${column}` : ''}
                </strong>
                {text ? ` "${text}"` : ''}: {reason}. {fix}.
              </li>
            ))}
            {issues.length > SHOWN ? <li>and {(issues.length - SHOWN).toLocaleString('en-US')} more.</li> : null}
          </ul>
        ) : null}
        <table className="ledger-table mt-2 w-full">
          <tbody>
            {changes.slice(0, SHOWN).map((change) => (
              <tr key={`${change.account} ${change.slice} ${change.month}`}>
                <th scope="row" className="font-normal!">
                  {change.account} {change.name}
                </th>
                <td>{change.slice}</td>
                <td>{change.month}</td>
                <td className="figure text-ink-soft">
                  <Amount value={change.from} exponent={exponent} />
                </td>
                <td className="figure">
                  <Amount value={change.to} exponent={exponent} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {changes.length > SHOWN ? <p>and {(changes.length - SHOWN).toLocaleString('en-US')} more amounts.</p> : null}
        <ul>
          {notes.map(({ account, name, slice, text }) => (
            <li key={`${account} ${slice}`}>
              {account} {name}
              {slice ? `, ${slice}` : ''}: {text}
            </li>
          ))}
        </ul>
      </div>
      <div className="mt-4 flex gap-2">
        <button type="button" className="button button-primary" disabled={issues.length > 0 || nothing || isApplying} onClick={apply}>
          {nothing ? 'No changes' : `Apply ${count(changes.length + notes.length, 'change')}`}
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </div>
    </DialogFrame>
  );
}
