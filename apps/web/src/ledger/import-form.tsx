import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import type { CompanyDto, ImportDto } from '@wise-margin/contract';
import { type ReactNode, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';

import { ApiProblem, sendForm } from '../api/client.ts';
import { FileDrop } from '../ui/file-drop.tsx';

const FILES = [
  {
    name: 'accounts',
    label: 'Accounts file (CSV)',
    columns: 'account, name, class, active; group, polarity, cashflow if you have them',
  },
  {
    name: 'ledger',
    label: 'Ledger file (CSV)',
    columns: 'entry, date, account, debit, credit; memo, party, document; any further column is a dimension',
  },
] as const;
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];
const fileList = z.custom<FileList>((value) => value === undefined || value instanceof FileList);
const formSchema = z
  .object({
    target: z.enum(['held', 'new']),
    name: z.string(),
    currency: z.string(),
    startMonth: z.string(),
    adjustment: z.boolean(),
    accounts: fileList,
    ledger: fileList,
  })
  .check((context) => {
    const { value, issues } = context;
    const addIssue = (path: string, message: string) => issues.push({ code: 'custom', path: [path], message, input: value });
    if (value.target === 'new' && value.name.trim() === '') addIssue('name', 'Enter a company name');
    if (value.target === 'new' && !/^[A-Za-z]{3}$/.test(value.currency.trim()))
      addIssue('currency', 'Enter the currency as three letters, such as USD');
    if (value.accounts.length === 0 && value.ledger.length === 0) addIssue('ledger', 'Choose a ledger file, an accounts file, or both');
    if (value.target === 'new' && value.accounts.length === 0) addIssue('accounts', 'A new company needs its accounts file');
  });
type Form = z.infer<typeof formSchema>;

/** Chooses the files of an import, and the company they are for. The server checks them before anything is posted. */
export function ImportForm({
  company,
  onSubmitted,
}: {
  readonly company: CompanyDto | null;
  readonly onSubmitted: (made: ImportDto) => void;
}) {
  const { register, handleSubmit, control, setError, formState } = useForm<Form>({
    resolver: zodResolver(formSchema),
    defaultValues: { target: company ? 'held' : 'new', name: '', currency: 'USD', startMonth: '1', adjustment: false },
  });
  const [failure, setFailure] = useState('');
  const target = useWatch({ control, name: 'target' });
  const submit = useMutation({
    mutationFn: (values: Form) => {
      const form = new FormData();
      if (values.target === 'held' && company) form.set('company', String(company.id));
      else {
        form.set('name', values.name);
        form.set('currency', values.currency);
        form.set('startMonth', values.startMonth);
        form.set('hasAdjustmentPeriod', String(values.adjustment));
      }
      for (const kind of ['accounts', 'ledger'] as const) if (values[kind][0]) form.set(kind, values[kind][0]);
      return sendForm<ImportDto>('/imports', form);
    },
    onSuccess: onSubmitted,
    onError: (error) => {
      const at = error instanceof ApiProblem ? error.problem.errors?.[0] : undefined;
      if (at && ['name', 'currency', 'ledger', 'accounts'].includes(at.path)) setError(at.path as 'name', { message: at.message });
      else setFailure(error.message);
    },
  });
  const { errors } = formState;
  return (
    <form
      noValidate
      className="border border-hairline bg-sheet p-5"
      onSubmit={(event) => void handleSubmit((values) => submit.mutate(values))(event)}
    >
      {company ? (
        <fieldset className="mb-4">
          <legend className="font-semibold">Company</legend>
          <label className="mr-5 inline-flex items-center gap-1.5">
            <input type="radio" value="held" className="accent-copper" {...register('target')} /> {company.name}
          </label>
          <label className="inline-flex items-center gap-1.5">
            <input type="radio" value="new" className="accent-copper" {...register('target')} /> New company
          </label>
        </fieldset>
      ) : null}
      {target === 'new' ? (
        <div className="mb-4 grid grid-cols-2 gap-3">
          <Field label="Company name" error={errors.name?.message}>
            <input className="field w-full" {...register('name')} aria-invalid={errors.name !== undefined} />
          </Field>
          <Field label="Currency" error={errors.currency?.message}>
            <input
              className="field w-full uppercase"
              maxLength={3}
              {...register('currency')}
              aria-invalid={errors.currency !== undefined}
            />
          </Field>
          <Field label="Fiscal year starts in" error={undefined}>
            <select className="field w-full" {...register('startMonth')}>
              {MONTHS.map((month, index) => (
                <option key={month} value={index + 1}>
                  {month}
                </option>
              ))}
            </select>
          </Field>
          <label className="flex items-center gap-1.5 self-end pb-1.5">
            <input type="checkbox" className="accent-copper" {...register('adjustment')} /> Adjustment period after the last month
          </label>
        </div>
      ) : null}
      <div className="grid grid-cols-2 gap-3 narrow:grid-cols-1">
        {FILES.map(({ name, label, columns }) => (
          <FileDrop key={name}>
            <Field label={label} error={errors[name]?.message} words={columns} sample={name}>
              <input
                type="file"
                accept=".csv,.txt,text/csv"
                className="field w-full"
                {...register(name)}
                aria-invalid={errors[name] !== undefined}
              />
            </Field>
          </FileDrop>
        ))}
      </div>
      {failure ? (
        <p role="alert" className="mt-3 text-brick">
          {failure}
        </p>
      ) : null}
      <div className="mt-4 flex items-center gap-3">
        <button type="submit" className="button button-primary" disabled={submit.isPending}>
          {submit.isPending ? 'Uploading…' : 'Check files'}
        </button>
        <span className="text-[13px] text-ink-soft">Choose files or drop them here. You see a preview before anything is posted.</span>
      </div>
    </form>
  );
}

function Field({
  label,
  words,
  sample,
  error,
  children,
}: {
  readonly label: string;
  readonly words?: string;
  /** the sample file that can be downloaded */
  readonly sample?: 'accounts' | 'ledger';
  readonly error: string | undefined;
  readonly children: ReactNode;
}) {
  return (
    <div>
      <label className="block">
        <span className="block text-[13px] font-semibold">{label}</span>
        {children}
        {words ? <span className="mt-0.5 block text-[12px] leading-4 text-ink-soft">{words}</span> : null}
        {error ? (
          <span role="alert" className="block text-[13px] text-brick">
            {error}
          </span>
        ) : null}
      </label>
      {sample ? (
        <a className="link text-[13px]" href={`/api/sample-files/${sample}`} download>
          Download a sample {sample} file
        </a>
      ) : null}
    </div>
  );
}
